import { applyEdit } from '../../core/edit/patch'
import type { Plan } from '../../core/plan/schema'
import { fixesOf, type Fix } from '../../core/verdict/fixes'
import { judge, subjectOf, type Finding, type Verdict } from '../../core/verdict/verdict'
import { dice, type Dice } from './randomPlans'

/** What came of taking fixes in a random order until none was left. */
export interface Walk {
  steps: number
  /** Fixes that were refused, left their own finding, brought something serious, or could not be undone to the byte. */
  wrong: string[]
  /** Dangers and failures at the end. */
  left: string[]
}

const isSerious = ({ severity }: { severity: string }) => severity === 'danger' || severity === 'fail'
/** So many fixes are more than any broken station needs. */
const MOST_STEPS = 60

/** Takes any fix of any finding, over and over. */
export function walkAnyOrder(start: Plan, seed: number): Walk {
  const d = dice(seed)
  const walk: Walk = { steps: 0, wrong: [], left: [] }
  let plan = start
  for (let step = 0; step < MOST_STEPS; step++) {
    const next = anyStep(plan, d, walk.wrong)
    if (!next) break
    plan = next
    walk.steps++
  }
  walk.left = judge(plan)
    .verdict.findings.filter(isSerious)
    .map(f => f.title)
  return walk
}

function anyStep(plan: Plan, d: Dice, wrong: string[]): Plan | null {
  const { study, verdict } = judge(plan)
  const open = verdict.findings.filter(f => f.severity !== 'note').map(f => ({ f, at: d.between(0, 1) }))
  for (const { f } of open.sort((a, b) => a.at - b.at)) {
    const fixes = fixesOf(f, study, verdict)
    if (!fixes.length) continue
    return taken(plan, { finding: f, fix: d.of(fixes), verdict }, wrong)
  }
  return null
}

function taken(
  plan: Plan,
  { finding, fix, verdict }: { finding: Finding; fix: Fix; verdict: Verdict },
  wrong: string[],
): Plan | null {
  const says = (what: string) => wrong.push(`${finding.key}, ${fix.label}: ${what}`)
  const edit = applyEdit(plan, fix.patch)
  if (!edit.ok) {
    says(`refused, ${edit.faults[0]!.wrong}`)
    return null
  }
  const after = judge(edit.plan).verdict.findings
  if (after.some(f => f.key === finding.key && f.severity === finding.severity)) says('leaves its finding')
  // One at the same place is the same, whichever lead stands there now.
  const before = new Set(verdict.findings.filter(isSerious).map(f => subjectOf(f.check, f)))
  for (const f of after) if (isSerious(f) && !before.has(subjectOf(f.check, f))) says(`brings ${f.title}`)
  const back = applyEdit(edit.plan, edit.undo)
  if (!back.ok || JSON.stringify(back.plan) !== JSON.stringify(plan)) says('is not undone to the byte')
  return edit.plan
}
