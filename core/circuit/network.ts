import type { SourceState } from '../battery/emf'
import { COPPER_PER_C } from '../catalog/conductors'
import { risePerAmp2 } from '../conductor/ampacity'
import { conductorOhmPerM, resistanceFactorAt } from '../conductor/resistance'
import { matingLoopOhm } from '../connector/mate'
import { fuseOhm } from '../fuse/fuse'
import { kindOf, type Part } from '../kinds/index'
import { diodeLaw } from '../kinds/inline'
import type { Terminal } from '../kinds/kind'
import { siteOf, type Lead, type Plan } from '../plan/schema'

/** Thermal voltage at 27 °C, V: the temperature that the rectifier's figures are given for. */
export const THERMAL_V = 0.0258649

/** Diodes of one lead in series, all the same way round. */
export interface DiodeString { forward: 1 | -1, slopeV: number, saturationA: number }

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
  /** Nodes that no source reaches: 1. */
  unfed: Uint8Array
  /** Every component of it is a tree with one source. */
  isForest: boolean
}

/** What a lead is made of, in Ω: all that does not warm with the current, and its wire at 20 °C. */
export interface LeadResistance { fixedOhm: number, wire20Ohm: number }

export function leadResistance(lead: Lead): LeadResistance {
  const legs = lead.return === 'chassis' ? 1 : 2
  let fixedOhm = matingLoopOhm(lead.ends?.from?.connector) + matingLoopOhm(lead.ends?.to?.connector)
  if (lead.return === 'chassis') fixedOhm += lead.chassisOhm ?? 0
  for (const item of lead.inline ?? []) {
    if (item.kind === 'fuse' || item.kind === 'breaker') fixedOhm += fuseOhm(item) * (item.legs === 'both' ? 2 : 1)
    else if (item.kind === 'switch') fixedOhm += item.ohm ?? 0
    else fixedOhm += diodeLaw(item).seriesOhm * (item.count ?? 1)
  }
  return { fixedOhm, wire20Ohm: legs * lead.lengthM * conductorOhmPerM(lead.conductor) }
}

/** Whether current can pass: no switch or breaker in it is open. */
export function isClosed(lead: Lead): boolean {
  return !(lead.inline ?? []).some(item => (item.kind === 'switch' || item.kind === 'breaker') && item.closed === false)
}

function diodesOf(lead: Lead): DiodeString[] {
  return (lead.inline ?? []).filter(item => item.kind === 'dropper').map((item) => {
    const law = diodeLaw(item)
    return { forward: item.stripe === 'from' ? -1 : 1, slopeV: law.emission * THERMAL_V * (item.count ?? 1), saturationA: law.saturationA }
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

interface Branch { a: string, b: string, ohm: number, ohmPerAmp2: number, diode: DiodeString | null, lead?: string, terminal?: string }

/** Compiles a plan. The plan has been read by readPlan, so every name in it points somewhere. */
export function compile(plan: Plan): Network {
  const { ambientC, ampacity } = siteOf(plan)
  const landings = plan.leads.flatMap(l => [l.from, l.to])
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
      if (link.ohm === 0) merged.join(link.a, link.b)
      else branches.push({ a: link.a, b: link.b, ohm: link.ohm, ohmPerAmp2: 0, diode: null, terminal: link.b })
    }
    if (kind.source || kind.sink) merged.add(part.id)
  }
  for (const lead of plan.leads) {
    if (!isClosed(lead)) continue
    const { fixedOhm, wire20Ohm } = leadResistance(lead)
    branches.push({
      a: lead.from, b: lead.to, lead: lead.id, diode: oneString(diodesOf(lead)),
      ohm: fixedOhm + wire20Ohm * resistanceFactorAt(ambientC.typical),
      ohmPerAmp2: wire20Ohm * COPPER_PER_C * risePerAmp2(lead.conductor, ampacity, lead.bundledConductors),
    })
  }
  const nodeOf = merged.numbers()
  const diodes: DiodeString[] = []
  const from = Int32Array.from(branches, b => nodeOf.get(b.a)!)
  const to = Int32Array.from(branches, b => nodeOf.get(b.b)!)
  const reach = components(merged.groupCount, from, to)
  const sourceNodes = plan.parts.filter(p => kindOf(p).source).map(p => nodeOf.get(p.id)!)
  const sourcesIn = new Int32Array(reach.count)
  for (const v of sourceNodes) sourcesIn[reach.of[v]!]!++
  return {
    plan, partOf: new Map(plan.parts.map(p => [p.id, p])), nodeCount: merged.groupCount, nodeOf, terminals, branchCount: branches.length, from, to,
    ohm: Float64Array.from(branches, b => b.ohm),
    ohmPerAmp2: Float64Array.from(branches, b => b.ohmPerAmp2),
    diode: Int32Array.from(branches, b => b.diode ? diodes.push(b.diode) - 1 : -1),
    diodes,
    branchOfLead: new Map(branches.flatMap((b, i) => b.lead === undefined ? [] : [[b.lead, i] as const])),
    branchOfTerminal: new Map(branches.flatMap((b, i) => b.terminal === undefined ? [] : [[b.terminal, i] as const])),
    unfed: Uint8Array.from(reach.of, c => sourcesIn[c]! ? 0 : 1),
    isForest: from.filter((v, b) => v !== to[b]).length === merged.groupCount - reach.count && sourcesIn.every(count => count <= 1),
  }
}

/** Numbers the connected components of the nodes. */
function components(n: number, from: Int32Array, to: Int32Array): { of: Int32Array, count: number } {
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
    return new Map([...this.parent.keys()].map((name) => {
      const r = this.root(name)
      if (!numberOfRoot.has(r)) numberOfRoot.set(r, numberOfRoot.size)
      return [name, numberOfRoot.get(r)!]
    }))
  }
}

interface PlacedSource { partId: string, node: number, emfV: number, ohm: number }
const placedSources = new WeakMap<Network, Map<SourceState, PlacedSource[]>>()

/** The sources in a state as they stand in the network. */
export function sourcesIn(network: Network, state: SourceState): readonly PlacedSource[] {
  const byState = placedSources.get(network) ?? new Map<SourceState, PlacedSource[]>()
  placedSources.set(network, byState)
  let placed = byState.get(state)
  if (!placed) {
    placed = network.plan.parts.flatMap((part) => {
      const source = kindOf(part).source?.(part, state)
      return source ? [{ partId: part.id, node: network.nodeOf.get(source.at)!, emfV: source.emfV, ohm: source.ohm }] : []
    })
    byState.set(state, placed)
  }
  return placed
}
