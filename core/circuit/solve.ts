import { LAW, Laden, NONE_LIFTED, type Here, type LadenSource, type Moment } from './laden'
import type { Condition } from './conditions'
import type { Network } from './network'
import type { OperatingPoint, SourceFlow } from './operatingPoint'
import { raise } from './raise'
import { PIECE_TOLERANCE, Settler } from './settle'

/** What is asked of a condition. */
export interface Asked {
  /** How much could be carried is looked for where it is less than this share; 0: not at all. */
  below?: number
  /** That the sources do not give it within their limits is known, or no matter. */
  lifted?: boolean
}

const ALL = { powerScale: 1, otherScale: 1, inputScale: 1 }
const NO_POWER = { powerScale: 0, otherScale: 1, inputScale: 0 }

/** A circuit that cannot go so much of the way further has no point at the end of it. */
const LEAST_CLIMB = 1 / 20
/** The share that a collapsing circuit could carry is found to this part of itself. */
const SHARE_STEP = 1e-4

/** No operating point, and how much could be carried was not asked. */
const NOT_SOUGHT = { share: 0, of: 'all loads' } as const

const isMoreThan = (mostA: number, amps: number) => amps > mostA + PIECE_TOLERANCE

/** Solves one network in many conditions, each starting from the last. */
export class Solver {
  private readonly laden: Laden
  private readonly settler: Settler
  private readonly allVolts: Float64Array
  private readonly allAmps: Float64Array
  /** The network is at a point that stands. */
  private warm = false
  /** The last point that stood, in the same state: where the next one may start after one that did not. */
  private stood: Here | null = null

  constructor(readonly network: Network) {
    this.laden = new Laden(network)
    this.settler = new Settler(this.laden)
    this.allVolts = new Float64Array(network.nodeCount)
    this.allAmps = new Float64Array(network.branchCount)
  }

  /**
   * The operating point in a condition. Its arrays are copies. Where there is none, how much could be carried is looked
   * for, if it is less than the share `below`.
   */
  solve(condition: Condition | Moment, asked: Asked = {}): OperatingPoint {
    const { laden } = this
    const most = this.run(condition, asked)
    return {
      condition,
      status: most ? 'collapses' : 'ok',
      volts: this.allVolts.slice(),
      amps: this.allAmps.slice(),
      transfers: laden.working.map(w => ({
        partId: w.transfer.partId,
        node: w.transfer.toNode,
        fromNode: w.transfer.fromNode,
        outV: laden.volts[w.toNode]!,
        outA: w.outA,
        inputW: laden.sinkValue[w.sink]!,
      })),
      sources: laden.sources.map((s, k) => this.sourceFlow(s, k)),
      ...(most && most !== NOT_SOUGHT && { most }),
    }
  }

  /** Solves in place, without copying: what the benchmark measures. Null, or how much could be carried. */
  run(condition: Condition | Moment, asked: Asked = {}): OperatingPoint['most'] | null {
    const { laden } = this
    const most = this.runReduced(condition, asked)
    if (this.warm) this.stood = laden.here(this.stood)
    laden.reduced.expand(laden.volts, laden.amps, this.allVolts, this.allAmps)
    return most
  }

  private runReduced(condition: Condition | Moment, asked: Asked): OperatingPoint['most'] | null {
    const { laden } = this
    if (laden.set(condition)) this.stood = null
    if (!this.warm && this.stood) this.goBackToStood(this.stood)
    laden.lift('all')
    if (!this.settleAnyhow()) return this.withinLimits() ? null : this.without(asked.below ?? 1)
    const overdrawn = asked.lifted ? [] : this.overdrawn()
    // Within its limits one is asked for no less, where nothing takes less at a lower voltage. What hangs behind
    // converters may: but with nothing on their wire to hold its voltage no such point was ever found.
    const beyondHelp = new Set(overdrawn.filter(s => this.standsAlone(s.wire)).flatMap(s => this.islandOf(s.wire)))
    const others = overdrawn.filter(s => !beyondHelp.has(s.wire))
    if (!others.length) return null
    const liftedPoint = laden.here()
    if (this.stands(beyondHelp, liftedPoint) || this.someStand(others, beyondHelp, liftedPoint)) return null
    this.goBackToStood(liftedPoint)
    return null
  }

  /**
   * Whether there is a point with every source within its limits, but for those on the wires that are lifted. Those
   * stay where they were; where none is, it is looked for from far above.
   */
  private stands(lifted: ReadonlySet<number>, liftedPoint: Here): boolean {
    if (lifted.size) this.goBackToStood(liftedPoint)
    else this.warm = false
    this.laden.lift(lifted.size ? lifted : NONE_LIFTED)
    return this.settleAnyhow()
  }

  /** The same, once it does not for all: for those of the islands for which it does by themselves. */
  private someStand(overdrawn: readonly LadenSource[], lifted: ReadonlySet<number>, liftedPoint: Here): boolean {
    const islands = new Map(overdrawn.map(s => this.islandOf(s.wire).sort((a, b) => a - b)).map(i => [i[0]!, i]))
    if (islands.size < 2) return false
    const left = new Set([...lifted, ...[...islands.values()].flat()])
    const without = (island: readonly number[]) => new Set([...left].filter(wire => !island.includes(wire)))
    const standing = [...islands.values()].filter(island => this.stands(without(island), liftedPoint)).flat()
    return standing.length > 0 && this.stands(without(standing), liftedPoint)
  }

