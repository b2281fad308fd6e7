import { describe, expect, it } from 'vitest'
import { battery, fuse, lead, load, pointOf, radio, smallPlan } from '../../data/plans'

/** Circuits worked by hand: every number below is written out from the formulas, not from the program. */

/** Stranded: 1.02 of a solid one (ASTM B8). */
const WIRE_10AWG = (1.02 * 0.017241) / ((Math.PI / 4) * (0.127 * 92 ** (26 / 39)) ** 2)

describe('one loop by hand', () => {
  it('a constant current: every series resistance takes its share', () => {
    const plan = smallPlan()
    const point = pointOf(plan, 'full/all')
    const amps = 10
    const conductorC = 20 + 75 * (amps / 60) ** 2
    const wire = 2 * 1 * WIRE_10AWG * (1 + 0.00393 * (conductorC - 20))
    const contacts = 2 * 0.00015 + 2 * 0.0006
    const drop = amps * (wire + contacts + 0.075 / 20)
    expect(point.nodes.bat!.volts).toBeCloseTo(13.6 - amps * 0.01, 9)
    expect(point.leads.l1!.dropV).toBeCloseTo(drop, 9)
    expect(point.nodes.hf!.volts).toBeCloseTo(13.6 - 0.1 - drop, 9)
    expect(point.leads.l1!.conductorC).toBeCloseTo(conductorC, 6)
    expect(point.leads.l1!.watts).toBeCloseTo(drop * amps, 8)
  })

  it('at the end of a charge the battery takes 3 % of its capacity, and the charger holds the rest up', () => {
    const charger = {
      id: 'chg',
      kind: 'charger',
      maxA: 20,
      set: 'lifepo4',
      chemistries: { lifepo4: { absorptionV: 14.4 } },
    }
    const plan = smallPlan({
      parts: [battery(), radio(), charger],
      leads: [lead(), lead({ id: 'c', from: 'chg', to: 'bat', lengthM: 0.01, ends: {}, inline: [] })],
    })
    const { nodes, parts } = pointOf(plan, 'charging/all')
    expect(nodes.chg!.volts).toBeCloseTo(14.4, 5)
    expect(parts.bat!.amps).toBeCloseTo(-1.5, 9)
    // 10 A of the radio and the tail, all from the charger.
    expect(pointOf(plan, 'charging/all').leads.c!.amps).toBeCloseTo(11.5, 6)
  })
  it('at its beginning a charger gives all its amps into a low battery, and the battery what is asked beyond', () => {
    const charger = {
      id: 'chg',
      kind: 'charger',
      maxA: 6,
      set: 'lifepo4',
      chemistries: { lifepo4: { absorptionV: 14.4 } },
    }
    const plan = smallPlan({
      parts: [battery(), radio(), charger],
      leads: [lead(), lead({ id: 'c', from: 'chg', to: 'bat', lengthM: 0.01, ends: {}, inline: [] })],
    })
    expect(pointOf(plan, 'bulk/idle').parts.bat!.amps).toBeCloseTo(1 - 6, 6)
    // 12.92 V behind 0.01 Ω gives the 4 A that 6 A of 10 leave.
    expect(pointOf(plan, 'bulk/all').nodes.bat!.volts).toBeCloseTo(12.92 - 4 * 0.01, 6)
  })

  it('a fuse in both legs counts twice, a breaker once', () => {
    const one = pointOf(smallPlan(), 'low/all').leads.l1!.dropV!
    const both = pointOf(smallPlan({ leads: [lead({ inline: [fuse(20, 0.1, { legs: 'both' })] })] }), 'low/all').leads
      .l1!.dropV!
    expect(both - one).toBeCloseTo((10 * 0.075) / 20, 9)
    const breaker = pointOf(
      smallPlan({ leads: [lead({ inline: [{ id: 'b', kind: 'breaker', ratedA: 20, atM: 0.1 }] })] }),
      'low/all',
    ).leads.l1!.dropV!
    expect(breaker).toBeCloseTo(one, 9)
  })

  it('a return through the chassis leaves one conductor', () => {
    const pair = pointOf(smallPlan(), 'low/idle').leads.l1!.dropV!
    const chassis = pointOf(smallPlan({ leads: [lead({ return: 'chassis' })] }), 'low/idle').leads.l1!.dropV!
    expect(pair - chassis).toBeCloseTo(WIRE_10AWG * (1 + (0.00393 * 75) / 3600), 5)
  })

  it('a resistive draw follows the voltage', () => {
    const plan = smallPlan({
      parts: [
        battery({ internalOhm: 0 }),
        radio({ kind: 'load', draw: { model: 'resistive', idleOhm: 1000, activeOhm: 2 } }),
      ],
      leads: [lead({ ends: {}, inline: [], lengthM: 0.001 })],
    })
    const point = pointOf(plan, 'full/all')
    const loop = 2 * 0.001 * WIRE_10AWG
    expect(point.leads.l1!.amps).toBeCloseTo(13.6 / (2 + loop), 4)
  })

  it('a resistive draw said in watts at the nominal voltage is the same in ohms', () => {
    const ohms = smallPlan({
      parts: [battery(), radio({ kind: 'load', draw: { model: 'resistive', idleW: 0, activeOhm: 13.8 ** 2 / 40 } })],
    })
    const watts = smallPlan({
      parts: [battery(), radio({ kind: 'load', draw: { model: 'resistive', idleW: 0, activeW: 40 } })],
    })
    expect(pointOf(watts, 'low/all').nodes.hf!.volts).toBeCloseTo(pointOf(ohms, 'low/all').nodes.hf!.volts!, 12)
    expect(pointOf(watts, 'low/idle').leads.l1!.amps).toBeCloseTo(0, 9)
  })
})

