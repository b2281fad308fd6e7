import { isCharging } from '../battery/emf'
import { COPPER_PER_C } from '../catalog/conductors'
import { risePerAmp2 } from '../conductor/ampacity'
import { conductorOhmPerM, resistanceFactorAt } from '../conductor/resistance'
import { matingLoopOhm } from '../connector/mate'
import { isClosed } from '../graph/device'
import { aroundBy, graphOf, type Graph } from '../graph/graph'
import { groupNodes, Groups } from '../graph/groups'
import { isLoad, takesAt, type Part } from '../kinds/index'
import { diodeLaw, inlineLoopOhm, type Dropper } from '../kinds/inline'
import type { Around, Link, Terminal } from '../kinds/kind'
import { ambientOf, siteOf, type Lead, type Plan } from '../plan/schema'
import { sourceStatesOf } from './conditions'
import { placedIn } from './placed'

/** Thermal voltage at 27 °C, V: the temperature that the rectifier's figures are given for. */
export const THERMAL_V = 0.0258649

/** Diodes of one lead in series, all the same way round. */
export interface DiodeString {
  forward: 1 | -1
  slopeV: number
  saturationA: number
  /** Some of it points the other way. */
  opposed?: boolean
}

/**
 * A plan as a network of +/− pairs. Arrays are indexed by node or branch; a node is one or more terminals with no
 * resistance between them.
 */
export interface Network {
  plan: Plan
  graph: Graph
  partOf: ReadonlyMap<string, Part>
  nodeCount: number
  nodeOf: ReadonlyMap<string, number>
  terminals: ReadonlyMap<string, Terminal>
  branchCount: number
  from: Int32Array
  to: Int32Array
  /** V = I·ohm + I³·ohmPerAmp2 (+ diodes): the second term is the conductor's own warming. */
  ohm: Float64Array
  ohmPerAmp2: Float64Array
  /** −1, or the index into diodes. */
  diode: Int32Array
  diodes: DiodeString[]
  /** Branch of a lead, absent where a switch in it is open. */
  branchOfLead: ReadonlyMap<string, number>
  /** Branch of a link inside a part, by the outer terminal. */
  branchOfTerminal: ReadonlyMap<string, number>
  /** Nodes with a source, a load or one side of a converter on them. */
  anchors: Uint8Array
  /** Connected component of each node; the two sides of a converter are components apart. */
  component: Int32Array
  around: Around
  /** Nodes that no source reaches in any state: 1. */
  unfed: Uint8Array
  /** Every component of it is a tree with one source. */
  isForest: boolean
}

/** What a lead is made of, in Ω: all that does not warm with the current, and its wire at 20 °C. */
export interface LeadResistance {
  fixedOhm: number
  wire20Ohm: number
}

export function leadResistance(lead: Lead): LeadResistance {
  const throughChassis = lead.return === 'chassis'
  const contactsOhm = matingLoopOhm(lead.ends?.from) + matingLoopOhm(lead.ends?.to)
  const itemsOhm = (lead.inline ?? []).reduce((sum, item) => sum + inlineLoopOhm(item), 0)
  return {
    fixedOhm: contactsOhm + (throughChassis ? (lead.chassisOhm ?? 0) : 0) + itemsOhm,
    wire20Ohm: (throughChassis ? 1 : 2) * lead.lengthM * conductorOhmPerM(lead.conductor),
  }
}

/** The diodes of one dropper. */
export function diodesIn(dropper: Dropper): DiodeString {
  const law = diodeLaw(dropper)
  return {
    forward: dropper.stripe === 'from' ? -1 : 1,
    slopeV: law.emission * THERMAL_V * (dropper.count ?? 1),
    saturationA: law.saturationA,
  }
}

const diodesOf = (lead: Lead): DiodeString[] =>
  (lead.inline ?? []).filter(item => item.kind === 'dropper').map(diodesIn)

/** Several droppers of a lead as one string; ones that oppose each other block both ways. */
function oneString(strings: DiodeString[]): DiodeString | null {
  const [first] = strings
  if (!first) return null
  if (strings.some(s => s.forward !== first.forward))
    return { forward: 1, slopeV: 1e6, saturationA: 1e-9, opposed: true }
  const slopeV = strings.reduce((v, s) => v + s.slopeV, 0)
  // The drops Σ slopeV·ln(I/Is) are those of one string with the mean of ln Is, each by its slope.
  const logSaturation = strings.reduce((sum, s) => sum + s.slopeV * Math.log(s.saturationA), 0) / slopeV
  return { forward: first.forward, slopeV, saturationA: Math.exp(logSaturation) }
}

interface Branch {
  a: string
  b: string
  ohm: number
  ohmPerAmp2: number
  diode: DiodeString | null
  lead?: string
  terminal?: string
}

