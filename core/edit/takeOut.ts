import { graphOf } from '../graph/graph'
import { reach } from '../graph/walk'
import { kindOf } from '../kinds/index'
import { leadsOf, partById, partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import { freePortsOf } from './add'
import { rejoin } from './between'
import { moveEnd } from './lead'
import { difference, tryPatch, type Patch } from './patch'
import { addPort } from './ports'
import { remove } from './remove'

/** Taking out what others hang on. */

/** Takes a part or lead out; one that stands in a way leaves the way whole. */
export function takeOut(plan: Plan, id: string): Patch {
  const part = partById(plan, id)
  const { between } = part ? kindOf(part) : {}
  const isOneWay = between && !hangsOn(plan, id).length
  const healed = isOneWay && rejoin(plan, id, `${id}.${between[0]}`, `${id}.${between[1]}`)
  // What else names the part goes with it.
  const next = healed && tryPatch(plan, healed)
  return next ? healed : remove(plan, id)
}

/** Several at once, as one edit. */
export function takeAllOut(plan: Plan, ids: readonly string[]): Patch {
  const next = ids.reduce((now, id) => {
    const isThere = now.parts.some(p => p.id === id) || now.leads.some(l => l.id === id)
    return (isThere && tryPatch(now, takeOut(now, id))) || now
  }, plan)
  return difference(plan, next)
}

/**
 * Leads from a part to what hangs on it: what becomes of them is asked before the part goes. Of a block those on its
 * ports; of a joint that branches those that come from no source.
 */
export function hangsOn(plan: Plan, id: string): string[] {
  const part = partById(plan, id)
  if (!part) return []
  const { ports, entry, between, nextTerminal } = kindOf(part)
  const leads = leadsOf(plan, id)
  if (ports?.distributes) return leads.filter(l => ![l.from, l.to].includes(entry?.(part) ?? '')).map(l => l.id)
  const branches = between && nextTerminal && leads.length > between.length
  return branches ? leads.filter(l => !comesFromSource(plan, l, id)).map(l => l.id) : []
}

/** Whether a source is found on from a lead's far end, the part that it leaves aside. */
function comesFromSource(plan: Plan, lead: Lead, leaving: string): boolean {
  const graph = graphOf(plan)
  const beyond = (id: string, { from, to }: Lead) => (partIdOf(from) === id ? partIdOf(to) : partIdOf(from))
  const next = (id: string) => graph.leadsOf(id).map(l => beyond(id, l))
  const found = reach([beyond(leaving, lead)], id => next(id).filter(other => other !== leaving))
  return [...found].some(id => kindOf(graph.parts.get(id)!).role === 'source')
}

/** Parts onto whose ports the leads of another can go. */
export const takersFor = (plan: Plan, id: string): string[] =>
  plan.parts.filter(p => p.id !== id && kindOf(p).ports?.distributes).map(p => p.id)

/** Takes a part out with what hangs on it moved onto the free ports of another, as many more as it takes. */
export function takeOutOnto(plan: Plan, id: string, ontoId: string): Patch {
  const moved = hangsOn(plan, id).reduce((now, leadId) => {
    const withPort = freePortsOf(now, partById(now, ontoId)!).length ? now : tryPatch(now, addPort(now, ontoId))
    const lead = withPort?.leads.find(l => l.id === leadId)
    const port = withPort && freePortsOf(withPort, partById(withPort, ontoId)!)[0]
    if (!withPort || !lead || port === undefined) return now
    return tryPatch(withPort, moveEnd(withPort, lead, partIdOf(lead.from) === id ? 'from' : 'to', port!)) ?? now
  }, plan)
  const next = tryPatch(moved, remove(moved, id))
  return next ? difference(plan, next) : []
}
