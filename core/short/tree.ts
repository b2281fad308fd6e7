import type { ShortFlow } from './flow'
import { LIMITED_OHM, otherEnd, type ShortFeed, type ShortNetwork } from './network'

/**
 * Shorts in a network without rings, at nodes that one source feeds: there is one way, and its resistances add up. The
 * same answers as ShortSolver's, without solving anything.
 */
export class TreeFlow implements ShortFlow {
  /** The branch toward the source, by node; −1 at the source and where no single one feeds. */
  private readonly up: Int32Array
  /** Resistance from the source's terminals, Ω. */
  private readonly ohm: Float64Array
  private readonly onWay: Uint32Array
  private mark = 0
  private amps = 0
  private feed: ShortFeed | null = null
  private readonly branchesUp: number[] = []

  constructor(private readonly network: ShortNetwork) {
    const { nodeCount, branches } = network
    this.up = new Int32Array(nodeCount).fill(-1)
    this.ohm = new Float64Array(nodeCount)
    this.onWay = new Uint32Array(branches.length)
    for (const feed of network.feeds) if (network.feedsOf[feed.node]!.length === 1) this.spreadFrom(feed.node)
  }

  private spreadFrom(root: number) {
    const { branches, branchesAt } = this.network
    const queue = [root]
    while (queue.length) {
      const v = queue.pop()!
      for (const i of branchesAt[v]!) {
        if (i === this.up[v]) continue
        const next = otherEnd(branches[i]!, v)
        this.up[next] = i
        this.ohm[next] = this.ohm[v]! + branches[i]!.ohm
        queue.push(next)
      }
    }
  }

  /** Whether this is the one to ask about a node. */
  static suits(network: ShortNetwork, node: number): boolean {
    return network.isForest && network.feedsOf[node]!.length === 1
  }

  prospective(node: number): number {
    const feed = this.network.feedsOf[node]![0]!
    const ohm = this.ohm[node]!
    if (feed.limitA === null) return feed.emfV / (feed.ohm + ohm)
    // Over much resistance it comes to its voltage before its limit.
    return Math.min((feed.limitA * LIMITED_OHM) / (LIMITED_OHM + ohm), feed.emfV / Math.max(ohm, 1e-12))
  }

  short(node: number): number {
    const { branches } = this.network
    this.mark++
    this.feed = this.network.feedsOf[node]![0]!
    this.amps = this.prospective(node)
    this.branchesUp.length = 0
    for (let v = node; this.up[v]! >= 0; v = otherEnd(branches[this.up[v]!]!, v)) {
      this.onWay[this.up[v]!] = this.mark
      this.branchesUp.push(this.up[v]!)
    }
    return this.amps
  }

  way(): readonly number[] {
    return this.branchesUp
  }

  branchAmps(branch: number): number {
    if (this.onWay[branch] !== this.mark) return 0
    return this.up[this.network.branches[branch]!.b] === branch ? this.amps : -this.amps
  }

  feedAmps(feed: ShortFeed): number {
    return feed === this.feed ? this.amps : 0
  }
}
