import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sourceStatesOf } from '../../../core/circuit/conditions'
import { solveCorners, solveMatrix, arrivalSpan } from '../../../core/circuit/matrix'
import type { Plan } from '../../../core/plan/schema'
import { battery, lead, load, pointOf, radio, smallPlan } from '../../data/plans'

type Loose = Record<string, unknown>

const ends = (from: string, to: string) => ({ from: { connector: from }, to: { connector: to } })
const plain = (more: Record<string, unknown>) => lead({ ends: {}, inline: [], ...more })
const converter = (more: Record<string, unknown> = {}) => ({
  id: 'bb',
  kind: 'converter',
  topology: 'buck-boost',
  input: { minV: 9, maxV: 20 },
  outV: 13.8,
  maxOutA: 25,
  efficiency: 0.9,
  idleW: 2,
  ...more,
})
const held = (more: Record<string, unknown> = {}, hf: Record<string, unknown> = {}): Plan =>
  smallPlan({
    parts: [battery({ internalOhm: 0 }), converter(more), radio(hf)],
    leads: [plain({ id: 'in', to: 'bb.in', lengthM: 0.001 }), plain({ id: 'out', from: 'bb.out', lengthM: 0.001 })],
  })

describe('chargers that only idle', () => {
  it('take their idle power each, whatever stands beside them', () => {
    const charger = (id: string, idleW: number) => ({
      ...converter({
        idleW,
        charges: { chemistries: { lifepo4: { absorptionV: 14.4, floatV: 13.6 } }, set: 'lifepo4' },
      }),
      id,
    })
    const monitor = { id: 'mon', kind: 'monitor', drawA: 0.02 }
    const plan = smallPlan({
      parts: [battery({ internalOhm: 0.001 }), monitor, charger('one', 26), charger('two', 13), radio()],
      leads: ['mon', 'one.in', 'two.in', 'hf'].map((to, i) => plain({ id: `l${i}`, to, lengthM: 0.001 })),
    })
    const { parts, nodes } = pointOf(plan, 'nominal/idle')
    const volts = nodes.bat!.volts!
    expect(parts.bat!.amps).toBeCloseTo(1 + 0.02 + (26 + 13) / volts, 3)
  })
})

