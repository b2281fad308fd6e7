import { describe, expect, it } from 'vitest'
import { expectationsOf, meaningOf } from '../../../core/commission/expected'
import { proceduresOf } from '../../../core/commission/procedures'
import { apartWords, restedOf } from '../../../core/commission/rested'
import { settingFaults } from '../../../core/commission/settings'
import { commissionSteps } from '../../../core/commission/steps'
import { EMPTY_LOG, type Log } from '../../../core/log/log'
import type { Plan } from '../../../core/plan/schema'
import type { Reading } from '../../../core/readings/reading'
import { battery, DEMOS, demoPlan, lead, radio, smallPlan } from '../../data/plans'
import { randomPlan } from '../../data/randomPlans'
import { madeUpReadings } from '../../data/readings'

const tern = demoPlan('tern-rock-light')
const DAY = '2026-06-13'
const entry = (r: Pick<Reading, 'at' | 'condition' | 'volts'>, i: number) => ({
  id: `r${i}`,
  time: `${DAY}T09:0${i % 10}:00`,
  at: r.at,
  condition: r.condition,
  volts: r.volts!,
})
const logOf = (readings: readonly Reading[]): Log => ({ ...EMPTY_LOG, readings: readings.map(entry) })
const stepOf = (plan: Plan, id: string) => commissionSteps(plan).find(s => s.id === id)!

describe.each(DEMOS)('the steps of %s', name => {
  const plan = demoPlan(name)
  const steps = commissionSteps(plan)
  it('have ids of their own, look at every lead before it is used and join both its ends once', () => {
    expect(new Set(steps.map(s => s.id)).size).toBe(steps.length)
    for (const l of plan.leads) {
      expect(steps.filter(s => s.id === `bench ${l.id}`)).toHaveLength(1)
      for (const end of ['from', 'to'])
        expect(steps.filter(s => s.id.split(/ (?=join)/).includes(`join ${l.id} ${end}`))).toHaveLength(1)
      const bench = steps.findIndex(s => s.id === `bench ${l.id}`)
      expect(bench).toBeLessThan(steps.findIndex(s => s.id.includes(`join ${l.id} `)))
    }
  })
  it('go from the bench to charging, each with what to see and where to stop', () => {
    const order = ['bench', 'packs', 'settings', 'connect', 'idle', 'keyed', 'charge']
    const phases = steps.map(s => order.indexOf(s.phase))
    expect(phases).toEqual([...phases].sort((a, b) => a - b))
    for (const s of steps) expect([s.does, s.see, s.stopIf, s.why].every(words => words.length > 10)).toBe(true)
  })
  it('say what every reading should be, where the plan has an operating point', () => {
    const expected = expectationsOf(plan, EMPTY_LOG, steps, DAY)
    for (const s of steps.filter(x => x.reading && x.reading.condition !== 'rested' && expected[x.id])) {
      expect(expected[s.id]!.expected).toBeGreaterThan(1)
      expect(expected[s.id]!.tolerance).toBeGreaterThan(0.008)
    }
  })
})

it('the steps of any plan there is are made', () => {
  for (let seed = 1; seed <= 60; seed++) {
    const plan = randomPlan(seed)
    if (!plan) continue
    const steps = commissionSteps(plan)
    expect(new Set(steps.map(s => s.id)).size).toBe(steps.length)
    expect(proceduresOf(plan).every(p => p.steps.length > 0)).toBe(true)
  }
})

