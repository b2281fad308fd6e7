import { describe, expect, it, vi } from 'vitest'
import { conditionsOf } from '../../../core/circuit/conditions'
import { solveCorners, solveMatrix } from '../../../core/circuit/matrix'
import type { Plan } from '../../../core/plan/schema'
import { ruinedPlan } from '../../bench/broken'
import { brokenPlan } from '../../data/brokenPlans'
import { demoPlan, lead, load, radio, smallPlan } from '../../data/plans'
import { randomPlan } from '../../data/randomPlans'

/**
 * What an answer costs, counted in rounds of Newton: each factors the matrix once. Where an iteration begins and what
 * is not solved at all changes no answer; it is seen here. The figures are what was counted when they were written:
 * fewer is better, and more wants a reason.
 */

const rounds = vi.hoisted(() => ({ count: 0 }))
vi.mock('../../../core/circuit/ldl', async whole => {
  const ldl = await whole<typeof import('../../../core/circuit/ldl')>()
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
    [4, 146],
    [9, 226],
    [23, 184],
  ])('an ordinary station with something broken that collapses (seed %i): %i', (seed, corners) => {
    expect(roundsOf(() => solveCorners(brokenPlan(seed)!))).toBeLessThanOrEqual(corners)
  })

  it.each([
    [2, 531],
    [9, 262],
    [17, 336],
    [37, 250],
  ])('a station at random (seed %i): %i', (seed, corners) => {
    expect(roundsOf(() => solveCorners(randomPlan(seed)!))).toBeLessThanOrEqual(corners)
  })

  it.each([
    [2, 1499],
    [10, 2122],
  ])('sixty parts, all corners broken (seed %i): %i', (seed, corners) => {
    expect(roundsOf(() => solveCorners(ruinedPlan(seed)!))).toBeLessThanOrEqual(corners)
  })
})
