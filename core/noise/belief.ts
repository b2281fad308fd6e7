import { contradictionsIn, doubtsIn, LEAST, misfitsOf, movedByAll, type Doubt, type Row } from '../reason/findings'
import { eachOf, massOf } from '../reason/hypotheses'
import { normalised } from '../reason/odds'
import { alsoOf, sameWhen, type Cause, type Causes, type Way } from './cause'
import { heardOdds, measuredLikelihoods, causedOdds } from './hear'
import { heardAt, likelihood, type Observation } from './observation'
import { HEARD, type Setup } from './setup'
import { OUTSIDE, RECEIVER } from './suspect'
import { tablesOf } from './tables'

/** A device and a way, whatever the when, and another device beside it where there are two: what a cure goes by. */
export interface Pair {
  device: string
  way: Way
  probability: number
  whens: { when: Cause['when']; probability: number }[]
  also?: { device: string; way: Way }
  /** A second way in of the same device that is likelier than not. */
  secondWay?: Way
  /** What has to be tried before it is believed. */
  wants?: 'everything-off' | 'everything-off-dummy'
}

export interface Belief {
  /** One probability for each hypothesis, in the order of `causes.priors`. */
  probabilities: number[]
  /** Likelihood of each observation under each hypothesis, as it was counted. */
  likelihoods: number[][]
  /** Best first. */
  pairs: Pair[]
  /** Observations that no cause explains together, by their places in the log. */
  contradictions: [number, number][]
  /** Findings that are likely slips, likeliest first. */
  doubts: Doubt[]
  /** Places of observations that speak against the best pair. */
  misfits: number[]
}

/** Above this a cause is believed, and the cure is next. */
export const BELIEVED = 0.9
/** No more is stated of what has not been tried as it must be. */
const UNTRIED = 0.89

/** Moves the prior odds by everything that was found, one after the other (Bayes' rule). */
export function believe(causes: Causes, observations: readonly Observation[]): Belief {
  const rows = observations.map(o => knownRow(causes, o))
  const weights = repeatWeights(observations)
  // Chance is new each time: what comes and goes by itself is not repeated with a test.
  const isChance = causes.priors.map(p => p.cause.when.kind === 'at-times')
  const tempered = rows.map(({ whole }, i) => {
    const each = Math.min(timesMade(observations[i]!), MOST_AGAIN)
    return whole.map((l, h) => Math.max(LEAST, l) ** (isChance[h] ? each : weights[i]!))
  })
  const probabilities = movedByAll(
    causes.priors.map(p => p.odds),
    tempered,
  )
  const pairs = tried(pairsOf(causes, probabilities), observations)
  const answers = tablesOf(causes).pairs
  const mass = massOf(answers, probabilities)
  const best = mass.reduce((most, p, k) => (p > mass[most]! ? k : most), 0)
  return {
    probabilities,
    likelihoods: tempered,
    pairs,
    contradictions: contradictionsIn(rows),
    doubts: doubtsIn(rows, probabilities),
    misfits: misfitsOf(rows, probabilities, h => answers.of[h] === best),
  }
}

/** Rows by cause and finding: a log grows by one finding at a time. */
const KNOWN = new WeakMap<Causes, WeakMap<Observation, Row>>()

function knownRow(causes: Causes, observation: Observation): Row {
  const rows = KNOWN.get(causes) ?? new WeakMap<Observation, Row>()
  KNOWN.set(causes, rows)
  const row = rows.get(observation) ?? rowOf(causes, observation)
  rows.set(observation, row)
  return row
}

/** A measured fall may be of something else that came or went: so likely is that, of any. */
const SOMETHING_ELSE = 0.04

function rowOf(causes: Causes, observation: Observation): Row {
  const { devices, priors } = causes
  if (observation.kind !== 'listen') {
    const whole = priors.map(p => likelihood(p.cause, observation, devices))
    return { whole, clean: whole }
  }
  const setup = observation.setup as Setup
  const before = observation.current
    ? priors.map(p => heardAt(p.cause, observation.current, devices))
    : priors.map(() => 1)
  const times = (row: number[]) => row.map((l, i) => l * before[i]!)
  if (observation.fall) {
    const measured = measuredLikelihoods(causes, setup, observation.fall)
    const clean = times(measured.map(l => l * (1 - SOMETHING_ELSE)))
    return { whole: times(measured.map(l => l * (1 - SOMETHING_ELSE) + SOMETHING_ELSE)), clean }
  }
  if (observation.heard === 'not-sure') return { whole: before, clean: before }
  const at = HEARD.indexOf(observation.heard)
  const odds = heardOdds(causes, setup)
  return { whole: times(odds.map(o => o[at]!)), clean: times(causedOdds(causes, setup).map(o => o[at]!)) }
}

