import type { z } from 'zod'
import { KINDS, kindOf, partSchema, type Part } from '../kinds/index'
import { partIdOf } from './find'
import { FORMAT, leadSchema, planSchema, VERSION, type Lead, type Plan } from './schema'

/** One thing that keeps a file from being a plan: where (JSON Pointer), what is wrong, what would be right. */
export interface Fault {
  path: string
  wrong: string
  right: string
}

export type PlanResult = { ok: true; plan: Plan } | { ok: false; faults: Fault[] }

/** Reads a plan from text. Never throws: every fault is listed. */
export function readPlanText(text: string): PlanResult {
  let value: unknown
  try {
    value = JSON.parse(text.replace(/^\uFEFF/, ''))
  } catch (error) {
    return refuse([
      {
        path: '',
        wrong: `the file is not JSON: ${jsonFault(text, error as Error)}`,
        right: 'a wireman-plan file, as Wireman exports it',
      },
    ])
  }
  return readPlan(value)
}

/** Reads a plan from a parsed value; fields come out in the schema's order, so that equal plans are equal bytes. */
export function readPlan(value: unknown): PlanResult {
  const heading = headingFault(value)
  if (heading) return refuse([heading])
  const parsed = planSchema.safeParse(value)
  if (!parsed.success)
    return refuse([
      ...parsed.error.issues.flatMap(issue => schemaFaults(issue, value)),
      ...referenceFaults(sound(value)),
    ])
  const faults = referenceFaults({ ...parsed.data, broken: new Set() })
  return faults.length ? refuse(faults) : { ok: true, plan: parsed.data }
}

/** The plan as it is written to a file. */
export function writePlan(plan: Plan): string {
  return JSON.stringify(planSchema.parse(plan), null, 2) + '\n'
}

const refuse = (faults: Fault[]): PlanResult => ({ ok: false, faults })

function jsonFault(text: string, error: Error): string {
  if (!text.trim()) return 'it is empty'
  const position = /position (\d+)/.exec(error.message)
  if (!position)
    return /end of JSON/.test(error.message) ? 'it stops in the middle, something is missing at its end' : error.message
  const line = text.slice(0, Number(position[1])).split('\n').length
  return `line ${line} cannot be read (${error.message.replace(/ in JSON at position.*/, '')})`
}

function headingFault(value: unknown): Fault | null {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) {
    return {
      path: '',
      wrong: `the file holds ${named(value)}`,
      right: 'an object with format, version, name, parts and leads',
    }
  }
  const { format, version } = value as Record<string, unknown>
  if (format !== FORMAT) return { path: '/format', wrong: `format is ${shown(format)}`, right: `"${FORMAT}"` }
  if (typeof version === 'number' && version > VERSION) {
    return {
      path: '/version',
      wrong: `version ${version} is newer than this program reads`,
      right: `version ${VERSION}, or a newer Wireman`,
    }
  }
  return null
}

const pointer = (path: readonly PropertyKey[]) =>
  path.map(p => `/${String(p).replaceAll('~', '~0').replaceAll('/', '~1')}`).join('')
const valueAt = (value: unknown, path: readonly PropertyKey[]): unknown =>
  path.reduce<unknown>((v, key) => (v as Record<PropertyKey, unknown> | undefined)?.[key], value)

function named(value: unknown): string {
  if (value === undefined) return 'nothing'
  if (value === null) return 'null'
  if (Array.isArray(value)) return 'a list'
  return `a ${typeof value}`
}

function shown(value: unknown): string {
  if (value === undefined) return 'missing'
  const text = typeof value === 'object' ? named(value) : JSON.stringify(value)
  return text.length > 60 ? `${text.slice(0, 57)}…` : text
}

/** "lead l3" or "battery bat" for a path inside a part or a lead. */
function owner(value: unknown, path: readonly PropertyKey[]): string {
  const [list, index] = path
  if ((list !== 'parts' && list !== 'leads') || index === undefined) return ''
  const item = valueAt(value, [list, index]) as { id?: unknown; kind?: unknown } | undefined
  const id = typeof item?.id === 'string' ? item.id : `number ${Number(index) + 1}`
  return list === 'leads' ? `lead ${id}: ` : `${typeof item?.kind === 'string' ? item.kind : 'part'} ${id}: `
}

function schemaFaults(issue: z.core.$ZodIssue, value: unknown): Fault[] {
  const field = String(issue.path[issue.path.length - 1] ?? 'the plan')
  const at = valueAt(value, issue.path)
  const who = owner(value, issue.path)
  const fault = (wrong: string, right: string, path = issue.path): Fault[] => [
    { path: pointer(path), wrong: who + wrong, right },
  ]
  switch (issue.code) {
    case 'unrecognized_keys':
      return issue.keys.flatMap(key =>
        fault(`the field ${key} is not known here`, 'a field of the format, or put it into note', [...issue.path, key]),
      )
    case 'invalid_type':
      return at === undefined
        ? fault(`${field} is missing`, expected(issue.expected))
        : fault(`${field} is ${shown(at)}`, expected(issue.expected))
    case 'invalid_value':
      return fault(`${field} is ${shown(at)}`, `one of ${issue.values.map(v => String(v)).join(', ')}`)
    case 'too_small':
      return fault(
        `${field} is ${sizeShown(at)}`,
        `${bound(issue.origin, issue.minimum, issue.inclusive === false ? 'above' : 'at least')}`,
      )
    case 'too_big':
      return fault(
        `${field} is ${sizeShown(at)}`,
        `${bound(issue.origin, issue.maximum, issue.inclusive === false ? 'below' : 'at most')}`,
      )
    case 'invalid_format':
      return fault(`${field} is ${shown(at)}`, 'letters, digits, - and _, at most 40')
    case 'invalid_union':
      return unionFaults(issue, value, { who, field, at })
    default:
      return fault(`${field} is ${shown(at)}`, issue.message)
  }
}