describe('constant power', () => {
  /** 13.6 V behind 0.5 Ω: roots of V² − 13.6 V + 0.5 P = 0; the most is 13.6² / (4 · 0.5) = 92.48 W. */
  const plan = (activeW: number) =>
    smallPlan({
      parts: [
        battery({ internalOhm: 0.5 }),
        load({ terminal: undefined, draw: { model: 'constant-power', idleW: 0, activeW } }),
      ],
      leads: [lead({ to: 'pc', lengthM: 0.001, ends: {}, inline: [], conductor: { awg: '4/0' } })],
    })

  it.each([10, 50, 80, 92])('takes the upper root at %i W', watts => {
    const point = pointOf(plan(watts), 'full/all')
    expect(point.status).toBe('ok')
    expect(point.nodes.pc!.volts).toBeCloseTo((13.6 + Math.sqrt(13.6 ** 2 - 4 * 0.5 * watts)) / 2, 3)
  })

  it.each([93, 120, 1000])('says that %i W collapse, and how much could be carried', watts => {
    const point = pointOf(plan(watts), 'full/all')
    expect(point.status).toBe('collapses')
    expect(point.nodes.pc!.volts).toBeNull()
    expect(point.most!.share * watts).toBeCloseTo(92.48, 1)
  })

  it('a constant current beyond the battery collapses too', () => {
    const heavy = smallPlan({
      parts: [battery({ internalOhm: 1 }), radio({ draw: { model: 'constant-current', idleA: 1, activeA: 20 } })],
    })
    const point = pointOf(heavy, 'low/all')
    expect(point).toMatchObject({ status: 'collapses', most: { of: 'all loads' } })
    expect(point.most!.share).toBeGreaterThan(0.5)
    expect(point.most!.share).toBeLessThan(0.65)
  })
})

