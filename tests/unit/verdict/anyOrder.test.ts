import { describe, expect, it } from 'vitest'
import { walkAnyOrder } from '../../data/anyOrder'
import { brokenPlan } from '../../data/brokenPlans'
import { DEMOS, demoPlan } from '../../data/plans'

/** More of them run in the benchmark. */
const PLANS = 14

describe('fixes taken in any order', () => {
  it.each(DEMOS)('%s ends with no danger and no failure, and each fix holds', demo => {
    expect(walkAnyOrder(demoPlan(demo), 1)).toMatchObject({ wrong: [], left: [] })
  })

  it('broken stations end so too', () => {
    for (let seed = 0; seed < PLANS; seed++) {
      const plan = brokenPlan(seed)
      if (plan) expect({ seed, ...walkAnyOrder(plan, seed) }).toMatchObject({ seed, wrong: [], left: [] })
    }
  })
})
