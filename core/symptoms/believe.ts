import { bitsOf, movedBy, rateOf } from '../reason/odds'
import type { Plan } from '../plan/schema'
import { causesOf, type Case } from './causes'
import { eachOf, hypothesesOf, rowsOf, type Hypothesis } from './hypotheses'
import { heldAgainst, metered } from './meter'
import type { PowerCause, Symptom } from './symptom'
import type { PowerTest } from './rows'
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
  /** Findings that hardly any cause explains: likely slips, or something that is not in the list. */
  doubts: number[]
}

/** A test made or read wrongly gives any outcome. */
const SLIP = 0.03
/** A finding that the causes together expect less than this is doubted. */
const DOUBTED = 0.1
const LEAST_BITS = 0.02
const MOST_TESTS = 6
/** Two at once are told from here on. */
const LEAST_TOGETHER = 0.1
const MOST_TOGETHER = 2

const slipped = (row: readonly number[]) => row.map(p => (1 - SLIP) * p + SLIP / row.length)

/** Moves the odds of a plan's causes by what was found, and says what to try next. */
export function believeSymptom(plan: Plan, { findings = [], ...about }: PowerCase): PowerBelief {
  const causes = causesOf(plan, about)
  const all = hypothesesOf(causes)
  let shares = all.map(h => h.share)
  const doubts: number[] = []
  const taken = findings.map(f => takenOf(plan, f, about.at))
  findings.forEach(({ test: id }, n) => {
    const test = powerTest(id)!
    const at = test.outcomes.findIndex(o => o.id === taken[n]!.outcome)
    if (at < 0) return
    const likelihoods = rowsOf(test, causes, all).map(row => slipped(row)[at]!)
    const moved = movedBy(shares, likelihoods)
    if (moved.expected < DOUBTED) doubts.push(n)
    shares = moved.odds
  })
  const made = new Set(findings.map(f => f.test))
  const each = eachOf(causes, all, shares)
  const believed = causes.map((c, i) => ({ ...c, probability: each[i]! })).sort((a, b) => b.probability - a.probability)
  const next = nextOf({ causes, all, shares }, made, about.symptom)
  return { causes: believed, together: togetherOf({ causes, all, shares }), taken, doubts, next }
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

/** Pairs of kinds of causes, each with its likeliest places: which of several joints it is matters less. */
function togetherOf({ causes, all, shares }: Belief): PowerBelief['together'] {
  const kinds = new Map<string, { probability: number; best: number; pair: [PowerCause, PowerCause] }>()
  all.forEach(({ of: [i, j] }, h) => {
    if (j === undefined) return
    const pair: [PowerCause, PowerCause] = [causes[i!]!, causes[j]!]
    const kind = pair
      .map(c => c.of)
      .sort()
      .join()
    const known = kinds.get(kind)
    const [share, best] = [shares[h]!, known?.best ?? 0]
    const isBest = share > best
    kinds.set(kind, {
      probability: (known?.probability ?? 0) + share,
      best: Math.max(best, share),
      pair: isBest ? pair : known!.pair,
    })
  })
  return [...kinds.values()]
    .filter(k => k.probability >= LEAST_TOGETHER)
    .sort((a, b) => b.probability - a.probability)
    .slice(0, MOST_TOGETHER)
    .map(({ pair: [one, other], probability }) => ({
      ids: [one.id, other.id],
      words: `${one.words}, and ${other.words}`,
      probability,
    }))
}

function nextOf({ causes, all, shares }: Belief, made: ReadonlySet<string>, symptom: Symptom): NextTest[] {
  const fits = ({ id }: PowerTest) => ONLY_FOR[id]?.includes(symptom) ?? !NOT_FOR[symptom]?.includes(id)
  return POWER_TESTS.filter(t => !made.has(t.id) && fits(t))
    .map((test): NextTest => {
      const byHypothesis = rowsOf(test, causes, all).map(slipped)
      const rows = test.outcomes.map((_, at) => byHypothesis.map(row => row[at]!))
      const bits = bitsOf(shares, rows)
      const outcomes = test.outcomes.map((o, at) => {
        const joint = shares.map((p, i) => p * rows[at]![i]!)
        const probability = joint.reduce((s, v) => s + v, 0)
        const each = eachOf(causes, all, joint)
        const best = each.reduce((b, v, i) => (v > each[b]! ? i : b), 0)
        const sure = Math.round((100 * each[best]!) / probability)
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
