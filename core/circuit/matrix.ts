import type { SourceState } from '../battery/emf'
import { ampsAbout } from '../kinds/draw'
import { kindOf, type LoadPart } from '../kinds/index'
import { partIdOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import { conditionsOf, loadsOf, sinkIn, type Condition } from './conditions'
import { compile, type Network } from './network'
import type { OperatingPoint } from './operatingPoint'
import { Solver, type Asked } from './solve'

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
  const points = conditions.map(c => solver.solve(c))
  const offIn = droppedIn(plan, points, eachByItself(solver))
  const judged = points.map(point => {
    const off = offIn.get(point.condition.source)
    if (!off) return point
    const without = solver.solve(withOff(point.condition, off), { below: NOT_SOUGHT })
    return { ...without, ...(point.most && { most: point.most }) }
  })
  return { plan, network, points: judged }
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
  const rises = loadsOf(plan).every(risesWhenActive)
  const bounded = network.isForest && rises
  const isCorner = (c: Condition) => c.loadState === 'idle' || c.loadState === 'all'
  const solve = rises ? sparing(solver) : eachByItself(solver)
  const tried = all.filter(isCorner).map(c => solve(c, { below: c.loadState === 'idle' ? 1 : NOT_SOUGHT }))
  const offIn = droppedIn(plan, tried, solve)
  const asJudged = (c: Condition) => {
    const off = offIn.get(c.source)
    return solve(off ? withOff(c, off) : c, { below: NOT_SOUGHT })
  }
  const corners = tried.map(p => (offIn.get(p.condition.source) ? asJudged(p.condition) : p))
  // Where a corner cannot be carried, what can be is judged from the rest of that state's row.
  const broken = new Set(corners.filter(isBroken).map(p => p.condition.source))
  const rest = all.filter(c => !isCorner(c) && (!bounded || broken.has(c.source)))
  const solved = new Map(corners.map(p => [p.condition.id, p]))
  for (const condition of rest) solved.set(condition.id, asJudged(condition))
  const points = all.flatMap(c => solved.get(c.id) ?? [])
  return { plan, network, points: withMost(points, solver) }
}

/** How much could be carried is not looked for. */
const NOT_SOUGHT = 0

/**
 * A battery's states, each with those that are emptier. While it is charged it is another matter: what charges takes
 * from its own wires, and may be what is too much.
 */
const WEAKER: Partial<Record<SourceState, readonly SourceState[]>> = {
  full: ['nominal', 'low'],
  nominal: ['low'],
}

type Solve = (condition: Condition, asked: Asked) => OperatingPoint

const eachByItself =
  (solver: Solver): Solve =>
  (condition, asked) =>
    solver.solve(condition, { ...asked, below: NOT_SOUGHT })

/**
 * Solves conditions and spares those that cannot stand, where no load takes less when more of them are active: what is
 * too much idle is too much with anything active, and what a stronger state cannot carry a weaker one cannot either.
 */
function sparing(solver: Solver): Solve {
  const tooMuch = new Map<string, OperatingPoint>()
  const overdrawnIdle = new Set<string>()
  return (condition, asked) => {
    const { source, loadState } = condition
    const off = [...(condition.off ?? [])].sort().join()
    const keyOf = (state: SourceState, loads: string) => `${state} ${loads} ${off}`
    const without = tooMuch.get(keyOf(source, 'idle')) ?? tooMuch.get(keyOf(source, loadState))
    if (without) return { ...without, condition, most: undefined }
    const lifted = asked.lifted || overdrawnIdle.has(keyOf(source, 'idle'))
    const point = solver.solve(condition, { ...asked, lifted })
    if (point.status === 'collapses')
      for (const state of [source, ...(WEAKER[source] ?? [])]) tooMuch.set(keyOf(state, loadState), point)
    else if (loadState === 'idle' && !lifted && isOverdrawn(point) && hangsTogether(point, solver))
      overdrawnIdle.add(keyOf(source, 'idle'))
    return point
  }
}

