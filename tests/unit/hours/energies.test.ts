import fc from 'fast-check'
import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { EventCourse } from '../../../core/hours/course'
import { readEventText } from '../../../core/hours/readEvent'
import { withPart } from '../../../core/hours/sets'
import { kindOf } from '../../../core/kinds/index'
import type { Plan } from '../../../core/plan/schema'
import { courseOf, packAnd, wide } from '../../data/events'
import { DEMOS, demoPlan, radio } from '../../data/plans'

type Loose = Record<string, unknown>

const weekend = {
  place: { latDeg: 54, lonDeg: -3 },
  utcOffsetH: 1,
  weather: { cloud: 0.6, airC: { low: 6, high: 18 } },
}
const DEMO_EVENTS: Record<(typeof DEMOS)[number], Loose> = {
  'tern-rock-light': {
    ...weekend,
    activities: [
      { part: 'hf', mode: 'voice', from: '08:00', to: '23:00' },
      { part: 'vhf', mode: 'fm', from: '10:00', to: '20:00' },
    ],
    loads: [
      { part: 'log', duty: 0.5 },
      { part: 'lamps', from: '21:00', to: '01:00', between: 'off' },
    ],
    supplied: [{ parts: ['mains'], from: '19:00', to: '22:00' }],
    panels: [{ part: 'sun', tiltDeg: 35 }],
  },
  'narrowboat-heron': {
    ...weekend,
    activities: [{ part: 'mobile', mode: 'fm', from: '09:00', to: '21:00' }],
    loads: [
      { part: 'fridge', duty: 0.4 },
      { part: 'inv', from: '19:00', to: '21:00', between: 'off' },
    ],
    supplied: [{ parts: ['engine'], from: '10:00', to: '14:00' }],
  },
  'moor-walk-kit': {
    hours: 10,
    activities: [{ part: 'cw', mode: 'cw', share: 0.4 }],
    loads: [{ part: 'log', duty: 1 }],
  },
  'clean-bench': { hours: 24 },
}

describe('energies', () => {
  it.each(DEMOS)('of %s balance to a millionth', name => {
    const { energy } = courseOf(demoPlan(name), DEMO_EVENTS[name]).run()
    const { loadsWh, lossWh, sunWh, suppliedWh, storesWh } = energy
    expect(loadsWh).toBeGreaterThan(1)
    expect(Math.abs(sunWh + suppliedWh + storesWh - loadsWh - lossWh) / (loadsWh + lossWh)).toBeLessThan(1e-6)
    expect(lossWh).toBeGreaterThanOrEqual(0)
  })
  it.each(DEMOS)('and the end of %s do not hang on the step', name => {
    const course = courseOf(demoPlan(name), DEMO_EVENTS[name])
    const [coarse, fine] = [course.run(), course.run({ stepH: 1 / 600 })]
    for (const [id, charge] of Object.entries(coarse.leaves))
      expect(Math.abs(charge - fine.leaves[id]!)).toBeLessThan(0.005)
    expect(coarse.ends?.cause).toBe(fine.ends?.cause)
    if (coarse.ends)
      expect(Math.abs(coarse.ends.atH - fine.ends!.atH)).toBeLessThanOrEqual(0.005 * fine.ends!.atH + 1 / 60)
  })
  it('of the sun are what falls on the panels, within what they and their controller lose', () => {
    const plan = demoPlan('tern-rock-light')
    const course = courseOf(plan, {
      ...DEMO_EVENTS['tern-rock-light'],
      hours: 24,
      weather: { cloud: 0, airC: { low: 15, high: 15 } },
      stores: [{ part: 'bat', startCharge: 0.3 }],
      // So much is taken that the pack is never full.
      loads: [{ part: 'log' }, { part: 'lamps' }],
      activities: [{ part: 'hf', mode: 'digital', share: 0.5 }],
    }).run()
    // 200 W of panels: a clear June day at 54° N gives some 8 kWh/m² on a plane of 35°; heat and tracking take a tenth.
    expect(course.energy.sunWh).toBeGreaterThan(200 * 6.2)
    expect(course.energy.sunWh).toBeLessThan(200 * 8)
  })
  it('of a panel on two controllers are shared, never counted twice', () => {
    const plan = demoPlan('tern-rock-light')
    const second = { ...plan.parts.find(p => p.id === 'ctl')!, id: 'ctl2' }
    const two: Plan = {
      ...plan,
      parts: [...plan.parts, second],
      leads: [
        ...plan.leads,
        { ...plan.leads.find(l => l.id === 'l7')!, id: 'l7b', from: 'ctl2.battery' },
        { ...plan.leads.find(l => l.id === 'l8')!, id: 'l8b', to: 'ctl2.panel' },
      ],
    }
    const low = {
      ...DEMO_EVENTS['tern-rock-light'],
      supplied: [],
      stores: [{ part: 'bat', startCharge: 0.2 }],
      hours: 14,
    }
    const [one, both] = [courseOf(plan, low).run().energy.sunWh, courseOf(two, low).run().energy.sunWh]
    expect(Math.abs(both / one - 1)).toBeLessThan(0.03)
  })
})

