import { connector, STRONGER_CONNECTORS } from '../catalog/connectors'
import { fitsContact } from '../connector/fits'
import { conductorMm2 } from '../conductor/resistance'
import { fitEnd } from '../edit/ends'
import type { LeadEnd } from '../edit/items'
import { inTurn, tryPatch } from '../edit/patch'
import { setField } from '../edit/set'
import { graphOf } from '../graph/graph'
import { leadById, partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import type { Study } from '../study/study'

/** Which contacts take a conductor: those a lead has, or others where both sides of the mating may be changed. */

const ENDS: readonly LeadEnd[] = ['from', 'to']

/** What a contact must take and carry. */
interface Asked {
  area: number
  amps: number
}

/** Whether a lead's end takes a conductor: what is fitted there, where anything is. */
function takes({ ends }: Lead, end: LeadEnd, area: number): boolean {
  const fitted = ends?.[end]
  return !fitted || fitsContact(fitted.connector, area)
}

/** The least family that takes the conductor, where the terminal's can be changed with it; null where none or not. */
function strongerFor(plan: Plan, lead: Lead, end: LeadEnd, { area, amps }: Asked): string | null {
  const graph = graphOf(plan)
  const isFree = graph.terminals.get(lead[end])!.fields?.connector !== undefined
  if (!isFree || graph.leadsAt(lead[end]).length > 1) return null
  return STRONGER_CONNECTORS.find(id => fitsContact(id, area) && connector(id).ratedA! >= amps) ?? null
}

/** Whether both ends of a lead take a conductor, or did not take the one that is in it either. */
export function takenByEnds(study: Study, lead: Lead, area: number, relaxed: boolean): boolean {
  const amps = study.leadAmps(lead).value
  const canTake = (end: LeadEnd) =>
    takes(lead, end, area) || strongerFor(study.plan, lead, end, { area, amps }) !== null
  return ENDS.every(end => canTake(end) || (relaxed && !takes(lead, end, conductorMm2(lead.conductor))))
}

/** The plan with contacts, on both sides of a mating, that take the conductors its leads have. */
export function withContacts(plan: Plan, ampsOf: (lead: Lead) => number): Plan {
  const { terminals } = graphOf(plan)
  const edits = plan.leads.flatMap(lead =>
    ENDS.flatMap(end => {
      const area = conductorMm2(lead.conductor)
      if (takes(lead, end, area)) return []
      const wanted = strongerFor(plan, lead, end, { area, amps: ampsOf(lead) })
      if (wanted === null) return []
      const at = lead[end]
      // Where a terminal's family is said stays the same: the graph of each plan on the way is not needed.
      const field = terminals.get(at)!.fields!.connector!
      return [
        (now: Plan) => [
          ...fitEnd(now, leadById(now, lead.id)!, end, wanted),
          ...setField(now, partIdOf(at), field, wanted),
        ],
      ]
    }),
  )
  return edits.length ? tryPatch(plan, inTurn(plan, ...edits))! : plan
}
