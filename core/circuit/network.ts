import type { SourceState } from '../battery/emf'
import { COPPER_PER_C } from '../catalog/conductors'
import { risePerAmp2 } from '../conductor/ampacity'
import { conductorOhmPerM, resistanceFactorAt } from '../conductor/resistance'
import { matingLoopOhm } from '../connector/mate'
import { fuseOhm } from '../fuse/fuse'
import { kindOf, type Part } from '../kinds/index'
import { diodeLaw, METER_OHM } from '../kinds/inline'
import { transferOutV } from '../kinds/transfer'
import type { Around, ChargeOutput, Sink, Terminal, Transfer } from '../kinds/kind'
import { partIdOf } from '../plan/find'
import { ambientOf, siteOf, type Lead, type Plan } from '../plan/schema'
import { sourceStatesOf } from './conditions'

/** Thermal voltage at 27 °C, V: the temperature that the rectifier's figures are given for. */
export const THERMAL_V = 0.0258649

/** Diodes of one lead in series, all the same way round. */
export interface DiodeString {
  forward: 1 | -1
  slopeV: number
  saturationA: number
}

/**
 * A plan as a network of +/− pairs. Arrays are indexed by node or branch; a node is one or more terminals with no resistance between them.
 */
export interface Network {
  plan: Plan
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
  const legs = lead.return === 'chassis' ? 1 : 2
  let fixedOhm = matingLoopOhm(lead.ends?.from?.connector) + matingLoopOhm(lead.ends?.to?.connector)
  if (lead.return === 'chassis') fixedOhm += lead.chassisOhm ?? 0
  for (const item of lead.inline ?? []) {
    if (item.kind === 'fuse' || item.kind === 'breaker') fixedOhm += fuseOhm(item) * (item.legs === 'both' ? 2 : 1)
    else if (item.kind === 'switch') fixedOhm += item.ohm ?? 0
    else if (item.kind === 'choke') continue
    else if (item.kind === 'meter') fixedOhm += item.ohm ?? METER_OHM
    else fixedOhm += diodeLaw(item).seriesOhm * (item.count ?? 1)
  }
  return { fixedOhm, wire20Ohm: legs * lead.lengthM * conductorOhmPerM(lead.conductor) }
}

/** Whether current can pass: no switch or breaker in it is open. */
export function isClosed(lead: Lead): boolean {
  return !(lead.inline ?? []).some(item => (item.kind === 'switch' || item.kind === 'breaker') && item.closed === false)
}

function diodesOf(lead: Lead): DiodeString[] {
  return (lead.inline ?? [])
    .filter(item => item.kind === 'dropper')
    .map(item => {
      const law = diodeLaw(item)
      return {
        forward: item.stripe === 'from' ? -1 : 1,
        slopeV: law.emission * THERMAL_V * (item.count ?? 1),
        saturationA: law.saturationA,
      }
    })
}

