import { connector, STRONGER_CONNECTORS } from '../catalog/connectors'
import { fitsContact } from '../connector/fits'
import { conductorMm2 } from '../conductor/resistance'
import { fitEnd, setTerminalConnector } from '../edit/ends'
import type { LeadEnd } from '../edit/items'
import { inTurn, tryPatch } from '../edit/patch'
import { graphOf } from '../graph/graph'
import { leadById } from '../plan/find'
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
  const changes = plan.leads.flatMap(lead =>
    ENDS.flatMap(end => {
      const area = conductorMm2(lead.conductor)
      if (takes(lead, end, area)) return []
      const wanted = strongerFor(plan, lead, end, { area, amps: ampsOf(lead) })
      return wanted === null ? [] : [{ lead: lead.id, end, wanted }]
    }),
  )
  const edits = changes.map(({ lead: id, end, wanted }) => (now: Plan) => {
    const lead = leadById(now, id)!
    return [...fitEnd(now, lead, end, wanted), ...(setTerminalConnector(now, lead[end], wanted) ?? [])]
  })
  return edits.length ? tryPatch(plan, inTurn(plan, ...edits))! : plan
}