describe('a converter', () => {
  it('holds its output and takes P/η and its idle draw', () => {
    const point = pointOf(held(), 'nominal/all')
    // 10 A at 13.8 V: 138 / 0.9 + 2 = 155.33 W out of 13.16 V.
    expect(point.nodes['bb.out']!.volts).toBeCloseTo(13.8, 5)
    expect(point.parts.bb).toMatchObject({ outA: expect.closeTo(10, 6), inW: expect.closeTo(155.3333, 3) })
    expect(point.parts.bb!.inA).toBeCloseTo(155.3333 / 13.16, 2)
    expect(point.parts.bb!.lossW).toBeCloseTo(155.3333 - 138, 3)
  })
  it('reads its efficiency off a curve', () => {
    const curve = [
      { outA: 0, efficiency: 0.6 },
      { outA: 20, efficiency: 1 },
    ]
    expect(pointOf(held({ efficiency: curve, idleW: 0 }), 'nominal/all').parts.bb!.inW).toBeCloseTo(138 / 0.8, 3)
  })
  it.each([
    ['buck', 14, 13.16 - 0.5],
    ['buck', 12, 12],
    ['boost', 12, 13.16 - 0.5],
    ['boost', 13.8, 13.8],
    ['buck-boost', 12, 12],
  ])('a %s set to %f V gives %f V from 13.16 V', (topology, outV, gives) => {
    expect(pointOf(held({ topology, outV }), 'nominal/idle').nodes.hf!.volts).toBeCloseTo(gives, 2)
  })
  it('draws more current as the battery falls', () => {
    const amps = (state: string) => Number(pointOf(held(), `${state}/all`).parts.bb!.inA)
    expect(amps('low')).toBeGreaterThan(amps('full'))
  })
  it('that the source cannot carry collapses, with the most it could', () => {
    const plan = smallPlan({
      parts: [battery({ internalOhm: 0.4 }), converter(), radio()],
      leads: [plain({ id: 'in', to: 'bb.in' }), plain({ id: 'out', from: 'bb.out' })],
    })
    const point = pointOf(plan, 'low/all')
    expect(point.status).toBe('collapses')
    expect(point.most!.share).toBeGreaterThan(0)
    expect(point.most!.share).toBeLessThan(1)
    expect(pointOf(plan, 'low/idle').status).toBe('ok')
  })
  it('keeps the balance of power in chains of converters, and its corners hold the whole matrix', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 4, max: 12, noNaN: true }),
        fc.double({ min: 0.7, max: 0.98, noNaN: true }),
        fc.double({ min: 1, max: 8, noNaN: true }),
        fc.constantFrom('buck', 'boost', 'buck-boost'),
        (outV, efficiency, activeA, topology) => {
          const plan = smallPlan({
            parts: [
              battery(),
              converter({ efficiency }),
              converter({ id: 'b2', topology, outV, efficiency }),
              load({ supply: { minV: 1, maxV: 20 }, draw: { model: 'constant-current', idleA: 0.1, activeA } }),
              radio({ draw: { model: 'constant-current', idleA: 0.5, activeA: 4 } }),
            ],
            leads: [
              plain({ id: 'a', to: 'bb.in' }),
              plain({ id: 'b', from: 'bb.out', to: 'b2.in', lengthM: 2 }),
              plain({ id: 'c', from: 'b2.out', to: 'pc', lengthM: 2 }),
              plain({ id: 'd', from: 'bb.out', to: 'hf' }),
            ],
          })
          const point = pointOf(plan, 'nominal/all')
          expect(point.status).toBe('ok')
          const lost =
            Object.values(point.leads).reduce((w, l) => w + l.watts!, 0) +
            Object.values(point.parts).reduce((w, p) => w + Number(p.lossW ?? 0), 0)
          const taken = Number(point.parts.pc!.watts) + Number(point.parts.hf!.watts)
          const battery0 = point.parts.bat!
          expect(Number(battery0.watts) - taken - lost).toBeLessThan(1e-5)
          expect(Number(battery0.watts) - taken - lost).toBeGreaterThan(-1e-5)
          const [corners, matrix] = [solveCorners(plan), solveMatrix(plan)]
          for (const id of ['hf', 'pc', 'b2.in']) {
            expect(arrivalSpan(corners, id)!.low.value).toBeCloseTo(arrivalSpan(matrix, id)!.low.value, 6)
            expect(arrivalSpan(corners, id)!.high.value).toBeCloseTo(arrivalSpan(matrix, id)!.high.value, 6)
          }
        },
      ),
      { numRuns: 40 },
    )
  })
})