describe('diodes', () => {
  it('drop by the exponential law, and less at idle', () => {
    const plan = smallPlan({
      parts: [battery(), radio({ draw: { model: 'constant-current', idleA: 0.06, activeA: 0.9 } })],
      leads: [lead({ inline: [{ id: 'd', kind: 'dropper', stripe: 'to' }] })],
    })
    for (const [condition, amps] of [
      ['full/idle', 0.06],
      ['full/all', 0.9],
    ] as const) {
      const point = pointOf(plan, condition)
      const diode = 1.81 * 0.0258649 * Math.log1p(amps / 7.03e-9) + amps * 0.034
      const rest = amps * (2 * WIRE_10AWG * (1 + 0.00393 * 75 * (amps / 60) ** 2) + 2 * 0.00015 + 2 * 0.0006)
      expect(point.leads.l1!.dropV).toBeCloseTo(diode + rest, 6)
    }
  })

  it('block when they are the wrong way round', () => {
    const plan = smallPlan({
      parts: [battery(), radio({ kind: 'load', draw: { model: 'resistive', idleOhm: 100, activeOhm: 100 } })],
      leads: [lead({ inline: [{ id: 'd', kind: 'dropper', stripe: 'from' }] })],
    })
    expect(pointOf(plan, 'full/all').nodes.hf!.volts).toBeLessThan(1e-4)
  })

  it('work in a lead drawn from the load to the source', () => {
    const forward = smallPlan({ leads: [lead({ inline: [{ id: 'd', kind: 'dropper', stripe: 'to', ratedA: 10 }] })] })
    const backward = smallPlan({
      leads: [
        lead({
          from: 'hf',
          to: 'bat',
          ends: { from: { connector: 'stack-45' }, to: { connector: 'ring-m6' } },
          inline: [{ id: 'd', kind: 'dropper', stripe: 'from', ratedA: 10 }],
        }),
      ],
    })
    expect(pointOf(backward, 'low/all').nodes.hf!.volts).toBeCloseTo(pointOf(forward, 'low/all').nodes.hf!.volts!, 9)
    expect(pointOf(backward, 'low/all').leads.l1!.amps).toBeCloseTo(-10, 9)
  })
})

describe('meshes', () => {
  it('two batteries share by their resistances', () => {
    const plan = smallPlan({
      parts: [
        battery(),
        battery({ id: 'b2', internalOhm: 0.03 }),
        { id: 'j', kind: 'joint', connector: 'ring-m6' },
        radio(),
      ],
      leads: [
        lead({ id: 'a', to: 'j.a', lengthM: 0.5, ends: {}, inline: [] }),
        lead({ id: 'b', from: 'b2', to: 'j.b', lengthM: 0.5, ends: {}, inline: [] }),
        lead({ id: 'c', from: 'j.c', ends: {}, inline: [] }),
      ],
    })
    const { a, b, c } = pointOf(plan, 'full/all').leads
    expect(a!.amps! + b!.amps!).toBeCloseTo(c!.amps!, 9)
    const arm = (amps: number) => 2 * 0.5 * WIRE_10AWG * (1 + 0.00393 * 75 * (amps / 60) ** 2)
    expect(a!.amps! * (0.01 + arm(a!.amps!))).toBeCloseTo(b!.amps! * (0.03 + arm(b!.amps!)), 6)
  })

  it('an unlike pair feeds the lower one', () => {
    const plan = smallPlan({
      parts: [battery(), battery({ id: 'b2', chemistry: 'agm', seriesCells: 6 })],
      leads: [lead({ to: 'b2', ends: {} })],
    })
    expect(pointOf(plan, 'full/idle').parts.b2!.amps).toBeLessThan(-10)
  })
})

it('what no source reaches has no voltage, and nothing else is disturbed', () => {
  const plan = smallPlan({ parts: [battery(), radio(), load()], leads: [lead()] })
  const point = pointOf(plan, 'low/all')
  expect(point.nodes.pc!.volts).toBe(0)
  expect(point.parts.pc).toMatchObject({ fed: false, amps: 0 })
  expect(point.nodes.hf!.volts).toBeCloseTo(pointOf(smallPlan(), 'low/all').nodes.hf!.volts!, 12)
})

it('an open switch takes its branch off', () => {
  const plan = smallPlan({
    leads: [lead({ inline: [fuse(20), { id: 's', kind: 'switch', closed: false, atM: 0.5 }] })],
  })
  expect(pointOf(plan, 'low/all').nodes.hf!.volts).toBe(0)
})
