import type { Plan } from '../plan/schema'
import { doubtsIn, movedByAll, type Row } from '../reason/findings'
import { answersBy, eachOf, inTwos, massOf, mixed, type Hypothesis } from '../reason/hypotheses'
import { normalised } from '../reason/odds'
import { rateOf, toldBy } from '../reason/tests'
import { causesOf, type Case } from './causes'
import { heldAgainst, metered } from './meter'
import { rowOf, rowOfBoth, type PowerTest } from './rows'
import type { PowerCause, Symptom } from './symptom'
import { POWER_TESTS, powerTest } from './tests'

/** What was found: a test and its outcome, or the figure that a meter showed. */
export interface PowerFinding {
  test: string
  outcome?: string | undefined
  read?: number | undefined
  /** The same with the key up. */
  before?: number | undefined
}

export interface PowerCase extends Case {
  findings?: readonly PowerFinding[]
}

export interface BelievedCause extends PowerCause {
  /** That it is there, alone or with another. */
  probability: number
}

/** A test that tells something next, and what each of its outcomes would mean. */
export interface NextTest {
  test: PowerTest
  bits: number
  /** Bits for each minute and euro. */
  rate: number
  outcomes: { id: string; label: string; probability: number; means: string; cause: string }[]
  /** It may be told by a figure: its unit, and whether one before is wanted as well. */
  metered: ReturnType<typeof metered>
}

/** A finding as it was taken: the outcome that a figure stands for, and what it was held against. */
export interface Taken {
  outcome: string | null
  against: string
}

export interface PowerBelief {
  causes: BelievedCause[]
  /** Two kinds of causes at once that are likely enough to be told, at their likeliest places. */
  together: { ids: [string, string]; words: string; probability: number }[]
  next: NextTest[]
  taken: Taken[]
  /** Findings that are likely slips, by their places. */
  doubts: number[]
}

/** A test made or read wrongly gives any outcome. */
const SLIP = 0.03
/**
 * From here on a finding is doubted: the tables hold most misreadings already, and of what is doubted so seven in ten
 * are slips (counted on cases whose outcomes come from their circuit).
 */
const DOUBTED = 0.1
const LEAST_BITS = 0.02
const MOST_TESTS = 6
/** Two at once are told from here on. */
const LEAST_TOGETHER = 0.1
const MOST_TOGETHER = 2

/** Two causes at once are so much of all cases (judgement: what is worn in one place often is in another). */
const BOTH_SHARE = 0.08
/** Something that is not in the list makes no pair with anything. */
const MAKES_NO_PAIR = 'other'

/** Every cause, and every two of them; two places of one kind are two causes. */
function hypothesesOf(causes: readonly PowerCause[]): Hypothesis[] {
  const odds = normalised(causes.map(c => c.odds))
  const makesPair = (i: number) => causes[i]!.of !== MAKES_NO_PAIR
  return mixed([
    { share: 1 - BOTH_SHARE, all: odds.map((o, i) => ({ of: [i], odds: o })) },
    { share: BOTH_SHARE, all: inTwos(odds, (i, j) => makesPair(i) && makesPair(j)) },
  ])
}

/** Likelihoods of a test's outcomes, outcome by outcome, under every hypothesis. */
function outcomeRows(test: PowerTest, causes: readonly PowerCause[], all: readonly Hypothesis[]): Row[] {
  const byHypothesis = all.map(({ of: [i, j] }) => {
    const [one, other] = [causes[i!]!.of, j === undefined ? undefined : causes[j]!.of]
    return other === undefined ? rowOf(test, one) : rowOfBoth(test, one, other)
  })
  const chance = SLIP / test.outcomes.length
  return test.outcomes.map((_, at) => {
    const clean = byHypothesis.map(row => (1 - SLIP) * row[at]!)
    return { clean, whole: clean.map(c => c + chance) }
  })
}

/** Moves the odds of a plan's causes by what was found, and says what to try next. */
export function believeSymptom(plan: Plan, { findings = [], ...about }: PowerCase): PowerBelief {
  const causes = causesOf(plan, about)
  const all = hypothesesOf(causes)
  const taken = findings.map(f => takenOf(plan, f, about.at))
  const rows = findings.flatMap(({ test: id }, place) => {
    const test = powerTest(id)!
    const at = test.outcomes.findIndex(o => o.id === taken[place]!.outcome)
    return at < 0 ? [] : [{ place, row: outcomeRows(test, causes, all)[at]! }]
  })
  const shares = movedByAll(
    all.map(h => h.odds),
    rows.map(r => r.row.whole),
  )
  const doubts = doubtsIn(
    rows.map(r => r.row),
    shares,
    DOUBTED,
  ).map(d => rows[d.index]!.place)
  const belief = { causes, all, shares }
  const each = eachCause(belief, shares)
  const believed = causes.map((c, i) => ({ ...c, probability: each[i]! })).sort((a, b) => b.probability - a.probability)
  const next = nextOf(belief, new Set(findings.map(f => f.test)), about.symptom)
  return { causes: believed, together: togetherOf(belief), taken, doubts, next }
}

