import { believeSymptom, type PowerBelief } from '../../core/symptoms/believe'
import { readSymptomText } from '../../core/symptoms/readCase'
import type { Plan } from '../../core/plan/schema'
import type { JointState } from '../../core/readings/joints'
import { daysOf, standingOf } from '../../core/readings/trend'
import { percent } from '../../core/units/show'
import { out, printJson, refuse, Refusal, type Call, type Command } from '../command'
import { fileOf, planNamed, readBytes, readingsIn } from '../inputs'
import { asGiven } from '../../core/units/number'

const RIGHT = 'the path of a wireman-symptom file'
const MOST_SHOWN = 6

export const symptoms: Command = {
  name: 'symptoms',
  takes: 'CASE.json',
  options: { plan: { value: 'PLAN.json' }, readings: { value: 'READINGS.csv' }, json: {} },
  help: `What a power symptom comes of: causes ranked from the plan's own numbers and what was found, and the tests that
tell most for each minute and euro, with what each outcome would mean. CASE.json is a wireman-symptom file: a symptom,
the load it is about, findings (a test and its outcome, or the figure that a meter showed). With --readings what was
read of the joints counts too: a file as for ./run readings. Exit 0. Exit 2: it cannot be read.`,
  run(call) {
    const path = call.value('plan') ?? refuse('--plan', 'no plan is named', 'the path of a wireman-plan file')
    const plan = planNamed(call, path)
    const file = fileOf(call)
    const read = readSymptomText(readBytes(file, RIGHT).toString('utf8'), plan)
    if (!read.ok) throw new Refusal(read.faults, `${file} cannot be taken:`)
    const belief = believeSymptom(plan, { ...read.case, joints: jointsIn(call, plan) })
    if (call.json) printJson(asJson(belief))
    else print(belief)
    return 0
  },
}

/** The joints as readings have them; none without. */
function jointsIn(call: Call, plan: Plan): JointState[] {
  const path = call.value('readings')
  if (path === undefined) return []
  const read = readingsIn(path, plan)
  return standingOf(daysOf(plan, read.readings, read.seen)).map(s => s.state)
}

const asJson = ({ causes, together, next, doubts, taken }: PowerBelief) => ({
  causes: causes.map(({ id, of, place, words, why, probability }) => ({ id, of, place, words, why, probability })),
  next: next.map(({ test, bits, rate, outcomes }) => ({
    test: test.id,
    label: test.label,
    minutes: test.minutes,
    euro: test.euro,
    ...(test.caution && { caution: test.caution }),
    bits,
    rate,
    outcomes,
  })),
  together,
  taken,
  doubts,
})

function print({ causes, together, next, doubts, taken }: PowerBelief) {
  for (const c of causes.slice(0, MOST_SHOWN)) out(`${percent(c.probability)}  ${c.words}${c.why && ` (${c.why})`}`)
  for (const { words, probability } of together) out(`${percent(probability)}  both: ${words}`)
  for (const [n, { outcome, against }] of taken.entries())
    if (against) out(`finding ${n + 1}: ${outcome ?? 'not counted'} (${against})`)
  for (const n of doubts) out(`finding ${n + 1} fits hardly any of these: was it read right?`)
  for (const { test, outcomes } of next.slice(0, 3)) {
    out(`next: ${test.label} (${asGiven(test.minutes)} min)`)
    if (test.caution) out(`  mind: ${test.caution}`)
    for (const o of outcomes) out(`  ${o.label} (${percent(o.probability)}): ${o.means}`)
  }
}
