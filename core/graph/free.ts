import { gives, kindOf, type Part } from '../kinds/index'
import type { Plan } from '../plan/schema'
import { graphOf } from './graph'

/** Terminals of a plan that take another lead: unused ones, and studs. */
export function freeTerminals(plan: Plan): string[] {
  const graph = graphOf(plan)
  const used = new Set(graph.landings)
  return plan.parts
    .filter(p => kindOf(p).role !== 'load')
    .flatMap(part => {
      const { nextTerminal, entry } = kindOf(part)
      if (nextTerminal) return nextTerminal(part, graph.landings) ?? []
      const fedBy = gives(part) ? null : entry?.(part)
      return graph
        .terminalsOf(part.id)
        .filter(t => (!used.has(t.id) && t.id !== fedBy) || t.connector?.startsWith('ring-m'))
        .map(t => t.id)
    })
}

/** Unused ports on which loads are added, in order. */
export function freePorts(plan: Plan): string[] {
  return plan.parts.flatMap(part => freePortsOf(plan, part))
}

/** Unused ports of one part on which loads are added; none for a part that does not distribute. */
export function freePortsOf(plan: Plan, part: Part): string[] {
  const graph = graphOf(plan)
  const { ports } = kindOf(part)
  if (!ports?.distributes) return []
  const isPort = (t: string) => !ports.reserved.includes(t.slice(part.id.length + 1))
  return graph
    .terminalsOf(part.id)
    .map(t => t.id)
    .filter(t => isPort(t) && !graph.leadsAt(t).length)
}
