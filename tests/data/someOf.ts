import type { Plan } from '../../core/plan/schema'

/** The plans of some seeds, without those that make none. */
export const some = (make: (seed: number) => Plan | null, seeds: readonly number[]): Plan[] =>
  seeds.flatMap(seed => make(seed) ?? [])

/** One question asked of several plans: the answers by their names. */
export const on = (plans: readonly Plan[], answer: (plan: Plan) => unknown) => () =>
  Object.fromEntries(plans.map(plan => [plan.name, answer(plan)]))

/** What is a mistake to ask is thrown: that it is so is kept too. */
export function tried(work: () => unknown): unknown {
  try {
    return work()
  } catch (error) {
    return `thrown: ${(error as Error).message.slice(0, 80)}`
  }
}