describe('any discharge', () => {
  it('ends later with a larger pack and sooner with more talk', () => {
    fc.assert(
      fc.property(fc.integer({ min: 10, max: 60 }), fc.double({ min: 0.1, max: 0.5, noNaN: true }), (ah, share) => {
        const hours = (capacityAh: number, of: number) => {
          const hf = radio({
            id: 'hf',
            supply: wide,
            draw: { model: 'constant-current', idleA: 1, activeA: 15 },
            powerW: 50,
          })
          const plan = packAnd(hf, { capacityAh })
          return courseOf(plan, { hours: 200, activities: [{ part: 'hf', mode: 'voice', share: of }] }).run({
            everyH: 0,
          }).ends!.atH
        }
        const once = hours(ah, share)
        expect(hours(2 * ah, share)).toBeCloseTo(2 * once, 0)
        expect(hours(ah, share * 1.5)).toBeLessThan(once)
        // Amp-hours over the mean current, by hand.
        expect(Math.abs(once / ((0.8 * ah) / (1 + share * 0.4 * 14)) - 1)).toBeLessThan(0.01)
      }),
      { numRuns: 12 },
    )
  })
})

describe('an empty pack', () => {
  it('gives no more than it held, and takes what the sun brings', () => {
    const plan = demoPlan('tern-rock-light')
    const course = courseOf(plan, {
      place: { latDeg: 54, lonDeg: -3 },
      weather: { cloud: 0.9, airC: { low: 20, high: 20 } },
      loads: [{ part: 'log' }, { part: 'lamps' }],
      activities: [{ part: 'hf', mode: 'digital', share: 0.3 }],
      panels: [{ part: 'sun', tiltDeg: 35 }],
    })
    const { energy, failures, timeline } = course.run({ everyH: 0.25 })
    expect(failures.map(f => f.cause)).toContain('empty')
    // 50 Ah at 13.2 V on average, and hardly more.
    expect(energy.storesWh).toBeGreaterThan(500)
    expect(energy.storesWh).toBeLessThan(50 * 13.4)
    expect(timeline.some(m => m.soc.bat! < 0.002)).toBe(true)
  })
})

describe('a pack under a finger', () => {
  it('moves its line at once to nearly where the circuit of that pack has it', () => {
    const plan = demoPlan('tern-rock-light')
    const read = readEventText(readFileSync('demo/events/tern-rock-weekend.json', 'utf8'), plan)
    if (!read.ok) throw new Error(JSON.stringify(read.faults))
    const course = new EventCourse(plan, read.event)
    for (const times of [0.5, 0.8, 1.2]) {
      const bat = plan.parts.find(p => p.id === 'bat')!
      const exact = new EventCourse(withPart(plan, kindOf(bat).sized!(bat, times)), read.event).run()
      const near = course.run({ capacityTimes: { bat: times } })
      expect(Math.abs(near.ends!.atH - exact.ends!.atH)).toBeLessThan(0.5)
      expect(near.ends!.cause).toBe(exact.ends!.cause)
    }
  })
})
