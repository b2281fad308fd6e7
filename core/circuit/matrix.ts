import { kindOf } from '../kinds/index'
import type { Plan } from '../plan/schema'
import { conditionsOf, loadsOf, type Condition } from './conditions'
import { compile, type Network } from './network'
import { Solver, type OperatingPoint } from './solve'

/** A plan solved in its conditions: what checks, sheets and pictures read. */
export interface SolvedPlan {
  plan: Plan
  network: Network
  points: OperatingPoint[]
}

export interface Extreme {
  value: number
  condition: string
}

/** Solves every condition of the matrix, or those given. */
export function solveMatrix(plan: Plan, conditions: Condition[] = conditionsOf(plan)): SolvedPlan {
  const network = compile(plan)
  const solver = new Solver(network)
  return { plan, network, points: conditions.map(c => solver.solve(c)) }
}

/**
 * Solves the conditions in which a limit can be broken. Where every part of the network is a tree with one source, and
 * no load takes more from a higher voltage, every voltage and current of an `only:` state or a named one lies between
 * those of `idle` and `all`, so the corners are there; elsewhere, and where a corner has no solution, it is the whole
 * matrix. While it is charged a tree has more sources than one: its voltages keep between the corners all the same, a
 * current between two charging sources need not.
 */
export function solveCorners(plan: Plan): SolvedPlan {
  const network = compile(plan)
  const solver = new Solver(network)
  const all = conditionsOf(plan)
  const bounded = network.isForest && loadsOf(plan).every(risesWhenActive)
  const isCorner = (c: Condition) => c.loadState === 'idle' || c.loadState === 'all'
  // How much could be carried is looked for where most is asked.
  const corners = (bounded ? all.filter(isCorner) : all).map(c => solver.solve(c, c.loadState === 'all'))
  // Where a corner cannot be carried, what can be is judged from the rest of that state's row.
  const broken = new Set(corners.filter(isBroken).map(p => p.condition.source))
  const rest = bounded ? all.filter(c => !isCorner(c) && broken.has(c.source)) : []
  const points = [...corners, ...rest.map(c => solver.solve(c, false))]
  return { plan, network, points: points.some(p => p.most) ? points : points.map(sought(solver)) }
}

/** With how much could be carried, where that was not looked for and there is no solution. */
const sought = (solver: Solver) => (point: OperatingPoint) =>
  point.status === 'ok' ? point : solver.solve(point.condition)

/** No solution, or none with what the sources can give. */
const isBroken = (p: OperatingPoint) => p.status !== 'ok' || p.sources.some(s => s.limit === 'overdrawn')

/** A load whose draw does not grow with its voltage, is larger when active, and keeps to the power it is set to. */
function risesWhenActive(part: ReturnType<typeof loadsOf>[number]): boolean {
  const kind = kindOf(part)
  const idle = kind.sink!(part, false)
  const active = kind.sink!(part, true)
  const levels = kind.levels?.(part) ?? []
  return (
    idle.law !== 'ohm' &&
    idle.law === active.law &&
    idle.value <= active.value &&
    levels.every(l => l.activeA <= active.value && l.activeA >= idle.value)
  )
}

/** Points with a solution. */
export function solvedPoints(solved: SolvedPlan): OperatingPoint[] {
  return solved.points.filter(p => p.status === 'ok')
}

/**
 * Lowest and highest voltage at a terminal over all conditions that have a solution; null where it is not fed or none
 * has.
 */
export function arrivalSpan(solved: SolvedPlan, terminal: string): { low: Extreme; high: Extreme } | null {
  const node = solved.network.nodeOf.get(terminal)
  if (node === undefined || solved.network.unfed[node]) return null
  let low: Extreme | null = null
  let high: Extreme | null = null
  for (const point of solvedPoints(solved)) {
    const value = point.volts[node]!
    // Of equal ones the later: what starves while it begins to charge starves without a charge as well.
    if (!low || value < low.value + SAME_V) low = { value, condition: point.condition.id }
    if (!high || value > high.value) high = { value, condition: point.condition.id }
  }
  return low && high && { low, high }
}

/** Differences under these are the solver's, not the station's, V and A. */
const SAME_V = 1e-9
const SAME_A = 1e-6

/**
 * Largest current, in either direction, through a branch over all conditions; of equal ones the last, where the source
 * is lowest.
 */
export function largestAmps(solved: SolvedPlan, branch: number | undefined): Extreme {
  let most: Extreme = { value: 0, condition: solved.points[0]?.condition.id ?? '' }
  if (branch === undefined) return most
  for (const point of solvedPoints(solved)) {
    const value = Math.abs(point.amps[branch]!)
    if (value > most.value - SAME_A) most = { value: Math.max(value, most.value), condition: point.condition.id }
  }
  return most
}