/** Several droppers of a lead as one string; ones that oppose each other block both ways, nearly. */
function oneString(strings: DiodeString[]): DiodeString | null {
  if (!strings.length) return null
  const [first] = strings
  const saturationA = Math.min(...strings.map(s => s.saturationA))
  if (strings.some(s => s.forward !== first!.forward)) return { forward: 1, slopeV: 1e6, saturationA: 1e-9 }
  return { forward: first!.forward, slopeV: strings.reduce((v, s) => v + s.slopeV, 0), saturationA }
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
  const { ampacity } = siteOf(plan)
  const landings = plan.leads.flatMap(l => [l.from, l.to])
  const partOf = new Map(plan.parts.map(p => [p.id, p]))
  const terminals = new Map<string, Terminal>()
  const merged = new DisjointNames()
  const branches: Branch[] = []
  for (const part of plan.parts) {
    const kind = kindOf(part)
    for (const t of kind.terminals(part, landings)) {
      terminals.set(t.id, t)
      merged.add(t.id)
    }
    for (const link of kind.links?.(part, landings) ?? []) {
      merged.add(link.a)
      merged.add(link.b)
      const { diode } = link
      if (link.ohm === 0 && !diode) merged.join(link.a, link.b)
      else {
        branches.push({
          a: link.a,
          b: link.b,
          ohm: link.ohm + (diode ? diode.seriesOhm * diode.count : 0),
          ohmPerAmp2: 0,
          terminal: link.b,
          diode: diode
            ? { forward: 1, slopeV: diode.emission * THERMAL_V * diode.count, saturationA: diode.saturationA }
            : null,
        })
      }
    }
    if ((kind.sources && part.kind !== 'powerStation') || kind.sink) merged.add(part.id)
  }
  for (const lead of plan.leads) {
    if (!isClosed(lead)) continue
    const { fixedOhm, wire20Ohm } = leadResistance(lead)
    branches.push({
      a: lead.from,
      b: lead.to,
      lead: lead.id,
      diode: oneString(diodesOf(lead)),
      ohm: fixedOhm + wire20Ohm * resistanceFactorAt(ambientOf(plan, lead).typical),
      ohmPerAmp2: wire20Ohm * COPPER_PER_C * risePerAmp2(lead.conductor, ampacity, lead.bundledConductors),
    })
  }
  const nodeOf = merged.numbers()
  const diodes: DiodeString[] = []
  const from = Int32Array.from(branches, b => nodeOf.get(b.a)!)
  const to = Int32Array.from(branches, b => nodeOf.get(b.b)!)
  const reach = components(merged.groupCount, from, to)
  const around = aroundIn(terminals, partOf, nodeOf, reach.of)
  const network: Network = {
    plan,
    partOf,
    nodeCount: merged.groupCount,
    nodeOf,
    terminals,
    branchCount: branches.length,
    from,
    to,
    ohm: Float64Array.from(branches, b => b.ohm),
    ohmPerAmp2: Float64Array.from(branches, b => b.ohmPerAmp2),
    diode: Int32Array.from(branches, b => (b.diode ? diodes.push(b.diode) - 1 : -1)),
    diodes,
    branchOfLead: new Map(branches.flatMap((b, i) => (b.lead === undefined ? [] : [[b.lead, i] as const]))),
    branchOfTerminal: new Map(branches.flatMap((b, i) => (b.terminal === undefined ? [] : [[b.terminal, i] as const]))),
    anchors: new Uint8Array(merged.groupCount),
    component: reach.of,
    around,
    unfed: new Uint8Array(merged.groupCount).fill(1),
    isForest: true,
  }
  const sourcesIn = new Map<number, Set<string>>()
  for (const state of sourceStatesOf(plan)) {
    const placed = placedIn(network, state)
    for (let v = 0; v < network.nodeCount; v++) if (!placed.unfed[v]) network.unfed[v] = 0
    for (const { node, partId } of placed.sources) {
      network.anchors[node] = 1
      const component = reach.of[node]!
      sourcesIn.set(component, (sourcesIn.get(component) ?? new Set()).add(partId))
    }
    for (const { node } of [...placed.standing, ...placed.charging]) network.anchors[node] = 1
    for (const { fromNode } of placed.transfers) network.anchors[fromNode] = 1
  }
  for (const part of plan.parts) if (kindOf(part).sink) network.anchors[nodeOf.get(part.id)!] = 1
  network.isForest =
    from.filter((v, b) => v !== to[b]).length === merged.groupCount - reach.count &&
    [...sourcesIn.values()].every(parts => parts.size <= 1)
  return network
}

/** What stands on the same wire as a terminal. */
function aroundIn(
  terminals: ReadonlyMap<string, Terminal>,
  partOf: ReadonlyMap<string, Part>,
  nodeOf: ReadonlyMap<string, number>,
  component: Int32Array,
): Around {
  const lists = new Map<number, { part: Part; terminal: string }[]>()
  for (const terminal of terminals.keys()) {
    const c = component[nodeOf.get(terminal)!]!
    const entry = { part: partOf.get(partIdOf(terminal))!, terminal }
    const list = lists.get(c)
    if (list) list.push(entry)
    else lists.set(c, [entry])
  }
  return terminal => lists.get(component[nodeOf.get(terminal) ?? -1] ?? -1) ?? []
}

/** Numbers the connected components of the nodes. */
function components(n: number, from: Int32Array, to: Int32Array): { of: Int32Array; count: number } {
  const sets = new DisjointNames()
  for (let v = 0; v < n; v++) sets.add(String(v))
  for (let i = 0; i < from.length; i++) sets.join(String(from[i]), String(to[i]))
  const numbers = sets.numbers()
  return { of: Int32Array.from({ length: n }, (_, v) => numbers.get(String(v))!), count: sets.groupCount }
}

