import { describe, expect, it } from 'vitest'
import { conditionsOf } from '../../../core/circuit/conditions'
import { solveCorners, solveMatrix } from '../../../core/circuit/matrix'
import { compile } from '../../../core/circuit/network'
import { Solver } from '../../../core/circuit/solve'
import { judge } from '../../../core/verdict/verdict'
import { ruinedPlan } from '../../bench/broken'

/** Sixty parts with something wrong in every corner: rings of leads, converters in chains, a gate, diodes. */

describe('plans that are broken everywhere', () => {
  const plans = Array.from({ length: 12 }, (_, seed) => ruinedPlan(seed)).filter(p => p !== null)

  it('are judged by every check', () => {
    expect(plans.length).toBeGreaterThan(8)
    for (const plan of plans) {
      const notMade = judge(plan).verdict.findings.filter(f => f.title.startsWith('Not checked'))
      expect(notMade).toEqual([])
    }
  })

  it('have operating points in which a converter takes what it gives over its efficiency, within its limit', () => {
    let seen = 0
    for (const plan of plans.slice(0, 4)) {
      for (const point of solveMatrix(plan).points.filter(p => p.status === 'ok')) {
        for (const t of point.transfers) {
          const part = plan.parts.find(p => p.id === t.partId)!
          if (part.kind !== 'converter') continue
          seen++
          const given = (Math.max(0, t.outV * t.outA) / 0.9).toFixed(4)
          expect(`${plan.name} ${point.condition.id} ${t.partId} ${t.inputW.toFixed(4)}`).toBe(
            `${plan.name} ${point.condition.id} ${t.partId} ${given}`,
          )
          expect(t.outA).toBeGreaterThan(-1e-5)
          const isOverdrawn = point.sources.some(s => s.partId === t.partId && s.limit === 'overdrawn')
          if (!isOverdrawn) expect(t.outA).toBeLessThan(part.maxOutA + 1e-5)
        }
      }
    }
    expect(seen).toBeGreaterThan(200)
  })

  it('have the points that are found only near another one, and the same from either side', () => {
    const plan = ruinedPlan(293)!
    const states = ['load1-4', 'load3-2', 'load3-4', 'load3-8', 'load4-0', 'load4-4', 'load4-8']
    const carried = solveCorners(plan).points.filter(p => p.status === 'ok' && !p.condition.off)
    const found = carried.filter(p => p.condition.source === 'charging')
    expect(found.map(p => p.condition.loadState)).toEqual(expect.arrayContaining(states.map(id => `only:${id}`)))
    const solver = new Solver(compile(plan))
    const charging = conditionsOf(plan).filter(c => c.source === 'charging')
    const backward = charging.reverse().map(c => solver.solve(c))
    for (const point of found) {
      const other = backward.find(p => p.condition.loadState === point.condition.loadState)!
      expect(other.status).toBe('ok')
      point.volts.forEach((v, i) => expect(Math.abs(v - other.volts[i]!)).toBeLessThan(1e-6))
    }
  })
})
