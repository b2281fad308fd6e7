import { kindOf } from '../kinds/index'
import { nameOf } from '../plan/find'
import { jsonFault, pointer, schemaFaults, shown, type Fault } from '../plan/faults'
import type { Plan } from '../plan/schema'
import { listed } from '../units/words'
import { EVENT_FORMAT, EVENT_VERSION, eventSchema, type EventTime, type HoursEvent } from './event'
import { clockWords, hoursAt, stretchesOf, type Stretch } from './schedule'

export type EventResult = { ok: true; event: HoursEvent } | { ok: false; faults: Fault[] }

const refuse = (faults: Fault[]): EventResult => ({ ok: false, faults })

/** Reads an event for a plan from text. Never throws: every fault is listed. */
export function readEventText(text: string, plan: Plan): EventResult {
  try {
    return readEvent(JSON.parse(text.replace(/^\uFEFF/, '')), plan)
  } catch (error) {
    const right = 'a wireman-event file, as Wireman exports it'
    return refuse([{ path: '', wrong: `the file is not JSON: ${jsonFault(text, error as Error)}`, right }])
  }
}

/** Reads an event from a parsed value, and holds it against the plan it is for. */
export function readEvent(value: unknown, plan: Plan): EventResult {
  const { format, version } = (value ?? {}) as { format?: unknown; version?: unknown }
  if (format !== EVENT_FORMAT)
    return refuse([{ path: '/format', wrong: `format is ${shown(format)}`, right: `"${EVENT_FORMAT}"` }])
  if (typeof version === 'number' && version > EVENT_VERSION) {
    const wrong = `version ${version} is newer than this program reads`
    return refuse([{ path: '/version', wrong, right: `version ${EVENT_VERSION}, or a newer Wireman` }])
  }
  const parsed = eventSchema.safeParse(value)
  if (!parsed.success) return refuse(parsed.error.issues.flatMap(issue => schemaFaults(issue, value).map(withTimes)))
  const { data } = parsed
  const faults = [...timeFaults(data), ...partFaults(data, plan), ...zoneFaults(data, plan), ...overlaps(data, plan)]
  return faults.length ? refuse(faults) : { ok: true, event: data }
}

const TIMES = 'hours from the start (2.5), a clock time that comes every day ("09:00"), or "2026-06-13T09:00"'
/** Of a time the schema knows three shapes: all are told. */
const withTimes = (fault: Fault): Fault =>
  /\/(from|to|at)$/.test(fault.path) ? { ...fault, right: TIMES } : { ...fault, right: rightOf(fault) }
const rightOf = ({ path, right }: Fault) => (path === '/start' ? 'a local date and time as "2026-06-13T09:00"' : right)

/** Every entry with a part and times, and where it stands. */
function entriesOf(event: HoursEvent) {
  const lists = ['activities', 'loads', 'supplied', 'panels', 'stores', 'swaps', 'spares'] as const
  return lists.flatMap(list => (event[list] ?? []).map((entry, i) => ({ list, entry, path: pointer([list, i]) })))
}

/** Times that come to nothing: an end before its beginning, or all of it outside the event. */
function timeFaults(event: HoursEvent): Fault[] {
  const start = new Date(`${event.start}:00Z`)
  if (Number.isNaN(start.getTime()) || start.toISOString().slice(0, 16) !== event.start)
    return [{ path: '/start', wrong: `there is no ${event.start}`, right: 'a day that its month has' }]
  return entriesOf(event).flatMap(({ entry, path }): Fault[] => {
    const times = entry as { from?: EventTime; to?: EventTime; at?: EventTime }
    if (times.at !== undefined) {
      const h = hoursAt(event, times.at)
      const outside = !(h >= 0 && h <= event.hours)
      return outside
        ? [
            {
              path: `${path}/at`,
              wrong: `${shown(times.at)} is outside the event`,
              right: `within its ${event.hours} hours`,
            },
          ]
        : []
    }
    if (times.from === undefined && times.to === undefined) return []
    if (stretchesOf(event, times).length) return []
    const wrong = `from ${shown(times.from ?? 'the start')} to ${shown(times.to ?? 'the end')} is no time of this event`
    return [{ path, wrong, right: `a beginning before its end, within the ${event.hours} hours from ${event.start}` }]
  })
}

const HOLDS = 'a battery, bank or power station that says what it holds'

