import { gives, isLoad, kindOf } from '../kinds/index'
import { partById, partIdOf } from '../plan/find'
import type { Plan } from '../plan/schema'
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
export function fedIn(plan: Plan, { leads, devices, parts }: Broken = {}): Set<string> {
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
  const sources = plan.parts.filter(p => gives(p) && !kindOf(p).needsController && !parts?.has(p.id))
  const reached = reach(
    sources.flatMap(p => terminalsOf(p.id).map(t => t.id)),
    t => next.at(t),
  )
  return new Set(plan.parts.filter(p => isLoad(p) && reached.has(p.id)).map(p => p.id))
}