function unionFaults(
  issue: z.core.$ZodIssueInvalidUnion,
  value: unknown,
  { who, field, at }: { who: string; field: string; at: unknown },
): Fault[] {
  if (issue.discriminator === 'kind' && issue.path[0] === 'parts' && issue.path.length === 3) {
    return [
      {
        path: pointer(issue.path),
        wrong: `${who}kind is ${shown(at)}, which this version does not know`,
        right: `one of ${[...KINDS.keys()].join(', ')}`,
      },
    ]
  }
  const closest = issue.errors.filter(e => e.length).sort((a, b) => b[0]!.path.length - a[0]!.path.length)[0]
  if (closest && closest[0]!.path.length > 0) {
    return closest.flatMap(inner =>
      schemaFaults({ ...inner, path: [...issue.path, ...inner.path] } as z.core.$ZodIssue, value),
    )
  }
  const RIGHT: Record<string, string> = {
    model: 'one of constant-current, constant-power, resistive',
    kind: 'one of fuse, breaker, switch, dropper, meter, choke',
    awg: 'a gauge number from 40 to 1, or "1/0" to "4/0"',
  }
  return [
    {
      path: pointer(issue.path),
      wrong: `${who}${field} is ${shown(at)}`,
      right: RIGHT[field] ?? 'one of the shapes the format names',
    },
  ]
}

const expected = (type: string) =>
  ({
    number: 'a number',
    int: 'a whole number',
    string: 'text in quotes',
    array: 'a list',
    object: 'an object',
    boolean: 'true or false',
  })[type] ?? `a ${type}`
function sizeShown(at: unknown): string {
  if (Array.isArray(at)) return `a list of ${at.length}`
  return typeof at === 'string' ? `${at.length} characters long` : shown(at).replace(/^-/, '−')
}

function bound(origin: string, limit: unknown, how: string): string {
  if (origin === 'string') return `${how} ${String(limit)} characters`
  if (origin === 'array') return `${how} ${String(limit)} entries`
  return `${how} ${String(limit)}`
}

/** A plan in which some parts and leads may be unreadable: null in their place, their ids apart. */
type SoundPlan = Pick<Plan, 'site' | 'loadStates'> & {
  parts: (Part | null)[]
  leads: (Lead | null)[]
  broken: Set<string>
}

/** What of a refused file can be read, so that the faults between its parts are listed as well. */
function sound(value: unknown): SoundPlan {
  const file = value as Record<string, unknown>
  const broken = new Set<string>()
  const each = <T>(list: unknown, schema: z.ZodType<T>): (T | null)[] =>
    (Array.isArray(list) ? list : []).map(item => {
      const parsed = schema.safeParse(item)
      if (!parsed.success) broken.add(String((item as { id?: unknown } | null)?.id))
      return parsed.success ? parsed.data : null
    })
  const field = <T>(raw: unknown, schema: z.ZodType<T>): T | undefined => {
    const parsed = schema.safeParse(raw)
    return parsed.success ? parsed.data : undefined
  }
  return {
    parts: each(file.parts, partSchema),
    leads: each(file.leads, leadSchema),
    broken,
    site: field(file.site, planSchema.shape.site),
    loadStates: field(file.loadStates, planSchema.shape.loadStates),
  }
}

