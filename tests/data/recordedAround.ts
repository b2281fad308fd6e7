import { weighed, type Found } from '../../core/checks/check'
import { CHECKS } from '../../core/checks/index'
import type { Plan } from '../../core/plan/schema'
import { studyOf } from '../../core/study/study'
import { around, wordsOf } from './around'
import { PAIRS } from './pairs'

/**
 * Around every plan that makes a check fire: what changes where one thing of the plan is changed. What is not kept
 * here changed nothing. Whole answers, as in `recorded.ts`.
 */

const WORDS = wordsOf(Object.values(PAIRS).map(pair => pair.fires))

const told = (f: Found) => `${f.severity} ${f.place} ${f.condition ?? ''}: ${f.message}`

/** The check's own findings, with what it would propose. */
function answerOf(id: string, plan: Plan) {
  const study = studyOf(plan)
  const check = CHECKS.find(c => c.id === id)!
  return check.find(study).map(found => ({
    said: told(weighed(plan, found)),
    numbers: found.numbers,
    proposed: (check.fixes?.(found, study) ?? []).map(({ label, patch }) => [label, patch]),
  }))
}

export function changesAround(id: string, plan: Plan) {
  const base = JSON.stringify(answerOf(id, plan))
  const answers = [...around(plan, WORDS)].map(([change, other]) => [change, answerOf(id, other)] as const)
  return Object.fromEntries(answers.filter(([, answer]) => JSON.stringify(answer) !== base))
}
