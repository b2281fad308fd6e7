import { arrivalSpan, solveCorners, type Extreme, type SolvedPlan } from '../circuit/matrix'
import { loadsOf } from '../circuit/conditions'
import { SEVERITIES, weighed, type Check, type Found, type Severity } from '../checks/check'
import { CHECKS } from '../checks/index'
import { Study } from '../study/study'
import { shelfFor, type ShelfItem } from '../shelf/item'
import type { Plan } from '../plan/schema'
import { capital } from '../units/words'

/** A finding as it is shown: which check, and a key that stays the same while the plan is edited elsewhere. */
export interface Finding extends Found {
  check: string
  key: string
  why: string
}

/** Voltages that arrive at a load over all conditions. */
export interface Arrival {
  low: Extreme
  high: Extreme
}

export interface Verdict {
  /** Worst first. */
  findings: Finding[]
  /** Ids of the checks that found nothing. */
  passed: string[]
  /** By load id; null where nothing arrives. */
  arrivals: Record<string, Arrival | null>
}

const rank = (severity: Severity) => SEVERITIES.indexOf(severity)

/** Every check on a plan that has been read by readPlan. */
export function judge(plan: Plan, shelf: readonly ShelfItem[] = []): { verdict: Verdict; study: Study } {
  const study = new Study(solveCorners(plan), shelfFor(plan, shelf))
  return { verdict: verdictOf(study), study }
}

export function verdictOf(study: Study): Verdict {
  const findings: Finding[] = []
  const passed: string[] = []
  for (const check of CHECKS) {
    const found = made(check, study)
    if (!found.length) passed.push(check.id)
    for (const f of found) findings.push({ ...f, check: check.id, key: keyOf(check.id, f), why: check.why })
  }
  findings.sort((a, b) => rank(a.severity) - rank(b.severity))
  return { findings, passed, arrivals: arrivalsOf(study.solved) }
}

/** "Just over 10 A …": what is held against a limit is told in small letters, wherever it stands. */
const begun = (found: Found): Found => ({ ...found, title: asBegun(found.title), message: asBegun(found.message) })
const asBegun = (text: string) => (text.startsWith('just ') ? capital(text) : text)

/** A check that throws costs only itself: it says that it was not made. */
function made(check: Check, study: Study): Found[] {
  try {
    return check.find(study).map(f => begun(weighed(study.plan, f)))
  } catch (error) {
    return [
      {
        severity: 'caution',
        place: study.plan.parts[0]?.id ?? '',
        condition: null,
        title: `Not checked: ${check.title.charAt(0).toLowerCase()}${check.title.slice(1)}`,
        message: `A fault in Wireman kept the check ${check.id} from being made (${(error as Error).message}).`,
        numbers: {},
      },
    ]
  }
}

/** What a finding is about, whatever else takes part: the same before and after a change beside it. */
export const subjectOf = (check: string, { place, item }: Pick<Found, 'place' | 'item'>) =>
  `${check} ${place}${item ? `/${item}` : ''}`

const keyOf = (check: string, found: Found) =>
  `${subjectOf(check, found)}${found.also?.length ? ` ${found.also.join(' ')}` : ''}`

function arrivalsOf(solved: SolvedPlan): Verdict['arrivals'] {
  return Object.fromEntries(loadsOf(solved.plan).map(l => [l.id, arrivalSpan(solved, l.id)]))
}