describe('sources by their own states', () => {
  const vehicle = {
    id: 'car',
    kind: 'vehicle',
    engineOnV: 14.2,
    engineOffV: 12.4,
    internalOhm: 0.01,
    terminal: 'ring-m6',
  }
  it('a vehicle alone is engine on or off', () => {
    const plan = smallPlan({ parts: [vehicle, radio()], leads: [lead({ from: 'car' })] })
    expect(sourceStatesOf(plan)).toEqual(['engine-on', 'engine-off'])
    expect(Number(pointOf(plan, 'engine-off/idle').parts.car!.emfV)).toBe(12.4)
  })
  it('a USB bank gives what is asked for, else the next lower voltage, else 5 V', () => {
    const usb = (requestV: number | null) =>
      smallPlan({
        parts: [
          {
            id: 'bank',
            kind: 'usbSource',
            voltages: [
              { volts: 5, amps: 3 },
              { volts: 9, amps: 3 },
              { volts: 15, amps: 3 },
            ],
            adjustable: { minV: 3.3, maxV: 11, amps: 3 },
          },
          ...(requestV === null ? [] : [{ id: 't', kind: 'trigger', requestV, maxA: 3 }]),
          load({ draw: { model: 'constant-current', idleA: 0, activeA: 1 } }),
        ],
        leads:
          requestV === null
            ? [plain({ id: 'u', from: 'bank', to: 'pc' })]
            : [plain({ id: 'u', from: 'bank', to: 't.in' }), plain({ id: 'l', from: 't.out', to: 'pc' })],
      })
    const gives = (requestV: number | null) => pointOf(usb(requestV), 'nominal/idle').nodes.pc!.volts
    expect([12, 9, 10, 20, null].map(gives).map(v => Number(v!.toFixed(6)))).toEqual([9, 9, 10, 15, 5])
  })
  const gated = (gate: Loose, load: Loose, wire: Loose = {}) =>
    smallPlan({
      parts: [
        battery(),
        { id: 'psu', kind: 'supply', setV: 13.8, continuousA: 30 },
        { id: 'g', kind: 'gate', maxA: 40, ...gate },
        radio(load),
      ],
      leads: [
        plain({ id: 's', from: 'psu', to: 'g.supply' }),
        plain({ id: 'b', to: 'g.battery', ...wire }),
        plain({ id: 'o', from: 'g.out' }),
      ],
    })
  const idle = { draw: { model: 'constant-current', idleA: 0, activeA: 10 } }

  it('that asks its supply for more than that gives is told as asking so much, at the voltage it would want', () => {
    const draw = { model: 'resistive', idleOhm: 2, activeOhm: 2 }
    const plan = smallPlan({
      parts: [
        { id: 'psu', kind: 'supply', setV: 13.8, continuousA: 5 },
        converter({ topology: 'buck', dropoutV: 0.5, idleW: 0 }),
        load({ draw }),
      ],
      leads: [
        plain({ id: 'in', from: 'psu', to: 'bb.in', lengthM: 0.001 }),
        plain({ id: 'out', from: 'bb.out', to: 'pc', lengthM: 0.001 }),
      ],
    })
    const { points } = solveMatrix(plan)
    const all = points.find(p => p.condition.id === 'nominal/all')!
    // 13.3 V over 2 Ω, at 90 %, out of 13.8 V.
    expect(all.sources[0]).toMatchObject({ amps: expect.closeTo(13.3 ** 2 / 2 / 0.9 / 13.8, 2), limit: 'overdrawn' })
    expect(pointOf(plan, 'nominal/all').nodes.pc!.volts).toBeCloseTo(13.3, 2)
  })

  it('a gate that charges takes from its supply what it gives, whether or not it says to what it is set', () => {
    for (const set of [{}, { chemistries: { lifepo4: { absorptionV: 14.4 } }, set: 'lifepo4' }]) {
      const point = pointOf(gated({ chargeA: 5, ...set }, idle), 'bulk/idle')
      // 5 A into the battery at its terminals, at 90 %, out of the supply by its lead.
      const volts = { in: point.nodes['g.supply']!.volts!, out: point.nodes['g.battery']!.volts! }
      expect(point.parts.psu!.amps).toBeCloseTo((5 * volts.out) / 0.9 / volts.in, 4)
    }
  })

  it('a gate whose output takes nothing has its input voltage less its drop, by a diode too', () => {
    const dropper = { inline: [{ id: 'd', kind: 'dropper', ratedA: 10, atM: 0.5 }] }
    for (const wire of [{}, dropper]) {
      const point = pointOf(gated({ forwardDropV: 0.05 }, idle, wire), 'full/idle')
      expect(point.status).toBe('ok')
      expect(point.nodes.hf!.volts).toBeCloseTo(point.nodes['g.battery']!.volts! - 0.05, 5)
    }
  })

  it('a gate passes the very current on, also where more than half of the voltage is lost before it', () => {
    const ohmic = { draw: { model: 'resistive', idleOhm: 1, activeOhm: 1 } }
    const plan = gated({ forwardDropV: 0.05 }, ohmic)
    const soft: Plan = { ...plan, parts: plan.parts.map(p => (p.id === 'bat' ? { ...p, internalOhm: 2 } : p)) as never }
    const point = pointOf(soft, 'full/all')
    const [emfV, hfV] = [13.6, point.nodes.hf!.volts!]
    expect(point.status).toBe('ok')
    expect(point.parts.bat!.amps).toBeCloseTo(hfV, 6)
    // 2 Ω within, wires of some mΩ, 1 Ω of load, less the gate's drop.
    expect(hfV).toBeGreaterThan((emfV - 0.05) / 3.1)
    expect(hfV).toBeLessThan((emfV - 0.05) / 3)
  })

  it('a gate carries the station from the supply while charging, else from the battery', () => {
    const plan = smallPlan({
      parts: [
        battery({ internalOhm: 0 }),
        { id: 'psu', kind: 'supply', setV: 13.8, continuousA: 30 },
        { id: 'g', kind: 'gate', forwardDropV: 0.05 },
        radio(),
      ],
      leads: [
        plain({ id: 's', from: 'psu', to: 'g.supply' }),
        plain({ id: 'b', to: 'g.battery' }),
        plain({ id: 'o', from: 'g.out' }),
      ],
    })
    expect(pointOf(plan, 'charging/all').parts.psu!.amps).toBeCloseTo(10, 5)
    expect(pointOf(plan, 'charging/all').parts.bat!.amps).toBeCloseTo(0, 6)
    expect(pointOf(plan, 'full/all').parts.bat!.amps).toBeCloseTo(10, 5)
    expect(pointOf(plan, 'full/all').parts.psu!.amps).toBeCloseTo(0, 6)
  })
  it('the wire stands at what the charging device on it is set to, and nothing lifts it where that is off', () => {
    const plan = (absorptionV: number, closed = true) =>
      smallPlan({
        parts: [
          battery(),
          { id: 'chg', kind: 'charger', maxA: 10, chemistries: { lifepo4: { absorptionV } }, set: 'lifepo4' },
          radio(),
        ],
        leads: [lead(), plain({ id: 'c', from: 'chg', to: 'bat', inline: [{ id: 's', kind: 'switch', closed }] })],
      })
    expect(pointOf(plan(14.2), 'charging/idle').nodes.chg!.volts).toBeCloseTo(14.2, 5)
    // Rested and full, less what 1 A drops inside.
    expect(pointOf(plan(14.2, false), 'charging/idle').nodes.bat!.volts).toBeCloseTo(13.6 - 0.01, 9)
  })
  it('a charging device gives its full current into a low battery, by its lead and its fuse', () => {
    const plan = smallPlan({
      parts: [
        battery(),
        { id: 'chg', kind: 'charger', maxA: 18, chemistries: { lifepo4: { absorptionV: 14.4 } }, set: 'lifepo4' },
        radio(),
      ],
      leads: [lead(), plain({ id: 'c', from: 'chg', to: 'bat', ends: ends('ring-m6', 'ring-m6') })],
    })
    const solved = solveCorners(plan)
    const bulk = solved.points.find(p => p.condition.id === 'bulk/idle')!
    expect(Math.abs(bulk.amps[solved.network.branchOfLead.get('c')!]!)).toBeCloseTo(18, 6)
    expect(arrivalSpan(solved, 'chg')!.high.value).toBeCloseTo(14.4, 5)
  })
  it('a panel stands at its best point while it charges, open else', () => {
    const plan = smallPlan({
      parts: [
        battery(),
        { id: 'sun', kind: 'panel', openCircuitV: 44, shortCircuitA: 5.6, maxPowerV: 36, maxPowerA: 5 },
        {
          id: 'ctl',
          kind: 'controller',
          type: 'mppt',
          maxPanelV: 75,
          maxChargeA: 15,
          chemistries: { lifepo4: { absorptionV: 14.4 } },
          set: 'lifepo4',
        },
        radio(),
      ],
      leads: [
        lead(),
        plain({ id: 'c', from: 'ctl.battery', to: 'bat' }),
        plain({ id: 'p', from: 'sun', to: 'ctl.panel' }),
      ],
    })
    expect(pointOf(plan, 'charging/idle').parts.sun).toMatchObject({ volts: 36, amps: expect.closeTo(5, 6) })
    expect(pointOf(plan, 'low/idle').parts.sun).toMatchObject({ volts: 44, amps: expect.closeTo(0, 6) })
  })
})
