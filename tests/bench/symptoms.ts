import { believeSymptom, type PowerFinding } from '../../core/symptoms/believe'
import { demoPlan } from '../data/plans'
import { hiddenCause } from '../data/symptomCases'

const STATIONS = ['clean-bench', 'tern-rock-light', 'narrowboat-heron', 'moor-walk-kit'] as const
const CASES = 200
const MOST_TESTS = 5
const SURE = 0.9
/** Classes that an operator treats alike: a lead's joint, shared or not; a pack that is empty, or sags. */
const ALIKE: readonly (readonly string[])[] = [
  ['joint', 'shared'],
  ['empty', 'sag', 'aged'],
  ['rf', 'antenna'],
]
const isAlike = (a: string, b: string) => a === b || ALIKE.some(g => g.includes(a) && g.includes(b))

/** Stations that cut out on transmit, each test's outcome by its circuit: how often what is said is so. */
export function benchSymptoms(print: (line: string) => void) {
  const plans = STATIONS.map(demoPlan)
  const bins = Array.from({ length: 5 }, () => ({ said: 0, right: 0 }))
  let [cases, found, tests, ms] = [0, 0, 0, 0]
  for (let seed = 1; cases < CASES && seed < 40 * CASES; seed++) {
    const plan = plans[seed % plans.length]!
    const hidden = hiddenCause(plan, seed)
    if (!hidden) continue
    cases++
    const findings: PowerFinding[] = []
    const began = performance.now()
    const about = { symptom: 'cuts-out-on-transmit', at: hidden.at } as const
    let belief = believeSymptom(plan, about)
    while (findings.length < MOST_TESTS && belief.causes[0]!.probability < SURE) {
      const finding = belief.next.map(n => hidden.outcome(n.test.id)).find(f => f !== null)
      if (!finding) break
      findings.push(finding)
      belief = believeSymptom(plan, { ...about, findings })
    }
    ms += performance.now() - began
    tests += findings.length
    const [best] = belief.causes
    // What is said of a class of causes is the sum over its places.
    const sure = belief.causes.reduce((sum, c) => sum + (isAlike(c.of, best!.of) ? c.probability : 0), 0)
    const isRight = isAlike(best!.of, hidden.of)
    if (isRight) found++
    const bin = bins[Math.min(4, Math.floor(5 * Math.min(0.999, sure)))]!
    bin.said++
    if (isRight) bin.right++
  }
  const of = (n: number, all: number) => `${((100 * n) / Math.max(1, all)).toFixed(0)} %`
  print(
    `symptoms, cuts out on transmit, tests by the circuit: right kind of cause first in ${of(found, cases)} of ` +
      `${cases} after ${(tests / cases).toFixed(1)} tests; ${(ms / cases).toFixed(0)} ms a case`,
  )
  bins.forEach(({ said, right }, i) => {
    if (said) print(`symptoms, sure of ${20 * i}–${20 * i + 20} %: ${said} times, right in ${of(right, said)}`)
  })
}
