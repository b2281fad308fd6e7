/* eslint-disable max-lines -- one solver, one state: its steps read and write the same arrays.
   Parted, they would pass all of them about. */
import { kindOf } from '../kinds/index'
import type { Sink } from '../kinds/kind'
import { transferInputW, transferOutV } from '../kinds/transfer'
import { carryingDiode, diodeBranch, kneeBranch } from './branch'
import { sinkIn, type Condition } from './conditions'
import { Coupling } from './coupling'
import { factor } from './ldl'
import type { Network } from './network'
import { beyond, flowOf, linesOf, siemensOf, steepest, type Flow, type Lines } from './lines'
import { placedIn, type Placed, type PlacedSource, type PlacedTransfer } from './placed'
import { reduceNetwork, type ReducedNetwork } from './reduce'

const LAW = { current: 0, power: 1, ohm: 2 } as const

/** One operating point: volts per node, amps per branch (from → to). Arrays belong to the point. */
export interface OperatingPoint {
  condition: Condition
  status: 'ok' | 'collapses'
  volts: Float64Array
  amps: Float64Array
  /** Converters at work: what each gives and takes. */
  transfers: readonly WorkingTransfer[]
  /** What every source gives, in the order in which they are placed. */
  sources: readonly SourceFlow[]
  /** Where it collapses: the part of its loads' draw that the sources could still carry (0–1), and of which loads. */
  most?: { share: number; of: 'constant-power loads' | 'all loads' }
}

/** A source at an operating point. */
export interface SourceFlow {
  partId: string
  node: number
  amps: number
  /** At its limit: it gives all it can and its voltage falls, or (`overdrawn`) is asked for more than that. */
  limit?: 'gives-most' | 'overdrawn'
}

/** A converter at an operating point. */
export interface WorkingTransfer {
  partId: string
  node: number
  fromNode: number
  outV: number
  outA: number
  inputW: number
}

/**
 * Convergence: largest change of a node voltage, V, and of a branch current, A, in one round. Newton's last step
 * squares them,
 * so that what is left is about 1e-9 of either.
 */
const TOLERANCE_V = 2e-5
const TOLERANCE_A = 1e-4
const MOST_ITERATIONS = 80
/**
 * So many rounds whose steps are as large as those two before, within this part: it goes to and fro, as behind a diode
 * that blocks what is asked.
 */
const TO_AND_FRO = 6
const ALIKE = 0.03
/** With sources that hold their voltage and have limits, V: a millionth of a volt there is ten amps. */
const STIFF_TOLERANCE_V = 1e-9
/** A diode's slope changes with every step: its last one is no measure of the next, V. */
const DIODE_TOLERANCE_V = 1e-7
/** Behind a diode that passes next to nothing a node is held by less than this, S: it comes no nearer than that. */
const LOOSE_SIEMENS = 1e-3
/** A current that goes backward through a diode by less than this is none, A. */
const LEAST_DIODE_A = 1e-12
/** With diodes no node moves farther in one round, V. */
const DIODE_STEP_V = 1
/** How far beyond a piece of its curve a source may lie, V and A. */
const PIECE_TOLERANCE = 1e-6
/** Step over which the slopes of a converter's law are taken, V and A. */
const SLOPE_STEP = 1e-6
/** Sources change their piece, one at a time, at most so often. */
const MOST_TURNS = 60
/** From here on it is looked whether they go round in a ring. */
const TURNS_WITHOUT_A_RING = 6
/** A circuit that cannot go so much of the way further has no point at the end of it. */
const LEAST_CLIMB = 1 / 20

/** How a share is raised. */
interface Climb {
  /** By so much first; times `grows` after two steps that stood, parted by `shrinks` after one that led nowhere. */
  stride: number
  grows: number
  shrinks?: number
  /** Given up below this stride. */
  least: (share: number) => number
  enough?: number
  /** There is a point to start from; without one each attempt starts from where the one before left off. */
  stands?: boolean
}

/** The share that a collapsing circuit could carry is found to this part of itself, in so many attempts. */
const SHARE_STEP = 1e-4
const MOST_ATTEMPTS = 40

/** Holds its node at its EMF, whatever is asked. */
const isHeld = (s: PlacedSource) => s.ohm === 0 && linesOf(s, false) === null

/** A condition in which what stands in the network, and what its loads take, are given and not those of a state. */
export interface Moment extends Condition {
  placed: Placed
  /** By load; the others take what the condition says. */
  sinks: ReadonlyMap<string, Sink>
}

/** What part of their draw is taken: constant-power loads, the others, and the inputs of converters. */
interface Scales {
  powerScale: number
  otherScale: number
  inputScale: number
}