/** Believed to be outside, or the receiver itself, only when everything else was off. */
function tried(pairs: Pair[], observations: readonly Observation[]): Pair[] {
  const stays = (dummy: boolean) =>
    observations.some(
      o =>
        o.kind === 'listen' &&
        o.setup.everything === 'off' &&
        (o.heard === 'same' || o.heard === 'weaker') &&
        (!dummy || o.setup.antenna === 'dummy'),
    )
  return pairs.map(pair => {
    const devices = [pair.device, ...(pair.also ? [pair.also.device] : [])]
    const isReceiver = devices.includes(RECEIVER)
    const isBeside = isReceiver || devices.includes(OUTSIDE)
    if (!isBeside || stays(isReceiver)) return pair
    const wants = isReceiver ? 'everything-off-dummy' : 'everything-off'
    return { ...pair, probability: Math.min(pair.probability, UNTRIED), wants }
  })
}

/** How much a test made again still tells: it undoes a slip of the ear, but repeats whatever else was wrong with it. */
export const AGAIN = 0.3

/**
 * The weight of each finding: of a test that was made m times, all of them together count as one and AGAIN for each
 * repetition.
 */
function repeatWeights(observations: readonly Observation[]): number[] {
  const key = (o: Observation) => (o.kind === 'listen' ? `listen ${JSON.stringify(o.setup)}` : `${o.kind} ${o.id}`)
  const times = new Map<string, number>()
  for (const o of observations) times.set(key(o), (times.get(key(o)) ?? 0) + timesMade(o))
  return observations.map(o => {
    const m = times.get(key(o))!
    return (timesMade(o) * (1 + AGAIN * (Math.min(m, MOST_AGAIN) - 1))) / m
  })
}
/** How many times a finding says it was made: a measured fall is the mean of its times already. */
const timesMade = (o: Observation) => (o.kind === 'listen' && o.fall === undefined ? (o.times ?? 1) : 1)

/** Beyond this a test made again tells nothing. */
const MOST_AGAIN = 6

export function pairsOf(causes: Causes, probabilities: readonly number[]): Pair[] {
  const { pairs } = tablesOf(causes)
  const mass = massOf(pairs, probabilities)
  const members: number[][] = pairs.first.map(() => [])
  pairs.of.forEach((k, i) => members[k]!.push(i))
  return pairs.first
    .map((one, k): Pair => {
      const { cause } = causes.priors[one]!
      const also = alsoOf(cause)
      return {
        device: cause.device,
        way: cause.way,
        probability: mass[k]!,
        ...detailsOf(causes, probabilities, members[k]!),
        ...(also && { also: { device: also.device, way: also.way } }),
      }
    })
    .sort((a, b) => b.probability - a.probability)
}

/** When a pair is there, likeliest first, and a second way in of its device that is likelier than not. */
function detailsOf(
  { priors }: Causes,
  probabilities: readonly number[],
  members: readonly number[],
): Pick<Pair, 'whens' | 'secondWay'> {
  const whens: Pair['whens'] = []
  const second = new Map<Way, number>()
  let whole = 0
  for (const i of members) {
    const { cause } = priors[i]!
    const p = probabilities[i]!
    whole += p
    const same = whens.find(w => sameWhen(w.when, cause.when))
    if (same) same.probability += p
    else whens.push({ when: cause.when, probability: p })
    if (cause.second?.device === cause.device) second.set(cause.second.way, (second.get(cause.second.way) ?? 0) + p)
  }
  whens.sort((a, b) => b.probability - a.probability)
  const [way, p] = [...second].sort((a, b) => b[1] - a[1])[0] ?? [undefined, 0]
  return way !== undefined && p > 0.5 * whole ? { whens, secondWay: way } : { whens }
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
  const has = (c: Cause) => c.device === pair.device || alsoOf(c)?.device === pair.device
  return {
    device: ratio(has, () => true),
    way: ways
      ? ratio(
          c => c.way === pair.way,
          c => c.device === pair.device,
        )
      : 1,
  }
}

/** How likely each device has a part in it, of all hypotheses together. */
export function deviceMass(causes: Causes, probabilities: readonly number[]): Map<string, number> {
  const each = eachOf(tablesOf(causes).devices, probabilities, causes.devices.length)
  return new Map(causes.devices.map((d, i) => [d.id, each[i]!]))
}
