import type { z } from 'zod'
import { hasEngine, kindOf, partSchema, type Part } from '../kinds/index'
import { partIdOf } from './find'
import { leadSchema, planSchema, type Lead, type Plan } from './schema'
import { type Fault, shown } from './fault'
import { asGiven } from '../units/number'

/** What a plan says of things that are not there. */

/** A plan in which some parts and leads may be unreadable: null in their place, their ids apart. */
type SoundPlan = Pick<Plan, 'site' | 'loadStates' | 'hookUp'> & {
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
    hookUp: field(file.hookUp, planSchema.shape.hookUp),
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
    relayFaults(plan, lead, i, add)
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
  siteFaults(plan, add)
  followFaults(plan, add)
  plan.hookUp?.forEach((id, i) => {
    if (!seen.get(id)?.startsWith('/leads') && !isBroken(id))
      add(`/hookUp/${i}`, `the hook-up order names ${shown(id)}, which is no lead`, 'the id of a lead')
  })
  stateNameFaults(plan, add)
  return faults
}

/** Load states of one name, or of a name that is taken. */
function stateNameFaults(plan: SoundPlan, add: Add) {
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
}

/** A place whose lowest temperature is above its highest would make dangers of heat and of cold vanish. */
function siteFaults({ site }: SoundPlan, add: Add) {
  const places = [
    { path: '/site', who: 'the site', ambientC: site?.ambientC },
    ...(site?.zones ?? []).map((z, i) => ({ path: `/site/zones/${i}`, who: `zone ${z.id}`, ambientC: z.ambientC })),
  ]
  for (const { path, who, ambientC } of places) {
    if (!ambientC) continue
    const { low, typical, high } = ambientC
    if (low <= typical && typical <= high) continue
    const told = `lowest ${asGiven(low)} °C, typical ${asGiven(typical)} °C and highest ${asGiven(high)} °C`
    const wrong = `${who}: ${told} are not in their order`
    add(`${path}/ambientC`, wrong, 'low at most typical, typical at most high')
  }
}

/** Parts that follow each other in a ring would never be active. */
function followFaults(plan: SoundPlan, add: Add) {
  const leaderOf = new Map(
    plan.parts.flatMap(p => {
      const follows = p && (p as { follows?: string }).follows
      return follows ? [[p.id, follows] as const] : []
    }),
  )
  plan.parts.forEach((part, i) => {
    if (!part) return
    const seen = new Set<string>()
    let at: string | undefined = part.id
    while (at !== undefined && !seen.has(at)) {
      seen.add(at)
      at = leaderOf.get(at)
    }
    if (at === part.id && seen.size > 1)
      add(
        `/parts/${i}/follows`,
        `${[...seen].join(' follows ')} follows ${part.id}: a ring`,
        'one that follows nothing',
      )
  })
}

type Add = (path: string, wrong: string, right: string) => void

/** A relay that an engine closes is in a lead of that engine: elsewhere nothing says when it is open. */
function relayFaults(plan: SoundPlan, lead: Lead, i: number, add: Add) {
  const j = lead.inline?.findIndex(item => item.kind === 'switch' && item.by === 'engine') ?? -1
  if (j < 0) return
  const ends = [lead.from, lead.to].map(t => plan.parts.find(p => p?.id === partIdOf(t)))
  if (ends.some(p => !p || hasEngine(p))) return
  add(
    `/leads/${i}/inline/${j}/by`,
    `lead ${lead.id}: ${lead.inline![j]!.id} closes with an engine, and no vehicle is at either end`,
    'a relay in a lead of the vehicle, or none',
  )
}

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
        `lead ${lead.id}: ${item.id} is at ${asGiven(item.atM)} m of a lead of ${asGiven(lead.lengthM)} m`,
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
  figureFaults(part, i, add)
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

/** Under this a figure other than 0 is of no physical size: dividing by it gives no number. */
const LEAST = 1e-15

/** Pairs of fields of which the first may not be above the second, wherever they stand in a part. */
const IN_ORDER = [
  ['minV', 'nominalV'],
  ['nominalV', 'maxV'],
  ['minV', 'maxV'],
  ['maxPowerV', 'openCircuitV'],
  ['maxPowerA', 'shortCircuitA'],
  ['engineOffV', 'engineOnV'],
] as const

/** Parts whose figures were found to be in order. A part that was read is never written to: an edit makes a new one. */
const inOrder = new WeakSet<Part>()

function figureFaults(part: Part, i: number, add: Add) {
  if (inOrder.has(part)) return
  let isInOrder = true
  const tell: Add = (...fault) => {
    isInOrder = false
    add(...fault)
  }
  walkFigures(part, i, tell)
  if (isInOrder) inOrder.add(part)
}

function walkFigures(part: Part, i: number, add: Add) {
  const who = `${part.kind} ${part.id}`
  const walk = (value: unknown, path: string) => {
    if (typeof value === 'number' && value !== 0 && Math.abs(value) < LEAST)
      add(path, `${who}: ${value} is of no physical size`, `0, or at least ${LEAST}`)
    if (typeof value !== 'object' || value === null) return
    for (const [low, high] of IN_ORDER) {
      const [a, b] = [low, high].map(k => (value as Record<string, unknown>)[k])
      // Both ends of a window are looked at with the window itself.
      const known = low === 'minV' && high === 'maxV' && !path.endsWith('/adjustable')
      if (typeof a === 'number' && typeof b === 'number' && a > b && !known)
        add(`${path}/${low}`, `${who}: ${low} ${a} is above ${high} ${b}`, `${low} at most ${high}`)
    }
    for (const [key, inner] of Object.entries(value)) walk(inner, `${path}/${key}`)
  }
  walk(part, `/parts/${i}`)
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
