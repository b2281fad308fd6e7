import { gives, isLoad, kindOf, type Part } from '../kinds/index'
import { partById, partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import { deviceKey } from './device'
import { graphOf } from './graph'
import { ListMap, reach } from './walk'

/** What does not conduct: leads, fuses and breakers inside parts (by their key), whole parts. */
export interface Broken {
  leads?: ReadonlySet<string>
  devices?: ReadonlySet<string>
  parts?: ReadonlySet<string>
}

/** Loads to which something that gives has a way, whatever the volts. */
export function fedIn(plan: Plan, broken: Broken = {}): Set<string> {
  const reached = reachedBy(plan, p => !kindOf(p).needsController, broken)
  return new Set(plan.parts.filter(p => isLoad(p) && reached.has(p.id)).map(p => p.id))
}

type IsSource = (part: Part) => boolean

/** What gives, stores first; a panel gives where nothing else does. */
const FEEDS: readonly IsSource[] = [p => !kindOf(p).needsController, p => kindOf(p).stores === true, () => true]
/** What charges stores, a panel as well. */
const CHARGES: IsSource = p => !kindOf(p).stores

/**
 * The end at which a lead is fed: the one that something which gives still reaches without it. Where both are, the
 * one toward a store, or for a charger toward what charges; else one of them, whichever it is told from.
 */
export function fedEnd(plan: Plan, { id, from, to }: Lead, isCharger = false): 'from' | 'to' {
  for (const isSource of isCharger ? [CHARGES, ...FEEDS] : FEEDS) {
    const reached = reachedBy(plan, isSource, { leads: new Set([id]) })
    if (reached.has(from) !== reached.has(to)) return reached.has(from) ? 'from' : 'to'
  }
  return from < to ? 'from' : 'to'
}

/** Terminals to which some of what gives has a way. */
function reachedBy(plan: Plan, isSource: IsSource, { leads, devices, parts }: Broken): Set<string> {
  const { terminalsOf, closedLinks, passes } = graphOf(plan)
  const next = new ListMap<string, string>()
  // A source that is dead still has posts that leads meet on.
  const dead = new Set([...(parts ?? [])].filter(id => !gives(partById(plan, id)!)))
  const isWhole = (terminal: string) => !dead.has(partIdOf(terminal))
  const join = (a: string, b: string) => {
    if (!isWhole(a) || !isWhole(b)) return
    next.put(a, b)
    next.put(b, a)
  }
  for (const { id, from, to } of plan.leads) if (!leads?.has(id)) join(from, to)
  for (const { a, b, device } of closedLinks) if (!device || !devices?.has(deviceKey(device))) join(a, b)
  for (const { from, to } of passes) if (isWhole(from)) next.put(from, to)
  const sources = plan.parts.filter(p => gives(p) && isSource(p) && !parts?.has(p.id))
  return reach(
    sources.flatMap(p => terminalsOf(p.id).map(t => t.id)),
    t => next.at(t),
  )
}

/** Terminals that hang together with some, whichever way it goes. */
export function hangingWith(plan: Plan, terminals: readonly string[]): Set<string> {
  const { links, passes } = graphOf(plan)
  const near = new ListMap<string, string>()
  const ways = [
    ...plan.leads.map(l => [l.from, l.to]),
    ...links.map(l => [l.a, l.b]),
    ...passes.map(p => [p.from, p.to]),
  ]
  for (const [a, b] of ways as [string, string][]) {
    near.put(a, b)
    near.put(b, a)
  }
  return reach(terminals, t => near.at(t))
}
