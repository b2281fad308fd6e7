import { rowOf, rowOfBoth, type PowerTest } from './rows'
import type { PowerCause } from './symptom'

/** What may be so: one of the causes, or two at once. Their shares add up to 1. */
export interface Hypothesis {
  /** Places in the list of causes. */
  of: readonly number[]
  share: number
}

/** Two causes at once are so much of all cases (judgement: what is worn in one place often is in another). */
const BOTH_SHARE = 0.08
/** Something that is not in the list makes no pair with anything. */
const MAKES_NO_PAIR = 'other'

/** Every cause, and every two of them that are of other kinds or places. */
export function hypothesesOf(causes: readonly PowerCause[]): Hypothesis[] {
  const total = causes.reduce((sum, c) => sum + c.odds, 0)
  const single = causes.map((c, i): Hypothesis => ({ of: [i], share: c.odds / total }))
  const pairs = single.flatMap((one, i) =>
    single.slice(i + 1).flatMap((other): Hypothesis[] => {
      const [j] = other.of as [number]
      if (causes[i]!.of === MAKES_NO_PAIR || causes[j]!.of === MAKES_NO_PAIR) return []
      return [{ of: [i, j], share: one.share * other.share }]
    }),
  )
  const inPairs = pairs.reduce((sum, p) => sum + p.share, 0)
  if (!inPairs) return single
  return [
    ...single.map(h => ({ ...h, share: (1 - BOTH_SHARE) * h.share })),
    ...pairs.map(h => ({ ...h, share: (BOTH_SHARE * h.share) / inPairs })),
  ]
}

/** Likelihoods of a test's outcomes, hypothesis by hypothesis. */
export function rowsOf(test: PowerTest, causes: readonly PowerCause[], all: readonly Hypothesis[]) {
  return all.map(({ of: [i, j] }) =>
    j === undefined ? rowOf(test, causes[i!]!.of) : rowOfBoth(test, causes[i!]!.of, causes[j]!.of),
  )
}

/** How likely each cause is there, alone or with another. */
export function eachOf(causes: readonly PowerCause[], all: readonly Hypothesis[], shares: readonly number[]): number[] {
  const each = causes.map(() => 0)
  all.forEach(({ of }, h) => {
    for (const i of of) each[i]! += shares[h]!
  })
  return each
}
