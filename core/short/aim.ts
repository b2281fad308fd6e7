import type { ShortNetwork } from './network'
import type { ShortFlow } from './flow'
import { ShortSolver } from './solver'

/** Currents under this are none, A: the solver's, or what a diode's tail would be. */
export const NOTHING_A = 0.01

/** The network as a short at one place sees it: what passes current one way only, and would pass it back, is open. */
export interface Aimed {
  solver: ShortFlow
  blocked: ReadonlySet<number>
}
export type Aim = (node: number) => Aimed

/** Aims shorts at places of a network; solvers are kept for what stands open. */
export function aimer(network: ShortNetwork, base: (node: number) => ShortFlow): Aim {
  const oneWay = network.branches.flatMap((b, i) => (b.oneWay ? [i] : []))
  const solvers = new Map<string, ShortSolver>()
  const solverWithout = (blocked: ReadonlySet<number>, node: number): ShortFlow => {
    if (!blocked.size) return base(node)
    const key = [...blocked].join(' ')
    const known = solvers.get(key) ?? new ShortSolver(network, blocked)
    solvers.set(key, known)
    return known
  }
  return node => {
    const blocked = new Set<number>()
    for (let before = -1; before !== blocked.size && oneWay.length;) {
      before = blocked.size
      const solver = solverWithout(blocked, node)
      solver.short(node)
      for (const i of oneWay) if (solver.branchAmps(i) < -NOTHING_A) blocked.add(i)
    }
    return { solver: solverWithout(blocked, node), blocked }
  }
}