function takenOf(plan: Plan, { test, outcome, read, before }: PowerFinding, at?: string): Taken {
  if (read === undefined) return { outcome: outcome ?? null, against: '' }
  return heldAgainst(plan, test, { read, ...(before !== undefined && { before }) }, at) ?? NOT_HELD
}
const NOT_HELD: Taken = { outcome: null, against: 'the plan has nothing to hold this figure against' }

interface Belief {
  causes: readonly PowerCause[]
  all: readonly Hypothesis[]
  shares: readonly number[]
}

/** How likely each cause is there, alone or with another. */
const eachCause = ({ causes, all }: Belief, odds: readonly number[]) =>
  eachOf(
    all.map(h => h.of),
    odds,
    causes.length,
  )

/** Pairs of kinds of causes, each with its likeliest places: which of several joints it is matters less. */
function togetherOf({ causes, all, shares }: Belief): PowerBelief['together'] {
  const kindsOf = ({ of }: Hypothesis) => of.map(i => causes[i]!.of).sort()
  const kinds = answersBy(all, h => kindsOf(h).join())
  const best = [...kinds.first]
  kinds.of.forEach((kind, h) => {
    if (shares[h]! > shares[best[kind]!]!) best[kind] = h
  })
  return [...massOf(kinds, shares)]
    .map((probability, kind) => ({ probability, of: all[best[kind]!]!.of }))
    .filter(k => k.of.length > 1 && k.probability >= LEAST_TOGETHER)
    .sort((a, b) => b.probability - a.probability)
    .slice(0, MOST_TOGETHER)
    .map(({ of, probability }) => {
      const [one, other] = [causes[of[0]!]!, causes[of[1]!]!]
      return { ids: [one.id, other.id], words: `${one.words}, and ${other.words}`, probability }
    })
}

function nextOf(belief: Belief, made: ReadonlySet<string>, symptom: Symptom): NextTest[] {
  const { causes, all, shares } = belief
  const fits = ({ id }: PowerTest) => ONLY_FOR[id]?.includes(symptom) ?? !NOT_FOR[symptom]?.includes(id)
  return POWER_TESTS.filter(t => !made.has(t.id) && fits(t))
    .map((test): NextTest => {
      const rows = outcomeRows(test, causes, all)
      const { bits, prospects } = toldBy(
        shares,
        rows.map(r => r.whole),
      )
      const outcomes = test.outcomes.map((o, at) => {
        const { probability, joint } = prospects[at]!
        const each = eachCause(belief, normalised(joint))
        const best = each.reduce((b, v, i) => (v > each[b]! ? i : b), 0)
        const sure = Math.round(100 * each[best]!)
        return { ...o, probability, cause: causes[best]!.id, means: `${causes[best]!.words}, ${sure} %` }
      })
      return { test, bits, rate: rateOf(bits, test), outcomes, metered: metered(test.id) }
    })
    .filter(t => t.bits > LEAST_BITS)
    .sort((a, b) => b.rate - a.rate)
    .slice(0, MOST_TESTS)
}

/** Tests that make sense with some symptoms alone. */
const CHARGING: readonly Symptom[] = ['will-not-charge', 'flat-overnight', 'weak-late']
const ONLY_FOR: Partial<Record<string, readonly Symptom[]>> = {
  'charger-shows': CHARGING,
  'charge-amps': CHARGING,
  warmed: ['will-not-charge'],
  'drain-all-off': ['flat-overnight', 'weak-late', 'fuse-blew'],
  'new-fuse-holds': ['fuse-blew'],
  'second-load': ['bank-sleeps'],
  'changeover-battery-in': ['resets-at-changeover'],
  'volts-at-port': ['low-voltage-port', 'behaves-oddly', 'bank-sleeps', 'cuts-out-on-transmit'],
}
/** Tests that say what the symptom has said. */
const NOT_FOR: Partial<Record<Symptom, readonly string[]>> = {
  'fuse-blew': ['fuse-whole'],
  'not-heard': ['direct-lead'],
}
