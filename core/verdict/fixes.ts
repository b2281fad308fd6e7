import { SEVERITIES } from '../checks/check'
import { CHECKS } from '../checks/index'
import type { Study } from '../study/study'
import type { Proposal } from '../fixes/proposal'
import { applyEdit, type Patch } from '../edit/patch'
import { judge, type Finding, type Verdict } from './verdict'

/** What the plan would show once a fix is taken. */
export interface After {
  /** The finding it was offered for is gone. */
  solves: boolean
  /** Findings that would then be left, as `check place`. */
  findings: string[]
  /** Findings that the fix brings, or makes more severe: the thing it makes worse. */
  worse: { check: string; place: string; title: string }[]
  /** Arriving voltages of the loads whose span changes by 1 mV or more, V. */
  arrivals: Record<string, { lowV: number; highV: number } | null>
}

export interface Fix extends Proposal {
  after: After
}

const byId = new Map(CHECKS.map(c => [c.id, c]))

/**
 * The fixes of a finding, each solved again. A fix whose patch does not fit is not offered; those that make something
 * worse stand last.
 */
export function fixesOf(finding: Finding, study: Study, before: Verdict): Fix[] {
  const proposals = byId.get(finding.check)?.fixes?.(finding, study) ?? []
  return proposals
    .flatMap((proposal): Fix[] => {
      const after = afterPatch(study, proposal.patch, finding, before)
      return after ? [{ ...proposal, after }] : []
    })
    .sort((a, b) => Number(b.after.solves) - Number(a.after.solves) || a.after.worse.length - b.after.worse.length)
}

function afterPatch(study: Study, patch: Patch, finding: Finding, before: Verdict): After | null {
  const edit = applyEdit(study.plan, patch)
  if (!edit.ok) return null
  const { verdict } = judge(edit.plan)
  const earlier = new Map(before.findings.map(f => [`${f.check} ${f.place}`, f]))
  const worse = verdict.findings.filter(f => {
    const was = earlier.get(`${f.check} ${f.place}`)
    return !was || SEVERITIES.indexOf(f.severity) < SEVERITIES.indexOf(was.severity)
  })
  return {
    solves: !verdict.findings.some(f => f.check === finding.check && f.place === finding.place),
    findings: verdict.findings.map(f => `${f.check} ${f.place}`),
    worse: worse.map(({ check, place, title }) => ({ check, place, title })),
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
