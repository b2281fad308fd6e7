import { fuseClass } from '../catalog/fuses'
import { deviceBreaksA, plainDevice, type Device } from '../graph/device'
import type { Aim } from './aim'
import type { ShortNetwork } from './network'
import { ShortSolver } from './solver'

/** A fuse or breaker against the worst short right behind it, on either side. */
export interface ShortDevice extends Device {
  behindA: number
  /** Highest EMF that drives it, V. */
  drivenV: number
  /** The most it can break at that voltage, A. */
  interruptA: number
  /** Every way by which more comes than it can break leads through a fast current-limiting fuse that can. */
  guarded: boolean
}

/** Every fuse and breaker against the worst short right behind it. */
export function behindDevices(network: ShortNetwork, aim: Aim): ShortDevice[] {
  const found: ShortDevice[] = []
  const branchOf: number[] = []
  network.branches.forEach(({ device }, branch) => {
    if (!device) return
    const drivenV = drivenVolts(network, branch)
    const behindA = ampsBehind(network, aim, branch)
    const interruptA = deviceBreaksA(device, drivenV)
    found.push(Object.assign(plainDevice(device), { behindA, drivenV, interruptA, guarded: false }))
    branchOf.push(branch)
  })
  const isFast = (d: ShortDevice) => fuseClass(d.type).limitsCurrent && d.behindA <= d.interruptA
  const fast = branchOf.filter((_, i) => isFast(found[i]!))
  const unguardedA = throughOthers(network, aim, fast)
  if (fast.length)
    found.forEach((d, i) => {
      d.guarded = d.behindA > d.interruptA && unguardedA(branchOf[i]!) <= d.interruptA
    })
  return found
}

/** Highest EMF on the ways to a branch, V. */
export function drivenVolts(network: ShortNetwork, branch: number): number {
  const { a, b } = network.branches[branch]!
  let highest = 0
  for (const v of [a, b]) for (const f of network.feedsOf[v]!) highest = Math.max(highest, f.emfV)
  return highest
}

/** What still comes through a branch into a short behind it with every other fast fuse open, A. */
function throughOthers(network: ShortNetwork, aim: Aim, fast: readonly number[]): (branch: number) => number {
  const solvers = new Map<string, ShortSolver>()
  const without = (open: ReadonlySet<number>) => {
    const key = [...open].join(' ')
    const solver = solvers.get(key) ?? new ShortSolver(network, open)
    solvers.set(key, solver)
    return solver
  }
  return branch => {
    const others = fast.filter(f => f !== branch)
    const through = (side: number) => {
      const solver = without(new Set([...aim(side).blocked, ...others]))
      solver.short(side)
      return Math.abs(solver.branchAmps(branch))
    }
    const { a, b } = network.branches[branch]!
    return Math.max(through(a), through(b))
  }
}

/** Current of a dead short right behind a device, on the side where it is more, A. */
function ampsBehind(network: ShortNetwork, aim: Aim, branch: number): number {
  const { a, b } = network.branches[branch]!
  if (network.isForest && network.feedsOf[a]!.length === 1) {
    // One way in: a short on the far side, where it is smaller, comes through the device whole.
    return Math.min(aim(a).solver.prospective(a), aim(b).solver.prospective(b))
  }
  const through = (side: number) => {
    const { solver } = aim(side)
    solver.short(side)
    return Math.abs(solver.branchAmps(branch))
  }
  return Math.max(through(a), through(b))
}