describe('a pack by itself', () => {
  const at = (volts: number) => meaningOf(tern, stepOf(tern, 'rested bat'), volts, null)
  it('the wrong way round, flat, or still on a charger: stop', () => {
    expect(at(-13.2)).toMatchObject({ verdict: 'stop', words: expect.stringContaining('wrong way round') })
    expect(at(10.4)).toMatchObject({ verdict: 'stop', words: expect.stringContaining('below empty') })
    expect(at(14.6)).toMatchObject({ verdict: 'stop', words: expect.stringContaining('still on its charger') })
  })
  it('on its flat curve says a band of charge and no single figure', () => {
    // Half a percent of 13.2 V is 17 mV a cell: 3.283 V are 43 %, 3.317 V are 68 %.
    const { verdict, words } = at(13.2)
    expect(verdict).toBe('good')
    const [low, high] = /(\d+) % to (\d+) %/.exec(words)!.slice(1).map(Number)
    expect([low, high]).toEqual([43, 68])
  })
  it('nearly used up is to be charged first', () => {
    expect(at(12.6)).toMatchObject({ verdict: 'off', words: expect.stringContaining('Charge it first') })
  })
  it('of two in series is metered one by one, each at its own volts, and then the sum', () => {
    const pair = smallPlan({
      parts: [
        battery({
          chemistry: 'agm',
          seriesCells: 12,
          capacityAh: 60,
          members: [
            { name: 'lower', string: 1, seriesCells: 6 },
            { name: 'upper', string: 1, seriesCells: 6 },
          ],
        }),
        radio({ id: 'hf', supply: { minV: 20, nominalV: 26, maxV: 32 } }),
      ],
      leads: [lead({ id: 'l1', from: 'bat', to: 'hf' })],
    })
    const steps = commissionSteps(pair)
    const rested = steps.filter(s => s.reading?.condition === 'rested')
    expect(rested.map(s => s.id)).toEqual(['rested bat lower', 'rested bat upper', 'rested bat'])
    expect(meaningOf(pair, rested[0]!, 12.7, null)).toMatchObject({ verdict: 'good' })
    expect(meaningOf(pair, rested[0]!, 25.4, null)).toMatchObject({ verdict: 'stop' })
    expect(meaningOf(pair, rested[2]!, 25.4, null)).toMatchObject({ verdict: 'good' })
    expect(meaningOf(pair, rested[1]!, 12.7, null).words).toContain('upper')
  })
  it('apart from another by 0.2 V on the flat of lithium is a good part of a charge', () => {
    const rested = restedOf(tern.parts.find(p => p.id === 'bat')!)!
    // 13.2 V is 60 %, 13.0 V (3.25 a cell) is 26.7 %; 0.2 V over twice its own resistance.
    const words = apartWords(rested, rested, 13.2, 13)
    expect(words).toMatch(/0.20 V apart, about 33 % of charge/)
  })
})

describe('what the next point should read', () => {
  it('follows the battery as it was read: half full it is lower by what it is', () => {
    const steps = commissionSteps(tern)
    const none = expectationsOf(tern, EMPTY_LOG, steps, DAY)['idle hf']!
    const log = logOf([{ at: 'bat', condition: 'rested', volts: 13.2, digit: 0.01, line: 0 }])
    const then = expectationsOf(tern, log, steps, DAY)['idle hf']!
    expect(none.expected - then.expected).toBeGreaterThan(0.35)
    expect(none.expected - then.expected).toBeLessThan(0.45)
    expect(then.tolerance).toBeLessThan(0.65 * none.tolerance)
    // Of another day it says nothing.
    expect(expectationsOf(tern, log, steps, '2026-06-20')['idle hf']!.expected).toBeCloseTo(none.expected, 6)
  })

  it('is not moved by its own reading, nor by one with the key down: a bad joint would excuse itself', () => {
    const steps = commissionSteps(tern)
    const before = expectationsOf(tern, EMPTY_LOG, steps, DAY)
    const low = (at: string, condition: string, volts: number) => ({ at, condition, volts, digit: 0.01, line: 0 })
    const keyed = expectationsOf(tern, logOf([low('hf', 'full/only:hf', 11.75)]), steps, DAY)
    expect(keyed['keyed hf']).toEqual(before['keyed hf'])
    const idle = expectationsOf(tern, logOf([low('hf', 'full/idle', 12.9)]), steps, DAY)
    expect(idle['idle hf']).toEqual(before['idle hf'])
    expect(idle['idle vhf']!.expected).toBeLessThan(before['idle vhf']!.expected)
  })

  it('holds in 95 of 100 stations as they are built, with nothing bad in them', () => {
    let [within, all] = [0, 0]
    for (const name of ['tern-rock-light', 'clean-bench'] as const) {
      const plan = demoPlan(name)
      const steps = commissionSteps(plan).filter(s => s.phase === 'keyed')
      for (let seed = 1; seed <= 60; seed++) {
        const { readings } = madeUpReadings(plan, { seed, times: 0 })
        const idle = readings.filter(r => r.volts !== undefined && r.condition.endsWith('/idle'))
        const expected = expectationsOf(plan, logOf(idle), steps, DAY)
        for (const step of steps) {
          const read = readings.find(r => r.at === step.reading!.at && r.condition === step.reading!.condition)
          if (!read || !expected[step.id]) continue
          all++
          const { expected: should, tolerance } = expected[step.id]!
          if (Math.abs(read.volts! - should) <= tolerance) within++
        }
      }
    }
    expect(all).toBeGreaterThan(200)
    expect(within / all).toBeGreaterThan(0.95)
  })
})

