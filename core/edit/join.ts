import { freeTerminals } from '../graph/free'
import { graphOf } from '../graph/graph'
import { gives, isLoad, kindOf } from '../kinds/index'
import { leadById, leadsOf, partById, partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import { feedPart, usualConductor } from './add'
import { moveEnd } from './lead'
import type { LeadEnd } from './items'
import type { Patch } from './patch'

/** Joining what is chosen to another place: a lead's end to a terminal, a part's feed to a port. */

/** What is moved: one end of a lead. */
export interface Loose {
  lead: Lead
  end: LeadEnd
}

/** How long a new lead is where nobody has said it, m. */
const NEW_LEAD_M = 1

/** The end of the lead that feeds a part, at the side it is fed from; null where nothing feeds it yet. */
export function feedOf(plan: Plan, partId: string): Loose | null {
  const part = partById(plan, partId)
  if (!part) return null
  const entry = kindOf(part).entry?.(part) ?? part.id
  const lead = leadsOf(plan, partId).find(l => l.from === entry || l.to === entry)
  return lead ? { lead, end: lead.to === entry ? 'from' : 'to' } : null
}

/** Terminals on which the end of a lead can land: free ones, studs, and loads that nothing feeds. */
export function landingsFor(plan: Plan, { lead, end }: Loose): string[] {
  const other = partIdOf(lead[end === 'from' ? 'to' : 'from'])
  const taken = new Set(graphOf(plan).landings)
  const unfed = plan.parts
    .filter(p => isLoad(p) || gives(p))
    .flatMap(p =>
      kindOf(p)
        .terminals(p, [])
        .map(t => t.id),
    )
    .filter(t => !taken.has(t))
  return [...new Set([...freeTerminals(plan), ...unfed])].filter(t => partIdOf(t) !== other && t !== lead[end])
}

/** Terminals from which a part that nothing feeds can be fed. */
export function feedsFor(plan: Plan, partId: string): string[] {
  const part = partById(plan, partId)
  // A generator has no DC terminal on which a lead could land.
  if (!part || !kindOf(part).terminals(part, []).length) return []
  return freeTerminals(plan).filter(t => partIdOf(t) !== partId)
}

/** Lands the end of a lead on a terminal; feeds a part from it, by its own lead or by a new one. */
export function join(plan: Plan, what: Loose | { partId: string }, terminal: string): Patch {
  const loose = 'partId' in what ? feedOf(plan, what.partId) : what
  if (loose) return moveEnd(plan, leadById(plan, loose.lead.id)!, loose.end, terminal)
  const part = 'partId' in what ? partById(plan, what.partId) : undefined
  return part ? feedPart(plan, part, { terminal, lengthM: NEW_LEAD_M, conductor: usualConductor(plan) }) : []
}
