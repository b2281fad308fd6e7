import { analyse, factor, solveFactored, solveUnit, type LdlPattern } from '../circuit/ldl'
import type { ShortFlow } from './flow'
import { LIMITED_OHM, type ShortFeed, type ShortNetwork } from './network'

const patterns = new WeakMap<ShortNetwork, LdlPattern>()

/** Worked out once a network, and only where one is solved. */
function patternOf(network: ShortNetwork): LdlPattern {
  const known = patterns.get(network)
  if (known) return known
  const ends = network.branches.map((b): [number, number] => [b.a, b.b])
  const made = analyse(network.nodeCount, ends)
  patterns.set(network, made)
  return made
}

/** The network without shorts, factored, with some of its devices open. */
export class ShortSolver implements ShortFlow {
  private readonly pattern: LdlPattern
  private readonly diagonal: Float64Array
  private readonly entries: Float64Array
  private readonly open: Float64Array
  private readonly column: Float64Array
  private readonly scratch: Float64Array
  private amps = 0
  private scale = 1

  constructor(
    private readonly network: ShortNetwork,
    private readonly opened: ReadonlySet<number> = new Set(),
  ) {
    const { nodeCount: n, branches, feeds } = network
    const pattern = patternOf(network)
    this.pattern = pattern
    this.diagonal = new Float64Array(n)
    this.entries = new Float64Array(pattern.rowOf.length)
    this.open = new Float64Array(n)
    this.column = new Float64Array(n)
    this.scratch = new Float64Array(n)
    // What hangs on nothing stays at 0 V.
    this.diagonal.fill(1e-9)
    branches.forEach((b, i) => {
      if (opened.has(i) || b.a === b.b) return
      const g = 1 / b.ohm
      this.diagonal[pattern.position[b.a]!]! += g
      this.diagonal[pattern.position[b.b]!]! += g
      this.entries[pattern.edgeEntry[i]!]! -= g
    })
    for (const feed of feeds) {
      this.diagonal[pattern.position[feed.node]!]! += 1 / feed.ohm
      this.open[pattern.position[feed.node]!]! += feed.limitA ?? feed.emfV / feed.ohm
    }
    if (!factor(pattern, this.diagonal, this.entries)) throw new Error('the network of the short study has no solution')
    solveFactored(pattern, this.diagonal, this.entries, this.open)
  }

  prospective(node: number): number {
    const k = this.pattern.position[node]!
    return this.open[k]! / solveUnit(this.pattern, this.diagonal, this.entries, k, this.scratch, false)
  }

  short(node: number): number {
    this.column.fill(0)
    const k = this.pattern.position[node]!
    this.scale = 1
    this.amps = this.open[k]! / solveUnit(this.pattern, this.diagonal, this.entries, k, this.column, true)
    this.scale = this.belowTheirVoltage(this.network.feedsOf[node]!)
    return this.amps * this.scale
  }

  private volts(node: number): number {
    const k = this.pattern.position[node]!
    return this.scale * (this.open[k]! - this.amps * this.column[k]!)
  }

  /**
   * Over much resistance a source that limits itself comes to its voltage before its limit; where only such ones feed,
   * all falls in proportion.
   */
  private belowTheirVoltage(feeds: readonly ShortFeed[]): number {
    if (feeds.some(f => f.limitA === null && this.feedAmps(f) > 1e-3)) return 1
    return Math.min(
      1,
      ...feeds
        .filter(f => f.limitA !== null && this.volts(f.node) > f.emfV && this.feeding(f))
        .map(f => f.emfV / this.volts(f.node)),
    )
  }

  /** A source that is cut off from the short stands at a voltage of no meaning. */
  private feeding(feed: ShortFeed): boolean {
    return this.volts(feed.node) < 0.5 * feed.limitA! * LIMITED_OHM
  }

  branchAmps(i: number): number {
    const b = this.network.branches[i]!
    return this.opened.has(i) ? 0 : (this.volts(b.a) - this.volts(b.b)) / b.ohm
  }

  way() {
    return null
  }

  feedAmps(feed: ShortFeed): number {
    if (feed.limitA === null) return (feed.emfV - this.volts(feed.node)) / feed.ohm
    return this.feeding(feed) ? Math.min(feed.limitA, feed.limitA - this.volts(feed.node) / feed.ohm) : 0
  }
}
