import { kindOf } from '../kinds/index'
import type { Sink } from '../kinds/kind'
import { NOTHING, sinkIn, type Condition } from './conditions'
import { Coupling } from './coupling'
import { flowOf, linesOf, steepest, type Flow, type Lines } from './lines'
import type { Network } from './network'
import { placedIn, type Placed, type PlacedSource, type PlacedTransfer } from './placed'
import { reduceNetwork, type ReducedNetwork } from './reduce'

export const LAW = { current: 0, power: 1, ohm: 2 } as const

/** A condition in which what stands in the network, and what its loads take, are given and not those of a state. */
export interface Moment extends Condition {
  placed: Placed
  /** By load; the others take what the condition says. */
  sinks: ReadonlyMap<string, Sink>
}

/** A source in the reduced network: `node` is there, `outer` in the whole one. */
export interface LadenSource extends PlacedSource {
  outer: number
  wire: number
}

/** A converter at work. */
export interface WorkingConverter {
  transfer: PlacedTransfer
  source: PlacedSource
  fromNode: number
  toNode: number
  sink: number
  /** Its place among the sources. */
  at: number
  outA: number
  /** Volts more at its output for each one at its input. */
  rise: number
  /** Watts more at its input for each volt there: of what passes its current on, its amps. */
  perInV: number
}

/** The wires on which sources are taken to give all that is asked. */
export type Lifted = 'all' | ReadonlySet<number>

/** Every source keeps to its limits. */
export const NONE_LIFTED: Lifted = new Set<number>()

/** Where an iteration is. */
export interface Here {
  volts: Float64Array
  amps: Float64Array
  lifted: Lifted
  pieces: Int32Array
  /** Of each converter what it gives, A, at which EMF, and takes, W. */
  given: readonly { outA: number; emfV: number; inputW: number }[]
}

/** Holds its node at its EMF, whatever is asked. */
const isHeld = (s: PlacedSource) => s.ohm === 0 && linesOf(s, false) === null

/** Gives whatever is asked, as a battery does. */
const givesAll = (s: PlacedSource) => s.mostA === undefined && !s.curve

/**
 * A network laden with the sources and the loads of one condition, and where its voltages and currents are on the way
 * to its operating point. Its nodes and branches are those of the reduced network.
 */
export class Laden {
  readonly reduced: ReducedNetwork
  readonly volts: Float64Array
  readonly amps: Float64Array
  readonly held: Uint8Array
  /** The wire on which a node is. */
  readonly wireOf: Int32Array
  // What follows stands once a condition is set.
  heldNodes!: Int32Array
  unfed!: Uint8Array
  /** Loads first, then what the state's parts take standing, then the inputs of its converters. */
  sinkNode!: Int32Array
  sinkLaw!: Uint8Array
  sinkValue!: Float64Array
  sources!: LadenSource[]
  /** Of each source its lines and the piece it is on; null for one without limits. */
  lines!: (Lines | null)[]
  pieces!: Int32Array
  working!: WorkingConverter[]
  coupling!: Coupling
  /** Wires with a source that gives whatever is asked. */
  carried!: ReadonlySet<number>
  /** From far away diodes are taken at their knee until the nodes have nearly come to rest. */
  fresh = true
  /** Of which wires its lines are lifted; null where its sources are others than those. */
  private lifted: Lifted | null = null
  private placed: Placed | null = null
  private readonly loads: Network['plan']['parts']
  private readonly idleSinks: Sink[]
  private readonly activeSinks: Sink[]
  private readonly loadNode: Int32Array
  /** Of each load its place among them. */
  private readonly loadAt: ReadonlyMap<string, number>
  // What all loads take while idle; nothing where no source reaches.
  private readonly idleLaw: Uint8Array
  private readonly idleValue: Float64Array
  private readonly flow: Flow = { amps: 0, siemens: 0 }