describe('a figure at a step', () => {
  const step = stepOf(tern, 'keyed hf')
  const expectation = { expected: 12.25, tolerance: 0.1 }
  const at = (volts: number) => meaningOf(tern, step, volts, expectation)
  it('as it should be, too low, too high, the wrong way round', () => {
    expect(at(12.2)).toMatchObject({ verdict: 'good' })
    expect(at(12.6)).toMatchObject({ verdict: 'off', words: expect.stringContaining('0.35 V more') })
    expect(at(-12.2)).toMatchObject({ verdict: 'stop' })
    expect(at(16.2)).toMatchObject({ verdict: 'stop', words: expect.stringContaining('Over the 15.9 V') })
    expect(at(11.5)).toMatchObject({ verdict: 'stop', words: expect.stringContaining('Under the 11.7 V') })
  })
  it('tells a drop as a resistance at the amps that flow', () => {
    // 0.42 V at 21 A.
    expect(at(11.83)).toMatchObject({ verdict: 'off', words: expect.stringContaining('about 20 mΩ too much') })
  })
  it('tells one over an ohm in ohms, and nothing at all as a way that is open', () => {
    // 22.25 V less of 24 V expected, at 21 A.
    const odd = meaningOf(tern, step, 1.75, { expected: 24, tolerance: 0.1 })
    expect(odd.words).toContain('about 1.06 Ω too much')
    for (const volts of [0, 0.3, -0.3])
      expect(at(volts).words).toMatch(
        /^Nothing arrives; 12\.25 ± 0\.10 V was to be expected\. A fuse, breaker or switch/,
      )
    expect(meaningOf(tern, step, 0.02, { expected: 0, tolerance: 0.05 }).words).not.toContain('Nothing arrives')
  })
  it('under what the radio needs is no good reading, though the plan gives no more', () => {
    const poor = { expected: 11.65, tolerance: 0.1 }
    expect(meaningOf(tern, step, 11.66, poor)).toMatchObject({ verdict: 'stop' })
  })
})

describe('settings as they were found', () => {
  const found = (setting: object) =>
    settingFaults(tern, { ...EMPTY_LOG, settings: [{ id: 's1', time: `${DAY}T09:00:00`, part: 'ctl', ...setting }] })
  it('as the plan says are no fault', () => {
    expect(found({ chemistry: 'lifepo4', absorptionV: 14.4, floatV: 13.5 })).toEqual([])
  })
  it('for another chemistry, over what the battery stands, faster than it takes: dangers', () => {
    expect(found({ chemistry: 'flooded' })).toMatchObject([{ danger: true, part: 'ctl' }])
    expect(found({ absorptionV: 15.2 })).toMatchObject([{ danger: true, words: expect.stringContaining('14.6 V') }])
    expect(found({ chargeA: 60 })).toMatchObject([{ danger: true, words: expect.stringContaining('25 A') }])
  })
  it('otherwise than planned, without harm: told', () => {
    expect(found({ absorptionV: 14 })).toMatchObject([{ danger: false }])
    expect(found({ loadTimerH: 3 })).toMatchObject([{ danger: false, words: expect.stringContaining('load timer') }])
  })
  it('the last record of each figure counts', () => {
    const record = (id: string, hour: string, more: object) => ({
      id,
      time: `${DAY}T${hour}:00:00`,
      part: 'ctl',
      ...more,
    })
    const settings = [
      record('b', '12', { chemistry: 'lifepo4' as const }),
      record('a', '09', { chemistry: 'flooded' as const, absorptionV: 14.4 }),
    ]
    expect(settingFaults(tern, { ...EMPTY_LOG, settings })).toEqual([])
  })
})

