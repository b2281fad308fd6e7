import { kindOf, gives } from '../kinds/index'
import { freeId, partIdOf, valueAt } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import { freePorts } from '../graph/free'
import { feedOf } from './join'
import { moveEnd } from './lead'
import { difference, tryPatch, type Patch } from './patch'

/** A branch of a path: some parts with all that only they feed, and the leads among them. */
export interface Branch {
  parts: Plan['parts']
  leads: Lead[]
  /** Leads by which it was fed, with the end that is loose. */
  feeds: { lead: Lead; end: 'from' | 'to' }[]
}

/** Parts that sources reach without going through any of `without`. */
function reached(plan: Plan, without: ReadonlySet<string>): Set<string> {
  const seen = new Set(plan.parts.filter(p => gives(p) && !without.has(p.id)).map(p => p.id))
  const queue = [...seen]
  while (queue.length) {
    const at = queue.pop()!
    for (const { from, to } of plan.leads) {
      const ends = [partIdOf(from), partIdOf(to)]
      const next = ends.includes(at) ? ends.find(e => e !== at) : undefined
      if (next === undefined || seen.has(next) || without.has(next)) continue
      seen.add(next)
      queue.push(next)
    }
  }
  return seen
}

/** The chosen parts and all that is fed through them alone. */
export function branchOf(plan: Plan, ids: readonly string[]): Branch {
  const chosen = new Set(ids)
  const withThem = reached(plan, new Set())
  const withoutThem = reached(plan, chosen)
  const inIt = new Set([...chosen, ...[...withThem].filter(id => !withoutThem.has(id))])
  const parts = plan.parts.filter(p => inIt.has(p.id))
  const isIn = (terminal: string) => inIt.has(partIdOf(terminal))
  const feeds = parts.flatMap(p => {
    const feed = gives(p) ? null : feedOf(plan, p.id)
    return feed && !isIn(feed.lead[feed.end]) ? [feed] : []
  })
  return { parts, leads: plan.leads.filter(l => isIn(l.from) && isIn(l.to)), feeds }
}

/**
 * Puts a copy of a branch into a plan, under ids of its own, its feeding leads on free ports as far as there are any.
 * What it mentioned and is not there is left out.
 */
export function pasteBranch(plan: Plan, branch: Branch): Patch {
  let next = structuredClone(plan)
  const renamed = new Map<string, string>()
  for (const part of branch.parts) {
    renamed.set(part.id, freeId(next, part.id))
    const copy = { ...structuredClone(part), id: renamed.get(part.id)! }
    if (copy.zone !== undefined && !next.site?.zones?.some(z => z.id === copy.zone)) delete copy.zone
    next.parts.push(copy)
  }
  for (const part of next.parts.slice(plan.parts.length)) keepMentions(part, renamed)
  const moved = (terminal: string) => {
    const id = partIdOf(terminal)
    return (renamed.get(id) ?? id) + terminal.slice(id.length)
  }
  for (const lead of branch.leads)
    next.leads.push({ ...structuredClone(lead), id: freeId(next, lead.id), from: moved(lead.from), to: moved(lead.to) })
  for (const { lead, end } of branch.feeds) {
    const [port] = freePorts(next).filter(t => ![...renamed.values()].includes(partIdOf(t)))
    if (port === undefined) continue
    const near = end === 'from' ? 'to' : 'from'
    const copy = { ...structuredClone(lead), id: freeId(next, lead.id), [end]: port, [near]: moved(lead[near]) }
    // Landed once to be there, once more so that its end and the port's fuse fit.
    const landed: Plan = { ...next, leads: [...next.leads, { ...copy, [end]: lead[end] }] }
    next = tryPatch(landed, moveEnd(landed, landed.leads.at(-1)!, end, port)) ?? {
      ...next,
      leads: [...next.leads, copy],
    }
  }
  return difference(plan, next)
}

/** Other parts that a copy names: those copied with it under their new ids, others not. */
function keepMentions(part: Plan['parts'][number], renamed: ReadonlyMap<string, string>) {
  for (const { field, ids } of kindOf(part).mentions?.(part) ?? []) {
    const keys = field.split('.')
    const last = keys.pop()!
    const owner = (keys.length ? valueAt(part, keys.join('.')) : part) as Record<string, unknown>
    const kept = (typeof ids === 'string' ? [ids] : ids).flatMap(id => renamed.get(id) ?? [])
    if (!kept.length) delete owner[last]
    else owner[last] = typeof ids === 'string' ? kept[0] : kept
  }
}