/** What is asked of a condition. */
export interface Asked {
  /** How much could be carried is looked for where it is less than this share; 0: not at all. */
  below?: number
  /** That the sources do not give it within their limits is known, or no matter. */
  lifted?: boolean
}

/** Where the iteration is. */
interface Here {
  volts: Float64Array
  amps: Float64Array
  lifted: boolean
  pieces: Int32Array
  /** Of each converter what it gives, A, at which EMF, and takes, W. */
  given: readonly { outA: number; emfV: number; inputW: number }[]
}

/** No operating point, and how much could be carried was not asked. */
const NOT_SOUGHT = { share: 0, of: 'all loads' } as const

const isMoreThan = (mostA: number, amps: number) => amps > mostA + PIECE_TOLERANCE

/** Gives whatever is asked, as a battery does. */
const givesAll = (s: PlacedSource) => s.mostA === undefined && !s.curve

/** Solves one network in many conditions, each starting from the last. */
export class Solver {
  private readonly reduced: ReducedNetwork
  private readonly volts: Float64Array
  private readonly amps: Float64Array
  private readonly allVolts: Float64Array
  private readonly allAmps: Float64Array
  private readonly siemens: Float64Array
  private readonly diagonal: Float64Array
  private readonly entries: Float64Array
  private readonly step: Float64Array
  private readonly held: Uint8Array
  private heldNodes = new Int32Array(0)
  private readonly sinkParts: Network['plan']['parts']
  private readonly idleSinks: Sink[]
  private readonly activeSinks: Sink[]
  private readonly loadNode: Int32Array
  /** Loads first, then what the state's parts take standing, then the inputs of its converters. */
  private sinkNode = new Int32Array(0)
  private sinkLaw = new Uint8Array(0)
  private sinkValue = new Float64Array(0)
  /** `node` is the reduced network's, `outer` the whole one's. */
  private sources: (PlacedSource & { outer: number; wire: number })[] = []
  /** Of each source its lines and the piece it is on; null for one without limits. */
  private lines: (Lines | null)[] = []
  private pieces = new Int32Array(0)
  private lifted = false
  /** Wires with a source that gives whatever is asked. */
  private carried: ReadonlySet<number> = new Set()
  private working: {
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
  }[] = []
  private coupling: Coupling
  private unfed = new Uint8Array(0)
  private readonly wireOf: Int32Array
  private placed: Placed | null = null
  private warm = false
  /** The last point that stood, in the same state: where the next one may start after one that did not. */
  private stood: Here | null = null
  /** From far away diodes are taken at their knee until the nodes have nearly come to rest. */
  private fresh = true
  private readonly diodeOut = { amps: 0, siemens: 0 }
  private readonly flow: Flow = { amps: 0, siemens: 0 }

  constructor(readonly network: Network) {
    this.reduced = reduceNetwork(network)
    this.coupling = new Coupling(this.reduced.pattern, [])
    const { nodeCount: n, branchCount, nodeOf } = this.reduced
    this.allVolts = new Float64Array(network.nodeCount)
    this.allAmps = new Float64Array(network.branchCount)
    this.volts = new Float64Array(n)
    this.amps = new Float64Array(branchCount)
    this.siemens = new Float64Array(branchCount)
    this.diagonal = new Float64Array(n)
    this.entries = new Float64Array(this.reduced.pattern.rowOf.length)
    this.step = new Float64Array(n)
    this.held = new Uint8Array(n)
    this.sinkParts = network.plan.parts.filter(p => kindOf(p).sink && !network.unfed[network.nodeOf.get(p.id)!])
    this.idleSinks = this.sinkParts.map(p => kindOf(p).sink!(p, false))
    this.activeSinks = this.sinkParts.map(p => kindOf(p).sink!(p, true))
    this.wireOf = new Int32Array(n)
    for (let v = 0; v < nodeOf.length; v++) if (nodeOf[v]! >= 0) this.wireOf[nodeOf[v]!] = network.component[v]!
    this.loadNode = Int32Array.from(this.sinkParts, p => nodeOf[network.nodeOf.get(p.id)!]!)
  }

  /**
   * The operating point in a condition. Its arrays are copies. Where there is none, how much could be carried is looked
   * for, if it is less than the share `below`.
   */
  solve(condition: Condition | Moment, { below = 1, lifted = false }: Asked = {}): OperatingPoint {
    const most = this.run(condition, below, lifted)
    return {
      condition,
      status: most ? 'collapses' : 'ok',
      volts: this.allVolts.slice(),
      amps: this.allAmps.slice(),
      transfers: this.working.map(w => ({
        partId: w.transfer.partId,
        node: w.transfer.toNode,
        fromNode: w.transfer.fromNode,
        outV: this.volts[w.toNode]!,
        outA: w.outA,
        inputW: this.sinkValue[w.sink]!,
      })),
      sources: this.sources.map((s, k) => this.sourceFlow(s, k)),
      ...(most && most !== NOT_SOUGHT && { most }),
    }
  }

