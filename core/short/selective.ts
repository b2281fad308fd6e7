import { deviceKey, plainDevice, type Device } from '../graph/device'
import { otherEnd, type ShortNetwork } from './network'
import type { Opening, Short } from './study'

/**
 * Whether the nearest device is sure to open before any other in the way that takes more off the air, and which others
 * may open with it.
 */
export function selectivity(
  network: ShortNetwork,
  [nearest, ...others]: readonly Opening[],
): Pick<Short, 'selective' | 'opensWith'> {
  if (!nearest || !others.length) return { selective: null, opensWith: [] }
  const mayOpen = (d: Opening) => d.fastestS !== null && (nearest.slowestS === null || d.fastestS <= nearest.slowestS)
  const opensWith = others.filter(d => mayOpen(d) && takesMoreOff(network, d, nearest)).map(plainDevice)
  return { selective: opensWith.length === 0, opensWith }
}

/**
 * Whether one device opening takes more off the air than another: some load, or something that changes power for loads,
 * has no way left to a source that it would still have with the other open. Two fuses at both ends of a link do not.
 */
function takesMoreOff(network: ShortNetwork, upstream: Device, nearest: Device): boolean {
  const beside = lostWithout(network, nearest)
  return [...lostWithout(network, upstream)].some(user => !beside.has(user))
}

/** Of each device that was asked for, who loses its feed when it opens: every short asks for the same few again. */
const LOST = new WeakMap<ShortNetwork, Map<string, ReadonlySet<number>>>()

function lostWithout(network: ShortNetwork, device: Device): ReadonlySet<number> {
  const known = LOST.get(network) ?? new Map<string, ReadonlySet<number>>()
  LOST.set(network, known)
  const key = deviceKey(device)
  const lost = known.get(key) ?? new Set(usersBeyond(network, network.branchOf.get(key)))
  known.set(key, lost)
  return lost
}

/** Users on the side of a branch from which no source is reached without it. */
function usersBeyond(network: ShortNetwork, branch: number | undefined): number[] {
  if (branch === undefined) return []
  const { a, b } = network.branches[branch]!
  const sides = [new Side(network, a, branch), new Side(network, b, branch)]
  // Turn by turn, so that the small side is walked and the large one no farther.
  while (sides.some(s => s.goesOn)) {
    sides.forEach(s => s.step())
    const dead = sides.find(s => s.isDead)
    if (dead) return [...dead.seen].filter(node => network.users.has(node))
    if (sides.every(s => s.isFed)) return []
  }
  return []
}

/** One side of a branch, walked until a source is found or nothing is left. */
class Side {
  readonly seen: Set<number>
  private readonly waiting: number[]
  isFed = false

  constructor(
    private readonly network: ShortNetwork,
    start: number,
    private readonly without: number,
  ) {
    this.seen = new Set([start])
    this.waiting = [start]
  }

  get goesOn() {
    return !this.isFed && this.waiting.length > 0
  }

  get isDead() {
    return !this.isFed && !this.waiting.length
  }

  step() {
    if (!this.goesOn) return
    const at = this.waiting.pop()!
    this.isFed = this.network.feedNodes.has(at)
    for (const i of this.network.branchesAt[at]!) {
      const other = otherEnd(this.network.branches[i]!, at)
      if (i === this.without || this.seen.has(other)) continue
      this.seen.add(other)
      this.waiting.push(other)
    }
  }
}
