import { describe, expect, it } from 'vitest'
import { walkAnyOrder } from '../../data/anyOrder'
import { brokenPlan } from '../../data/brokenPlans'
import { DEMOS, demoPlan } from '../../data/plans'

/** More of them run in the benchmark. */
const PLANS = 14
/** Of those in the benchmark some in which several inverters, or one beside a radio, are too much together only. */
const TOO_MUCH_TOGETHER = [91, 287, 366, 410]

describe('fixes taken in any order', () => {
  it.each(DEMOS)('%s ends with no danger and no failure, and each fix holds', demo => {
    expect(walkAnyOrder(demoPlan(demo), 1)).toMatchObject({ wrong: [], left: [] })
  })

  it('broken stations end so too', () => {
    for (const seed of [...Array(PLANS).keys(), ...TOO_MUCH_TOGETHER]) {
      const plan = brokenPlan(seed)
      if (plan) expect({ seed, ...walkAnyOrder(plan, seed) }).toMatchObject({ seed, wrong: [], left: [] })
    }
  })
})
