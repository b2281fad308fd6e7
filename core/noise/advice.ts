import { normalised } from '../reason/odds'
import { rateOf, toldBy } from '../reason/tests'
import { pairsOf, type Belief, type Pair } from './belief'
import { wayLabel, whenWords, type Causes } from './cause'
import { isPart } from './suspect'
import { tablesOf } from './tables'
import { heardOdds } from './hear'
import { combLikelihood, fitting, sniffLikelihood } from './observation'
import { HEARD } from './setup'
import { list } from './words'
import { COST, OVERHEAD_MIN, type AtHand, type Need, type Outcome, type Test } from './test'
import { testsFor, type Known } from './tests'

export interface Advice extends Test {
  outcomes: Outcome[]
  /** What has to be bought for it. */
  euro: number
  /** Bits it is expected to tell of device and way. */
  bits: number
  /** Bits a minute, money counted as minutes. */
  rate: number
  /** What it lacks at this hour; empty where it can be done now. */
  lacks: Need[]
}

/** An outcome less likely than this is not told. */
const LEAST_LIKELY = 1e-6

/** A spacing that is no device's. */
const FITS_NONE = Infinity

/** Rows of likelihoods, one an outcome, for a test. */
export function outcomeRows(
  test: Pick<Test, 'what' | 'setup'>,
  causes: Causes,
): { id: string; label: string; row: number[] }[] {
  const { devices, priors } = causes
  if (test.what === 'listen') {
    const all = heardOdds(causes, test.setup!)
    const LABELS = { same: 'as strong as before', weaker: 'weaker', gone: 'gone' }
    return HEARD.map((heard, i) => ({ id: heard, label: LABELS[heard], row: all.map(o => o[i]!) }))
  }
  const own = devices.filter(d => isPart(d.id))
  if (test.what === 'sniff') {
    return [
      ...own.map(d => ({ id: d.id, label: `loudest at ${d.name}` })),
      { id: 'none', label: 'nowhere louder' },
    ].map(o => ({ ...o, row: priors.map(p => sniffLikelihood(p.cause, o.id, devices)) }))
  }
  // Devices of one frequency cannot be told apart by it.
  const groups = new Map<string, { hz: number; ids: string[] }>()
  for (const d of own) {
    if (!d.switchingHz) continue
    const ids = fitting(d.switchingHz, devices)
    groups.set(ids.join('+'), { hz: d.switchingHz, ids })
  }
  return [
    ...[...groups].map(([id, g]) => ({
      id: `hz:${id}`,
      label: `it fits ${list(g.ids.map(i => devices.find(d => d.id === i)!.name))}`,
      row: priors.map(p => combLikelihood(p.cause, g.hz, devices)),
    })),
    {
      id: 'hz:other',
      label: 'it fits none of them',
      row: priors.map(p => combLikelihood(p.cause, FITS_NONE, devices)),
    },
    { id: 'hz:none', label: 'no even spacing', row: priors.map(p => combLikelihood(p.cause, null, devices)) },
  ]
}

/** Bits that a test is expected to tell of device and way, and what each of its outcomes would leave. */
export function weigh(test: Test, causes: Causes, belief: Belief, atHand: AtHand): Advice {
  const rows = outcomeRows(test, causes)
  const { bits, prospects } = toldBy(
    belief.probabilities,
    rows.map(r => r.row),
    tablesOf(causes).pairs,
  )
  const outcomes = rows.flatMap(({ id, label }, i): Outcome[] => {
    const { probability, joint } = prospects[i]!
    if (probability < LEAST_LIKELY) return []
    return [
      {
        id,
        label,
        probability,
        // In words only where somebody reads it.
        get means() {
          return meaning(causes, belief, pairsOf(causes, normalised(joint)))
        },
      },
    ]
  })
  const euro = test.needs.reduce((s, n) => s + (atHand.has(n) ? 0 : (COST[n] ?? 0)), 0)
  const lacks = test.needs.filter(n => !atHand.has(n))
  return {
    ...test,
    euro,
    lacks,
    outcomes,
    bits,
    rate: rateOf(bits, { minutes: test.minutes + OVERHEAD_MIN, euro }),
  }
}

