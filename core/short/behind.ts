import { fuseClass } from '../catalog/fuses'
import { deviceBreaksA, type Device } from '../graph/device'
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
  return network.branches.flatMap((branch, i) => {
    const { device } = branch
    if (!device) return []
    const drivenV = drivenVolts(network, i)
    const behindA = ampsBehind(network, aim, i)
    const interruptA = deviceBreaksA(device, drivenV)
    const guarded = behindA > interruptA && ampsUnguarded(network, aim, i) <= interruptA
    return [{ ...device, behindA, drivenV, interruptA, guarded }]
  })
}

/** Highest EMF on the ways to a branch, V. */
export function drivenVolts(network: ShortNetwork, branch: number): number {
  const { a, b } = network.branches[branch]!
  return Math.max(0, ...[a, b].flatMap(v => network.feedsOf[v]!.map(f => f.emfV)))
}

/** What still comes through a branch into a short behind it with every fast fuse in other places open, A. */
function ampsUnguarded(network: ShortNetwork, aim: Aim, branch: number): number {
  const fast = network.branches.flatMap(({ device }, i) => {
    const canBreak = device && fuseClass(device.type).limitsCurrent
    return canBreak && i !== branch && ampsBehind(network, aim, i) <= deviceBreaksA(device, drivenVolts(network, i))
      ? [i]
      : []
  })
  const { a, b } = network.branches[branch]!
  const through = (side: number) => {
    const solver = new ShortSolver(network, new Set([...aim(side).blocked, ...fast]))
    solver.short(side)
    return Math.abs(solver.branchAmps(branch))
  }
  return Math.max(through(a), through(b))
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