  /** Solves in place, without copying: what the benchmark measures. Null, or how much could be carried. */
  run(condition: Condition | Moment, below = 1, lifted = false): OperatingPoint['most'] | null {
    const most = this.runReduced(condition, below, lifted)
    if (this.warm) this.stood = this.here()
    this.reduced.expand(this.volts, this.amps, this.allVolts, this.allAmps)
    return most
  }

  private runReduced(condition: Condition | Moment, below: number, lifted: boolean): OperatingPoint['most'] | null {
    this.setSources(condition)
    this.setSinks(condition)
    if (!this.warm && this.stood) this.goBackToStood(this.stood)
    this.lift(true)
    if (!this.settleAnyhow()) return this.withinLimits() ? null : this.without(below)
    const overdrawn = lifted ? [] : this.overdrawn()
    // Within its limits one is asked for no less, where nothing takes less at a lower voltage.
    if (!overdrawn.length || overdrawn.some(s => this.takesNoLess(s.wire))) return null
    const liftedPoint = this.here()
    this.warm = false
    this.lift(false)
    if (this.settleAnyhow()) return null
    this.goBackToStood(liftedPoint)
    return null
  }

  /**
   * Where there is no point though sources gave all that is asked, there is none within their limits either: but where
   * one that is held back takes less from what feeds it, as a charger before an empty pack.
   * @returns whether there was one
   */
  private withinLimits(): boolean {
    const isHeldBack = this.sources.some(s => s.transfer && !this.carried.has(s.wire) && !this.standsAlone(s.wire))
    if (!isHeldBack) return false
    this.lift(false)
    return this.settleAnyhow()
  }

  /** There is no point: how much of it could be carried, if that is asked. */
  private without(below: number): OperatingPoint['most'] | null {
    this.lift(true)
    this.warm = false
    return below > 0 ? this.collapse(below) : NOT_SOUGHT
  }

  /**
   * From the last point, or without one from every node at the highest EMF; or else from where what takes constant
   * power takes nothing: that is the nearest to the upper root.
   */
  private settleAnyhow(): boolean {
    if (this.warm && (this.warm = this.settle(1, 1))) return true
    this.cold()
    if ((this.warm = this.settle(1, 1))) return true
    this.cold()
    if (!this.settle(0, 1)) return false
    this.fresh = true
    return (this.warm = this.mayGoAstray ? this.climb() : this.settle(1, 1))
  }

  private here(): Here {
    const { volts, amps, lifted, pieces, working } = this
    const given = working.map(w => ({ outA: w.outA, emfV: w.source.emfV, inputW: this.sinkValue[w.sink]! }))
    return { volts: volts.slice(), amps: amps.slice(), lifted, pieces: pieces.slice(), given }
  }

