import { kindOf } from '../kinds/index'
import type { Plan } from '../plan/schema'
import { conditionsOf, loadsOf, sourceStatesOf, type Condition } from './conditions'
import { compile, type Network } from './network'
import { placedIn } from './placed'
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
 * no load
 * takes more from a higher voltage, every voltage and current of an `only:` state or a named one lies between those of
 * `idle`
 * and `all`, so the corners are there; elsewhere it is the whole matrix.
 */
export function solveCorners(plan: Plan): SolvedPlan {
  const network = compile(plan)
  const solver = new Solver(network)
  const all = conditionsOf(plan)
  const bounded = network.isForest && loadsOf(plan).every(risesWhenActive)
  const conditions = bounded ? all.filter(c => c.loadState === 'idle' || c.loadState === 'all') : all
  return { plan, network, points: [...conditions, ...fullCharge(plan, network)].map(c => solver.solve(c)) }
}

/**
 * Every charging device giving its full current into half-full batteries, nothing active: what flows in their
 * conductors, fuses and
 * contacts. Found under the name of the condition it belongs to; arriving voltages are not read from it.
 */
function fullCharge(plan: Plan, network: Network): Condition[] {
  const possible =
    sourceStatesOf(plan).includes('charging') && placedIn(network, 'nominal').charging.some(c => c.maxA > 0)
  return possible
    ? [{ id: 'charging/idle', source: 'nominal', loadState: 'idle', active: new Map(), fullCharge: true }]
    : []
}

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
    if (point.condition.fullCharge) continue
    const value = point.volts[node]!
    if (!low || value < low.value) low = { value, condition: point.condition.id }
    if (!high || value > high.value) high = { value, condition: point.condition.id }
  }
  return low && high && { low, high }
}

/** Differences under this are the solver's, not the station's, A. */
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
