import { movedBy } from './odds'

/** Moving the odds by what was found, and saying of a finding what speaks against it. */

/** One finding, hypothesis by hypothesis. */
export interface Row {
  /** Its likelihood under each. */
  whole: readonly number[]
  /** The part of it that is neither a slip nor chance. */
  clean: readonly number[]
}

/** A finding that is likely a slip of eye, ear or pencil, by its place among all. */
export interface Doubt {
  index: number
  probability: number
}

/** Nothing that anybody wrote down is impossible. */
export const LEAST = 1e-4
/** From here on a finding is doubted. */
const DOUBTED = 0.4
/** Below this likelihood a finding does not fit. */
const MISFIT = 0.15

/** Odds after all findings: made whole after each, or a long log would multiply down to nothing. */
export const movedByAll = (odds: readonly number[], rows: readonly (readonly number[])[]): number[] =>
  rows.reduce<number[]>((now, row) => movedBy(now, row).odds, [...odds])

/**
 * Findings that are likely slips in the light of all of them, the likeliest first.
 * @param from the least probability of a slip that is told
 */
export function doubtsIn(rows: readonly Row[], probabilities: readonly number[], from = DOUBTED): Doubt[] {
  const slipOf = ({ whole, clean }: Row) =>
    probabilities.reduce((s, p, h) => s + p * (1 - Math.min(1, clean[h]! / Math.max(LEAST, whole[h]!))), 0)
  return rows
    .map((row, index) => ({ index, probability: slipOf(row) }))
    .filter(d => d.probability >= from)
    .sort((a, b) => b.probability - a.probability)
}

/** Two findings of which the best that any hypothesis can do for both is still unlikely. */
export function contradictionsIn(rows: readonly Row[]): [number, number][] {
  const each = rows.map(r => r.clean)
  const found: [number, number][] = []
  each.forEach((a, i) =>
    each.slice(i + 1).forEach((b, k) => {
      const together = a.reduce((most, p, h) => Math.max(most, Math.min(p, b[h]!)), 0)
      const alone = Math.min(greatest(a), greatest(b))
      if (together < MISFIT && alone >= MISFIT) found.push([i, i + 1 + k])
    }),
  )
  return found
}

/** Findings that speak against an answer: their mean likelihood under the hypotheses that give it is small. */
export function misfitsOf(
  rows: readonly Row[],
  probabilities: readonly number[],
  isIts: (h: number) => boolean,
): number[] {
  const its = probabilities.map((p, h) => (isIts(h) ? p : 0))
  const mass = its.reduce((s, p) => s + p, 0)
  return rows.flatMap(({ whole }, i) => (whole.reduce((s, l, h) => s + l * its[h]!, 0) / mass < MISFIT ? [i] : []))
}

const greatest = (values: readonly number[]) => values.reduce((most, v) => Math.max(most, v), 0)
