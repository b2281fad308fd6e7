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

/**
 * The family for one end: the one it has if that takes the conductor, else the least that does where the terminal's can
 * be changed with it; null where neither.
 */
function contactFor(plan: Plan, lead: Lead, end: LeadEnd, { area, amps }: Asked): string | null {
  const fitted = lead.ends?.[end]?.connector
  if (fitted === undefined || fitsContact(fitted, area)) return fitted ?? ''
  const graph = graphOf(plan)
  const isFree =
    graph.terminals.get(lead[end])?.fields?.connector !== undefined && graph.leadsAt(lead[end]).length === 1
  if (!isFree) return null
  return STRONGER_CONNECTORS.find(id => fitsContact(id, area) && connector(id).ratedA! >= amps) ?? null
}

/** Whether both ends of a lead take a conductor, or did not take the one that is in it either. */
export function takenByEnds(study: Study, lead: Lead, area: number, relaxed: boolean): boolean {
  const amps = study.leadAmps(lead).value
  const misfits = (end: LeadEnd) => contactFor(study.plan, lead, end, { area, amps }) === null
  const fitsNow = (end: LeadEnd) => fitsContact(lead.ends![end]!.connector, conductorMm2(lead.conductor))
  return ENDS.every(end => !misfits(end) || (relaxed && !fitsNow(end)))
}

/** The plan with contacts, on both sides of a mating, that take the conductors its leads have. */
export function withContacts(plan: Plan, ampsOf: (lead: Lead) => number): Plan {
  const changes = plan.leads.flatMap(lead =>
    ENDS.flatMap(end => {
      const fitted = lead.ends?.[end]?.connector
      const wanted = contactFor(plan, lead, end, { area: conductorMm2(lead.conductor), amps: ampsOf(lead) })
      return !wanted || wanted === fitted ? [] : [{ lead: lead.id, end, wanted }]
    }),
  )
  const edits = changes.map(({ lead: id, end, wanted }) => (now: Plan) => {
    const lead = leadById(now, id)!
    return [...fitEnd(now, lead, end, wanted), ...(setTerminalConnector(now, lead[end], wanted) ?? [])]
  })
  return edits.length ? tryPatch(plan, inTurn(plan, ...edits))! : plan
}
