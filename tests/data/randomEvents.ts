import type { HoursEvent } from '../../core/hours/event'
import { MODE_IDS } from '../../core/hours/modes'
import { readEvent } from '../../core/hours/readEvent'
import { kindOf } from '../../core/kinds/index'
import type { Plan } from '../../core/plan/schema'
import { dice, randomPlan, type Dice } from './randomPlans'

/** Events that say any of what an event may say, about a plan of any parts. */

type Loose = Record<string, unknown>

const HOURS = [9, 30, 54]
const PLACES = [
  { latDeg: 54, lonDeg: -4 },
  { latDeg: -33, lonDeg: 151 },
  { latDeg: 68, lonDeg: 20 },
]

/** A stretch of a day, of hours, or none said. */
const times = (d: Dice): Loose =>
  d.of([{}, { from: '09:00', to: '17:30' }, { from: '21:00', to: '02:00' }, { from: 2, to: 7.5 }, { from: 4 }])

function storeOf(d: Dice, part: string): Loose {
  return {
    part,
    ...(d.chance(0.7) && { startCharge: d.of([0.3, 0.6, 0.9]) }),
    ...(d.chance(0.4) && { health: d.of([0.7, 0.85]) }),
    ...(d.chance(0.3) && { heldAwake: true }),
    ...(d.chance(0.4) && { zone: 'hut' }),
    ...(d.chance(0.4) && {
      places: [
        { zone: 'hut', from: '20:00', to: '08:00' },
        { from: '10:00', to: '15:00' },
      ],
    }),
  }
}

const activityOf = (d: Dice, part: string): Loose => ({
  part,
  mode: d.of(MODE_IDS),
  ...(d.chance(0.6) && { powerW: d.of([5, 20, 50]) }),
  ...(d.chance(0.5) && { share: d.of([0.1, 0.3, 0.6]) }),
  ...(d.chance(0.3) && { ratio: 0.5 }),
  ...(d.chance(0.5) && { between: d.of(['listening', 'off']) }),
  ...times(d),
})

const loadOf = (d: Dice, part: string): Loose => ({
  part,
  ...(d.chance(0.6) && { duty: d.of([0.2, 0.5]) }),
  ...(d.chance(0.5) && { between: d.of(['idle', 'off']) }),
  ...times(d),
})

const weather = (d: Dice): Loose => ({
  ...(d.chance(0.7) && { cloud: d.of([0.2, 0.9, [0.1, 0.8, 0.4]]) }),
  ...(d.chance(0.6) && {
    airC: d.of([
      { low: -12, high: 3 },
      { low: 14, high: 38 },
    ]),
  }),
  ...(d.chance(0.2) && { irradianceWm2: Array.from({ length: 20 }, (_, h) => 60 * (h % 12)) }),
})

const panelOf = (d: Dice, part: string): Loose => ({
  part,
  ...(d.chance(0.5) && { tiltDeg: d.of([20, 60]), azimuthDeg: d.of([90, 180, 270]) }),
  ...(d.chance(0.3) && { turned: true }),
  ...(d.chance(0.4) && { shade: 0.3 }),
  ...(d.chance(0.3) && { ageYears: 12 }),
})

/** An event for a seed on a plan; null where it cannot be read. */
export function randomEvent(seed: number, plan: Plan): HoursEvent | null {
  const d = dice(seed + 7000)
  const ids = (is: (kind: ReturnType<typeof kindOf>) => boolean) =>
    plan.parts.filter(p => is(kindOf(p)) && d.chance(0.8)).map(p => p.id)
  const stores = plan.parts.filter(p => kindOf(p).store?.(p, () => []) != null).map(p => p.id)
  const runs = ids(k => k.runsOn !== undefined)
  const [first] = stores
  const value = {
    format: 'wireman-event',
    version: 1,
    name: `event ${seed}`,
    start: d.of(['2026-06-13T08:00', '2026-12-24T16:30']),
    hours: d.of(HOURS),
    utcOffsetH: d.of([0, 1, 10]),
    place: d.of(PLACES),
    activities: ids(k => k.transmits === true).map(id => activityOf(d, id)),
    loads: ids(k => k.role === 'load' && !k.transmits).map(id => loadOf(d, id)),
    supplied: runs.length ? [{ parts: runs, ...times(d) }] : [],
    panels: ids(k => k.needsController === true).map(id => panelOf(d, id)),
    weather: weather(d),
    stores: stores.filter(() => d.chance(0.8)).map(id => storeOf(d, id)),
    ...(first && d.chance(0.3) && { swaps: [{ part: first, at: 5, charge: d.of([0.5, 1]) }] }),
    ...(first && d.chance(0.3) && { spares: [{ part: first, count: 2, ...(d.chance(0.5) && { refillH: 4 }) }] }),
    ...(d.chance(0.4) && { reserve: d.of([0.1, 0.3]) }),
  }
  const read = readEvent(value, plan)
  return read.ok ? read.event : null
}

const HUT = { id: 'hut', ambientC: { low: 5, typical: 15, high: 25 } }

/** A plan with a place indoors, and an event of it. */
export function randomRun(seed: number, make: (seed: number) => Plan | null = randomPlan) {
  const made = make(seed)
  if (!made) return null
  const plan: Plan = { ...made, site: { ...made.site, zones: [HUT] } as Plan['site'] }
  const event = randomEvent(seed, plan)
  return event && { plan, event }
}