  constructor(readonly network: Network) {
    this.reduced = reduceNetwork(network)
    const { nodeCount: n, branchCount, nodeOf, outer } = this.reduced
    this.volts = new Float64Array(n)
    this.amps = new Float64Array(branchCount)
    this.held = new Uint8Array(n)
    this.loads = network.plan.parts.filter(p => kindOf(p).sink && !network.unfed[network.nodeOf.get(p.id)!])
    this.idleSinks = this.loads.map(p => kindOf(p).sink!(p, false))
    this.activeSinks = this.loads.map(p => kindOf(p).sink!(p, true))
    this.wireOf = outer.map(v => network.component[v]!)
    this.loadNode = Int32Array.from(this.loads, p => nodeOf[network.nodeOf.get(p.id)!]!)
    this.loadAt = new Map(this.loads.map((p, i) => [p.id, i]))
    this.idleLaw = Uint8Array.from(this.idleSinks, s => LAW[s.law])
    this.idleValue = new Float64Array(this.loads.length)
  }

  /** Sets the sources and the loads of a condition. @returns whether the sources are others than before */
  set(condition: Condition | Moment): boolean {
    const placed = 'placed' in condition ? condition.placed : placedIn(this.network, condition.source)
    const areOthers = this.placed !== placed
    if (areOthers) this.setSources(placed)
    this.setSinks(condition)
    return areOthers
  }

  private setSources(placed: Placed) {
    this.placed = placed
    this.lifted = null
    const { nodeOf, outer } = this.reduced
    this.unfed = Uint8Array.from(outer, v => placed.unfed[v]!)
    const { component } = this.network
    this.sources = placed.sources.map(s => ({ ...s, node: nodeOf[s.node]!, outer: s.node, wire: component[s.node]! }))
    this.carried = new Set(this.sources.filter(givesAll).map(s => s.wire))
    this.setStanding(placed)
    this.idleSinks.forEach(
      (sink, i) => (this.idleValue[i] = this.unfed[this.loadNode[i]!] ? NOTHING[sink.law] : sink.value),
    )
    this.held.set(this.unfed)
    for (const s of this.sources) if (isHeld(s)) this.held[s.node] = 1
    this.heldNodes = Int32Array.from(this.held.keys()).filter(v => this.held[v])
    this.hold()
  }

  /** What takes current beside the loads: what stands by itself, and the inputs of converters. */
  private setStanding({ standing, transfers }: Placed) {
    const { nodeOf } = this.reduced
    const loads = this.loadNode.length
    const converters = loads + standing.length
    this.sinkNode = Int32Array.from([
      ...this.loadNode,
      ...standing.map(s => nodeOf[s.node]!),
      ...transfers.map(t => nodeOf[t.fromNode]!),
    ])
    this.sinkLaw = new Uint8Array(this.sinkNode.length)
    this.sinkValue = new Float64Array(this.sinkNode.length)
    standing.forEach((s, i) => {
      this.sinkLaw[loads + i] = LAW[s.law]
      this.sinkValue[loads + i] = s.value
    })
    this.sinkLaw.fill(LAW.power, converters)
    this.working = transfers.map((transfer, i) => {
      const at = this.sources.findIndex(s => s.transfer === transfer)
      const [fromNode, toNode] = [nodeOf[transfer.fromNode]!, nodeOf[transfer.toNode]!]
      const source = this.sources[at]!
      return { transfer, source, at, fromNode, toNode, sink: converters + i, outA: 0, rise: 0, perInV: 0 }
    })
    // Of each converter its input and its output.
    const coupled = this.working.map(w => [w.fromNode, w.toNode] as const)
    this.coupling = new Coupling(this.reduced.pattern, coupled)
  }

  /** All idle, but for those that a condition may say something of. */
  private setSinks(condition: Condition | Moment) {
    const { active, engineOff, off } = condition
    const given = 'sinks' in condition ? condition.sinks : null
    this.sinkLaw.set(this.idleLaw)
    this.sinkValue.set(this.idleValue)
    for (const id of given || engineOff || off ? this.loadAt.keys() : active.keys()) {
      const i = this.loadAt.get(id)
      if (i === undefined || this.unfed[this.sinkNode[i]!]) continue
      this.putSink(i, given?.get(id) ?? this.sinkOf(i, condition))
    }
  }

  private putSink(i: number, { law, value }: Sink) {
    this.sinkLaw[i] = LAW[law]
    this.sinkValue[i] = value
  }

  private sinkOf(i: number, condition: Condition): Sink {
    const part = this.loads[i]!
    const { active, engineOff, off } = condition
    if (engineOff || off?.has(part.id) || active.get(part.id) !== undefined) return sinkIn(part, condition)!
    return active.has(part.id) ? this.activeSinks[i]! : this.idleSinks[i]!
  }

