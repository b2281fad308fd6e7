import { pairKey, type Cause, type Causes, type Way } from './cause'
import { likelihood, type Observation } from './observation'

/** A device and a way, whatever the when: what a cure goes by. */
export interface Pair {
  device: string
  way: Way
  probability: number
  whens: { when: Cause['when']; probability: number }[]
}

export interface Belief {
  /** One probability for each hypothesis, in the order of `causes.priors`. */
  probabilities: number[]
  /** Likelihood of each observation under each hypothesis, as it was counted. */
  likelihoods: number[][]
  /** Best first. */
  pairs: Pair[]
  /** Observations that no single cause explains together, by their places in the log. */
  contradictions: [number, number][]
  /** Places of observations that speak against the best pair. */
  misfits: number[]
  /** Bits still open between device and way. */
  openBits: number
}

/** Above this a cause is believed, and the cure is next. */
export const BELIEVED = 0.9

/** Moves the prior odds by everything that was found, one after the other (Bayes' rule). */
export function believe(causes: Causes, observations: readonly Observation[]): Belief {
  const each = observations.map(o => causes.priors.map(p => Math.max(LEAST, likelihood(p.cause, o, causes.devices))))
  const weights = repeatWeights(observations)
  const tempered = each.map((row, i) => (weights[i] === 1 ? row : row.map(l => l ** weights[i]!)))
  // Made whole after each finding: a long log would else multiply down to nothing.
  const probabilities = tempered.reduce(
    (odds, row) => normalised(odds.map((o, i) => o * row[i]!)),
    causes.priors.map(p => p.odds),
  )
  const pairs = pairsOf(causes, probabilities)
  const best = pairs[0]
  const bestRow = (row: number[]) => weighted(causes, probabilities, row, c => !!best && pairKey(c) === pairKey(best))
  return {
    probabilities,
    likelihoods: tempered,
    pairs,
    contradictions: contradictionsIn(each),
    misfits: each.flatMap((row, i) => (best && bestRow(row) < MISFIT ? [i] : [])),
    openBits: entropyBits(pairs.map(p => p.probability)),
  }
}

/** How much a test made again still tells: it undoes a slip of the ear, but repeats whatever else was wrong with it. */
export const AGAIN = 0.3

/**
 * The weight of each finding: of a test that was made m times, all of them together count as one and AGAIN for each
 * repetition.
 */
function repeatWeights(observations: readonly Observation[]): number[] {
  const key = (o: Observation) => (o.kind === 'listen' ? `listen ${JSON.stringify(o.setup)}` : o.kind)
  const times = new Map<string, number>()
  for (const o of observations) times.set(key(o), (times.get(key(o)) ?? 0) + 1)
  return observations.map(o => {
    const m = times.get(key(o))!
    return (1 + AGAIN * (m - 1)) / m
  })
}

/** Nothing that anybody wrote down is impossible. */
const LEAST = 1e-6

/** Below this likelihood an observation does not fit a cause. */
const MISFIT = 0.2

/** Two findings of which the best any single cause can do for both is still unlikely. */
function contradictionsIn(each: number[][]): [number, number][] {
  const found: [number, number][] = []
  each.forEach((a, i) =>
    each.slice(i + 1).forEach((b, k) => {
      if (
        Math.max(...a.map((p, h) => Math.min(p, b[h]!))) < MISFIT &&
        Math.max(...a) >= MISFIT &&
        Math.max(...b) >= MISFIT
      )
        found.push([i, i + 1 + k])
    }),
  )
  return found
}

export function normalised(values: number[]): number[] {
  const total = values.reduce((s, v) => s + v, 0)
  return values.map(v => v / total)
}

export const entropyBits = (probabilities: readonly number[]) =>
  -probabilities.reduce((s, p) => s + (p > 0 ? p * Math.log2(p) : 0), 0)

export function pairsOf(causes: Causes, probabilities: readonly number[]): Pair[] {
  const pairs = new Map<string, Pair>()
  causes.priors.forEach(({ cause }, i) => {
    const pair = pairs.get(pairKey(cause)) ?? { device: cause.device, way: cause.way, probability: 0, whens: [] }
    pair.probability += probabilities[i]!
    pair.whens.push({ when: cause.when, probability: probabilities[i]! })
    pairs.set(pairKey(cause), pair)
  })
  for (const pair of pairs.values()) pair.whens.sort((a, b) => b.probability - a.probability)
  return [...pairs.values()].sort((a, b) => b.probability - a.probability)
}

/** Mean likelihood over the hypotheses that `belongs` picks, weighed by what they are believed. */
function weighted(
  causes: Causes,
  weights: readonly number[],
  row: readonly number[],
  belongs: (cause: Cause) => boolean,
): number {
  let [total, weight] = [0, 0]
  causes.priors.forEach(({ cause }, i) => {
    if (!belongs(cause)) return
    total += weights[i]! * row[i]!
    weight += weights[i]!
  })
  return weight ? total / weight : 0
}

/**
 * How one observation moves the odds, as factors, in the light of all the others: above 1 for it, below 1 against it.
 */
export interface Weight {
  device: number
  way: number
}

/** Of a pair's device against the other devices, and of its way against the device's other ways. */
export function weightOf(causes: Causes, pair: Pick<Pair, 'device' | 'way'>, belief: Belief, index: number): Weight {
  const row = belief.likelihoods[index]!
  // Belief without this finding: what it did is taken out again.
  const others = normalised(belief.probabilities.map((p, i) => p / row[i]!))
  const ratio = (belongs: (cause: Cause) => boolean, among: (cause: Cause) => boolean) =>
    weighted(causes, others, row, c => among(c) && belongs(c)) /
    Math.max(
      1e-9,
      weighted(causes, others, row, c => among(c) && !belongs(c)),
    )
  const ways = causes.priors.some(p => p.cause.device === pair.device && p.cause.way !== pair.way)
  return {
    device: ratio(
      c => c.device === pair.device,
      () => true,
    ),
    way: ways
      ? ratio(
          c => c.way === pair.way,
          c => c.device === pair.device,
        )
      : 1,
  }
}
