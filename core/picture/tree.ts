import { graphOf } from '../graph/graph'
import { ListMap } from '../graph/walk'
import { gives, isLoad, kindOf } from '../kinds/index'
import { partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'

/** A lead of the tree, from the part nearer the source to the one it feeds. */
export interface Edge {
  lead: Lead
  parent: string
  child: string
  parentTerminal: string
}

/**
 * The tree of the path: each part under the first one by which a source reaches it. Leads beyond it are ties. What
 * fills a battery
 * (panel, controller, charger, a supply or vehicle behind them) is a feeder of it: `feeders` names what each stands
 * under.
 */
export interface PathTree {
  roots: string[]
  children: ReadonlyMap<string, readonly Edge[]>
  ties: Lead[]
  islands: string[]
  feeders: { id: string; under: string }[]
}

export function pathTree(plan: Plan): PathTree {
  const growing = new Growing(plan)
  const roots = plan.parts.filter(gives).map(p => p.id)
  growing.grow(roots)
  const feeders = growing.findFeeders(roots)
  const islands = growing.findIslands()
  return {
    roots,
    children: growing.sortedChildren(),
    ties: plan.leads.filter(l => !growing.used.has(l.id)),
    islands,
    feeders,
  }
}

/** The tree while it grows. */
class Growing {
  readonly used = new Set<string>()
  private readonly graph
  private readonly children = new Map<string, Edge[]>()
  private readonly seen = new Set<string>()
  private readonly filling: ReadonlySet<string>

  constructor(private readonly plan: Plan) {
    this.graph = graphOf(plan)
    const fills = plan.parts.filter(p => kindOf(p).stands?.(p, this.graph.landings) === 'fills')
    this.filling = new Set(fills.map(p => p.id))
  }

  /** Reaches out from parts, breadth first; what only fills a battery is no part of the way. */
  grow(from: readonly string[]) {
    for (const id of from) this.seen.add(id)
    const waiting = [...from]
    for (let id = waiting.shift(); id !== undefined; id = waiting.shift()) {
      for (const lead of this.graph.leadsOf(id)) {
        const outward = partIdOf(lead.from) === id
        const child = partIdOf(outward ? lead.to : lead.from)
        if (this.seen.has(child) || this.filling.has(child)) continue
        this.seen.add(child)
        this.used.add(lead.id)
        const edge = { lead, parent: id, child, parentTerminal: outward ? lead.from : lead.to }
        this.children.set(id, [...(this.children.get(id) ?? []), edge])
        waiting.push(child)
      }
    }
  }

  /** What stands under a root and fills it, and what stands under that. */
  findFeeders(roots: readonly string[]): PathTree['feeders'] {
    const feeders: PathTree['feeders'] = []
    const standing = new Set(roots.filter(id => this.children.has(id)))
    const waiting = [...standing]
    for (let id = waiting.shift(); id !== undefined; id = waiting.shift()) {
      for (const lead of this.graph.leadsOf(id)) {
        const other = partIdOf(lead.from) === id ? partIdOf(lead.to) : partIdOf(lead.from)
        if (standing.has(other) || !this.isFeeder(other)) continue
        standing.add(other)
        this.seen.add(other)
        feeders.push({ id: other, under: id })
        waiting.unshift(other)
      }
    }
    return feeders
  }

  private isFeeder(id: string): boolean {
    return this.filling.has(id) || (gives(this.graph.parts.get(id)!) && !this.children.has(id))
  }

  /** Parts that no source reaches: those that are no loads first, since loads may hang on them. */
  findIslands(): string[] {
    const islands: string[] = []
    const last = (id: string) => Number(isLoad(this.graph.parts.get(id)!))
    for (const { id } of [...this.plan.parts].sort((a, b) => last(a.id) - last(b.id))) {
      if (this.seen.has(id)) continue
      islands.push(id)
      this.grow([id])
    }
    return islands
  }

  /** Each part's ways on, in the order of its terminals. */
  sortedChildren(): Map<string, Edge[]> {
    const place = new ListMap<string, number>()
    ;[...this.graph.terminals.keys()].forEach((t, i) => place.put(t, i))
    const order = (edge: Edge) => place.at(edge.parentTerminal)[0] ?? 0
    for (const edges of this.children.values()) edges.sort((a, b) => order(a) - order(b))
    return this.children
  }
}
