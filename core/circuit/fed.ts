import type { DiodeString, Network } from './network'

type Branches = Pick<Network, 'nodeCount' | 'branchCount' | 'from' | 'to' | 'diode' | 'diodes'>

/** Which nodes current reaches from where: diodes pass it one way, and strings that oppose each other neither. */
export class Fed {
  /** 1 for each node that is reached. */
  readonly nodes: Uint8Array
  private readonly onward: readonly (readonly number[])[]

  constructor(network: Branches) {
    this.nodes = new Uint8Array(network.nodeCount)
    this.onward = onwardOf(network)
  }

  has = (node: number) => this.nodes[node] === 1

  /** A source stands here: all that it reaches is fed. */
  from(node: number) {
    const waiting = [node]
    for (let at = waiting.pop(); at !== undefined; at = waiting.pop()) {
      if (this.nodes[at]) continue
      this.nodes[at] = 1
      waiting.push(...this.onward[at]!)
    }
  }
}

const KNOWN = new WeakMap<Branches, number[][]>()

/** Of each node those to which a branch takes current. */
function onwardOf(network: Branches): readonly (readonly number[])[] {
  const known = KNOWN.get(network)
  if (known) return known
  const onward: number[][] = Array.from({ length: network.nodeCount }, () => [])
  for (let b = 0; b < network.branchCount; b++) {
    const [from, to] = [network.from[b]!, network.to[b]!]
    const diode = network.diodes[network.diode[b]!]
    if (passes(diode, 1)) onward[from]!.push(to)
    if (passes(diode, -1)) onward[to]!.push(from)
  }
  KNOWN.set(network, onward)
  return onward
}

const passes = (diode: DiodeString | undefined, way: 1 | -1) => !diode || (!diode.opposed && diode.forward === way)
