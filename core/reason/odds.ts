/** Bayes' arithmetic that every room of hypotheses shares. */

/** Odds as probabilities: their sum is 1. */
export function normalised(values: number[]): number[] {
  const total = values.reduce((s, v) => s + v, 0)
  return values.map(v => v / total)
}

/** Odds after one finding (Bayes' rule), made whole; `expected`: how likely it was before it was made. */
export function movedBy(odds: readonly number[], likelihoods: readonly number[]): { odds: number[]; expected: number } {
  const joint = odds.map((o, i) => o * likelihoods[i]!)
  const expected = joint.reduce((s, v) => s + v, 0)
  return { odds: joint.map(v => v / expected), expected }
}

/** What is still open between probabilities, bits. */
export const entropyBits = (probabilities: readonly number[]) =>
  -probabilities.reduce((s, p) => s + (p > 0 ? p * Math.log2(p) : 0), 0)

/** Minutes that a euro is worth. */
export const MINUTES_PER_EURO = 1.5

/** Bits for each minute and euro of a test. */
export const rateOf = (bits: number, { minutes, euro }: { minutes: number; euro: number }) =>
  bits / (minutes + MINUTES_PER_EURO * euro)

/**
 * What a test tells, in bits, before it is made: what is open now, less what is open after each outcome.
 * @param rows of each outcome its likelihood under every hypothesis
 */
export function bitsOf(probabilities: readonly number[], rows: readonly (readonly number[])[]): number {
  const after = rows.reduce((sum, row) => {
    const joint = row.map((l, i) => l * probabilities[i]!)
    const probability = joint.reduce((s, v) => s + v, 0)
    return probability > 0 ? sum + probability * entropyBits(normalised(joint)) : sum
  }, 0)
  return Math.max(0, entropyBits(probabilities) - after)
}