/** Names joined into groups (union–find). */
class DisjointNames {
  private readonly parent = new Map<string, string>()
  groupCount = 0

  add(name: string) {
    if (this.parent.has(name)) return
    this.parent.set(name, name)
    this.groupCount++
  }

  private root(name: string): string {
    let r = name
    while (this.parent.get(r) !== r) r = this.parent.get(r)!
    for (let v = name; v !== r;) {
      const next = this.parent.get(v)!
      this.parent.set(v, r)
      v = next
    }
    return r
  }

  join(a: string, b: string) {
    const ra = this.root(a)
    const rb = this.root(b)
    if (ra === rb) return
    this.parent.set(ra, rb)
    this.groupCount--
  }

  numbers(): Map<string, number> {
    const numberOfRoot = new Map<string, number>()
    return new Map(
      [...this.parent.keys()].map(name => {
        const r = this.root(name)
        if (!numberOfRoot.has(r)) numberOfRoot.set(r, numberOfRoot.size)
        return [name, numberOfRoot.get(r)!]
      }),
    )
  }
}

export interface PlacedSource {
  partId: string
  node: number
  emfV: number
  ohm: number
  transfer?: PlacedTransfer
}
export interface PlacedTransfer extends Transfer {
  partId: string
  fromNode: number
  toNode: number
}
export interface PlacedSink extends Sink {
  partId: string
  node: number
}
export interface PlacedCharge extends ChargeOutput {
  partId: string
  node: number
}

/** What stands in a network in one source state. A converter's output is a source among the others. */
export interface Placed {
  sources: PlacedSource[]
  transfers: PlacedTransfer[]
  standing: PlacedSink[]
  /** Charging devices, with the current they can give. */
  charging: PlacedCharge[]
  /** Nodes that no source reaches in this state: 1. */
  unfed: Uint8Array
}
const placedByState = new WeakMap<Network, Map<SourceState, Placed>>()

export function placedIn(network: Network, state: SourceState): Placed {
  let states = placedByState.get(network)
  if (!states) placedByState.set(network, (states = new Map()))
  let placed = states.get(state)
  if (!placed) states.set(state, (placed = placeAll(network, state)))
  return placed
}

function placeAll(network: Network, state: SourceState): Placed {
  const { plan, nodeOf, around, component } = network
  const sources: PlacedSource[] = []
  const transfers: PlacedTransfer[] = []
  const standing: PlacedSink[] = []
  const charging: PlacedCharge[] = []
  for (const part of plan.parts) {
    const kind = kindOf(part)
    const partId = part.id
    for (const s of kind.sources?.(part, state, around) ?? [])
      sources.push({ partId, node: nodeOf.get(s.at)!, emfV: s.emfV, ohm: s.ohm })
    for (const s of kind.standing?.(part, state, around) ?? [])
      if (s.value > 0) standing.push({ ...s, partId, node: nodeOf.get(s.at)! })
    const charge = kind.charge?.(part, around)
    if (charge) charging.push({ ...charge, partId, node: nodeOf.get(charge.at)! })
    const transfer = kind.transfer?.(part, state, around)
    if (transfer)
      transfers.push({ ...transfer, partId, fromNode: nodeOf.get(transfer.from)!, toNode: nodeOf.get(transfer.to)! })
  }
  const fed = new Set(sources.map(s => component[s.node]!))
  // A converter feeds what hangs on it once something feeds the converter.
  const working: PlacedTransfer[] = []
  for (let before = -1; before !== working.length;) {
    before = working.length
    for (const t of transfers) {
      if (working.includes(t) || !fed.has(component[t.fromNode]!) || component[t.fromNode] === component[t.toNode])
        continue
      working.push(t)
      fed.add(component[t.toNode]!)
    }
  }
  const top = Math.max(0, ...sources.map(s => s.emfV))
  for (const t of working)
    sources.push({ partId: t.partId, node: t.toNode, emfV: transferOutV(t, top), ohm: 0, transfer: t })
  return {
    sources,
    transfers: working,
    standing: standing.filter(s => fed.has(component[s.node]!)),
    charging: charging.filter(c => fed.has(component[c.node]!)),
    unfed: Uint8Array.from(component, c => (fed.has(c) ? 0 : 1)),
  }
}

/** The sources in a state as they stand in the network. */
export function sourcesIn(network: Network, state: SourceState): readonly PlacedSource[] {
  return placedIn(network, state).sources
}
