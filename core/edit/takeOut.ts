import { kindOf } from '../kinds/index'
import { leadsOf, partById, partIdOf } from '../plan/find'
import type { Plan } from '../plan/schema'
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
  const healed = between && rejoin(plan, id, `${id}.${between[0]}`, `${id}.${between[1]}`)
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

/** Leads from a part's ports to what hangs on it: what becomes of them is asked before the part goes. */
export function hangsOn(plan: Plan, id: string): string[] {
  const part = partById(plan, id)
  const { ports, entry } = part ? kindOf(part) : {}
  if (!part || !ports?.distributes) return []
  return leadsOf(plan, id)
    .filter(l => ![l.from, l.to].includes(entry?.(part) ?? ''))
    .map(l => l.id)
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