  /**
   * Where there is no point though sources gave all that is asked, there is none within their limits either: but where
   * one that is held back takes less from what feeds it, as a charger before an empty pack.
   * @returns whether there was one
   */
  private withinLimits(): boolean {
    const { sources, carried } = this.laden
    const isHeldBack = sources.some(s => s.transfer && !carried.has(s.wire) && !this.standsAlone(s.wire))
    if (!isHeldBack) return false
    this.laden.lift(NONE_LIFTED)
    return this.settleAnyhow()
  }

  /** There is no point: how much of it could be carried, if that is asked. */
  private without(below: number): OperatingPoint['most'] | null {
    this.laden.lift('all')
    this.warm = false
    return below > 0 ? this.collapse(below) : NOT_SOUGHT
  }

  /**
   * From the last point, or without one from every node at the highest EMF; or else from where what takes constant
   * power takes nothing: that is the nearest to the upper root.
   */
  private settleAnyhow(): boolean {
    const { laden, settler } = this
    if (this.warm && (this.warm = settler.settle(ALL))) return true
    laden.cold()
    if ((this.warm = settler.settle(ALL))) return true
    laden.cold()
    if (!settler.settle(NO_POWER)) return false
    laden.fresh = true
    return (this.warm = this.mayGoAstray ? this.climb() : settler.settle(ALL))
  }

  /** What stood needs no knees: its diodes are taken as they are there. */
  private goBackToStood(stood: Here) {
    this.laden.goBack(stood)
    this.laden.fresh = false
    this.warm = true
  }

  /** Converters, one behind the other, and diodes may lead Newton astray where the way is far. */
  private get mayGoAstray(): boolean {
    return this.laden.working.length > 0 || this.network.diodes.length > 0
  }

  /** From where what takes constant power takes nothing, by steps to where it takes all. */
  private climb(): boolean {
    const attempt = (share: number) => this.settler.settle({ powerScale: share, otherScale: 1, inputScale: share })
    return raise(this.laden, attempt, { stride: 1, grows: 2, shrinks: 4, least: () => LEAST_CLIMB }) === 1
  }

  /**
   * How much could be carried: raises the constant-power draw (or, where the rest alone is too much, all draw)
   * step by step from a point that stands. A converter takes what the loads behind it then take. A share of 1 means
   * that the point was there after all. Not sought where it is `below` or more.
   */
  private collapse(below: number): OperatingPoint['most'] | null {
    const { laden, settler } = this
    laden.cold()
    const powerOnly = settler.settle({ powerScale: 0, otherScale: 1, inputScale: 1 })
    if (!powerOnly) laden.cold()
    const stands = powerOnly || settler.settle({ powerScale: 0, otherScale: 0, inputScale: 1 })
    const settle = (share: number) =>
      settler.settle({ powerScale: share, otherScale: powerOnly ? 1 : share, inputScale: 1 })
    const attempt = (share: number) => (stands ? this.settleEitherWay(() => settle(share)) : settle(share))
    const least = (share: number) => SHARE_STEP * (share || 1)
    const share = raise(laden, attempt, { stride: below, grows: 1.5, least, enough: below, stands })
    this.warm = share === 1
    if (share >= below && below < 1) return NOT_SOUGHT
    return share === 1 ? null : { share, of: powerOnly ? 'constant-power loads' : 'all loads' }
  }

  /** Diodes taken as they are at the last point, or from their knees: now the one leads astray, now the other. */
  private settleEitherWay(attempt: () => boolean): boolean {
    const { laden } = this
    const { fresh } = laden
    const from = laden.here()
    if (attempt()) return true
    if (!this.network.diodes.length) return false
    laden.goBack(from)
    laden.fresh = !fresh
    return attempt()
  }

  private sourceFlow(s: LadenSource, k: number): SourceFlow {
    const { lines, pieces } = this.laden
    const flow = { partId: s.partId, node: s.outer, amps: this.laden.sourceAmps(k) }
    if (s.mostA === undefined || s.mostA <= 0) return flow
    if (isMoreThan(s.mostA, flow.amps)) return { ...flow, limit: 'overdrawn' }
    const atMost = lines[k]!.lowSiemens === 0 && pieces[k] === 0
    return atMost ? { ...flow, limit: 'gives-most' } : flow
  }

  /** Sources that give more than they can, an empty pack among them. */
  private overdrawn(): readonly LadenSource[] {
    return this.laden.sources.filter(({ mostA = Infinity }, k) => isMoreThan(mostA, this.laden.sourceAmps(k)))
  }

  /** A wire and those that hang together with it through converters. */
  private islandOf(wire: number): number[] {
    const wires = new Set([wire])
    const { working, wireOf } = this.laden
    for (const at of wires)
      for (const { fromNode, toNode } of working) {
        const [from, to] = [wireOf[fromNode]!, wireOf[toNode]!]
        if (from === at) wires.add(to)
        if (to === at) wires.add(from)
      }
    return [...wires]
  }

  /** A wire has one source, and nothing on it takes less at a lower voltage. */
  private standsAlone(wire: number): boolean {
    const { sources, sinkNode, sinkLaw, sinkValue, wireOf } = this.laden
    if (sources.filter(s => s.wire === wire).length > 1) return false
    for (let k = 0; k < sinkNode.length; k++) {
      const isOhm = sinkLaw[k] === LAW.ohm && sinkValue[k] !== Infinity
      if (isOhm && wireOf[sinkNode[k]!] === wire) return false
    }
    return true
  }
}
