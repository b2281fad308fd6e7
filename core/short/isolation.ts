import { isSwitch } from '../graph/device'
import { graphOf, type Graph } from '../graph/graph'
import { ListMap, reach } from '../graph/walk'
import { kindOf } from '../kinds/index'
import { nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import { shortsByItself } from '../protection/prospective'
import { asGiven } from '../units/number'

/** What is still live with one breaker or switch open and all others closed. */
export interface Isolation {
  /** Lead or part it is in. */
  place: string
  item: string | null
  kind: 'breaker' | 'switch'
  words: string
  /** Terminals that a source still reaches. */
  live: string[]
  /** Terminals that it takes the voltage from. */
  dead: string[]
  /** A source stands on both of its sides: it has two live sides when it is open. */
  bothSidesLive: boolean
}

type Opened = Pick<Isolation, 'place' | 'item' | 'kind' | 'words'> & { ends: readonly [string, string] }

/** Every breaker and switch of a plan, opened in turn. */
export function isolation(plan: Plan): Isolation[] {
  const graph = graphOf(plan)
  const opened = [...switchesInLeads(plan), ...switchedParts(plan)]
  if (!opened.length) return []
  const terminals = [...graph.terminals.keys()]
  const all = liveTerminals(graph, null)
  return opened.map(({ ends, ...breaker }) => {
    const live = liveTerminals(graph, breaker.place)
    return {
      ...breaker,
      live: terminals.filter(t => live.has(t)),
      dead: terminals.filter(t => all.has(t) && !live.has(t)),
      bothSidesLive: ends.every(t => live.has(t)),
    }
  })
}

function switchesInLeads(plan: Plan): Opened[] {
  return plan.leads.flatMap(lead =>
    (lead.inline ?? []).filter(isSwitch).map((item): Opened => {
      const what = item.kind === 'breaker' ? `${asGiven(item.ratedA)} A breaker` : 'switch'
      return {
        place: lead.id,
        item: item.id,
        kind: item.kind,
        words: `${what} in ${nameOf(lead)}`,
        ends: [lead.from, lead.to],
      }
    }),
  )
}

function switchedParts(plan: Plan): Opened[] {
  return plan.parts.flatMap((part): Opened[] => {
    const opens = kindOf(part).opens?.(part)
    return opens ? [{ place: part.id, item: null, kind: 'breaker', words: opens.words, ends: opens.ends }] : []
  })
}

/** Terminals that have voltage with one lead or part open; what a converter feeds is live while the converter is. */
function liveTerminals(graph: Graph, open: string | null): Set<string> {
  const near = new ListMap<string, string>()
  const join = (a: string, b: string) => {
    near.put(a, b)
    near.put(b, a)
  }
  for (const { a, b, partId } of graph.closedLinks) if (partId !== open) join(a, b)
  for (const lead of graph.plan.leads) if (lead.id !== open) join(lead.from, lead.to)
  for (const { from, to } of graph.passes) near.put(from, to)
  // A charger or controller gives nothing by itself: it is live from the battery on it.
  const sources = graph.plan.parts.flatMap(p => shortsByItself(p).map(s => s.at))
  return reach(sources, t => near.at(t))
}
