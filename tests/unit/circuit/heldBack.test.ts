import { describe, expect, it } from 'vitest'
import { compile } from '../../../core/circuit/network'
import { solveMatrix } from '../../../core/circuit/matrix'
import { placedIn } from '../../../core/circuit/placed'
import { Solver } from '../../../core/circuit/solve'
import { ruinedPlan } from '../../bench/broken'
import { brokenPlan } from '../../data/brokenPlans'
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
})
