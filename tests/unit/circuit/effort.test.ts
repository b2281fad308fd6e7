import { describe, expect, it } from 'vitest'
import { Coupling } from '../../../core/circuit/coupling'
import { solveCorners, solveMatrix } from '../../../core/circuit/matrix'
import { ruinedPlan } from '../../bench/broken'
import { brokenPlan } from '../../data/brokenPlans'
import { demoPlan, lead, load, smallPlan } from '../../data/plans'
import { randomPlan } from '../../data/randomPlans'

/**
 * What an answer costs, in rounds of Newton: each works the converters into its matrix once, and those are counted.
 * Where an iteration begins and what is not solved at all changes no answer; here it is seen. The figures are what was
 * counted when they were written: fewer is better, and more wants a reason.
 */

function roundsOf(solve: () => unknown): number {
  const round = Object.getOwnPropertyDescriptor(Coupling.prototype, 'solve')!
  let count = 0
  const counted = function (this: Coupling, ...given: Parameters<Coupling['solve']>): boolean {
    count++
    return (round.value as Coupling['solve']).apply(this, given)
  }
  Object.defineProperty(Coupling.prototype, 'solve', { ...round, value: counted })
  try {
    solve()
  } finally {
    Object.defineProperty(Coupling.prototype, 'solve', round)
  }
  return count
}

describe('the rounds that it takes to solve', () => {
  it.each([
    ['tern-rock-light', 227, 79],
    ['narrowboat-heron', 124, 60],
    ['moor-walk-kit', 37, 19],
    ['clean-bench', 12, 12],
  ] as const)('%s: all its conditions %i, its corners %i', (name, all, corners) => {
    const plan = demoPlan(name)
    expect(roundsOf(() => solveMatrix(plan))).toBeLessThanOrEqual(all)
    expect(roundsOf(() => solveCorners(plan))).toBeLessThanOrEqual(corners)
  })

  it.each([
    ['at random', randomPlan, 17040, 10748],
    ['with something broken', brokenPlan, 10689, 5096],
  ] as const)('120 stations %s', (_what, planOf, all, corners) => {
    const plans = Array.from({ length: 120 }, (_, seed) => planOf(seed)).filter(p => p !== null)
    expect(roundsOf(() => plans.forEach(p => solveMatrix(p)))).toBeLessThanOrEqual(all)
    expect(roundsOf(() => plans.forEach(solveCorners))).toBeLessThanOrEqual(corners)
  })

  it.each([
    [2, 1234],
    [10, 1617],
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
    expect(behind({ model: 'constant-current', idleA: 11, activeA: 11 })).toBeLessThanOrEqual(5)
    expect(behind({ model: 'resistive', idleOhm: 1, activeOhm: 1 })).toBeGreaterThan(5)
  })
})