/** Whether one wire feeds all: what is too much for the sources of one says nothing of those of another. */
function hangsTogether({ sources, transfers }: OperatingPoint, { network }: Solver): boolean {
  const outputs = new Set(transfers.map(t => t.node))
  return new Set(sources.filter(s => !outputs.has(s.node)).map(s => network.component[s.node])).size === 1
}

/**
 * Points without a solution, with how much could be carried where that is least: looked for where everything is active,
 * or in the rest where that has a solution.
 */
function withMost(points: OperatingPoint[], solver: Solver): OperatingPoint[] {
  const broken = points.filter(p => p.status !== 'ok' || p.condition.off)
  const all = broken.filter(p => p.condition.loadState === 'all')
  let below = 1
  const found = new Map<OperatingPoint, OperatingPoint>()
  // From the emptiest on: what the fuller ones carry is seldom less.
  for (const point of (all.length ? all : broken).reverse()) {
    const asked = point.condition.asked ?? point.condition
    const sought = solver.solve(asked, { below })
    if (sought.most && sought.most.share >= below) continue
    found.set(point, point.condition.off ? { ...point, ...(sought.most && { most: sought.most }) } : sought)
    below = Math.min(below, sought.most?.share ?? below)
  }
  return points.map(p => found.get(p) ?? p)
}

/**
 * Where a source state has no solution even while all idle, some load is too much for its way whatever the others do:
 * it drops out, and that state's row is to be solved without it, so that the others are judged.
 */
function droppedIn(
  plan: Plan,
  points: readonly OperatingPoint[],
  solve: Solve,
): ReadonlyMap<SourceState, ReadonlySet<string> | null> {
  const states = new Set(points.filter(p => p.status === 'collapses').map(p => p.condition.source))
  const idle = conditionsOf(plan).filter(c => c.loadState === 'idle' && states.has(c.source))
  return new Map(idle.map(c => [c.source, tooMuch(plan, c, solve)]))
}

/** The condition with loads that are off: none of them is active. */
const withOff = (condition: Condition, off: ReadonlySet<string>): Condition => ({
  ...condition,
  off,
  active: new Map([...condition.active].filter(([id]) => !off.has(id))),
  asked: condition,
})

/** So many loads are tried one by one; where more are too much, the whole station is. */
const MOST_TRIED = 24

/**
 * The loads that have to drop out so that the rest can be carried: from none at all on each is taken in that still
 * stands, those of a fixed current first, since what takes a fixed power is what runs away, and the smaller ones first.
 * Null where none has to, where nothing would be left, or where it is not the loads.
 */
function tooMuch(plan: Plan, condition: Condition, solve: Solve): ReadonlySet<string> | null {
  const stands = (off: ReadonlySet<string>) =>
    solve(withOff(condition, off), { below: NOT_SOUGHT, lifted: true }).status === 'ok'
  if (stands(new Set())) return null
  const rank = (part: LoadPart) => {
    const sink = sinkIn(part, condition)!
    return (sink.law === 'power' ? 1e6 : 0) + ampsAbout(sink)
  }
  const loads = loadsOf(plan).sort((a, b) => rank(a) - rank(b))
  const without = (from: number) => new Set(loads.slice(from).map(l => l.id))
  if (!stands(without(0))) return null
  // So many of them stand together; of the others each is tried.
  let [least, most] = [0, loads.length]
  while (most - least > 1) {
    const half = (least + most) >> 1
    if (stands(without(half))) least = half
    else most = half
  }
  const off = without(least)
  for (const { id } of loads.slice(least, least + MOST_TRIED)) {
    off.delete(id)
    if (!stands(off)) off.add(id)
  }
  return off.size < loads.length ? off : null
}

/** Everything in every condition has what it takes: no point is missing, and no load dropped out for it. */
export const isCarried = ({ points }: SolvedPlan): boolean => points.every(p => p.status === 'ok' && !p.condition.off)

/** No solution, or none with what the sources can give. */
const isBroken = (p: OperatingPoint) => p.status !== 'ok' || isOverdrawn(p)

const isOverdrawn = (p: OperatingPoint) => p.sources.some(s => s.limit === 'overdrawn')

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
    if (point.condition.off?.has(partIdOf(terminal))) continue
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
