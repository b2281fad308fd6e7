import { describe, expect, it } from 'vitest'
import { readEvent } from '../../../core/hours/readEvent'
import { courseOf, packAnd, wide } from '../../data/events'
import { battery, demoPlan, lead, load, radio, smallPlan } from '../../data/plans'

type Loose = Record<string, unknown>

describe('a discharge worked out by hand', () => {
  it('of one amp out of 20 Ah of lithium, four fifths used: 16 hours', () => {
    const plan = packAnd(load({ id: 'x', supply: wide, draw: { model: 'constant-current', idleA: 1, activeA: 1 } }))
    const { ends } = courseOf(plan).run()
    expect(ends).toMatchObject({ cause: 'used up', place: 'bat' })
    expect(ends!.atH).toBeCloseTo(16, 1)
  })
  it('of 24 W: what its voltage makes of it, in tenths of a percent of charge', () => {
    const plan = packAnd(load({ id: 'x', supply: wide, draw: { model: 'constant-power', idleW: 24, activeW: 24 } }))
    const curve = [
      [0, 11.2],
      [0.05, 12.2],
      [0.1, 12.72],
      [0.2, 12.92],
      [0.3, 13.04],
      [0.4, 13.12],
      [0.5, 13.16],
      [0.6, 13.2],
      [0.7, 13.28],
      [0.8, 13.32],
      [0.9, 13.36],
      [0.95, 13.4],
      [1, 13.6],
    ] as const
    const emf = (c: number) => {
      const i = curve.findIndex(p => p[0] >= c) || 1
      const [[c0, v0], [c1, v1]] = [curve[i - 1]!, curve[i]!]
      return v0 + ((v1 - v0) * (c - c0)) / (c1 - c0)
    }
    // 10 mΩ of the pack; 2 m of 8 AWG, 2.06 mΩ/m; four contacts of rings or as the plan's ends say: under 3 mΩ.
    let [hours, charge] = [0, 1]
    while (charge > 0.2) {
      const e = emf(charge)
      const amps = (e - Math.sqrt(e * e - 4 * 0.016 * 24)) / (2 * 0.016)
      charge -= 0.001
      hours += (0.001 * 20) / amps
    }
    const { ends } = courseOf(plan).run()
    expect(Math.abs(ends!.atH / hours - 1)).toBeLessThan(0.003)
  })
  it('of lead-acid at five times the current it is printed at: less than half comes out in the time', () => {
    const plan = packAnd(load({ id: 'x', supply: wide, draw: { model: 'constant-current', idleA: 5, activeA: 5 } }), {
      chemistry: 'agm',
      seriesCells: 6,
    })
    // Printed at 1 A (20 h): 5 A counts as 5·5^0.12 = 6.065 A; half of 20 Ah.
    expect(courseOf(plan).run().ends!.atH).toBeCloseTo(10 / 6.065, 1)
  })
  it('of a bank of 72 Wh that gives 9 W: seven hours, and not for ever', () => {
    const plan = smallPlan({
      parts: [
        {
          id: 'bank',
          kind: 'usbSource',
          voltages: [{ volts: 5, amps: 3 }],
          energyWh: 72,
          autoOffA: 0.1,
          terminal: 'usb-c',
        },
        load({
          id: 'x',
          supply: { minV: 4, nominalV: 5, maxV: 5.5 },
          draw: { model: 'constant-power', idleW: 9, activeW: 9 },
        }),
      ],
      leads: [lead({ id: 'l1', from: 'bank', to: 'x', lengthM: 0.3, conductor: { awg: 18 } })],
    })
    const { ends } = courseOf(plan).run()
    expect(ends!.cause).toMatch(/empty|starves/)
    expect(ends!.atH).toBeGreaterThan(6.7)
    expect(ends!.atH).toBeLessThan(7.1)
  })
  it('of a 100 W radio on voice: 3 to 4 A, and four to five hours of a 20 Ah pack', () => {
    const plan = packAnd(
      radio({ id: 'hf', supply: wide, draw: { model: 'constant-current', idleA: 1.2, activeA: 21 }, powerW: 100 }),
    )
    const course = courseOf(plan, { activities: [{ part: 'hf', mode: 'voice', share: 0.3 }] }).run()
    const amps = course.timeline[4]!.storesA.bat!
    expect(amps).toBeGreaterThan(3)
    expect(amps).toBeLessThan(4)
    expect(amps).toBeCloseTo(1.2 + 0.3 * 0.4 * 19.8, 2)
    expect(course.ends!.atH).toBeGreaterThan(4)
    expect(course.ends!.atH).toBeLessThan(5)
  })
  it('of two 50 W radios on FM for twelve hours: 50 to 70 Ah', () => {
    const set = (id: string) =>
      radio({ id, supply: wide, draw: { model: 'constant-current', idleA: 0.6, activeA: 11 }, powerW: 50 })
    const plan = smallPlan({
      parts: [battery({ id: 'bat', capacityAh: 100, continuousA: 100, peakA: 200 }), set('a'), set('b')],
      leads: ['a', 'b'].map(to => lead({ id: `l${to}`, from: 'bat', to, conductor: { awg: 8 } })),
    })
    const activities = ['a', 'b'].map(part => ({ part, mode: 'fm', to: 12 }))
    const { leaves } = courseOf(plan, { hours: 12, activities }).run()
    const takenAh = 100 * (1 - leaves.bat!)
    expect(takenAh).toBeGreaterThan(50)
    expect(takenAh).toBeLessThan(70)
  })
  it('of a small pack that has the hours and not the amps: it cuts off at once', () => {
    const plan = packAnd(
      radio({ id: 'hf', supply: wide, draw: { model: 'constant-current', idleA: 1, activeA: 21 }, powerW: 100 }),
      { continuousA: 10, peakA: 15 },
    )
    const { ends } = courseOf(plan, { activities: [{ part: 'hf', mode: 'voice' }] }).run()
    expect(ends).toMatchObject({ atH: 0, cause: 'trips', place: 'bat' })
  })
  it('of a radio that starves while transmitting, at the charge where its volts say so', () => {
    const plan = packAnd(
      radio({
        id: 'hf',
        supply: { minV: 12.6, nominalV: 13.8, maxV: 15.9 },
        draw: { model: 'constant-current', idleA: 1, activeA: 21 },
        powerW: 100,
      }),
    )
    const course = courseOf(plan, { activities: [{ part: 'hf', mode: 'voice', share: 0.5 }] })
    const { ends, timeline } = course.run({ everyH: 1 / 60 })
    expect(ends).toMatchObject({ cause: 'starves', place: 'hf' })
    const at = timeline.find(m => m.h >= ends!.atH)!
    expect(at.volts.hf!).toBeLessThan(12.6)
    expect(timeline[timeline.indexOf(at) - 1]!.volts.hf!).toBeGreaterThanOrEqual(12.6)
    // Listening it still has enough.
    expect(at.listeningV.hf!).toBeGreaterThan(12.6)
  })
})

