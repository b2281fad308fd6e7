import { describe, expect, it, vi } from 'vitest'
import type * as Ldl from '../../../core/circuit/ldl'
import { solveCorners, solveMatrix } from '../../../core/circuit/matrix'
import { ruinedPlan } from '../../bench/broken'
import { brokenPlan } from '../../data/brokenPlans'
import { demoPlan, lead, load, smallPlan } from '../../data/plans'
import { randomPlan } from '../../data/randomPlans'

/**
 * What an answer costs, counted in rounds of Newton: each factors the matrix once. Where an iteration begins and what
 * is not solved at all changes no answer; it is seen here. The figures are what was counted when they were written:
 * fewer is better, and more wants a reason.
 */

const rounds = vi.hoisted(() => ({ count: 0 }))
vi.mock('../../../core/circuit/ldl', async whole => {
  const ldl = await whole<typeof Ldl>()
  const factor: typeof ldl.factor = (...given) => {
    rounds.count++
    return ldl.factor(...given)
  }
  return { ...ldl, factor }
})

function roundsOf(solve: () => unknown): number {
  const before = rounds.count
  solve()
  return rounds.count - before
}

describe('the rounds that it takes to solve', () => {
  it.each([
    ['tern-rock-light', 227, 79],
    ['narrowboat-heron', 126, 62],
    ['moor-walk-kit', 37, 19],
    ['clean-bench', 12, 12],
  ] as const)('%s: all its conditions %i, its corners %i', (name, all, corners) => {
    const plan = demoPlan(name)
    expect(roundsOf(() => solveMatrix(plan))).toBeLessThanOrEqual(all)
    expect(roundsOf(() => solveCorners(plan))).toBeLessThanOrEqual(corners)
  })

  it.each([
    ['at random', randomPlan, 20184, 12223],
    ['with something broken', brokenPlan, 11808, 5524],
  ] as const)('120 stations %s', (_what, planOf, all, corners) => {
    const plans = Array.from({ length: 120 }, (_, seed) => planOf(seed)).filter(p => p !== null)
    expect(roundsOf(() => plans.forEach(p => solveMatrix(p)))).toBeLessThanOrEqual(all)
    expect(roundsOf(() => plans.forEach(solveCorners))).toBeLessThanOrEqual(corners)
  })

  it.each([
    [2, 1499],
    [10, 2122],
  ])('sixty parts, all corners broken (seed %i): %i', (seed, most) => {
    expect(roundsOf(() => solveCorners(ruinedPlan(seed)!))).toBeLessThanOrEqual(most)
  })

  it('no second time for one that gives too little, where nothing takes less at a lower voltage', () => {
    const behind = (draw: object) =>
      roundsOf(() =>
        solveMatrix(
          smallPlan({
            parts: [
              { id: 'sup', kind: 'supply', setV: 13.8, continuousA: 8, outputOhm: 0.05 },
              load({ id: 'lamp', draw }),
            ],
            leads: [lead({ from: 'sup', to: 'lamp', inline: [] })],
          }),
        ),
      )
    expect(behind({ model: 'constant-current', idleA: 11, activeA: 11 })).toBeLessThanOrEqual(9)
    expect(behind({ model: 'resistive', idleOhm: 1, activeOhm: 1 })).toBeGreaterThan(9)
  })
})
