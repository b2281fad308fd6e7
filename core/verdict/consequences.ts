import { SEVERITIES } from '../checks/check'
import { CHECKS } from '../checks/index'
import { applyEdit, type Patch } from '../edit/patch'
import type { Proposal } from '../fixes/proposal'
import type { Study } from '../study/study'
import { capital, eachOnce, listed, lowered } from '../units/words'
import { judge, subjectOf, type Finding, type Verdict } from './verdict'

/** A change with all that has to change along with it, solved. */
export interface Completed {
  proposal: Proposal
  /** What it is made of: what was proposed, and what comes along. */
  steps: Proposal[]
  study: Study
  verdict: Verdict
  /** What it still brings that was not there, or makes more severe. */
  worse: Finding[]
}

/** What a change starts from: a study is one. */
type Start = Pick<Study, 'plan' | 'shelf'>

const CHECK_OF = new Map(CHECKS.map(c => [c.id, c]))

/** So many further changes belong to one at most. */
const MOST_CONSEQUENCES = 4
/** So many ways are tried for each. */
const MOST_WAYS = 3

/** What the operator wants of the station: its power, where things stand, how it is used. No consequence changes it. */
const WANTED = /\/(powerW|draw|lengthM|usableFraction|stopV|charged|follows|loadStates)(\/|$)/

const keepsWhatIsWanted = ({ patch }: Proposal) => !patch.some(op => WANTED.test(op.path))

type Op = Patch[number]
const setsAgain = (then: Proposal, op: Op) => then.patch.some(later => later.path === op.path)

/** Whether all that a change sets is set anew by a later one: the later stands in its stead. */
const isReplaced = (first: Proposal, then: Proposal) =>
  first.patch.every(op => op.op === 'replace') && first.patch.every(op => setsAgain(then, op))

/** Whether a change sets anew a part of what one before it sets: the two would say two things of one field. */
const contradicts = (steps: readonly Proposal[], then: Proposal) =>
  steps.some(step => step.patch.some(op => setsAgain(then, op)) && !isReplaced(step, then))

/** 0 for a danger, 3 for a note. */
export const severityRank = (f: Finding) => SEVERITIES.indexOf(f.severity)
const subject = (f: Finding) => subjectOf(f.check, f)

/** Findings that were not there, or were less severe. */
export function worseThan(before: Verdict, after: Verdict): Finding[] {
  const earlier = new Map(before.findings.map(f => [subject(f), f]))
  return after.findings.filter(f => {
    const was = earlier.get(subject(f))
    return !was || severityRank(f) < severityRank(was)
  })
}

/** Whether a finding is gone from a verdict, or less than it was. */
export const isMended = (finding: Finding, after: Verdict): boolean =>
  after.findings.every(f => subject(f) !== subject(finding) || severityRank(f) > severityRank(finding))

/**
 * A proposal with its consequences: a thicker lead brings the contacts that take it, a larger fuse what stands behind
 * it. Each thing it brings that is wrong is mended in turn, as long as what it was proposed for stays mended.
 * @returns null where the proposal does not fit the plan
 */
export function completed(start: Start, finding: Finding, proposal: Proposal, before: Verdict): Completed | null {
  const first = solved(start, proposal, before)
  if (!first) return null
  let now = first
  for (let n = 0; n < MOST_CONSEQUENCES; n++) {
    const next = mendedOnce(now, finding, before)
    if (!next) break
    now = next
  }
  return now
}

function solved({ plan, shelf }: Start, proposal: Proposal, before: Verdict): Completed | null {
  const edit = applyEdit(plan, proposal.patch)
  if (!edit.ok) return null
  const { study, verdict } = judge(edit.plan, shelf)
  return { proposal, steps: [proposal], study, verdict, worse: worseThan(before, verdict) }
}

/** One more change, for the worst of what the ones before it brought. */
function mendedOnce(now: Completed, finding: Finding, before: Verdict): Completed | null {
  for (const bad of now.worse.filter(f => f.severity !== 'note')) {
    const ways = CHECK_OF.get(bad.check)?.fixes?.(bad, now.study) ?? []
    const fitting = ways.filter(way => keepsWhatIsWanted(way) && !contradicts(now.steps, way))
    for (const way of fitting.slice(0, MOST_WAYS)) {
      const next = solved(now.study, way, before)
      if (!next || !isMended(finding, next.verdict) || !isLess(next.worse, now.worse)) continue
      return joined(now, next)
    }
  }
  return null
}

/** Fewer of the worst, or as many of them and fewer of the next. */
export function isLess(a: readonly Finding[], b: readonly Finding[]): boolean {
  for (const severity of SEVERITIES) {
    const count = (list: readonly Finding[]) => list.filter(f => f.severity === severity).length
    if (count(a) !== count(b)) return count(a) < count(b)
  }
  return false
}

/** Two changes as one; what comes along is named in the order in which it comes. */
function joined(first: Completed, then: Completed): Completed {
  const steps = [...first.steps.filter(step => !isReplaced(step, then.proposal)), then.proposal]
  const [main, ...also] = steps as [Proposal, ...Proposal[]]
  const label = capital(main.label) + (also.length ? `, with ${listed(eachOnce(also.map(s => lowered(s.label))))}` : '')
  const cost = steps.flatMap(s => s.cost ?? []).join('; ')
  return { ...then, steps, proposal: { label, patch: steps.flatMap(s => s.patch), ...(cost && { cost }) } }
}
