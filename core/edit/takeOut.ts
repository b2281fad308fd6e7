import { graphOf } from '../graph/graph'
import { reach } from '../graph/walk'
import { kindOf } from '../kinds/index'
import { leadsOf, partById, partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import { freePortsOf } from '../graph/free'
import { rejoin } from './between'
import { moveEnd } from './lead'
import { difference, tryPatch, type Patch } from './patch'
import { addPort } from './ports'
import { remove } from './remove'

/** Taking out what others hang on. */

/** Takes a part or lead out; one that stands in a way leaves the way whole, one where ways part takes them along. */
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

/**
 * Leads from a part to what hangs on it: what becomes of them is asked before the part goes. Of a block those on its
 * ports, of another part those to loads that nothing would feed without it; a source is taken out unasked.
 */
export function hangsOn(plan: Plan, id: string): string[] {
  const part = partById(plan, id)
  if (!part || kindOf(part).role !== 'between') return []
  const { ports, entry } = kindOf(part)
  const leads = leadsOf(plan, id)
  const isOnPort = (l: Lead) => ports?.distributes && ![l.from, l.to].includes(entry?.(part) ?? '')
  const next = tryPatch(plan, takeOut(plan, id))
  const after = next ? fedParts(next) : new Set()
  const lost = [...fedParts(plan)].filter(p => p !== id && !after.has(p) && kindOf(partById(plan, p)!).role === 'load')
  return leads.filter(l => isOnPort(l) || lost.some(load => beyond(plan, l, id).has(load))).map(l => l.id)
}

/** Everything that leads join to, from some parts on. */
function joinedTo(plan: Plan, from: readonly string[], without?: string): Set<string> {
  const graph = graphOf(plan)
  const ends = (id: string) => graph.leadsOf(id).flatMap(l => [partIdOf(l.from), partIdOf(l.to)])
  return reach(from, id => ends(id).filter(other => other !== without))
}

const fedParts = (plan: Plan) =>
  joinedTo(
    plan,
    plan.parts.filter(p => kindOf(p).role === 'source').map(p => p.id),
  )

/** What is found on from a lead's far end, the part that it leaves aside. */
const beyond = (plan: Plan, { from, to }: Lead, leaving: string) =>
  joinedTo(
    plan,
    [from, to].map(partIdOf).filter(id => id !== leaving),
    leaving,
  )

/** Parts onto whose ports the leads of another can go: none that would itself be left without a source by it. */
export function takersFor(plan: Plan, id: string): string[] {
  const next = tryPatch(plan, takeOut(plan, id))
  const [before, after] = [fedParts(plan), next ? fedParts(next) : new Set()]
  const falls = (part: string) => before.has(part) && !after.has(part)
  return plan.parts.filter(p => p.id !== id && kindOf(p).ports?.distributes && !falls(p.id)).map(p => p.id)
}

/** Takes a part out with what hangs on it moved onto the free ports of another, as many more as it takes. */
export function takeOutOnto(plan: Plan, id: string, ontoId: string): Patch {
  const moved = hangsOn(plan, id).reduce((now, leadId) => {
    const withPort = freePortsOf(now, partById(now, ontoId)!).length ? now : tryPatch(now, addPort(now, ontoId))
    const lead = withPort?.leads.find(l => l.id === leadId)
    const port = withPort && freePortsOf(withPort, partById(withPort, ontoId)!)[0]
    if (!withPort || !lead || port === undefined) return now
    return tryPatch(withPort, moveEnd(withPort, lead, partIdOf(lead.from) === id ? 'from' : 'to', port!)) ?? now
  }, plan)
  const next = tryPatch(moved, takeOut(moved, id))
  return next ? difference(plan, next) : []
}
