import { analyse, type LdlPattern } from './ldl'
import type { Network } from './network'

/**
 * A network with what needs no equation of its own taken out: nodes where nothing is fed or drawn and two branches meet
 * (a block's
 * port between its fuse and its lead) become part of one longer branch, and dead ends (a free port) follow their
 * neighbour.
 * Nodes are numbered in elimination order. `expand` gives every node and branch back.
 */
export interface ReducedNetwork {
  nodeCount: number
  /** Reduced node of each node, or −1. */
  nodeOf: Int32Array
  /** Of each reduced node the one it is. */
  outer: Int32Array
  branchCount: number
  from: Int32Array
  to: Int32Array
  /** Entry of the matrix between the branch's nodes. */
  entry: Int32Array
  ohm: Float64Array
  ohmPerAmp2: Float64Array
  diode: Int32Array
  pattern: LdlPattern
  expand: (volts: Float64Array, amps: Float64Array, allVolts: Float64Array, allAmps: Float64Array) => void
}

interface Chain {
  a: number
  b: number
  ohm: number
  ohmPerAmp2: number
  diode: number
  members: { branch: number; sign: 1 | -1 }[]
}
/** A node taken out: its voltage is that of `near`, less what the members drop on the way. */
interface Removed {
  node: number
  near: number
  members: Chain['members']
}

export function reduceNetwork(network: Network): ReducedNetwork {
  const { nodeCount } = network
  const { chains, removed } = new Reduction(network).run()
  const gone = new Set(removed.map(r => r.node))
  const kept = Array.from({ length: nodeCount }, (_, v) => v).filter(v => !gone.has(v))
  const number = new Int32Array(nodeCount).fill(-1)
  kept.forEach((v, i) => (number[v] = i))
  const pattern = analyse(
    kept.length,
    chains.map(c => [number[c.a]!, number[c.b]!]),
  )
  const nodeOf = number.map(i => (i < 0 ? -1 : pattern.position[i]!))
  const outer = new Int32Array(kept.length)
  for (const v of kept) outer[nodeOf[v]!] = v
  return {
    nodeCount: kept.length,
    nodeOf,
    outer,
    branchCount: chains.length,
    from: Int32Array.from(chains, c => nodeOf[c.a]!),
    to: Int32Array.from(chains, c => nodeOf[c.b]!),
    entry: pattern.edgeEntry,
    ohm: Float64Array.from(chains, c => c.ohm),
    ohmPerAmp2: Float64Array.from(chains, c => c.ohmPerAmp2),
    diode: Int32Array.from(chains, c => c.diode),
    pattern,
    expand: expander(network, outer, chains, removed),
  }
}

/** Takes nodes out, one after the other, until none is left that two branches or fewer meet in. */
class Reduction {
  private readonly chains: (Chain | null)[] = []
  private readonly at: number[][]
  private readonly removed: Removed[] = []

  constructor(private readonly network: Network) {
    this.at = Array.from({ length: network.nodeCount }, () => [])
    for (let i = 0; i < network.branchCount; i++) {
      if (network.from[i] === network.to[i]) continue
      this.put({
        a: network.from[i]!,
        b: network.to[i]!,
        ohm: network.ohm[i]!,
        ohmPerAmp2: network.ohmPerAmp2[i]!,
        diode: network.diode[i]!,
        members: [{ branch: i, sign: 1 }],
      })
    }
  }

  run(): { chains: Chain[]; removed: Removed[] } {
    const waiting = Array.from({ length: this.network.nodeCount }, (_, v) => v)
    for (let v = waiting.pop(); v !== undefined; v = waiting.pop()) {
      const here = this.at[v]!
      if (this.network.anchors[v] || here.length === 0 || here.length > 2) continue
      // Its neighbours may become ends of one branch only, or of two that then run side by side.
      waiting.push(...(here.length === 1 ? this.cutEnd(v) : this.joinThrough(v)))
    }
    return { chains: this.chains.filter(c => c !== null), removed: this.removed }
  }

