import { CHECKS } from '../checks/index'
import type { Severity } from '../checks/check'
import type { Patch } from '../edit/patch'
import type { Study } from '../study/study'
import { capital } from '../units/words'
import type { Proposal } from '../fixes/proposal'
import { completed, isMended, severityRank, type Completed } from './consequences'
import type { Finding, Verdict } from './verdict'

/** What the plan would show once a fix is taken. */
export interface After {
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
 * The fixes of a finding, each with its consequences and solved again. Offered is what mends it and holds; what brings
 * something less stands last.
 */
export function fixesOf(finding: Finding, study: Study, before: Verdict): Fix[] {
  return completedFixes(finding, study, before)
    .map((fix): Fix => ({ ...fix.proposal, label: capital(fix.proposal.label), after: afterOf(fix, before) }))
    .sort((a, b) => a.after.worse.length - b.after.worse.length)
}

/** The same as they are solved, in the check's order. */
export function completedFixes(finding: Finding, study: Study, before: Verdict): Completed[] {
  const fixes = [...completing(finding, study, before, () => true)]
  // Two that were proposed may come to the same once what belongs to them has come along.
  const patches = fixes.map(({ proposal }) => JSON.stringify(proposal.patch))
  return fixes.filter((_, i) => patches.indexOf(patches[i]!) === i)
}

/** The first of them of which all that it changes may be changed; what none may is not solved. */
export function firstFixThat(finding: Finding, study: Study, before: Verdict, mayChange: MayChange): Completed | null {
  for (const fix of completing(finding, study, before, mayChange)) return fix
  return null
}

type MayChange = (patch: Patch) => boolean

function* completing(finding: Finding, study: Study, before: Verdict, mayChange: MayChange): Generator<Completed> {
  const proposals = byId.get(finding.check)?.fixes?.(finding, study) ?? []
  // What comes along with a proposal takes back nothing of what that changes.
  for (const proposal of proposals.filter(p => mayChange(p.patch))) {
    const fix = completed(study, finding, proposal, before)
    if (fix && isMended(finding, fix.verdict) && holds(fix, finding) && mayChange(fix.proposal.patch)) yield fix
  }
}

/**
 * Nothing that it brings is as bad as what it mends, and no danger and no failure at all: so every fix taken leaves
 * less of the worst, and taking fixes ends.
 */
const holds = ({ worse }: Completed, finding: Finding) =>
  worse.every(w => w.severity !== 'danger' && w.severity !== 'fail' && severityRank(w) > severityRank(finding))

function afterOf({ verdict, worse }: Completed, before: Verdict): After {
  return {
    findings: verdict.findings.map(f => `${f.check} ${f.place}`),
    worse: worse.map(({ check, place, severity, title }) => ({ check, place, severity, title })),
    arrivals: Object.fromEntries(
      Object.entries(verdict.arrivals).flatMap(([id, span]) => {
        const was = before.arrivals[id]
        return hasMoved(was ?? null, span) ? [[id, span && { lowV: span.low.value, highV: span.high.value }]] : []
      }),
    ),
  }
}

type Span = Verdict['arrivals'][string]

/** A voltage that changes by less is the same, V. */
const SAME_V = 1e-3

function hasMoved(was: Span, span: Span): boolean {
  if (!was || !span) return was !== span
  const apart = (end: 'low' | 'high') => Math.abs(was[end].value - span[end].value)
  return apart('low') >= SAME_V || apart('high') >= SAME_V
}
