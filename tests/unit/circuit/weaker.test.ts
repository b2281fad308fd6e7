import { describe, expect, it } from 'vitest'
import { conditionsOf } from '../../../core/circuit/conditions'
import { solveCorners } from '../../../core/circuit/matrix'
import { compile } from '../../../core/circuit/network'
import { Solver } from '../../../core/circuit/solve'
import { demoPlan, withLead } from '../../data/plans'
import { randomPlan } from '../../data/randomPlans'

/** Conditions that are not solved because a stronger one has no solution, and starts from far away. */

describe('where a condition has no solution', () => {
  it('one that is left out because a stronger one has none has none either, tried by itself', () => {
    let tried = 0
    for (let seed = 0; seed < 250; seed++) {
      const plan = randomPlan(seed)
      if (!plan) continue
      const { network, points } = solveCorners(plan)
      for (const point of points.filter(p => p.status !== 'ok')) {
        const alone = new Solver(network).solve(point.condition)
        expect(`${seed} ${point.condition.id} ${alone.status}`).toBe(`${seed} ${point.condition.id} collapses`)
        tried++
      }
    }
    expect(tried).toBeGreaterThan(100)
  })

  it('a diode before a lamp is solved from far above: a panel stands at three times the battery', () => {
    const dropper = { id: 'd1', kind: 'dropper', ratedA: 3, labelled: true, atM: 5.8 } as const
    const demo = demoPlan('tern-rock-light')
    const lamps = demo.leads.find(l => l.to === 'lamps')!
    const plan = withLead(demo, lamps.id, { inline: [dropper] })
    const network = compile(plan)
    for (const condition of conditionsOf(plan))
      expect(new Solver(network).solve(condition, { below: 0 }).status).toBe('ok')
  })
})
