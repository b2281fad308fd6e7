import { conductorName } from '../conductor/resistance'
import { kindOf } from '../kinds/index'
import type { FormField } from '../kinds/kind'
import { partById, partIdOf } from '../plan/find'
import type { Conductor, Lead, Plan } from '../plan/schema'
import { fitPortFuse, fittingEnds } from './add'
import { landEnd } from './ends'
import { setLength, type LeadEnd } from './items'
import { tryPatch, type Patch } from './patch'
import { setField } from './set'

/** What is done to a lead by hand. */

/** Other leads of the same conductor: what is bought by the reel is changed by the reel. */
export function leadsAlike(plan: Plan, lead: Lead): Lead[] {
  const key = (l: Lead) => `${conductorName(l.conductor)} ${l.conductor.material ?? 'copper'}`
  return plan.leads.filter(l => l.id !== lead.id && key(l) === key(lead))
}

/** Another size for leads; insulation and material stay. */
export const setConductors = (plan: Plan, leads: readonly Lead[], size: Conductor): Patch =>
  leads.flatMap(lead => {
    const { insulationC, material } = lead.conductor
    const kept = { ...(insulationC !== undefined && { insulationC }), ...(material && { material }) }
    return setField(plan, lead.id, 'conductor', { ...size, ...kept })
  })

/**
 * A lead's end on another terminal: with the connector that goes onto it, and a fuse on that port that fits what the
 * lead feeds.
 */
export function moveEnd(plan: Plan, lead: Lead, end: LeadEnd, terminal: string): Patch {
  if (lead[end] === terminal) return []
  const landed = landEnd(plan, lead, end, terminal)
  const next = tryPatch(plan, landed)
  if (!next) return landed
  const moved = next.leads.find(l => l.id === lead.id)!
  const fitted = fittingEnds(next, moved.from, moved.to)[end]
  const far = partById(plan, partIdOf(lead[end === 'from' ? 'to' : 'from']))
  const isFed = far && kindOf(far).role === 'load'
  return [
    ...landed,
    ...(fitted && fitted.connector !== lead.ends?.[end]?.connector
      ? setField(plan, lead.id, `ends.${end}`, fitted)
      : []),
    ...(isFed ? fitPortFuse(next, far, terminal, moved) : []),
  ]
}

/** Sets a field of a lead as its form enters it. */
export function enterLead(plan: Plan, lead: Lead, { path }: FormField, value: unknown): Patch {
  if (path === 'conductor') return setConductors(plan, [lead], value as Conductor)
  if (path === 'lengthM' && (value as number) > 0) return setLength(plan, lead, value as number)
  if ((path === 'from' || path === 'to') && typeof value === 'string') return moveEnd(plan, lead, path, value)
  return setField(plan, lead.id, path, value)
}

/** Sets a field of a lead's end; one that was not said begins as a bare one. */
export function enterEnd(plan: Plan, lead: Lead, end: LeadEnd, [path, value]: readonly [string, unknown]): Patch {
  const known = lead.ends?.[end] ?? { connector: 'bare' }
  const { [path as 'method']: _before, ...others } = known
  return setField(plan, lead.id, `ends.${end}`, value === undefined ? others : { ...known, [path]: value })
}