/** Compiles a plan. The plan has been read by readPlan, so every name in it points somewhere. */
export function compile(plan: Plan): Network {
  const graph = graphOf(plan)
  const nodes = new Groups()
  const branches = [...innerBranches(graph, nodes), ...leadBranches(plan)]
  const nodeOf = nodes.numbers()
  const diodes: DiodeString[] = []
  const from = Int32Array.from(branches, b => nodeOf.get(b.a)!)
  const to = Int32Array.from(branches, b => nodeOf.get(b.b)!)
  const wires = groupNodes(nodes.count, from, to)
  const wireOf = (terminal: string) => wires.of[nodeOf.get(terminal) ?? -1]
  const network: Network = {
    plan,
    graph,
    partOf: graph.parts,
    nodeCount: nodes.count,
    nodeOf,
    terminals: graph.terminals,
    branchCount: branches.length,
    from,
    to,
    ohm: Float64Array.from(branches, b => b.ohm),
    ohmPerAmp2: Float64Array.from(branches, b => b.ohmPerAmp2),
    diode: Int32Array.from(branches, b => (b.diode ? diodes.push(b.diode) - 1 : -1)),
    diodes,
    branchOfLead: branchNames(branches, 'lead'),
    branchOfTerminal: branchNames(branches, 'terminal'),
    anchors: new Uint8Array(nodes.count),
    component: wires.of,
    around: aroundBy(graph, wireOf),
    unfed: new Uint8Array(nodes.count).fill(1),
    isForest: true,
  }
  const sourcesOnWire = placeStates(network)
  const inTrees = from.filter((v, b) => v !== to[b]).length === nodes.count - wires.count
  network.isForest = inTrees && [...sourcesOnWire.values()].every(parts => parts.size <= 1)
  return network
}

const branchNames = (branches: readonly Branch[], name: 'lead' | 'terminal') =>
  new Map(branches.flatMap((b, i) => (b[name] === undefined ? [] : [[b[name], i] as const])))

/** Resistances inside parts; what has none between is made one node. */
function innerBranches(graph: Graph, nodes: Groups): Branch[] {
  for (const terminal of graph.terminals.keys()) nodes.add(terminal)
  for (const part of graph.plan.parts) if (isLoad(part)) nodes.join(takesAt(part), part.id)
  return graph.links.flatMap((link): Branch[] => {
    const { a, b, diode } = link
    nodes.add(a)
    nodes.add(b)
    if (link.ohm === 0 && !diode) {
      nodes.join(a, b)
      return []
    }
    const ohm = link.ohm + (diode ? diode.seriesOhm * diode.count : 0)
    return [{ a, b, ohm, ohmPerAmp2: 0, terminal: b, diode: diode ? innerDiode(diode) : null }]
  })
}

const innerDiode = ({ emission, count, saturationA }: NonNullable<Link['diode']>): DiodeString => ({
  forward: 1,
  slopeV: emission * THERMAL_V * count,
  saturationA,
})

function leadBranches(plan: Plan): Branch[] {
  const { ampacity } = siteOf(plan)
  return plan.leads.filter(isClosed).map((lead): Branch => {
    const { fixedOhm, wire20Ohm } = leadResistance(lead)
    return {
      a: lead.from,
      b: lead.to,
      lead: lead.id,
      diode: oneString(diodesOf(lead)),
      ohm: fixedOhm + wire20Ohm * resistanceFactorAt(ambientOf(plan, lead).typical),
      ohmPerAmp2: wire20Ohm * COPPER_PER_C * risePerAmp2(lead.conductor, ampacity, lead.bundledConductors),
    }
  })
}

/**
 * Marks anchors and what is fed in any state.
 * @returns the parts that are sources on each wire, save those that only charge
 */
function placeStates(network: Network): Map<number, Set<string>> {
  const { plan, nodeOf, anchors, component } = network
  const sourcesOnWire = new Map<number, Set<string>>()
  for (const state of sourceStatesOf(plan)) {
    const placed = placedIn(network, state)
    for (let v = 0; v < network.nodeCount; v++) if (!placed.unfed[v]) network.unfed[v] = 0
    for (const { node, partId } of placed.sources) {
      anchors[node] = 1
      if (isCharging(state)) continue
      const wire = component[node]!
      sourcesOnWire.set(wire, (sourcesOnWire.get(wire) ?? new Set()).add(partId))
    }
    for (const { node } of placed.standing) anchors[node] = 1
    for (const { fromNode } of placed.transfers) anchors[fromNode] = 1
  }
  for (const part of plan.parts) if (isLoad(part)) anchors[nodeOf.get(part.id)!] = 1
  return sourcesOnWire
}

/** Whether a source reaches some terminal of a part in some state. */
export const isFed = ({ graph, unfed, nodeOf }: Network, partId: string): boolean =>
  graph.terminalsOf(partId).some(t => !unfed[nodeOf.get(t.id)!])
