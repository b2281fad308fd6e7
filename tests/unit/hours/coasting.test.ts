import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { EventCourse } from '../../../core/hours/course'
import { readEventText } from '../../../core/hours/readEvent'
import type { CourseOptions } from '../../../core/hours/run'
import { courseOf } from '../../data/events'
import { battery, demoPlan, lead, load, radio, smallPlan } from '../../data/plans'
import { dice, type Dice } from '../../data/randomPlans'

/** Where no limit is near only charge flows, many steps in a row: it must end like looking at everything. */

function looksAlike(course: EventCourse, options: CourseOptions) {
  const whole = course.run({ ...options, everyH: 24 })
  const lean = course.run({ ...options, everyH: 0 })
  const first = course.run({ ...options, everyH: 0, firstOnly: true })
  expect(lean.failures).toEqual(whole.failures)
  expect(lean.changedAtH).toEqual(whole.changedAtH)
  expect(lean.ends).toEqual(whole.ends)
  // Until when it fails is not looked for where only the first is asked.
  expect(first.ends && { ...first.ends, untilH: 0 }).toEqual(whole.ends && { ...whole.ends, untilH: 0 })
  for (const { leaves } of [lean, first])
    for (const [id, left] of Object.entries(whole.leaves)) expect(leaves[id]).toBeCloseTo(left, 9)
  return whole
}

const DEMOS = [
  ['tern-rock-light', 'tern-rock-weekend'],
  ['tern-rock-light', 'tern-rock-both-evenings'],
  ['tern-rock-light', 'tern-rock-more-packs'],
  ['moor-walk-kit', 'moor-walk-day'],
  ['narrowboat-heron', 'heron-grey-week'],
] as const

const of5 = <T>(make: (n: number) => T) => [0, 1, 2, 3, 4].map(make)
const takes = (idleA: number, activeA = idleA) => ({ model: 'constant-current', idleA, activeA })
const short = { lengthM: 0.5, conductor: { awg: 8, insulationC: 105 } }
const profile = { lifepo4: { absorptionV: 14.4, floatV: 13.6 } }

/** A pack, a panel, a controller with a load terminal, a charger, a bank that sleeps, a radio near its limit. */
function anyStation(d: Dice) {
  const timer = d.chance(0.3) ? { loadTimerH: d.between(2, 24) } : {}
  const cut = d.chance(0.4) ? { lowVoltageCutV: d.between(12.6, 13.2), lowVoltageReturnV: 13.4 } : {}
  const minV = d.of([5, 11, 12.2, 12.8, 13])
  return smallPlan({
    parts: [
      battery({
        id: 'bat',
        capacityAh: d.between(8, 60),
        internalOhm: d.between(0.005, 0.05),
        continuousA: 40,
        peakA: 60,
      }),
      { id: 'sun', kind: 'panel', openCircuitV: 22, shortCircuitA: 6, maxPowerV: 18, maxPowerA: d.between(2, 12) / 2 },
      {
        id: 'ctl',
        kind: 'controller',
        type: d.of(['mppt', 'pwm']),
        maxPanelV: 60,
        maxChargeA: d.between(3, 20),
        selfA: 0.02,
        chemistries: profile,
        ...timer,
        ...cut,
      },
      { id: 'chg', kind: 'charger', chemistries: profile, set: 'lifepo4', maxA: d.between(2, 20) },
      radio({ id: 'hf', supply: { minV, nominalV: 13.8, maxV: 16 }, draw: takes(1, d.between(4, 22)), powerW: 100 }),
      load({ id: 'lamp', supply: { minV: 5, nominalV: 12, maxV: 20 }, draw: takes(d.between(0.2, 3)) }),
      { id: 'bank', kind: 'usbSource', voltages: [{ volts: 5, amps: 3 }], energyWh: d.between(20, 90), autoOffA: 0.06 },
      load({ id: 'beacon', supply: { minV: 4, nominalV: 5, maxV: 6 }, draw: takes(d.between(0.02, 0.5)) }),
    ],
    leads: [
      lead({ id: 'l1', from: 'bat', to: 'ctl.battery', ...short }),
      lead({ id: 'l2', from: 'sun', to: 'ctl.panel', ...short }),
      lead({ id: 'l3', from: 'ctl.load', to: 'lamp', ...short }),
      lead({ id: 'l4', from: 'chg', to: 'bat', ...short }),
      lead({ id: 'l5', from: 'bat', to: 'hf', ...short, lengthM: d.between(0.5, 6) }),
      lead({ id: 'l6', from: 'bank', to: 'beacon', ...short }),
    ],
  })
}

const anyEvent = (d: Dice) => ({
  hours: d.of([16, 30, 48]),
  place: { latDeg: 54, lonDeg: -3 },
  weather: { cloud: d.roll(), airC: { low: d.of([-6, 8]), high: 18 } },
  panels: [{ part: 'sun', tiltDeg: 35 }],
  activities: [{ part: 'hf', mode: d.of(['voice', 'digital', 'cw']), share: d.between(0.05, 0.6) }],
  loads: [{ part: 'lamp', between: 'off', from: '20:00', to: '23:00' }, { part: 'beacon' }],
  ...(d.chance(0.5) && { supplied: [{ parts: ['chg'], from: '19:00', to: '21:00' }] }),
  ...(d.chance(0.4) && { spares: [{ part: 'bat', count: 1, ...(d.chance(0.5) && { refillH: 6 }) }] }),
  ...(d.chance(0.3) && { swaps: [{ part: 'bat', at: 9, charge: 0.9 }] }),
  ...(d.chance(0.3) && { reserve: 0.2 }),
})

describe('a course without a timeline', () => {
  it.each(DEMOS)('of %s through %s ends like one with', (station, name) => {
    const plan = demoPlan(station)
    const read = readEventText(readFileSync(`demo/events/${name}.json`, 'utf8'), plan)
    if (!read.ok) throw new Error(JSON.stringify(read.faults))
    const course = new EventCourse(plan, read.event)
    const d = dice(3)
    for (const options of of5(() => ({ duty: d.between(0.6, 1.6), health: d.between(0.7, 1.1) })))
      looksAlike(course, options)
  })

  const seeds = Array.from({ length: 40 }, (_, n) => n + 1)
  const ended = new Map<string, number>()
  it.each(seeds)('of any station and event ends like one with (seed %i)', seed => {
    const d = dice(seed)
    const plan = anyStation(d)
    const { ends } = looksAlike(courseOf(plan, anyEvent(d)), { duty: d.between(0.6, 1.6) })
    const cause = ends?.cause ?? 'none'
    ended.set(cause, (ended.get(cause) ?? 0) + 1)
  })
  it('in all of which much went wrong, and much went well', () => {
    expect(ended.size).toBeGreaterThan(3)
  })
})
