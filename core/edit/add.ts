import { fittingRatings } from '../fuse/fuse'
import { largestFuseA } from '../conductor/ampacity'
import { graphOf } from '../graph/graph'
import { gives, kindOf, type Part } from '../kinds/index'
import { ampsAbout } from '../kinds/draw'
import { freeId, partById, partIdOf } from '../plan/find'
import { siteOf, type Conductor, type Lead, type Plan } from '../plan/schema'
import { freshEnd, setDevice } from './ends'
import { tryPatch, type Patch } from './patch'

/** Edits that add something, as patches. None of them checks the plan: applyEdit does. */

export const appendPart = (part: Part): Patch => [{ op: 'add', path: '/parts/-', value: part }]
export const appendLead = (lead: Lead): Patch => [{ op: 'add', path: '/leads/-', value: lead }]

/** A part without its id, as the catalogue has it, under an id not yet taken. */
export function identified(plan: Plan, part: Omit<Part, 'id'>, stem: string): Part {
  return { ...structuredClone(part), id: freeId(plan, stem) } as Part
}

/** What goes onto a terminal: its own family; a fork under a screw. */
function endFor(plan: Plan, terminal: string) {
  const part = partById(plan, partIdOf(terminal))
  const landings = [...graphOf(plan).landings, terminal]
  const found =
    part &&
    kindOf(part)
      .terminals(part, landings)
      .find(t => t.id === terminal)
  return found?.connector === undefined ? undefined : freshEnd(counterpart(found.connector))
}

/** The family that goes onto a terminal's: a fork under a screw. */
export const counterpart = (connectorId: string) =>
  connectorId === 'screw' || connectorId === 'post-4mm' ? 'fork' : connectorId

/** Ends that fit the two terminals, where the plan says what those are. */
export function fittingEnds(plan: Plan, from: string, to: string): NonNullable<Lead['ends']> {
  const [fromEnd, toEnd] = [endFor(plan, from), endFor(plan, to)]
  return { ...(fromEnd && { from: fromEnd }), ...(toEnd && { to: toEnd }) }
}

/** How long a new lead is and of what. */
export interface NewLead {
  lengthM: number
  conductor: Conductor
}

/** A new lead between two terminals, ends made to fit. */
function newLead(plan: Plan, from: string, to: string, { lengthM, conductor }: NewLead): Lead {
  return { id: freeId(plan, 'l'), from, to, lengthM, conductor, ends: fittingEnds(plan, from, to) }
}

/** A lead between two terminals of the plan. */
export const addLeadBetween = (plan: Plan, from: string, to: string, lead: NewLead): Patch =>
  appendLead(newLead(plan, from, to, lead))

/** Adds a part on a terminal with a lead to it, and a port fuse that fits its current where the port's does not. */
export function addPartAt(
  plan: Plan,
  part: Omit<Part, 'id'>,
  { stem, terminal, ...lead }: NewLead & { stem: string; terminal: string },
): { patch: Patch; id: string } {
  const added = identified(plan, part, stem)
  const withPart = appendPart(added)
  const landing = kindOf(added).entry?.(added) ?? added.id
  const [from, to] = gives(added) ? [landing, terminal] : [terminal, landing]
  const joined = newLead(tryPatch(plan, withPart)!, from, to, lead)
  return { patch: [...withPart, ...appendLead(joined), ...fitPortFuse(plan, added, terminal, lead)], id: added.id }
}

/** A lead to a part that the plan has already, from a terminal, with its port's fuse made to fit. */
export function feedPart(plan: Plan, part: Part, { terminal, ...lead }: NewLead & { terminal: string }): Patch {
  const landing = kindOf(part).entry?.(part) ?? part.id
  return [...addLeadBetween(plan, terminal, landing, lead), ...fitPortFuse(plan, part, terminal, lead)]
}

/** The port's fuse made to fit what the part takes and what the conductor carries. */
export function fitPortFuse(
  plan: Plan,
  part: Part,
  terminal: string,
  { conductor }: Pick<NewLead, 'conductor'>,
): Patch {
  const sink = kindOf(part).sink?.(part, true)
  const opener = graphOf(plan).terminals.get(terminal)?.opener
  if (!sink || opener?.kind !== 'fuse') return []
  const { ambientC, ampacity } = siteOf(plan)
  const ratedA = fittingRatings(opener.type, ampsAbout(sink), largestFuseA(conductor, ampacity, ambientC.high))[0]
  if (ratedA === undefined || ratedA === opener.ratedA) return []
  return setDevice(plan, { place: terminal, item: null, ...opener }, 'ratedA', ratedA) ?? []
}

/** The conductor that most of the plan's leads to loads have, or most of all: what a new lead is offered with. */
export function usualConductor(plan: Plan): Conductor {
  const loads = new Set(plan.parts.filter(p => kindOf(p).role === 'load').map(p => p.id))
  const toLoads = plan.leads.filter(l => loads.has(partIdOf(l.from)) || loads.has(partIdOf(l.to)))
  const counts = new Map<string, { n: number; conductor: Conductor }>()
  for (const { conductor } of toLoads.length ? toLoads : plan.leads) {
    const key = JSON.stringify(conductor)
    counts.set(key, { n: (counts.get(key)?.n ?? 0) + 1, conductor })
  }
  return [...counts.values()].sort((a, b) => b.n - a.n)[0]?.conductor ?? { awg: 12, insulationC: 105 }
}
