import type { SolvedPlan } from '../circuit/matrix'
import { addItem, type LeadEnd } from '../edit/items'
import type { Lead, Plan } from '../plan/schema'
import { solvedAfter } from './conductor'
import type { Proposal } from './proposal'
import { asGiven } from '../units/number'

/** Currents silicon diodes of this use are sold for, A. */
const DIODE_RATINGS_A = [1, 3, 6, 10, 20, 30] as const

/** More than these in a row warm a lead for nothing: another way is better. */
const MOST_DIODES = 4

/** From the load, m. */
const FROM_LOAD_M = 0.2

/** The fewest diodes in series, rated for the current, put into a lead at the load's end, that pass. */
export function addDropperUntil(
  plan: Plan,
  { lead, end, activeA }: { lead: Lead; end: LeadEnd; activeA: number },
  passes: (solved: SolvedPlan) => boolean,
): Proposal | null {
  const ratedA = DIODE_RATINGS_A.find(a => a >= activeA * 1.2)
  if (ratedA === undefined) return null
  for (let count = 1; count <= MOST_DIODES; count++) {
    const item = { kind: 'dropper', count, ratedA, stripe: end, labelled: true } as const
    const patch = addItem(plan, lead.id, item, { end, fromEndM: FROM_LOAD_M })
    const solved = solvedAfter(plan, patch)
    if (!solved || !passes(solved)) continue
    const diodes = count === 1 ? 'Series diode' : `${count} diodes in series`
    return { label: `${diodes}, ${asGiven(ratedA)} A, stripe toward the load`, patch, cost: 'label the lead' }
  }
  return null
}