/** Parts that the plan has not, or that are of another role than is asked of them. */
function partFaults(event: HoursEvent, plan: Plan): Fault[] {
  const roles = {
    activities: { is: (id: string) => isKind(plan, id, k => k.transmits === true), what: 'a radio' },
    loads: { is: (id: string) => isKind(plan, id, k => k.role === 'load'), what: 'a load' },
    supplied: { is: (id: string) => canRun(plan, id), what: 'a supply, charger, generator or vehicle' },
    panels: { is: (id: string) => isKind(plan, id, k => k.needsController === true), what: 'a panel' },
    stores: { is: (id: string) => holds(plan, id), what: HOLDS },
    swaps: { is: (id: string) => holds(plan, id), what: HOLDS },
    spares: { is: (id: string) => holds(plan, id), what: HOLDS },
  }
  return entriesOf(event).flatMap(({ list, entry, path }): Fault[] => {
    const ids = 'parts' in entry ? entry.parts : [entry.part]
    const { is, what } = roles[list]
    return ids.flatMap((id, n): Fault[] => {
      const at = 'parts' in entry ? `${path}/parts/${n}` : `${path}/part`
      const right = namesOf(plan, is, what)
      if (!plan.parts.some(p => p.id === id)) return [{ path: at, wrong: `the plan has no part ${id}`, right }]
      return is(id) ? [] : [{ path: at, wrong: `${id} is not ${what}`, right }]
    })
  })
}

type Kind = ReturnType<typeof kindOf>
const isKind = (plan: Plan, id: string, is: (kind: Kind) => boolean) =>
  plan.parts.some(p => p.id === id && is(kindOf(p)))
const holds = (plan: Plan, id: string) => plan.parts.some(p => p.id === id && kindOf(p).store?.(p, () => []) != null)
const canRun = (plan: Plan, id: string) =>
  plan.parts.some(
    p => p.id === id && (kindOf(p).runsOn !== undefined || 'feeds' in p || kindOf(p).acInputW !== undefined),
  ) || plan.parts.some(p => 'fedBy' in p && p.fedBy === id)

function namesOf(plan: Plan, is: (id: string) => boolean, what: string): string {
  const ids = plan.parts.map(p => p.id).filter(is)
  return ids.length ? `${what}: ${listed(ids)}` : `${what}, of which the plan has none`
}

/** Places that the plan's site has not, and times at a place that come to nothing. */
function zoneFaults(event: HoursEvent, plan: Plan): Fault[] {
  const zones = (plan.site?.zones ?? []).map(z => z.id)
  const right = zones.length ? `one of ${listed(zones)}` : 'a place of the site, of which the plan names none'
  return (event.stores ?? []).flatMap((store, i) =>
    [
      { zone: store.zone, at: ['stores', i] },
      ...(store.places ?? []).map((p, n) => ({ ...p, at: ['stores', i, 'places', n] })),
    ]
      .map(({ zone, at, ...times }) => ({ zone, path: pointer(at), times }))
      .flatMap(({ zone, path, times }): Fault[] => {
        if (zone !== undefined && !zones.includes(zone))
          return [{ path: `${path}/zone`, wrong: `the plan has no place ${zone}`, right }]
        if (stretchesOf(event, times).length) return []
        return [
          { path, wrong: 'its times are no time of this event', right: 'a beginning before its end, within the event' },
        ]
      }),
  )
}

/** One part cannot do two things at once. */
function overlaps(event: HoursEvent, plan: Plan): Fault[] {
  const faults: Fault[] = []
  for (const list of ['activities', 'loads'] as const) {
    const entries = (event[list] ?? []).map((entry, i) => ({ entry, i, stretches: stretchesOf(event, entry) }))
    for (const a of entries)
      for (const b of entries) {
        const both = b.i > a.i && a.entry.part === b.entry.part ? common(a.stretches, b.stretches) : null
        if (!both) continue
        const part = plan.parts.find(p => p.id === a.entry.part)
        const name = part ? nameOf(part) : a.entry.part
        const when = `${clockWords(event, both.fromH)} to ${clockWords(event, both.toH)}`
        const wrong = `${name} is told twice from ${when}: here and in ${pointer([list, a.i])}`
        faults.push({ path: pointer([list, b.i]), wrong, right: 'times that do not overlap' })
      }
  }
  return faults
}

function common(a: readonly Stretch[], b: readonly Stretch[]): Stretch | null {
  for (const x of a)
    for (const y of b) {
      const [fromH, toH] = [Math.max(x.fromH, y.fromH), Math.min(x.toH, y.toH)]
      if (toH > fromH) return { fromH, toH }
    }
  return null
}