  private goBack({ volts, amps, lifted, pieces, given }: Here) {
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

  /** What stood needs no knees: its diodes are taken as they are there. */
  private goBackToStood(stood: Here) {
    this.goBack(stood)
    this.fresh = false
    this.warm = true
  }

  /** Converters, one behind the other, and diodes may lead Newton astray where the way is far. */
  private get mayGoAstray(): boolean {
    return this.working.length > 0 || this.network.diodes.length > 0
  }

  /** From where what takes constant power takes nothing, by steps to where it takes all. */
  private climb(): boolean {
    return (
      this.raise(share => this.settle(share, 1), { stride: 1, grows: 2, shrinks: 4, least: () => LEAST_CLIMB }) === 1
    )
  }

  /**
   * Goes on by steps from the point that stands, towards a share of 1 or what is enough; a step that leads nowhere is
   * made shorter, and after the last one the point of the share reached stands.
   * @returns that share
   */
  private raise(
    attempt: (share: number) => boolean,
    { stride, grows, least, enough = 1, shrinks = 2, stands = true }: Climb,
  ): number {
    let last = stands ? this.here() : null
    let share = 0
    let stoodLast = false
    for (let n = 0; share < enough && stride > least(share) && n < MOST_ATTEMPTS; n++) {
      const next = Math.min(1, share + stride)
      if (attempt(next) || (last && this.onOtherPieces(last, () => attempt(next)))) {
        share = next
        // Right after a step that led nowhere it would lead there again.
        if (stoodLast) stride *= grows
        stoodLast = true
        last = this.here()
        continue
      }
      stride /= shrinks
      stoodLast = false
      if (last) this.goBack(last)
    }
    return share
  }

  /** From a point, with sources on the pieces on which an attempt left them: one may be at its limit just beyond. */
  private onOtherPieces(point: Here, attempt: () => boolean): boolean {
    const pieces = this.pieces.slice()
    if (pieces.every((p, k) => p === point.pieces[k])) return false
    this.goBack({ ...point, pieces })
    return attempt()
  }

  /**
   * With their limits, or as if those on which a wire depends gave all that is asked: where a battery stands beside
   * them, it gives what they do not.
   */
  private lift(lifted: boolean) {
    if (this.lifted === lifted && this.pieces.length === this.sources.length) return
    this.lifted = lifted
    this.lines = this.sources.map(s => linesOf(s, lifted && !this.carried.has(s.wire)))
    this.pieces = Int32Array.from(this.lines, l => (l ? steepest(l) : 0))
  }

  private setSources(condition: Condition | Moment) {
    const placed = 'placed' in condition ? condition.placed : placedIn(this.network, condition.source)
    if (this.placed === placed) return
    this.placed = placed
    this.stood = null
    this.pieces = new Int32Array(0)
    const { nodeOf, nodeCount } = this.reduced
    this.unfed = new Uint8Array(nodeCount)
    for (let v = 0; v < nodeOf.length; v++) if (nodeOf[v]! >= 0) this.unfed[nodeOf[v]!] = placed.unfed[v]!
    const { component } = this.network
    this.sources = placed.sources.map(s => ({ ...s, node: nodeOf[s.node]!, outer: s.node, wire: component[s.node]! }))
    const loads = this.loadNode.length
    const extra = placed.standing.map(s => ({ ...s, law: LAW[s.law] }))
    this.sinkNode = Int32Array.from([
      ...this.loadNode,
      ...extra.map(s => nodeOf[s.node]!),
      ...placed.transfers.map(t => nodeOf[t.fromNode]!),
    ])
    this.sinkLaw = new Uint8Array(this.sinkNode.length)
    this.sinkValue = new Float64Array(this.sinkNode.length)
    extra.forEach((s, i) => {
      this.sinkLaw[loads + i] = s.law
      this.sinkValue[loads + i] = s.value
    })
    this.carried = new Set(this.sources.filter(givesAll).map(s => s.wire))
    this.working = placed.transfers.map((transfer, i) => {
      const sink = loads + extra.length + i
      this.sinkLaw[sink] = LAW.power
      return {
        transfer,
        source: this.sources.find(s => s.transfer === transfer)!,
        at: this.sources.findIndex(s => s.transfer === transfer),
        fromNode: nodeOf[transfer.fromNode]!,
        toNode: nodeOf[transfer.toNode]!,
        sink,
        outA: 0,
        rise: 0,
      }
    })
    // Of each converter its input and its output.
    const coupled = this.working.map(w => [w.fromNode, w.toNode] as const)
    this.coupling = new Coupling(this.reduced.pattern, coupled)
    this.held.set(this.unfed)
    for (const s of this.sources) {
      if (!isHeld(s)) continue
      this.held[s.node] = 1
      this.volts[s.node] = s.emfV
    }
    this.heldNodes = Int32Array.from(this.held.keys()).filter(v => this.held[v])
    for (const v of this.heldNodes) if (this.unfed[v]) this.volts[v] = 0
  }

  private setSinks(condition: Condition | Moment) {
    const { active, engineOff, off } = condition
    const given = 'sinks' in condition ? condition.sinks : null
    for (let i = 0; i < this.sinkParts.length; i++) {
      const part = this.sinkParts[i]!
      const usual = active.has(part.id) ? this.activeSinks[i]! : this.idleSinks[i]!
      const said =
        engineOff || off?.has(part.id) || active.get(part.id) !== undefined ? sinkIn(part, condition)! : usual
      const sink = given?.get(part.id) ?? said
      const nothing = sink.law === 'ohm' ? Infinity : 0
      this.sinkLaw[i] = LAW[sink.law]
      this.sinkValue[i] = this.unfed[this.sinkNode[i]!] ? nothing : sink.value
    }
  }

  /** The whole station: its networks with what converters carry between them, and on which piece each source is. */
  private settle(powerScale: number, otherScale: number, inputScale = powerScale): boolean {
    const seen = new Set<string>()
    let inOrder = false
    for (let turn = 0; turn < MOST_TURNS; turn++) {
      const stands = this.newton({ powerScale, otherScale, inputScale })
      if (!stands && !this.release()) return false
      if (stands && !this.changePiece(inOrder)) return true
      if (turn < TURNS_WITHOUT_A_RING) continue
      const pieces = this.pieces.join()
      if (!seen.has(pieces)) {
        seen.add(pieces)
        continue
      }
      if (inOrder) return false
      inOrder = true
      seen.clear()
    }
    return false
  }

  /**
   * Puts the source that lies farthest beyond its piece on the next one, or the first that lies beyond it: taken in
   * order they cannot go round in a ring where the answer is the only one (Murty's least index).
   * @returns whether there was one
   */
  private changePiece(inOrder: boolean): boolean {
    let farthest = 0
    let which = -1
    for (let k = 0; k < this.lines.length; k++) {
      const lines = this.lines[k]
      if (!lines) continue
      const off = beyond(lines, this.pieces[k]!, this.aboveEmf(k))
      if (Math.abs(off) <= Math.max(PIECE_TOLERANCE, Math.abs(farthest))) continue
      farthest = off
      which = k
      if (inOrder) break
    }
    if (which < 0) return false
    this.pieces[which]! += farthest > 0 ? 1 : -1
    return true
  }

  /**
   * No solution with every source on its piece: on a wire where none holds a voltage, the next one that would is let.
   * Where less is given than taken the voltage falls, until the highest that was kept from giving gives; where more is
   * given it rises, until the highest of those that give all they can holds it.
   * @returns whether there was one
   */
  private release(): boolean {
    this.restart()
    const wires = new Set(this.sources.map(s => s.wire))
    for (const wire of wires) {
      const here = this.sources.flatMap((s, k) => (s.wire === wire ? [k] : []))
      if (here.some(k => this.holdsVoltage(k))) continue
      const short = here.reduce((sum, k) => sum + this.sourceAmps(k), 0) < this.takenOn(wire)
      const might = here.filter(k => this.pieces[k] === (short ? this.lines[k]!.amps.length : 0))
      if (!might.length) continue
      const [highest] = might.sort((a, b) => this.sources[b]!.emfV - this.sources[a]!.emfV)
      this.pieces[highest!]! += short ? -1 : 1
      return true
    }
    return false
  }

  /** A source of a power bends its current with the voltage, and holds none but at its end. */
  private holdsVoltage(k: number): boolean {
    const lines = this.lines[k]
    if (!lines) return true
    return this.sources[k]!.curve ? this.pieces[k] === steepest(lines) : siemensOf(lines, this.pieces[k]!) > 0
  }

  /** What the sinks on a wire take, at the voltage they have now, A. */
  private takenOn(wire: number): number {
    let taken = 0
    for (let k = 0; k < this.sinkNode.length; k++)
      if (this.wireOf[this.sinkNode[k]!] === wire) taken += this.sinkAmps(k)
    return taken
  }

  private aboveEmf(k: number): number {
    const s = this.sources[k]!
    return this.volts[s.node]! - (s.curve ? 0 : s.emfV)
  }

  /** What a source gives, A. */
  private sourceAmps(k: number): number {
    const s = this.sources[k]!
    const lines = this.lines[k]
    if (lines) {
      flowOf(lines, this.pieces[k]!, this.aboveEmf(k), this.flow)
      return this.flow.amps
    }
    if (!isHeld(s)) return (s.emfV - this.volts[s.node]!) / s.ohm
    const others = this.sources.reduce(
      (sum, o, i) => (o !== s && o.node === s.node && !isHeld(o) ? sum + this.sourceAmps(i) : sum),
      0,
    )
    return this.outflow(s.node) - others
  }

  private sourceFlow(s: PlacedSource & { outer: number }, k: number): SourceFlow {
    const flow = { partId: s.partId, node: s.outer, amps: this.sourceAmps(k) }
    if (s.mostA === undefined || s.mostA <= 0) return flow
    if (isMoreThan(s.mostA, flow.amps)) return { ...flow, limit: 'overdrawn' }
    const atMost = this.lines[k]!.lowSiemens === 0 && this.pieces[k] === 0
    return atMost ? { ...flow, limit: 'gives-most' } : flow
  }

  /** Sources that give more than they can, an empty pack among them. */
  private overdrawn(): readonly { wire: number }[] {
    return this.sources.filter(({ mostA = Infinity }, k) => isMoreThan(mostA, this.sourceAmps(k)))
  }

  /** No less is taken on a wire at a lower voltage, by what hangs behind converters neither. */
  private takesNoLess(wire: number): boolean {
    const behind = this.working.filter(w => this.wireOf[w.fromNode] === wire)
    return this.standsAlone(wire) && behind.every(w => this.takesNoLess(this.wireOf[w.toNode]!))
  }

  /** A wire has one source, and nothing on it takes less at a lower voltage. */
  private standsAlone(wire: number): boolean {
    if (this.sources.filter(s => s.wire === wire).length > 1) return false
    for (let k = 0; k < this.sinkNode.length; k++) {
      const isOhm = this.sinkLaw[k] === LAW.ohm && this.sinkValue[k] !== Infinity
      if (isOhm && this.wireOf[this.sinkNode[k]!] === wire) return false
    }
    return true
  }

  /** Converters start on their line: what each gave last, within what it can, at the voltage that its input allows. */
  private align() {
    for (const w of this.working) {
      w.source.emfV = transferOutV(w.transfer, this.volts[w.fromNode]!)
      if (this.held[w.toNode]) continue
      const lines = this.lines[w.at]!
      const siemens = siemensOf(lines, this.pieces[w.at]!)
      if (siemens === 0) continue
      const outA = Math.min(Math.max(w.outA, 0), w.source.mostA ?? Infinity)
      this.volts[w.toNode] = w.source.emfV - outA / siemens
    }
  }

  /** What each converter gives and takes at these voltages; how the two hang together goes beside the matrix. */
  private stampTransfers(inputScale: number) {
    const { coupling, volts } = this
    for (let i = 0; i < this.working.length; i++) {
      const w = this.working[i]!
      const inV = volts[w.fromNode]!
      const outV = volts[w.toNode]!
      const slope = siemensOf(this.lines[w.at]!, this.pieces[w.at]!)
      // Where another source holds the node, this one gives what it is limited to, or nothing.
      const siemens = this.held[w.toNode] ? 0 : slope
      w.outA = siemens === 0 && slope > 0 ? 0 : this.sourceAmps(w.at)
      const inputW = transferInputW(w.transfer, outV, w.outA)
      this.sinkValue[w.sink] = inputW
      w.rise = (transferOutV(w.transfer, inV + SLOPE_STEP) - w.source.emfV) / SLOPE_STEP
      const perAmp = (transferInputW(w.transfer, outV, w.outA + SLOPE_STEP) - inputW) / SLOPE_STEP
      const perVolt = (transferInputW(w.transfer, outV + SLOPE_STEP, w.outA) - inputW) / SLOPE_STEP
      const scale = this.held[w.fromNode] ? 0 : inputScale / inV
      const lift = siemens * w.rise
      coupling.put(i, { perInput: scale * perAmp * lift, perOutput: scale * (perVolt - perAmp * siemens), lift })
    }
  }

  /**
   * After a step an output stands on its line again, with the current that the step gave it.
   * @returns how far that was from where the step had put it, V
   */
  private keepOnLine(): number {
    let farthest = 0
    for (let i = 0; i < this.working.length; i++) {
      const w = this.working[i]!
      const emfV = transferOutV(w.transfer, this.volts[w.fromNode]!)
      const lifted = this.coupling.isLoose[i] ? 0 : w.rise * this.step[w.fromNode]!
      const off = emfV - (w.source.emfV + lifted)
      w.source.emfV = emfV
      if (this.held[w.toNode] || siemensOf(this.lines[w.at]!, this.pieces[w.at]!) === 0) continue
      this.volts[w.toNode]! += off
      farthest = Math.max(farthest, Math.abs(off))
    }
    return farthest
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

  /** What a sink takes at its node's voltage, A. */
  private sinkAmps(k: number): number {
    const value = this.sinkValue[k]!
    const volts = this.volts[this.sinkNode[k]!]!
    if (this.sinkLaw[k] === LAW.current) return value
    return this.sinkLaw[k] === LAW.power ? value / volts : volts / value
  }

  /** Every node at the highest EMF: above the upper root, from where Newton comes down to it. */
  private cold() {
    for (const w of this.working) w.outA = 0
    this.lines.forEach((l, k) => l && (this.pieces[k] = steepest(l)))
    this.restart()
  }

  /** The same, with converters and sources as they were. */
  private restart() {
    this.fresh = true
    const top = Math.max(0, ...this.sources.map(s => s.emfV))
    this.volts.fill(top)
    this.amps.fill(0)
    for (let v = 0; v < this.volts.length; v++) if (this.unfed[v]) this.volts[v] = 0
    for (const s of this.sources) if (isHeld(s)) this.volts[s.node] = s.emfV
  }

  /**
   * Newton iteration on the nodal equations, warming of conductors included.
   * Beyond the point of collapse the matrix stops being positive definite, and a pivot shows it.
   * @returns whether it arrived at a point where every load has a positive voltage
   */
  private newton(scales: Scales): boolean {
    const { pattern } = this.reduced
    const { volts, step, diagonal, entries } = this
    const hasDiodes = this.network.diodes.length > 0
    const loose = hasDiodes ? DIODE_TOLERANCE_V : TOLERANCE_V
    const toleranceV = this.lines.some(l => l !== null) ? STIFF_TOLERANCE_V : loose
    this.align()
    let before = 0
    let twoBefore = 0
    let alike = 0
    for (let iteration = 0; iteration < MOST_ITERATIONS; iteration++) {
      diagonal.fill(0)
      entries.fill(0)
      step.fill(0)
      const currentChange = this.stampBranches()
      this.stampTransfers(scales.inputScale)
      this.stampSources()
      if (!this.stampSinks(scales)) return false
      for (const v of this.heldNodes) {
        diagonal[v] = 1
        step[v] = 0
      }
      if (!factor(pattern, diagonal, entries)) return false
      if (!this.coupling.solve(diagonal, entries, step)) return false
      let largest = 0
      for (let v = 0; v < volts.length; v++) if (Math.abs(step[v]!) > largest) largest = Math.abs(step[v]!)
      if (!(largest < Infinity)) return false
      alike = Math.abs(largest - twoBefore) < ALIKE * largest ? alike + 1 : 0
      if (alike === TO_AND_FRO) return false
      twoBefore = before
      before = largest
      // A diode without current has hardly a slope: the step from there would go to millions of volts.
      const isFar = hasDiodes && largest > DIODE_STEP_V
      const atKnee = hasDiodes && this.fresh
      const share = isFar && !atKnee ? DIODE_STEP_V / largest : 1
      this.fresh = atKnee && isFar
      for (let v = 0; v < volts.length; v++) volts[v]! += step[v]! *= share
      const off = this.keepOnLine()
      this.carryAmps()
      if (
        !atKnee &&
        off < toleranceV &&
        currentChange < TOLERANCE_A &&
        (largest < toleranceV || (hasDiodes && this.standsStill(toleranceV)))
      ) {
        this.finishAmps()
        return this.loadsArePositive()
      }
    }
    return false
  }

  /** No node's last step was more than the tolerance, or, where hardly anything holds it, than a diode's. */
  private standsStill(toleranceV: number): boolean {
    const { step, diagonal } = this
    for (let v = 0; v < step.length; v++) {
      const allowed = diagonal[v]! * LOOSE_SIEMENS > 1 ? DIODE_TOLERANCE_V : toleranceV
      if (Math.abs(step[v]!) >= allowed) return false
    }
    return true
  }

  /**
   * `step` gathers what flows into each node too little: the right-hand side of the Newton step.
   * @returns the largest change of a branch current since the last round, A
   */
  private stampBranches(): number {
    let largestChange = 0
    const { from, to, entry, ohm, ohmPerAmp2, diode, branchCount } = this.reduced
    const { diodes } = this.network
    const { volts, amps, siemens, diagonal, entries, step, held, diodeOut } = this
    for (let b = 0; b < branchCount; b++) {
      const slot = entry[b]!
      const i = from[b]!
      const j = to[b]!
      const v = volts[i]! - volts[j]!
      const d = diode[b]!
      let g: number
      let current: number
      if (d >= 0) {
        this.diodeLine(b, v, diodes[d]!)
        g = diodeOut.siemens
        current = diodeOut.amps
      } else {
        // One step of the branch's own equation a round; node voltages and branch currents converge together.
        const before = amps[b]!
        const warming = ohmPerAmp2[b]! * before * before
        g = 1 / (ohm[b]! + 3 * warming)
        current = before + (v - before * (ohm[b]! + warming)) * g
      }
      const change = Math.abs(current - amps[b]!)
      if (change > largestChange) largestChange = change
      amps[b] = current
      siemens[b] = g
      if (!held[i]) {
        diagonal[i]! += g
        step[i]! -= current
        if (!held[j]) entries[slot]! -= g
      }
      if (!held[j]) {
        diagonal[j]! += g
        step[j]! += current
      }
    }
    return largestChange
  }

  /**
   * A diode as the line that its branch is taken as: through its knee from far away; where it touches the current that
   * the last round gave it, while it conducts; else where it touches its voltage. Into `diodeOut`.
   */
  private diodeLine(b: number, v: number, diode: Network['diodes'][number]) {
    const { ohm, ohmPerAmp2 } = this.reduced
    const conducts = v * diode.forward > 0 && this.amps[b]! * diode.forward > -LEAST_DIODE_A
    if (this.fresh) kneeBranch(v, ohm[b]!, diode, this.diodeOut)
    else if (conducts) carryingDiode(v, this.amps[b]!, ohm[b]!, ohmPerAmp2[b]!, diode, this.diodeOut)
    else diodeBranch(v, ohm[b]!, ohmPerAmp2[b]!, diode, this.diodeOut)
  }

  /** Moves the branch currents along with the node voltages, so that the next round starts on the tangent of both. */
  private carryAmps() {
    const { from, to, branchCount } = this.reduced
    const { amps, siemens, step } = this
    for (let b = 0; b < branchCount; b++) amps[b]! += siemens[b]! * (step[from[b]!]! - step[to[b]!]!)
  }

  private stampSources() {
    for (let k = 0; k < this.sources.length; k++) {
      const s = this.sources[k]!
      if (this.held[s.node]) continue
      const lines = this.lines[k]
      if (lines) {
        flowOf(lines, this.pieces[k]!, this.aboveEmf(k), this.flow)
        this.diagonal[s.node]! += this.flow.siemens
        this.step[s.node]! += this.flow.amps
        continue
      }
      this.diagonal[s.node]! += 1 / s.ohm
      this.step[s.node]! += (s.emfV - this.volts[s.node]!) / s.ohm
    }
  }

  private stampSinks({ powerScale, otherScale, inputScale }: Scales): boolean {
    const { sinkNode, sinkLaw, sinkValue, volts, diagonal, step } = this
    const firstInput = sinkNode.length - this.working.length
    for (let k = 0; k < sinkNode.length; k++) {
      const node = sinkNode[k]!
      const value = sinkValue[k]!
      const v = volts[node]!
      if (sinkLaw[k] === LAW.current) {
        step[node]! -= value * otherScale
      } else if (sinkLaw[k] === LAW.power) {
        const scale = k < firstInput ? powerScale : inputScale
        if (value === 0 || scale === 0) continue
        if (!(v > 1e-3)) return false
        const current = (value * scale) / v
        diagonal[node]! -= current / v
        step[node]! -= current
      } else if (value !== Infinity) {
        diagonal[node]! += otherScale / value
        step[node]! -= (v * otherScale) / value
      }
    }
    return true
  }

  /** Branch currents of the final voltages. */
  private finishAmps() {
    const { from, to, ohm, ohmPerAmp2, diode, branchCount } = this.reduced
    const { diodes } = this.network
    const { volts, amps, diodeOut } = this
    for (let b = 0; b < branchCount; b++) {
      const v = volts[from[b]!]! - volts[to[b]!]!
      if (diode[b]! >= 0) {
        diodeBranch(v, ohm[b]!, ohmPerAmp2[b]!, diodes[diode[b]!]!, diodeOut)
        amps[b] = diodeOut.amps
        continue
      }
      const i = amps[b]!
      const warming = ohmPerAmp2[b]! * i * i
      amps[b] = i + (v - i * (ohm[b]! + warming)) / (ohm[b]! + 3 * warming)
    }
  }

  private loadsArePositive(): boolean {
    for (let k = 0; k < this.sinkNode.length; k++) {
      if (this.sinkValue[k]! > 0 && !(this.volts[this.sinkNode[k]!]! > 0)) return false
    }
    return true
  }

  /** Diodes taken as they are at the last point, or from their knees: now the one leads astray, now the other. */
  private settleEitherWay(attempt: () => boolean): boolean {
    const { fresh } = this
    const from = this.here()
    if (attempt()) return true
    if (!this.network.diodes.length) return false
    this.goBack(from)
    this.fresh = !fresh
    return attempt()
  }

  /**
   * How much could be carried: raises the constant-power draw (or, where the rest alone is too much, all draw)
   * step by step from a point that stands. A converter takes what the loads behind it then take. A share of 1 means
   * that the point was there after all. Not sought where it is `below` or more.
   */
  private collapse(below: number): OperatingPoint['most'] | null {
    this.cold()
    const powerOnly = this.settle(0, 1, 1)
    if (!powerOnly) this.cold()
    const stands = powerOnly || this.settle(0, 0, 1)
    const settle = (share: number) => this.settle(share, powerOnly ? 1 : share, 1)
    const attempt = (share: number) => (stands ? this.settleEitherWay(() => settle(share)) : settle(share))
    const least = (share: number) => SHARE_STEP * (share || 1)
    const share = this.raise(attempt, { stride: below, grows: 1.5, least, enough: below, stands })
    this.warm = share === 1
    if (share >= below && below < 1) return NOT_SOUGHT
    return share === 1 ? null : { share, of: powerOnly ? 'constant-power loads' : 'all loads' }
  }
}
