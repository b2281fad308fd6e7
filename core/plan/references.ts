import type { z } from 'zod'
import { kindOf, partSchema, type Part } from '../kinds/index'
import { partIdOf } from './find'
import { leadSchema, planSchema, type Lead, type Plan } from './schema'
import { type Fault, shown } from './faults'

/** What a plan says of things that are not there. */

/** A plan in which some parts and leads may be unreadable: null in their place, their ids apart. */
type SoundPlan = Pick<Plan, 'site' | 'loadStates'> & {
  parts: (Part | null)[]
  leads: (Lead | null)[]
  broken: Set<string>
}

/** What of a refused file can be read, so that the faults between its parts are listed as well. */
export function sound(value: unknown): SoundPlan {
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
export function referenceFaults(plan: SoundPlan): Fault[] {
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
