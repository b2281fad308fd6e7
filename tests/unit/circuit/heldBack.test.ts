import { describe, expect, it } from 'vitest'
import { compile } from '../../../core/circuit/network'
import { solveMatrix } from '../../../core/circuit/matrix'
import { placedIn } from '../../../core/circuit/placed'
import { Solver } from '../../../core/circuit/solve'
import { ruinedPlan } from '../../bench/broken'
import { brokenPlan } from '../../data/brokenPlans'
import { lead, load, smallPlan } from '../../data/plans'
import { randomRun } from '../../data/randomEvents'
import { randomPlan } from '../../data/randomPlans'

/** Sources that their limits hold back: where that is what makes a point, or what decides between two. */

describe('a source that is held back', () => {
  it('charges an empty pack with all it gives, though without its limit what feeds it would collapse', () => {
    const { plan } = randomRun(3, brokenPlan)!
    const network = compile(plan)
    const running = placedIn(network, 'bulk')
    const sources = running.sources.map(s => (s.partId === 'house' ? { ...s, emfV: 11.5, mostA: 0 } : s))
    const condition = { id: '', source: 'nominal', loadState: '', active: new Map<string, undefined>() } as const
    const off = new Set(['mobile', 'fridge', 'inv'])
    const moment = { ...condition, engineOff: false, off, placed: { ...running, sources }, sinks: new Map() }
    const point = new Solver(network).solve(moment)
    expect(point.status).toBe('ok')
    const of = (id: string) => point.sources.find(s => s.partId === id)!
    expect(of('dcdc')).toMatchObject({ limit: 'gives-most' })
    expect(of('house').amps).toBeLessThan(-15)
  })

  it('lets the voltage fall to what its current makes at a resistance, and says that it gives all it can', () => {
    // 1 Ω behind 0.05 Ω of supply and a lead of 0.2 Ω: 13.8 V would drive 11 A; 8 A are all there is.
    const joined = { conductor: { mm2: 10 }, ends: {}, inline: [{ id: 's', kind: 'switch', ohm: 0.2 }], lengthM: 1e-9 }
    const plan = smallPlan({
      parts: [
        { id: 'sup', kind: 'supply', setV: 13.8, continuousA: 8, outputOhm: 0.05 },
        load({ id: 'heater', draw: { model: 'resistive', idleOhm: 1, activeOhm: 1 } }),
      ],
      leads: [{ id: 'l1', from: 'sup', to: 'heater', ...joined }],
    })
    const { points, network } = solveMatrix(plan)
    const point = points[0]
    expect(point).toMatchObject({ status: 'ok', sources: [{ partId: 'sup', limit: 'gives-most' }] })
    expect(point!.sources[0]!.amps).toBeCloseTo(8, 6)
    expect(point!.volts[network.nodeOf.get('heater')!]).toBeCloseTo(8, 6)
    expect(point!.volts[network.nodeOf.get('sup')!]).toBeCloseTo(9.6, 6)
  })
  it('is told to be overdrawn where nothing takes less at a lower voltage', () => {
    const plan = smallPlan({
      parts: [
        { id: 'sup', kind: 'supply', setV: 13.8, continuousA: 8, outputOhm: 0.05 },
        load({ id: 'lamp', draw: { model: 'constant-current', idleA: 11, activeA: 11 } }),
      ],
      leads: [lead({ id: 'l1', from: 'sup', to: 'lamp', inline: [] })],
    })
    const [point] = solveMatrix(plan).points
    expect(point!.sources).toMatchObject([{ partId: 'sup', limit: 'overdrawn', amps: expect.closeTo(11, 9) }])
  })

  it('is not told where a higher voltage needs no limit: of two roots the upper one', () => {
    const plan = randomPlan(1226)!
    const { points } = solveMatrix(plan)
    const { sources, status } = points.find(p => p.condition.id === 'nominal/idle')!
    expect(status).toBe('ok')
    expect(sources.map(s => s.limit)).toEqual([undefined, undefined])
    const [bank, other] = sources
    // From 9 V, 8.95 behind their leads: 14 and 5.88 W of idle inverters, 60 mA of the radio.
    expect(bank!.amps).toBeCloseTo(0.06 + (14 + 5.88) / 8.95, 2)
    expect(other!.amps).toBeCloseTo(0, 6)
  })

  it('is told with the same current as a converter and as a source', () => {
    let tried = 0
    const plans = [...Array.from({ length: 300 }, (_, seed) => randomPlan(seed)), ruinedPlan(3)]
    for (const plan of plans.filter(p => p !== null)) {
      for (const { transfers, sources, condition } of solveMatrix(plan).points.filter(p => p.status === 'ok')) {
        for (const { partId, outA } of transfers) {
          const nearest = Math.min(...sources.filter(s => s.partId === partId).map(s => Math.abs(s.amps - outA)))
          expect(nearest, `${plan.name} ${condition.id} ${partId}`).toBeLessThan(1e-3)
          tried++
        }
      }
    }
    expect(tried).toBeGreaterThan(1000)
  })

  it('reaches its limit on the way to a point: what was tried just beyond it is gone on from', () => {
    const { points } = solveMatrix(randomPlan(761)!)
    const point = points.find(p => p.condition.id === 'engine-on/only:inv6')!
    expect(point.status).toBe('ok')
    expect(point.sources[0]).toMatchObject({ partId: 'sup0', limit: 'gives-most' })
  })

  it('by a higher one gives before the lower ones do, whatever their order in the plan', () => {
    const engineOn = solveMatrix(randomPlan(3000)!).points.filter(p => p.condition.source === 'engine-on')
    expect(engineOn.map(p => p.status)).toEqual(['ok', 'ok', 'ok'])
    const plan = smallPlan({
      parts: [
        { id: 'bank', kind: 'usbSource', voltages: [{ volts: 5, amps: 3 }] },
        { id: 'car', kind: 'vehicle', engineOnV: 14.2, engineOffV: 12.5, alternatorSpareA: 10, internalOhm: 0.03 },
        load({ id: 'heater', draw: { model: 'constant-power', idleW: 10, activeW: 900 } }),
      ],
      leads: [
        lead({ id: 'l1', from: 'bank', to: 'car', inline: [], ends: {} }),
        lead({ id: 'l2', from: 'car', to: 'heater', inline: [], ends: {}, conductor: { mm2: 35 }, lengthM: 0.5 }),
      ],
    })
    const { points, network } = solveMatrix(plan)
    const { status, sources, volts, amps } = points.find(p => p.condition.id === 'engine-on/all')!
    const [bank, alternator, starter] = sources
    const [atCarV, atHeaterV] = ['car', 'heater'].map(id => volts[network.nodeOf.get(id)!]!)
    expect(status).toBe('ok')
    expect(bank!.amps).toBeCloseTo(0, 6)
    expect(alternator).toMatchObject({ amps: expect.closeTo(10, 6), limit: 'gives-most' })
    expect(starter!.amps).toBeCloseTo((12.5 - atCarV!) / 0.03, 4)
    expect(starter!.amps + 10).toBeCloseTo(900 / atHeaterV!, 4)
    expect(amps[network.branchOfLead.get('l2')!]).toBeCloseTo(900 / atHeaterV!, 4)
  })

  it('far above the rest by a diode that blocks is found at what it holds without a load, however far that is', () => {
    // Two panels in a row straight on a power station's socket; from its other port an inverter, with a diode between.
    const { points, network } = solveMatrix(randomPlan(643)!)
    expect(points.map(p => p.status)).toEqual(['ok', 'ok', 'ok'])
    const { volts, sources } = points[0]!
    const at = (terminal: string) => volts[network.nodeOf.get(terminal)!]!
    expect(at('pow1.socket')).toBeCloseTo(56.6, 3)
    expect(at('pow1.barrel')).toBeGreaterThan(13)
    // 6 W while it idles, and nothing else is there.
    expect(sources[2]!.amps).toBeCloseTo(6 / at('inv3'), 4)
    expect(sources[0]!.amps).toBeCloseTo(0, 4)
    for (const seed of [1437, 1653, 2068, 2442, 2477, 2626, 2971, 3215, 3454, 3717]) {
      const statuses = solveMatrix(randomPlan(seed)!).points.map(p => p.status)
      expect(statuses[0], `seed ${seed}`).toBe('ok')
    }
  })
})