const percent = (p: number) => `${Math.round(100 * p)} %`

/** "then it is the inverter, common mode on the DC lead, 93 %", and what it rules out. */
function meaning(causes: Causes, belief: Belief, pairs: ReturnType<typeof pairsOf>): string {
  const name = (id: string) => causes.devices.find(d => d.id === id)!.name
  const [first, second] = pairs
  const massOf = (id: string, from: typeof pairs) =>
    from.filter(p => p.device === id).reduce((s, p) => s + p.probability, 0)
  // Where the device is known already, only the way is news.
  const words = (p: Pair) => {
    if (p.also) return `${name(p.device)} and ${name(p.also.device)}`
    if (!isPart(p.device)) return name(p.device)
    return massOf(p.device, belief.pairs) > 0.9 ? wayLabel(p.way) : `${name(p.device)} ${wayLabel(p.way)}`
  }
  const best = `${words(first!)}, ${percent(first!.probability)}`
  const next = second && second.probability > 0.1 ? `; or ${words(second)}, ${percent(second.probability)}` : ''
  const gone = causes.devices.map(d => d.id).filter(id => massOf(id, belief.pairs) > 0.08 && massOf(id, pairs) < 0.03)
  return best + next + (gone.length ? `. Rules out ${list(gone.map(name))}` : '')
}

/** Below this a test tells nothing worth the walk. */
const LEAST_BITS = 0.01

/**
 * Everything that tells something next, the one that tells most per minute and euro first; what cannot be done now
 * comes after. What has to be tried before the best is believed comes before all.
 */
export const nextTests = (known: Known & { atHand: AtHand }) => worthMaking(allTests(known), known.belief)

/** The same of all tests, where they are weighed already. */
export function worthMaking(all: readonly Advice[], { pairs }: Belief): Advice[] {
  const { wants } = pairs[0]!
  return all
    .filter(t => t.bits > LEAST_BITS || t.id === wants)
    .sort((a, b) => Number(b.id === wants) - Number(a.id === wants))
}

/**
 * Every test in the same order, those that would tell next to nothing too: somebody may have made them all the same.
 */
export function allTests(known: Known & { atHand: AtHand }): Advice[] {
  const { causes, belief } = likeliest(known)
  return testsFor(known)
    .map(t => weigh(t, causes, belief, known.atHand))
    .sort((a, b) => Number(needsHour(a)) - Number(needsHour(b)) || b.rate - a.rate)
}

/** Of thousands of hypotheses those that are believed at all are enough to weigh a test by. */
const ENOUGH = 0.995
const MOST_WEIGHED = 400

function likeliest({ causes, belief }: Known): { causes: Causes; belief: Belief } {
  const order = belief.probabilities
    .map((_, i) => i)
    .sort((a, b) => belief.probabilities[b]! - belief.probabilities[a]!)
  let mass = 0
  const kept = order.slice(0, MOST_WEIGHED).filter(i => {
    const isWanted = mass < ENOUGH
    mass += belief.probabilities[i]!
    return isWanted
  })
  const some = { ...causes, priors: kept.map(i => causes.priors[i]!) }
  const probabilities = normalised(kept.map(i => belief.probabilities[i]!))
  return { causes: some, belief: { ...belief, probabilities, pairs: pairsOf(some, probabilities) } }
}

/** Waits for sun or load, which money does not buy. */
const needsHour = (test: Advice) => test.lacks.some(n => n === 'sun' || n === 'load' || n === 'mains')

/** "above about 7 A, 80 %": when it is there, as far as it is known. */
export function whenKnown(causes: Causes, pair: Belief['pairs'][number]): string {
  const best = pair.whens[0]!
  if (!isPart(pair.device)) return ''
  return `${whenWords(
    best.when,
    causes.devices.find(d => d.id === pair.device),
  )}, ${percent(best.probability / Math.max(1e-9, pair.probability))}`
}