  /**
   * With their limits, or as if those on which a wire depends gave all that is asked: where a battery stands beside
   * them, it gives what they do not.
   */
  lift(lifted: Lifted) {
    if (this.lifted === lifted) return
    this.lifted = lifted
    const isLifted = (wire: number) => (lifted === 'all' || lifted.has(wire)) && !this.carried.has(wire)
    this.lines = this.sources.map(s => linesOf(s, isLifted(s.wire)))
    this.pieces = Int32Array.from(this.lines, l => (l ? steepest(l) : 0))
  }

  /** A copy of where the iteration is; in place of an earlier one of the same sources, which is written over. */
  here(earlier: Here | null = null): Here {
    const { volts, amps, pieces, working } = this
    const given = working.map(w => ({ outA: w.outA, emfV: w.source.emfV, inputW: this.sinkValue[w.sink]! }))
    const lifted = this.lifted!
    if (!earlier) return { volts: volts.slice(), amps: amps.slice(), lifted, pieces: pieces.slice(), given }
    earlier.volts.set(volts)
    earlier.amps.set(amps)
    earlier.pieces.set(pieces)
    return Object.assign(earlier, { lifted, given })
  }

  /** To where it was, in the same condition's sources; what its loads take stays as it is now. */
  goBack({ volts, amps, lifted, pieces, given }: Here) {
    this.lift(lifted)
    this.volts.set(volts)
    this.amps.set(amps)
    this.pieces.set(pieces)
    this.working.forEach((w, i) => {
      w.outA = given[i]!.outA
      w.source.emfV = given[i]!.emfV
      this.sinkValue[w.sink] = given[i]!.inputW
    })
    this.fresh = true
  }

  /** Every node at the highest EMF: above the upper root, from where Newton comes down to it. */
  cold() {
    for (const w of this.working) w.outA = 0
    this.lines.forEach((l, k) => l && (this.pieces[k] = steepest(l)))
    this.restart()
  }

  /** The same, with converters and sources as they were. */
  restart() {
    this.fresh = true
    const top = Math.max(0, ...this.sources.map(s => s.emfV))
    this.volts.fill(top)
    this.amps.fill(0)
    this.hold()
  }

  /** Puts the nodes whose voltage is given to it: nothing where no source reaches, or the EMF of the one that holds. */
  private hold() {
    for (const v of this.heldNodes) this.volts[v] = 0
    for (const s of this.sources) if (isHeld(s)) this.volts[s.node] = s.emfV
  }

  /** What a source gives, A. */
  sourceAmps(k: number): number {
    const s = this.sources[k]!
    const lines = this.lines[k]
    if (lines) {
      flowOf(lines, this.pieces[k]!, this.aboveEmf(k), this.flow)
      return this.flow.amps
    }
    if (!isHeld(s)) return (s.emfV - this.volts[s.node]!) / s.ohm
    const others = this.sources.reduce(
      (sum, o, i) => (o.node === s.node && !isHeld(o) ? sum + this.sourceAmps(i) : sum),
      0,
    )
    return this.outflow(s.node) - others
  }

  /** How far the voltage at a source is above where its lines begin, V. */
  aboveEmf(k: number): number {
    const s = this.sources[k]!
    return this.volts[s.node]! - (s.curve ? 0 : s.emfV)
  }

  /** What a sink takes at its node's voltage, A. */
  sinkAmps(k: number): number {
    const value = this.sinkValue[k]!
    const volts = this.volts[this.sinkNode[k]!]!
    if (this.sinkLaw[k] === LAW.current) return value
    return this.sinkLaw[k] === LAW.power ? value / volts : volts / value
  }

  /** What leaves a node by its branches and sinks, A. */
  private outflow(node: number): number {
    const { from, to, branchCount } = this.reduced
    let out = 0
    for (let b = 0; b < branchCount; b++) {
      if (from[b] === node) out += this.amps[b]!
      else if (to[b] === node) out -= this.amps[b]!
    }
    for (let k = 0; k < this.sinkNode.length; k++) {
      if (this.sinkNode[k] !== node) continue
      out += this.sinkAmps(k)
    }
    return out
  }
}
