import { sumOf } from './odds'

/** What may be so: of all hypotheses exactly one is. Several causes at once are a hypothesis of their own. */

/** A cause alone, or several at once: its places in the room's own list of causes, and its odds. */
export interface Hypothesis {
  of: readonly number[]
  odds: number
}

/**
 * Classes of hypotheses together ("one alone", "two at once"), each with its share of all cases: odds that add up to 1.
 * A class without any gives its share to the others.
 */
export function mixed<T extends { odds: number }>(classes: readonly { share: number; all: readonly T[] }[]): T[] {
  const totals = classes.map(c => sumOf(c.all.map(h => h.odds)))
  const whole = sumOf(classes.map((c, i) => (totals[i]! ? c.share : 0)))
  return classes.flatMap(({ share, all }, i) => all.map(h => ({ ...h, odds: ((share / whole) * h.odds) / totals[i]! })))
}

/** Every two causes that may be there at once, as likely as one and the other. */
export function inTwos(odds: readonly number[], mayBoth: (i: number, j: number) => boolean): Hypothesis[] {
  return odds.flatMap((one, i) =>
    odds.slice(i + 1).flatMap((other, n) => {
      const j = i + 1 + n
      return mayBoth(i, j) ? [{ of: [i, j], odds: one * other }] : []
    }),
  )
}

/**
 * How likely each cause is there, alone or with others.
 * @param of of each hypothesis the places of its causes
 */
export function eachOf(of: readonly (readonly number[])[], probabilities: readonly number[], causes: number): number[] {
  const each = new Array<number>(causes).fill(0)
  of.forEach((members, h) => {
    for (const i of members) each[i]! += probabilities[h]!
  })
  return each
}

/** Hypotheses that are one answer to the one who asks, such as those that one cure mends. */
export interface Answers {
  /** Of each hypothesis its answer. */
  of: Int32Array
  /** Of each answer one hypothesis that gives it. */
  first: readonly number[]
}

/** Hypotheses of one key are one answer. */
export function answersBy<T>(hypotheses: readonly T[], keyOf: (hypothesis: T) => string): Answers {
  const first: number[] = []
  const known = new Map<string, number>()
  const of = Int32Array.from(hypotheses, (h, i) => {
    const key = keyOf(h)
    const at = known.get(key) ?? first.push(i) - 1
    known.set(key, at)
    return at
  })
  return { of, first }
}

/** Probability of each answer. */
export function massOf({ of, first }: Answers, probabilities: readonly number[]): Float64Array {
  const mass = new Float64Array(first.length)
  for (let i = 0; i < of.length; i++) mass[of[i]!]! += probabilities[i]!
  return mass
}
