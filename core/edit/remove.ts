import { kindOf } from '../kinds/index'
import { leadById, partIdOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import type { Patch } from './patch'

/** Takes a part out with every lead on it and every mention of it, or a lead. */
export function remove(plan: Plan, id: string): Patch {
  if (leadById(plan, id)) return [...hookUps(plan, [id]), ...removeAll(plan, [id])]
  const leads = plan.leads.filter(l => partIdOf(l.from) === id || partIdOf(l.to) === id).map(l => l.id)
  return [...mentions(plan, id), ...hookUps(plan, leads), ...removeAll(plan, [...leads, id])]
}

/**
 * Takes parts and leads out by their ids, from the end of each list, so that what is left keeps its place until then.
 */
export function removeAll(plan: Plan, ids: readonly string[]): Patch {
  const gone = new Set(ids)
  const last = (list: readonly { id: string }[], name: string): Patch =>
    list
      .map((item, i) => (gone.has(item.id) ? i : -1))
      .filter(i => i >= 0)
      .reverse()
      .map(i => ({ op: 'remove', path: `/${name}/${i}` }))
  return [...last(plan.leads, 'leads'), ...last(plan.parts, 'parts')]
}

/** Places in the owner's own hook-up order that name leads. */
const hookUps = (plan: Plan, leadIds: readonly string[]): Patch =>
  (plan.hookUp ?? [])
    .map((lead, i) => (leadIds.includes(lead) ? i : -1))
    .filter(i => i >= 0)
    .reverse()
    .map(i => ({ op: 'remove', path: `/hookUp/${i}` }))

/** Places that name a part: load states, followers, what hangs on a generator or an inverter. */
function mentions(plan: Plan, id: string): Patch {
  const named = (entry: unknown) => (typeof entry === 'string' ? entry : (entry as { part?: string }).part)
  const states = (plan.loadStates ?? []).flatMap((state, s) =>
    inList(`/loadStates/${s}/active`, state.active.map(named), id),
  )
  const inParts = plan.parts.flatMap((part, i) =>
    part.id === id ? [] : (kindOf(part).mentions?.(part) ?? []).flatMap(m => mentionIn(`/parts/${i}`, m, id)),
  )
  return [...states, ...inParts]
}

const mentionIn = (
  root: string,
  { field, ids }: { field: string; ids: string | readonly string[] },
  id: string,
): Patch => {
  const path = `${root}/${field.replaceAll('.', '/')}`
  if (typeof ids === 'string') return ids === id ? [{ op: 'remove', path }] : []
  return inList(path, ids, id)
}

const inList = (path: string, ids: readonly (string | undefined)[], id: string): Patch =>
  ids
    .map((other, i) => (other === id ? i : -1))
    .filter(i => i >= 0)
    .reverse()
    .map(i => ({ op: 'remove', path: `${path}/${i}` }))
