import { describe, expect, it } from 'vitest'
import type { Plan } from '../../../core/plan/schema'
import { shortStudy } from '../../../core/short/study'
import { sizePlan } from '../../../core/size/size'
import { PAIRS } from '../../data/pairs'
import { randomPlan } from '../../data/randomPlans'

/** Conductors that a short burns although something opens it. */
const burnt = (plan: Plan) =>
  shortStudy(plan)
    .shorts.filter(s => s.opens.length)
    .flatMap(s => s.conductors.filter(c => !c.survives).map(c => c.lead))

/** Their wires burn as they are; by current and by drop alone others would do that burn too. */
const BURNING: Record<string, Plan> = {
  'a thin lead behind a slow breaker': PAIRS['short-conductor']!.fires,
  'random plan 50': randomPlan(50)!,
  'random plan 123': randomPlan(123)!,
}

describe('what is sized', () => {
  it.each(Object.keys(BURNING))('survives its shorts: %s', name => {
    const plan = BURNING[name]!
    expect(burnt(plan)).not.toEqual([])
    const { plan: sized, obstacles } = sizePlan(plan, { for: 'weight' })
    expect(obstacles).toEqual([])
    expect(burnt(sized!)).toEqual([])
  })
  it('is refused where no conductor that survives fits: in words, and nothing is changed', () => {
    const { plan, obstacles } = sizePlan(randomPlan(130)!, { for: 'weight' })
    expect(plan).toBeNull()
    expect(obstacles).toEqual(['no conductor fits l2: 0 A, behind 100 A, and its connectors'])
  })
})
