import type { SolvedPlan } from '../circuit/matrix'
import { pathOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import { solvedAfter } from './conductor'
import type { Proposal } from './proposal'

/** Currents silicon diodes of this use are sold for, A. */
const DIODE_RATINGS_A = [1, 3, 6, 10, 20, 30] as const

/** The fewest diodes in series, rated for the current, put into a lead at the load's end, that pass. */
export function addDropperUntil(
  plan: Plan,
  lead: Lead,
  loadEnd: 'from' | 'to',
  activeA: number,
  passes: (solved: SolvedPlan) => boolean,
): Proposal | null {
  const ratedA = DIODE_RATINGS_A.find(a => a >= activeA * 1.2)
  if (ratedA === undefined) return null
  for (let count = 1; count <= 4; count++) {
    const item = {
      id: `d${(lead.inline?.length ?? 0) + 1}`,
      kind: 'dropper',
      count,
      ratedA,
      stripe: loadEnd,
      labelled: true,
      atM: Number((loadEnd === 'to' ? Math.max(0, lead.lengthM - 0.2) : Math.min(0.2, lead.lengthM)).toFixed(3)),
    }
    const path = `${pathOf(plan, lead.id)}/inline`
    const patch = lead.inline
      ? [{ op: 'add' as const, path: `${path}/-`, value: item }]
      : [{ op: 'add' as const, path, value: [item] }]
    const solved = solvedAfter(plan, patch)
    if (solved && passes(solved)) {
      return {
        label: `${count === 1 ? 'Series diode' : `${count} diodes in series`}, ${ratedA} A, stripe toward the load`,
        patch,
        cost: 'label the lead',
      }
    }
  }
  return null
}
