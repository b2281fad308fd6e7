import { kindOf } from '../kinds/index'
import { nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import { shortSources } from '../protection/prospective'

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

/** Every breaker and switch of a plan, opened in turn. */
export function isolation(plan: Plan): Isolation[] {
  const landings = plan.leads.flatMap(l => [l.from, l.to])
  const terminals = plan.parts.flatMap(p =>
    kindOf(p)
      .terminals(p, landings)
      .map(t => t.id),
  )
  const inLeads = plan.leads.flatMap(lead =>
    (lead.inline ?? []).flatMap(item =>
      item.kind === 'breaker' || item.kind === 'switch'
        ? [
            {
              place: lead.id,
              item: item.id,
              kind: item.kind,
              words: `${item.kind === 'breaker' ? `${item.ratedA} A breaker` : 'switch'} in ${nameOf(lead)}`,
              ends: [lead.from, lead.to] as const,
            },
          ]
        : [],
    ),
  )
  const parts = plan.parts.flatMap(part =>
    part.kind === 'breaker'
      ? [
          {
            place: part.id,
            item: null,
            kind: 'breaker' as const,
            words: `${nameOf(part)} (${part.ratedA} A)`,
            ends: [`${part.id}.a`, `${part.id}.b`] as const,
          },
        ]
      : [],
  )
  if (!inLeads.length && !parts.length) return []
  const all = liveTerminals(plan, landings, null)
  return [...inLeads, ...parts].map(({ ends, ...breaker }) => {
    const live = liveTerminals(plan, landings, breaker.place)
    return {
      ...breaker,
      live: terminals.filter(t => live.has(t)),
      dead: terminals.filter(t => all.has(t) && !live.has(t)),
      bothSidesLive: ends.every(t => live.has(t)),
    }
  })
}

/** Terminals that have voltage with one lead or part open; what a converter feeds is live while the converter is. */
function liveTerminals(plan: Plan, landings: readonly string[], open: string | null): Set<string> {
  const near = new Map<string, string[]>()
  const join = (a: string, b: string) => {
    near.set(a, [...(near.get(a) ?? []), b])
    near.set(b, [...(near.get(b) ?? []), a])
  }
  const passes = new Map<string, string[]>()
  for (const part of plan.parts) {
    const closed = part.kind === 'breaker' ? { ...part, closed: true } : part
    if (part.id !== open) for (const { a, b } of kindOf(closed).links?.(closed, landings) ?? []) join(a, b)
    if (part.kind === 'converter') passes.set(`${part.id}.in`, [`${part.id}.out`])
    if (part.kind === 'gate')
      for (const side of ['supply', 'battery']) passes.set(`${part.id}.${side}`, [`${part.id}.out`])
  }
  for (const lead of plan.leads) if (lead.id !== open) join(lead.from, lead.to)
  const live = new Set<string>()
  // A charger or controller gives nothing by itself: it is live from the battery on it.
  const queue = plan.parts.flatMap(p =>
    p.kind === 'converter' || p.kind === 'charger' || p.kind === 'controller' ? [] : shortSources(p).map(s => s.at),
  )
  while (queue.length) {
    const t = queue.pop()!
    if (live.has(t)) continue
    live.add(t)
    queue.push(...(near.get(t) ?? []), ...(passes.get(t) ?? []))
  }
  return live
}
