import { SEVERITIES, type Severity } from '../checks/check'
import { CHECKS } from '../checks/index'
import type { Study } from '../study/study'
import type { Proposal } from '../fixes/proposal'
import { applyEdit, type Patch } from '../edit/patch'
import { judge, subjectOf, type Finding, type Verdict } from './verdict'

/** What the plan would show once a fix is taken. */
export interface After {
  /** The finding it was offered for is gone, or less than it was. */
  solves: boolean
  /** Findings that would then be left, as `check place`. */
  findings: string[]
  /** Findings that the fix brings, or makes more severe: the thing it makes worse. */
  worse: { check: string; place: string; severity: Severity; title: string }[]
  /** Arriving voltages of the loads whose span changes by 1 mV or more, V. */
  arrivals: Record<string, { lowV: number; highV: number } | null>
}

export interface Fix extends Proposal {
  after: After
}

const byId = new Map(CHECKS.map(c => [c.id, c]))

/**
 * The fixes of a finding, each solved again. Offered is what mends it, and brings no danger and no failure; what brings
 * less than that stands last.
 */
export function fixesOf(finding: Finding, study: Study, before: Verdict): Fix[] {
  const proposals = byId.get(finding.check)?.fixes?.(finding, study) ?? []
  return proposals
    .flatMap((proposal): Fix[] => {
      const after = afterPatch(study, proposal.patch, finding, before)
      return after && holds(after) ? [{ ...proposal, after }] : []
    })
    .sort((a, b) => a.after.worse.length - b.after.worse.length)
}

const holds = ({ solves, worse }: After) => solves && !worse.some(w => w.severity === 'danger' || w.severity === 'fail')

function afterPatch(study: Study, patch: Patch, finding: Finding, before: Verdict): After | null {
  const edit = applyEdit(study.plan, patch)
  if (!edit.ok) return null
  const { verdict } = judge(edit.plan)
  const subject = (f: Finding) => subjectOf(f.check, f)
  const earlier = new Map(before.findings.map(f => [subject(f), f]))
  const isWorse = (f: Finding, was: Finding) => SEVERITIES.indexOf(f.severity) < SEVERITIES.indexOf(was.severity)
  const worse = verdict.findings.filter(f => {
    const was = earlier.get(subject(f))
    return !was || isWorse(f, was)
  })
  const left = verdict.findings.filter(f => subject(f) === subject(finding))
  return {
    solves: left.every(f => isWorse(finding, f)),
    findings: verdict.findings.map(f => `${f.check} ${f.place}`),
    worse: worse.map(({ check, place, severity, title }) => ({ check, place, severity, title })),
    arrivals: Object.fromEntries(
      Object.entries(verdict.arrivals).flatMap(([id, span]) => {
        const was = before.arrivals[id]
        const changed =
          !was !== !span ||
          (was &&
            span &&
            (Math.abs(was.low.value - span.low.value) >= 1e-3 || Math.abs(was.high.value - span.high.value) >= 1e-3))
        return changed ? [[id, span && { lowV: span.low.value, highV: span.high.value }]] : []
      }),
    ),
  }
}
