/** Bayes' arithmetic that every room of hypotheses shares. */

export const sumOf = (values: readonly number[]) => values.reduce((s, v) => s + v, 0)

/** Odds as probabilities: their sum is 1. */
export function normalised(values: readonly number[]): number[] {
  const total = sumOf(values)
  return values.map(v => v / total)
}

/** Odds after one finding (Bayes' rule), made whole; `expected`: how likely it was before it was made. */
export function movedBy(odds: readonly number[], likelihoods: readonly number[]): { odds: number[]; expected: number } {
  const joint = odds.map((o, i) => o * likelihoods[i]!)
  const expected = sumOf(joint)
  return { odds: joint.map(v => v / expected), expected }
}

/** What is still open between probabilities, bits. */
export const entropyBits = (probabilities: readonly number[]) =>
  -probabilities.reduce((s, p) => s + (p > 0 ? p * Math.log2(p) : 0), 0)
