import { believeSymptom, type PowerBelief } from '../../core/symptoms/believe'
import { readSymptomText } from '../../core/symptoms/readCase'
import { percent } from '../../core/units/show'
import { out, printJson, refuse, Refusal, type Command } from '../command'
import { fileOf, planNamed, readBytes } from '../inputs'

const RIGHT = 'the path of a wireman-symptom file'
const MOST_SHOWN = 6

export const symptoms: Command = {
  name: 'symptoms',
  takes: 'CASE.json',
  options: { plan: { value: 'PLAN.json' }, json: {} },
  help: `What a power symptom comes of: causes ranked from the plan's own numbers and what was found, and the tests that
tell most for each minute and euro, with what each outcome would mean. CASE.json is a wireman-symptom file: a symptom,
the load it is about, findings (a test and its outcome). Exit 0. Exit 2: it cannot be read.`,
  run(call) {
    const path = call.value('plan') ?? refuse('--plan', 'no plan is named', 'the path of a wireman-plan file')
    const plan = planNamed(path)
    const file = fileOf(call)
    const read = readSymptomText(readBytes(file, RIGHT).toString('utf8'), plan)
    if (!read.ok) throw new Refusal(read.faults, `${file} cannot be taken:`)
    const belief = believeSymptom(plan, read.case)
    if (call.json) printJson(asJson(belief))
    else print(belief)
    return 0
  },
}

const asJson = ({ causes, next, doubts }: PowerBelief) => ({
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
  doubts,
})

function print({ causes, next, doubts }: PowerBelief) {
  for (const c of causes.slice(0, MOST_SHOWN)) out(`${percent(c.probability)}  ${c.words}${c.why && ` (${c.why})`}`)
  for (const n of doubts) out(`finding ${n + 1} fits hardly any of these: was it read right?`)
  for (const { test, outcomes } of next.slice(0, 3)) {
    out(`next: ${test.label} (${test.minutes} min)`)
    if (test.caution) out(`  mind: ${test.caution}`)
    for (const o of outcomes) out(`  ${o.label} (${percent(o.probability)}): ${o.means}`)
  }
}
