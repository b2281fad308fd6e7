import { kindOf, type Part } from '../kinds/index'
import type { Around, Link, Pass, Terminal } from '../kinds/kind'
import { partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import { deviceAt, devicesIn, type Device } from './device'
import { ListMap, reach } from './walk'

/** A resistance inside a part, with the fuse or breaker that sits in it. */
export interface InnerLink extends Link {
  partId: string
  device: Device | null
}

/**
 * A plan as parts, terminals and what joins them: the one place where circuit, protection, short study, isolation,
 * hook-up order and
 * picture learn how a station hangs together.
 */
export interface Graph {
  plan: Plan
  /** Terminals that leads land on. */
  landings: readonly string[]
  parts: ReadonlyMap<string, Part>
  leads: ReadonlyMap<string, Lead>
  terminals: ReadonlyMap<string, Terminal>
  terminalsOf: (partId: string) => readonly Terminal[]
  leadsAt: (terminal: string) => readonly Lead[]
  leadsOf: (partId: string) => readonly Lead[]
  /** Links inside the parts as they stand: none through a part that is switched off. */
  links: readonly InnerLink[]
  /** The same with every part switched on. */
  closedLinks: readonly InnerLink[]
  passes: readonly Pass[]
}

const graphs = new WeakMap<Plan, Graph>()

/** The graph of a plan that readPlan has read, so that every name in it points somewhere. Made once a plan. */
export function graphOf(plan: Plan): Graph {
  const known = graphs.get(plan)
  if (known) return known
  const made = makeGraph(plan)
  graphs.set(plan, made)
  return made
}

function makeGraph(plan: Plan): Graph {
  const landings = plan.leads.flatMap(l => [l.from, l.to])
  const landingsOf = new ListMap<string, string>()
  for (const t of landings) landingsOf.put(partIdOf(t), t)
  const terminals = new Map<string, Terminal>()
  const terminalsOf = new ListMap<string, Terminal>()
  const links: InnerLink[] = []
  const closedLinks: InnerLink[] = []
  for (const part of plan.parts) {
    const kind = kindOf(part)
    const used = landingsOf.at(part.id)
    for (const t of kind.terminals(part, used)) {
      terminals.set(t.id, t)
      terminalsOf.put(part.id, t)
    }
    const own = (of: Part) =>
      kind.links(of, used).map((link): InnerLink => ({ ...link, partId: part.id, device: deviceOf(terminals, link) }))
    const standing = own(part)
    const closed = kind.opens?.(part).closed
    links.push(...standing)
    closedLinks.push(...(closed ? own(closed) : standing))
  }
  const leadsAt = new ListMap<string, Lead>()
  const leadsOf = new ListMap<string, Lead>()
  for (const lead of plan.leads) {
    for (const t of new Set([lead.from, lead.to])) leadsAt.put(t, lead)
    for (const id of new Set([partIdOf(lead.from), partIdOf(lead.to)])) leadsOf.put(id, lead)
  }
  return {
    plan,
    landings,
    parts: new Map(plan.parts.map(p => [p.id, p])),
    leads: new Map(plan.leads.map(l => [l.id, l])),
    terminals,
    terminalsOf: id => terminalsOf.at(id),
    leadsAt: t => leadsAt.at(t),
    leadsOf: id => leadsOf.at(id),
    links,
    closedLinks,
    passes: plan.parts.flatMap(p => kindOf(p).passes(p)),
  }
}

const deviceOf = (terminals: ReadonlyMap<string, Terminal>, link: Link) => {
  const outer = terminals.get(link.b)
  return outer ? deviceAt(outer) : null
}

/** What is in a neighbourhood of terminals that `groupOf` says are one: undefined where a terminal is in none. */
export function aroundBy(graph: Graph, groupOf: (terminal: string) => number | undefined): Around {
  const lists = new ListMap<number, { part: Part; terminal: string }>()
  for (const terminal of graph.terminals.keys()) {
    const group = groupOf(terminal)
    if (group !== undefined) lists.put(group, { part: graph.parts.get(partIdOf(terminal))!, terminal })
  }
  return terminal => {
    const group = groupOf(terminal)
    return group === undefined ? [] : lists.at(group)
  }
}

/**
 * Terminals of its part to which current goes on from one: joined inside it, with no device and nothing that changes
 * the voltage between; through a gate forward only.
 */
export function onward(graph: Graph, terminal: string): string[] {
  const near = nearby(graph)
  const reached = reach([terminal], t => near.at(t))
  return graph
    .terminalsOf(partIdOf(terminal))
    .map(t => t.id)
    .filter(t => reached.has(t))
}

const neighbours = new WeakMap<Graph, ListMap<string, string>>()
function nearby(graph: Graph): ListMap<string, string> {
  const known = neighbours.get(graph)
  if (known) return known
  const near = new ListMap<string, string>()
  const join = (a: string, b: string) => {
    near.put(a, b)
    near.put(b, a)
  }
  for (const link of graph.closedLinks) if (!link.device) join(link.a, link.b)
  for (const pass of graph.passes) if (pass.faultOhm !== null) near.put(pass.from, pass.to)
  neighbours.set(graph, near)
  return near
}

/** Every fuse and breaker of a plan: those at terminals, then those in leads. */
export function devicesOf(plan: Plan): Device[] {
  const atTerminals = [...graphOf(plan).terminals.values()].flatMap(t => deviceAt(t) ?? [])
  return [...atTerminals, ...plan.leads.flatMap(devicesIn)]
}