describe('what fills it', () => {
  const charger = (more: Loose = {}) => ({
    id: 'chg',
    kind: 'charger',
    chemistries: { lifepo4: { absorptionV: 14.4, floatV: 13.5 } },
    set: 'lifepo4',
    maxA: 10,
    terminal: 'ring-m6',
    ...more,
  })
  const charged = (more: Loose = {}, pack: Loose = {}) =>
    smallPlan({
      parts: [
        battery({ id: 'bat', capacityAh: 20, maxChargeA: 20, continuousA: 50, peakA: 50, ...pack }),
        charger(more),
      ],
      leads: [lead({ id: 'l1', from: 'chg', to: 'bat', conductor: { awg: 8 } })],
    })
  it('a charger of 10 A takes 20 Ah from a fifth to where it tapers in an hour and a half', () => {
    const course = courseOf(charged(), {
      hours: 12,
      supplied: [{ parts: ['chg'] }],
      stores: [{ part: 'bat', startCharge: 0.2 }],
    }).run({ everyH: 1 / 60 })
    const tapers = course.timeline.find(m => m.soc.bat! >= 0.95)!
    expect(tapers.h).toBeCloseTo((0.75 * 20) / 0.99 / 10, 1)
    const full = course.timeline.find(m => m.soc.bat! >= 0.99)!
    expect(full.h).toBeGreaterThan(tapers.h + 0.08)
    expect(course.ends).toBeNull()
    // Then it floats: nothing goes in for hours.
    expect(Math.abs(course.timeline.at(-1)!.storesA.bat!)).toBeLessThan(0.2)
  })
  it('nothing does while nobody has it on, and that is told', () => {
    const course = courseOf(charged(), { stores: [{ part: 'bat', startCharge: 0.5 }] })
    expect(course.run().leaves.bat).toBeCloseTo(0.5, 6)
    expect(course.assumed.join()).toContain('off all the time')
  })
  it('nothing goes into a lithium pack under 0 °C with a cut-off, and all of it without', () => {
    const cold = {
      hours: 3,
      supplied: [{ parts: ['chg'] }],
      stores: [{ part: 'bat', startCharge: 0.5 }],
      weather: { airC: { low: -8, high: -4 } },
    }
    expect(courseOf(charged({}, { lockOut: true }), cold).run().leaves.bat).toBeLessThanOrEqual(0.5)
    expect(courseOf(charged(), cold).run().leaves.bat!).toBeGreaterThan(0.9)
  })
  it('a full pack takes the place of an empty one', () => {
    const plan = packAnd(load({ id: 'x', supply: wide, draw: { model: 'constant-current', idleA: 1, activeA: 1 } }))
    const course = courseOf(plan, { hours: 30, swaps: [{ part: 'bat', at: 15 }] }).run()
    expect(course.ends).toBeNull()
    expect(course.leaves.bat).toBeCloseTo(0.25, 2)
  })
  it('mains alone carry a bench for ever', () => {
    expect(courseOf(demoPlan('clean-bench'), { hours: 100 }).run().ends).toBeNull()
  })
})

