import { entropyBits, normalised, sumOf } from './odds'
import { massOf, type Answers } from './hypotheses'

/** What a test tells before it is made, for its minutes and its money. */

/** Minutes that a euro is worth. */
export const MINUTES_PER_EURO = 1.5

/** Bits for each minute and euro of a test. */
export const rateOf = (bits: number, { minutes, euro }: { minutes: number; euro: number }) =>
  bits / (minutes + MINUTES_PER_EURO * euro)

/** An outcome of a test before it is made. */
export interface Prospect {
  probability: number
  /** Odds of the hypotheses together with it, not made whole. */
  joint: readonly number[]
}

/** An outcome less likely than this is none. */
const LEAST_LIKELY = 1e-6

/**
 * What a test tells of the answers, in bits: what is open now, less what is open after each outcome.
 * @param rows of each outcome its likelihood under every hypothesis; relative: their sum over outcomes need not be 1
 * @param answers what is asked for; left out: the hypotheses themselves
 */
export function toldBy(
  probabilities: readonly number[],
  rows: readonly (readonly number[])[],
  answers?: Answers,
): { bits: number; prospects: Prospect[] } {
  const openOf = (odds: readonly number[]) => entropyBits(normalised(answers ? [...massOf(answers, odds)] : odds))
  const joints = rows.map(row => {
    const joint = row.map((l, i) => l * probabilities[i]!)
    return { joint, mass: sumOf(joint) }
  })
  const total = sumOf(joints.map(j => j.mass))
  const prospects = joints.map(({ joint, mass }) => ({ joint, probability: mass / total }))
  const after = sumOf(prospects.map(o => (o.probability < LEAST_LIKELY ? 0 : o.probability * openOf(o.joint))))
  return { bits: Math.max(0, openOf(probabilities) - after), prospects }
}