describe('what is done to a battery now and then', () => {
  it('a lithium pack is woken and balanced, a flooded one neither', () => {
    expect(proceduresOf(tern).map(p => p.id)).toEqual(['wake bat', 'trickle bat', 'balance bat', 'elsewhere bat'])
    const heron = proceduresOf(demoPlan('narrowboat-heron')).filter(p => p.part === 'house')
    expect(heron.map(p => p.id)).toEqual(['trickle house', 'elsewhere house'])
    expect(heron[0]!.caution).toMatch(/vent/)
  })
  it('cells that nobody charges are told nothing of charging', () => {
    const dry = smallPlan({
      parts: [
        battery({ chemistry: 'alkaline', seriesCells: 8, capacityAh: 8, usableFraction: 0.6 }),
        radio({ id: 'hf' }),
      ],
      leads: [lead({ id: 'l1', from: 'bat', to: 'hf' })],
    })
    expect(proceduresOf(dry)).toEqual([])
    const low = meaningOf(dry, stepOf(dry, 'rested bat'), 8.2, null)
    expect(low).toMatchObject({ verdict: 'off', words: expect.stringContaining('Put fresh cells in') })
  })
  it('a flat lead pack is brought back to its own absorption: 12 V at first, 14.4 V of six cells at the end', () => {
    const lead6 = smallPlan({ parts: [battery({ chemistry: 'agm', seriesCells: 6, capacityAh: 100 }), radio()] })
    const [flat] = proceduresOf(lead6)
    expect(flat!.id).toBe('trickle bat')
    expect(flat!.steps[0]!.see).toBe('Over 12.0 V in the first hours, 14.4 V at the end.')
    expect(flat!.steps.map(s => s.see.length > 0 && s.stopIf.length > 0)).not.toContain(false)
  })
  it('a flat lithium pack asks for three steps at most, each with what to see and where to stop', () => {
    const flat = proceduresOf(tern).find(p => p.id === 'trickle bat')!
    expect(flat.steps).toHaveLength(2)
    for (const step of flat.steps) for (const said of [step.does, step.see, step.stopIf]) expect(said).toBeTruthy()
    expect(flat.steps[0]!.stopIf).toContain('Under 8.0 V')
  })
  it('with figures of its own: 2.5 A for 50 Ah, four cells', () => {
    const [wake] = proceduresOf(tern)
    expect(wake!.steps[0]!.see).toContain('2.5 A')
    expect(wake!.steps[1]!.see).toContain('11.2 V')
  })
})

describe('a device’s own lamps', () => {
  const shown = (shows: object) => {
    const parts = tern.parts.map(p => (p.id === 'hf' ? { ...p, shows } : p)) as typeof tern.parts
    return { ...tern, parts }
  }
  it('are a sight to expect, and one that ends the step', () => {
    const plan = shown({ on: 'a lit dial', active: 'red TX', fault: 'dial blinks' })
    expect(stepOf(plan, 'idle hf').see).toContain('It shows: a lit dial.')
    expect(stepOf(plan, 'keyed hf').see).toContain('It shows: red TX.')
    expect(stepOf(plan, 'keyed hf').stopIf).toContain('Or it shows: dial blinks (a fault).')
    const charge = commissionSteps(tern).find(s => s.id === 'charge ctl')!
    expect(charge.see).toContain('It shows: green, a slow blink; green, steady once it is full.')
    expect(charge.stopIf).toContain('Or it shows: red, two blinks (a fault); amber (battery low).')
  })
  it('of which nobody says anything are not made up', () => {
    const plan = shown({})
    expect(stepOf(plan, 'idle hf').see).toBe('The volts below, within their tolerance.')
    expect(stepOf(plan, 'keyed hf').stopIf).not.toContain('shows')
  })
})
