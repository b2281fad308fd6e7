import { cellsOf } from '../battery/cells'
import { conditionsOf, loadsOf } from '../circuit/conditions'
import { solveMatrix } from '../circuit/matrix'
import { kindOf, type Part } from '../kinds/index'
import { nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import { EventCourse } from './course'
import { EVENT_FORMAT, EVENT_VERSION, type HoursEvent } from './event'
import type { Course } from './run'

/** What fills the packs of a plan, how long that takes, and how long they stay when it is gone. */

/** One way of charging, from the end of use to full; null: it does not get there within `TRIED_DAYS`. */
export interface Filling {
  /** The parts that are on. */
  on: string[]
  name: string
  by: 'mains' | 'engine' | 'sun'
  /** Of the sun. */
  month?: number
  /** With every load off, and with the loads idle. */
  fullH: number | null
  listeningFullH: number | null
  /** What goes into the packs at first, A. */
  firstA: number
}

/** How long a pack stays where nothing fills it. */
export interface Resting {
  part: string
  /** Hours until it is at the end of its use with every load idle; null: not within `TRIED_DAYS`. */
  idleH: number | null
  /** Days until half of it is gone by itself, unplugged; null where its class is not known. */
  halfGoneDays: number | null
}

/** A starter battery with the engine off and every load idle. */
export interface Starter {
  part: string
  amps: number
  /** Until it is half empty and may no longer crank; null: nothing is taken. */
  days: number | null
  assumed: boolean
}

export const TRIED_DAYS = 10
/** As full as a charger makes it that holds from 99 % on. */
const FULL = 0.985
const EVERY_H = 1 / 12
/** A starter battery is trusted to crank down to this charge (practice). */
const CRANKS_TO = 0.5
const LEAST_A = 0.001
const DAY_H = 24
const MONTH_DAYS = 30

/** Nothing but what is on, from the end of use. */
function bareEvent(of: HoursEvent, more: Partial<HoursEvent>): HoursEvent {
  const { place: _place, weather, ...rest } = of
  return {
    format: EVENT_FORMAT,
    version: EVENT_VERSION,
    name: rest.name,
    start: rest.start,
    hours: TRIED_DAYS * DAY_H,
    utcOffsetH: rest.utcOffsetH,
    weather: weather?.airC && { airC: weather.airC },
    panels: rest.panels,
    ...more,
  }
}

/** Every load off: a schedule of no time, outside of which it is off. */
const allOff = (plan: Plan): HoursEvent['loads'] =>
  loadsOf(plan).map(l => ({ part: l.id, duty: 0, between: 'off' as const, from: 0, to: 0 }))

/** The store that fills last, and its hours; null where one is not full in time. */
function fullAtH({ timeline }: Course): number | null {
  const full = timeline.find(m => Object.values(m.soc).every(c => c >= FULL))
  return full ? full.h : null
}

function filled(plan: Plan, event: HoursEvent): Pick<Filling, 'fullH' | 'listeningFullH' | 'firstA'> {
  const emptied = (loads: HoursEvent['loads']) => {
    const course = new EventCourse(plan, { ...event, loads })
    const stores = course.stores.map(s => ({ part: s.part.id, startCharge: s.endOfUse.charge }))
    return new EventCourse(plan, { ...event, loads, stores }).run({ everyH: EVERY_H })
  }
  const off = emptied(allOff(plan))
  const into = (m: Course['timeline'][number]) => -Object.values(m.storesA).reduce((sum, a) => sum + a, 0)
  const begins = event.place ? Math.max(...off.timeline.map(into)) : into(off.timeline[0]!)
  return { fullH: fullAtH(off), listeningFullH: fullAtH(emptied(undefined)), firstA: Math.max(0, begins) }
}

/** @param event where and when: the sun's place, the panels and the air of it; nothing of its schedule */
export function fillingsOf(plan: Plan, event: HoursEvent, months: readonly number[] = []): Filling[] {
  const powered = plan.parts.flatMap((part): Filling[] => {
    const { runsOn } = kindOf(part)
    if (!runsOn) return []
    const { on, by, name } = withItsFeed(plan, part, runsOn)
    const supplied = [{ parts: on }]
    return [{ on, by, name, ...filled(plan, bareEvent(event, { supplied })) }]
  })
  const charges = powered.filter(f => f.firstA > LEAST_A)
  return [...charges, ...months.flatMap(month => bySun(plan, event, month))]
}

/** A part with what its AC side hangs on: on an inverter it charges only while the engine runs. */
function withItsFeed(plan: Plan, part: Part, runsOn: 'mains' | 'engine'): Pick<Filling, 'on' | 'by' | 'name'> {
  const feed = 'fedBy' in part ? plan.parts.find(p => p.id === part.fedBy) : undefined
  if (!feed) return { on: [part.id], by: runsOn, name: nameOf(part) }
  const name = `${nameOf(part)} on ${nameOf(feed)}`
  const engines = plan.parts.filter(p => kindOf(p).runsOn === 'engine').map(p => p.id)
  const drawsOnPlan = Boolean(kindOf(feed).sink)
  return { on: [part.id, feed.id, ...(drawsOnPlan ? engines : [])], by: drawsOnPlan ? 'engine' : 'mains', name }
}

function bySun(plan: Plan, event: HoursEvent, month: number): Filling[] {
  if (!event.place) return []
  const start = `${event.start.slice(0, 5)}${String(month).padStart(2, '0')}-14T06:00`
  const cloud = event.weather?.cloud
  const mean = typeof cloud === 'object' ? cloud.reduce((sum, c) => sum + c, 0) / cloud.length : cloud
  const weather = {
    ...(event.weather?.airC && { airC: event.weather.airC }),
    ...(mean !== undefined && { cloud: mean }),
  }
  const sunny = bareEvent(event, { place: event.place, weather, start })
  const course = new EventCourse(plan, sunny)
  if (!course.sunInputs.length) return []
  return [{ on: [], name: 'sun', by: 'sun', month, ...filled(plan, sunny) }]
}

/** How long each pack stays with nothing that fills it. */
export function restingOf(plan: Plan, event: HoursEvent): Resting[] {
  const course = new EventCourse(plan, bareEvent(event, {}))
  const { failures } = course.run({ everyH: 0 })
  return course.stores.map(({ part, chemistry }) => {
    const end = failures.find(f => f.place === part.id && (f.cause === 'used up' || f.cause === 'empty'))
    const monthly = chemistry === undefined ? null : cellsOf(chemistry).selfDischarge
    return {
      part: part.id,
      idleH: end ? end.atH : null,
      halfGoneDays: monthly && (MONTH_DAYS * Math.log(0.5)) / Math.log(1 - monthly),
    }
  })
}

/** What is taken from starter batteries while the vehicle stands. */
export function startersOf(plan: Plan): Starter[] {
  const vehicles = plan.parts.filter(p => kindOf(p).starter)
  const parked = conditionsOf(plan).find(
    c => c.loadState === 'idle' && (c.source === 'nominal' || c.source === 'engine-off'),
  )
  if (!vehicles.length || !parked) return []
  const [point] = solveMatrix(plan, [parked]).points
  return vehicles.flatMap(part => {
    if (!point || point.status !== 'ok') return []
    const flows = point.sources.filter(s => s.partId === part.id)
    const amps = flows.reduce((sum, s) => sum + s.amps, 0)
    const { ah, assumed } = kindOf(part).starter!(part)
    const days = amps > LEAST_A ? ((1 - CRANKS_TO) * ah) / amps / DAY_H : null
    return [{ part: part.id, amps, days, assumed }]
  })
}