/** Faults that single fields cannot show: names that point nowhere, ids said twice, items beyond a lead's end. */
function referenceFaults(plan: SoundPlan): Fault[] {
  const faults: Fault[] = []
  const add = (path: string, wrong: string, right: string) => faults.push({ path, wrong, right })
  const seen = new Map<string, string>()
  const claim = (id: string, path: string) => {
    const earlier = seen.get(id)
    if (earlier) add(path, `the id ${id} stands at ${earlier} already`, 'an id of its own')
    else seen.set(id, path)
  }
  plan.parts.forEach((part, i) => part && claim(part.id, `/parts/${i}/id`))
  plan.leads.forEach((lead, i) => lead && claim(lead.id, `/leads/${i}/id`))

  const leads = plan.leads.filter(l => l !== null)
  const parts = plan.parts.filter(p => p !== null)
  const landings = leads.flatMap(l => [l.from, l.to])
  const terminals = new Map(
    parts.map(part => [
      part.id,
      kindOf(part)
        .terminals(part, landings)
        .map(t => t.id),
    ]),
  )
  const isBroken = (name: string) => plan.broken.has(partIdOf(name))
  const all = new Set([...terminals.values()].flat())
  plan.leads.forEach((lead, i) => {
    if (!lead) return
    for (const end of ['from', 'to'] as const) {
      if (!all.has(lead[end]) && !isBroken(lead[end]))
        add(
          `/leads/${i}/${end}`,
          `lead ${lead.id} dangles: there is no terminal ${shown(lead[end])}`,
          terminalHint(lead[end], terminals),
        )
    }
    if (lead.from === lead.to)
      add(`/leads/${i}/to`, `lead ${lead.id} has both ends at ${lead.from}`, 'two different terminals')
    leadFaults(lead, i, add)
  })
  plan.parts.forEach(
    (part, i) => part && partFaults(plan, i, id => seen.get(id)?.startsWith('/parts') || isBroken(id), add),
  )
  plan.loadStates?.forEach((state, i) =>
    state.active.forEach((entry, j) => {
      const id = typeof entry === 'string' ? entry : entry.part
      if (!terminals.has(id) && !isBroken(id))
        add(`/loadStates/${i}/active/${j}`, `there is no part ${id}`, 'the id of a radio or load')
    }),
  )
  const names = new Set<string>()
  plan.loadStates?.forEach((state, i) => {
    if (names.has(state.id) || ['idle', 'all', 'only'].includes(state.id))
      add(
        `/loadStates/${i}/id`,
        `the load state ${state.id} is taken`,
        'a name of its own, other than idle, all and only',
      )
    names.add(state.id)
  })
  return faults
}

type Add = (path: string, wrong: string, right: string) => void

function leadFaults(lead: Lead, i: number, add: Add) {
  const { awg, mm2 } = lead.conductor
  if ((awg === undefined) === (mm2 === undefined)) {
    add(
      `/leads/${i}/conductor`,
      `lead ${lead.id}: conductor has ${awg === undefined ? 'neither awg nor mm2' : 'both awg and mm2'}`,
      'one of awg and mm2',
    )
  }
  const ids = new Set<string>()
  lead.inline?.forEach((item, j) => {
    if (item.atM !== undefined && item.atM > lead.lengthM) {
      add(
        `/leads/${i}/inline/${j}/atM`,
        `lead ${lead.id}: ${item.id} is at ${item.atM} m of a lead of ${lead.lengthM} m`,
        `at most ${lead.lengthM}`,
      )
    }
    if (ids.has(item.id))
      add(
        `/leads/${i}/inline/${j}/id`,
        `lead ${lead.id}: the id ${item.id} stands twice`,
        'an id of its own in the lead',
      )
    ids.add(item.id)
  })
}

function partFaults(plan: SoundPlan, i: number, isPart: (id: string) => boolean | undefined, add: Add) {
  const part = plan.parts[i]!
  const kind = kindOf(part)
  const who = `${part.kind} ${part.id}`
  for (const { minV, maxV, field } of [...(kind.needs ? [kind.needs(part)] : []), ...kind.windows(part)]) {
    if (minV <= maxV) continue
    add(`/parts/${i}/${field}`, `${who}: minV ${minV} is above maxV ${maxV}`, 'minV at most maxV')
  }
  for (const { field, ids } of kind.mentions?.(part) ?? []) {
    const named = typeof ids === 'string' ? [[field, ids] as const] : ids.map((id, j) => [`${field}.${j}`, id] as const)
    for (const [path, id] of named) {
      if (isPart(id) && id !== part.id) continue
      const pointer = `/parts/${i}/${path.replaceAll('.', '/')}`
      if (field === 'follows')
        add(pointer, `${who} follows ${id}, which is no other part`, 'the id of the radio it follows')
      else add(pointer, `${who} names ${id}, which is no other part`, 'the id of another part')
    }
  }
  if (kind.ports) portFaults(part, i, kind.ports, add)
  if (part.zone !== undefined && !plan.site?.zones?.some(z => z.id === part.zone)) {
    add(
      `/parts/${i}/zone`,
      `${part.kind} ${part.id}: there is no zone ${part.zone} in site.zones`,
      'the id of a zone of the site',
    )
  }
}

function portFaults(
  part: Part,
  i: number,
  { field, reserved }: { field: string; reserved: readonly string[] },
  add: Add,
) {
  const ports = ((part as Record<string, unknown>)[field] ?? []) as { id: string }[]
  const first = new Map(ports.map((port, j) => [port.id, j] as const).reverse())
  ports.forEach(({ id }, j) => {
    if (first.get(id) === j && !reserved.includes(id)) return
    add(`/parts/${i}/${field}/${j}/id`, `${part.kind} ${part.id}: the id ${id} is taken`, 'an id of its own')
  })
}

function terminalHint(name: string, terminals: Map<string, string[]>): string {
  const own = terminals.get(name.split('.')[0]!)
  if (own) return `one of ${own.join(', ')}`
  const ids = [...terminals.keys()]
  return ids.length
    ? `a terminal of one of the parts ${ids.slice(0, 12).join(', ')}${ids.length > 12 ? ', …' : ''}`
    : 'a terminal of a part; the plan has none'
}