describe('a pack that changes its place', () => {
  const load1A = load({ id: 'x', supply: wide, draw: { model: 'constant-current', idleA: 1, activeA: 1 } })
  const plan = {
    ...packAnd(load1A),
    site: {
      ambientC: { low: -20, typical: -20, high: 20 },
      zones: [{ id: 'hut', ambientC: { low: 20, typical: 20, high: 20 } }],
    },
  } as ReturnType<typeof packAnd>
  const lasts = (store: object) => courseOf(plan, { hours: 40, stores: [{ part: 'bat', ...store }] }).run().ends!.atH
  it('lasts as its warmth has it: in the hut 16 hours, at −20 °C six tenths of them', () => {
    expect(lasts({ zone: 'hut' })).toBeCloseTo(16, 1)
    expect(lasts({})).toBeCloseTo(9.6, 1)
  })
  it('and between them where it is carried out: it cools in hours, as 2.56 kg do in still air', () => {
    // 256 Wh at 100 Wh/kg; a cube of 2 kg/l gives 8 W/(m²·K), takes 1 kJ/(kg·K): to a third in 1.26 h.
    const [kg, shares] = [2.56, [0.6, 0.75, 0.88, 0.95, 1]]
    const lagH = (kg * 1000) / (8 * 6 * (kg / 2000) ** (2 / 3)) / 3600
    let [charge, celsius, hours] = [1, 20, 0]
    for (; charge > 0.2; hours += 0.001) {
      if (hours > 4) celsius += ((-20 - celsius) * 0.001) / lagH
      const at = Math.min(3, Math.floor((celsius + 20) / 10))
      const share = shares[at]! + ((shares[at + 1]! - shares[at]!) * (celsius + 20 - 10 * at)) / 10
      charge -= 0.001 / 20 / share
    }
    // Looked at every half hour.
    expect(Math.abs(lasts({ places: [{ zone: 'hut', from: 0, to: 4 }] }) - hours)).toBeLessThan(0.3)
    expect(Math.abs(lasts({ zone: 'hut', places: [{ from: 4, to: 40 }] }) - hours)).toBeLessThan(0.3)
  })
  it('a place that the plan has not is told, and a time that is none', () => {
    const wrong = (store: object) => {
      const value = {
        format: 'wireman-event',
        version: 1,
        name: 'x',
        start: '2026-06-13T08:00',
        hours: 8,
        stores: [{ part: 'bat', ...store }],
      }
      const read = readEvent(value, plan)
      return read.ok ? '' : read.faults.map(f => `${f.path} ${f.wrong}; ${f.right}`).join()
    }
    expect(wrong({ zone: 'cellar' })).toBe('/stores/0/zone the plan has no place cellar; one of hut')
    expect(wrong({ places: [{ zone: 'attic' }] })).toMatch('/stores/0/places/0/zone the plan has no place attic')
    expect(wrong({ places: [{ zone: 'hut', from: 9, to: 12 }] })).toMatch(/places\/0 its times are no time/)
    expect(wrong({ places: [{ zone: 'hut', from: 1, to: 4 }] })).toBe('')
  })
})
