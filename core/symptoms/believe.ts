import { bitsOf, normalised, rateOf } from '../reason/odds'
import type { Plan } from '../plan/schema'
import { causesOf, type Case } from './causes'
import type { PowerCause, Symptom } from './symptom'
import { POWER_TESTS, powerTest, rowOf, type PowerTest } from './tests'

/** What was found: a test and its outcome. */
export interface PowerFinding {
  test: string
  outcome: string
}

export interface PowerCase extends Case {
  findings?: readonly PowerFinding[]
}

export interface BelievedCause extends PowerCause {
  probability: number
}

/** A test that tells something next, and what each of its outcomes would mean. */
export interface NextTest {
  test: PowerTest
  bits: number
  /** Bits for each minute and euro. */
  rate: number
  outcomes: { id: string; label: string; probability: number; means: string; cause: string }[]
}

export interface PowerBelief {
  causes: BelievedCause[]
  next: NextTest[]
  /** Findings that hardly any cause explains: likely slips, or something that is not in the list. */
  doubts: number[]
}

/** A test made or read wrongly gives any outcome. */
const SLIP = 0.03
/** A finding that the causes together expect less than this is doubted. */
const DOUBTED = 0.1
const LEAST_BITS = 0.02
const MOST_TESTS = 6

const slipped = (row: readonly number[]) => row.map(p => (1 - SLIP) * p + SLIP / row.length)

/** Moves the odds of a plan's causes by what was found, and says what to try next. */
export function believeSymptom(plan: Plan, { findings = [], ...about }: PowerCase): PowerBelief {
  const causes = causesOf(plan, about)
  let probabilities = normalised(causes.map(c => c.odds))
  const doubts: number[] = []
  findings.forEach(({ test: id, outcome }, n) => {
    const test = powerTest(id)!
    const at = test.outcomes.findIndex(o => o.id === outcome)
    const likelihoods = causes.map(c => slipped(rowOf(test, c.of))[at]!)
    const expected = likelihoods.reduce((sum, l, i) => sum + l * probabilities[i]!, 0)
    if (expected < DOUBTED) doubts.push(n)
    probabilities = normalised(probabilities.map((p, i) => p * likelihoods[i]!))
  })
  const made = new Set(findings.map(f => f.test))
  const believed = causes
    .map((c, i) => ({ ...c, probability: probabilities[i]! }))
    .sort((a, b) => b.probability - a.probability)
  return { causes: believed, doubts, next: nextOf(causes, probabilities, made, about.symptom) }
}

function nextOf(
  causes: readonly PowerCause[],
  probabilities: readonly number[],
  made: ReadonlySet<string>,
  symptom: Symptom,
): NextTest[] {
  const fits = ({ id }: PowerTest) => ONLY_FOR[id]?.includes(symptom) ?? !NOT_FOR[symptom]?.includes(id)
  return POWER_TESTS.filter(t => !made.has(t.id) && fits(t))
    .map((test): NextTest => {
      const rows = test.outcomes.map((_, at) => causes.map(c => slipped(rowOf(test, c.of))[at]!))
      const bits = bitsOf(probabilities, rows)
      const outcomes = test.outcomes.map((o, at) => {
        const joint = probabilities.map((p, i) => p * rows[at]![i]!)
        const probability = joint.reduce((s, v) => s + v, 0)
        const best = joint.reduce((b, v, i) => (v > joint[b]! ? i : b), 0)
        const sure = Math.round((100 * joint[best]!) / probability)
        return { ...o, probability, cause: causes[best]!.id, means: `${causes[best]!.words}, ${sure} %` }
      })
      return { test, bits, rate: rateOf(bits, test), outcomes }
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