  private put(chain: Chain) {
    const k = this.chains.push(chain) - 1
    this.at[chain.a]!.push(k)
    this.at[chain.b]!.push(k)
  }

  private drop(k: number) {
    const { a, b } = this.chains[k]!
    this.at[a] = this.at[a]!.filter(other => other !== k)
    this.at[b] = this.at[b]!.filter(other => other !== k)
    this.chains[k] = null
  }

  /** A dead end follows its neighbour. @returns nodes to look at again */
  private cutEnd(v: number): number[] {
    const [k] = this.at[v]!
    const chain = outOf(this.chains[k!]!, v)
    this.removed.push({ node: v, near: chain.a, members: chain.members })
    this.drop(k!)
    return [chain.a]
  }

  /** Two branches that meet where nothing else is become one. @returns nodes to look at again */
  private joinThrough(v: number): number[] {
    const [first, second] = this.at[v]!.map(k => outOf(this.chains[k]!, v)) as [Chain, Chain]
    if (first.a === second.a || first.diode >= 0 || second.diode >= 0) return []
    this.removed.push({ node: v, near: first.a, members: first.members })
    const back = second.members.map(m => ({ branch: m.branch, sign: -m.sign as 1 | -1 })).reverse()
    for (const k of [...this.at[v]!]) this.drop(k)
    this.put({
      a: first.a,
      b: second.a,
      ohm: first.ohm + second.ohm,
      ohmPerAmp2: first.ohmPerAmp2 + second.ohmPerAmp2,
      diode: -1,
      members: [...first.members, ...back],
    })
    return [first.a, second.a]
  }
}

/** A chain as seen by walking toward one of its ends: `a` is the other one. */
function outOf(chain: Chain, end: number): Chain {
  return chain.b === end
    ? chain
    : {
        ...chain,
        a: chain.b,
        b: chain.a,
        members: chain.members.map(m => ({ branch: m.branch, sign: -m.sign as 1 | -1 })).reverse(),
      }
}

/** Lists of branch members, one after the other, as arrays that are quick to walk. */
function flat(lists: Chain['members'][]): { start: Int32Array; branch: Int32Array; sign: Float64Array } {
  const all = lists.flat()
  const start = new Int32Array(lists.length + 1)
  lists.forEach((list, i) => (start[i + 1] = start[i]! + list.length))
  return { start, branch: Int32Array.from(all, m => m.branch), sign: Float64Array.from(all, m => m.sign) }
}

function expander(network: Network, outer: Int32Array, chains: Chain[], removed: Removed[]): ReducedNetwork['expand'] {
  const { ohm, ohmPerAmp2 } = network
  const inChain = flat(chains.map(c => c.members))
  // In the order of return: the last taken out leans on what is still there.
  const back = [...removed].reverse()
  const onWay = flat(back.map(r => r.members))
  const node = Int32Array.from(back, r => r.node)
  const near = Int32Array.from(back, r => r.near)
  return (volts, amps, allVolts, allAmps) => {
    for (let k = 0; k < chains.length; k++) {
      const current = amps[k]!
      for (let m = inChain.start[k]!; m < inChain.start[k + 1]!; m++)
        allAmps[inChain.branch[m]!] = inChain.sign[m]! * current
    }
    for (let i = 0; i < outer.length; i++) allVolts[outer[i]!] = volts[i]!
    for (let r = 0; r < node.length; r++) {
      let v = allVolts[near[r]!]!
      for (let m = onWay.start[r]!; m < onWay.start[r + 1]!; m++) {
        const branch = onWay.branch[m]!
        const i = onWay.sign[m]! * allAmps[branch]!
        // A dead end carries nothing, whatever is in it.
        if (i !== 0) v -= i * (ohm[branch]! + i * i * ohmPerAmp2[branch]!)
      }
      allVolts[node[r]!] = v
    }
  }
}
