import { solveCorners } from '../circuit/matrix'
import { workingTemperatures } from '../circuit/working'
import { siteOf, type Lead, type Plan } from '../plan/schema'
import { ADIABATIC_S, survives, withstandI2t } from '../conductor/withstand'
import { openingTime } from '../fuse/opening'
import { partIdOf } from '../plan/find'
import { protectionOf, unprotectedRuns } from '../protection/zones'
import { behindDevices, drivenVolts, type ShortDevice } from './behind'
import { isolation, type Isolation } from './isolation'
import { selectivity } from './selective'
import { otherEnd, shortNetwork, type ShortNetwork, type ShortPlace } from './network'
import { aimer, NOTHING_A, type Aimed } from './aim'
import type { ShortFlow } from './flow'
import { ShortSolver } from './solver'
import { TreeFlow } from './tree'
import { deviceBreaksA, plainDevice, type Device } from '../graph/device'
import { reach } from '../graph/walk'

/** A fuse or breaker in the way of a short. */
export interface Opening extends Device {
  amps: number
  /** null: it need not open at this current. */
  slowestS: number | null
  fastestS: number | null
  /** The current is more than its class can break. */
  overInterrupting: boolean
}

/** What a short does to one conductor until it is cleared. */
export interface ConductorInShort {
  lead: string
  amps: number
  /** null: something goes on for good. */
  i2t: number | null
  withstandsI2t: number
  survives: boolean
  /** What goes on for good when all that opens has opened, A; 0 where nothing does. */
  lastingA: number
  /** Which of what opens has ended its current; null where nothing has. */
  endedBy: number | null
}

/** A dead short at one place. Amps, seconds, A²s. */
export interface Short {
  at: string
  kind: 'terminal' | 'lead-end'
  /** Lead whose end it is. */
  lead: string | null
  prospectiveA: number
  /** null where a source's internal resistance is not said: then it is only what the rest of the path lets through. */
  known: boolean
  from: { source: string; amps: number; limited: boolean }[]
  /** In the order in which they open. The first is the one that opens first. */
  opens: Opening[]
  /**
   * Whether what opens cuts off every source; a source that limits itself to what the conductors carry counts as cut
   * off.
   */
  clears: boolean
  clearedAfterS: number | null
  /** The way of the current: leads from the source to the short. */
  conductors: ConductorInShort[]
  survives: boolean
  /**
   * Whether the device nearest to the short is sure to open before any other; null where fewer than two are in its way.
   */
  selective: boolean | null
  /** Devices farther up that may open before the nearest one. */
  opensWith: Device[]
  /** A battery management system's likely trip; it is not counted on. */
  bms: { battery: string; tripA: number }[]
}

export type { ShortDevice }

export interface ShortStudy {
  shorts: Short[]
  unprotected: { source: string; lead: string; lengthM: number; prospectiveA: number | null }[]
  /** Most that each fuse and breaker may have to break: a dead short right behind it, on either side. */
  devices: ShortDevice[]
  isolation: Isolation[]
}

/**
 * A dead short at every terminal and every lead's far end, from every source that feeds it; or at lead ends alone,
 * which is all that checks ask for.
 * @param solved the plan at work: how hot its conductors are before the short
 */
export function shortStudy(plan: Plan, only: 'all' | 'lead-ends' = 'all', solved = solveCorners(plan)): ShortStudy {
  const network = shortNetwork(plan, workingTemperatures(solved))
  const flowAt = flows(network)
  const aim = aimer(network, flowAt)
  const places = placesOf(network, flowAt).filter(p => only === 'all' || p.kind === 'lead-end')
  return {
    shorts: places.map(place => shortAt(network, aim(place.node), place)),
    unprotected: only === 'lead-ends' ? [] : unprotectedOf(network, flowAt),
    devices: behindDevices(network, aim),
    isolation: isolation(plan),
  }
}

type FlowAt = (node: number) => ShortFlow

/** What works out a short at a node: one way by adding up, others by solving. */
function flows(network: ShortNetwork): FlowAt {
  const tree = network.isForest ? new TreeFlow(network) : null
  let solver: ShortSolver | null = null
  return node => (tree && TreeFlow.suits(network, node) ? tree : (solver ??= new ShortSolver(network)))
}

/** Every run of conductor before its first fuse, with what a short at its post draws. */
function unprotectedOf(network: ShortNetwork, flowAt: FlowAt): ShortStudy['unprotected'] {
  const { plan, places } = network
  const runs = unprotectedRuns(plan, protectionOf(plan)).filter(run => run.lengthM > 0)
  return runs.map(({ source, lead, lengthM }) => {
    const postEnd = partIdOf(lead.from) === source.id ? lead.from : lead.to
    const post = places.find(p => p.kind === 'lead-end' && p.lead === lead.id && p.at === postEnd)
    return { source: source.id, lead: lead.id, lengthM, prospectiveA: post ? flowAt(post.node).short(post.node) : null }
  })
}

/** Every terminal, and of every lead the end that lies farther from the sources: where less flows. */
function placesOf(network: ShortNetwork, flowAt: FlowAt): ShortPlace[] {
  const ends = new Map<string, { place: ShortPlace; amps: number }>()
  for (const place of network.places) {
    if (place.kind !== 'lead-end') continue
    const amps = flowAt(place.node).prospective(place.node)
    const other = ends.get(place.lead!)
    if (!other || amps < other.amps) ends.set(place.lead!, { place, amps })
  }
  return [...network.places.filter(p => p.kind === 'terminal'), ...[...ends.values()].map(e => e.place)]
}

/** A dead short at one place, cleared step by step. */
export function shortAt(network: ShortNetwork, { solver: base, blocked }: Aimed, place: ShortPlace): Short {
  const prospectiveA = base.short(place.node)
  const feeding = feedsInto(network, place.node, blocked)
  const from = feeding
    .map(f => ({ source: f.part.id, amps: base.feedAmps(f), limited: f.limitA !== null }))
    .filter(f => f.amps > NOTHING_A)
  const bms = feeding
    .filter(f => f.tripA !== null && base.feedAmps(f) > f.tripA)
    .map(f => ({ battery: f.part.id, tripA: f.tripA! }))
  const clearing = clear(network, { solver: base, blocked }, place.node, from.length === 0)
  if (clearing.opened.size) base.short(place.node)
  const conductors = conductorsOf(network, clearing.dose)
  const survives = conductors.every(c => c.survives)
  // Sources that limit themselves to what every conductor on the way carries for good: nothing burns, though nothing
  // opens.
  const limitsAll = () => feedsInto(network, place.node, clearing.opened).every(f => f.limitA !== null)
  const carried = !clearing.clears && survives && limitsAll()
  const { selective, opensWith } = selectivity(network, devicesToward(network, base, place.node))
  return {
    at: place.at,
    kind: place.kind,
    lead: place.lead,
    prospectiveA,
    known: !feeding.some(f => f.unknown),
    from,
    opens: clearing.opens,
    clears: clearing.clears || carried,
    clearedAfterS: clearing.clears ? clearing.afterS : null,
    conductors,
    survives,
    selective,
    opensWith,
    bms,
  }
}

/** What a stretch of conductor has taken until now. */
interface Dose {
  amps: number
  /** In how many stages others had opened before the last of it. */
  stage: number
  /** Stages too short to lose any heat, together, A²s. */
  i2t: number
  /** Longer ones, each with its own current. */
  long: { amps: number; seconds: number }[]
}

interface Clearing {
  opened: Set<number>
  opens: Opening[]
  clears: boolean
  afterS: number
  dose: Map<number, Dose>
}

/**
 * Opens devices one after the other, the soonest first, until no source reaches the short or nothing opens any more:
 * what has opened opens no second time.
 */
function clear(network: ShortNetwork, { solver: base, blocked }: Aimed, node: number, isClear: boolean): Clearing {
  const clearing: Clearing = { opened: new Set(blocked), opens: [], clears: isClear, afterS: 0, dose: new Map() }
  let solver: ShortFlow = base
  while (!clearing.clears) {
    const carrying = branchesCarrying(network, solver, node)
    const next = soonest(network, carrying)
    addDose(network, clearing, carrying, next.seconds)
    if (next.branch < 0) break
    clearing.opens.push(
      openingOf(network.branches[next.branch]!.device!, carrying.get(next.branch)!, drivenVolts(network, next.branch)),
    )
    clearing.afterS += next.seconds
    clearing.opened.add(next.branch)
    if (base.way() || !feedsInto(network, node, clearing.opened).length) {
      clearing.clears = true
      break
    }
    solver = new ShortSolver(network, clearing.opened)
    if (solver.short(node) < NOTHING_A) clearing.clears = true
  }
  return clearing
}

/** The device that is sure to open first, and when; branch −1 where none need open. */
function soonest(network: ShortNetwork, carrying: ReadonlyMap<number, number>): { branch: number; seconds: number } {
  let found = { branch: -1, seconds: Infinity }
  for (const [branch, amps] of carrying) {
    const { device } = network.branches[branch]!
    const seconds = device ? (openingTime(device.type, device.ratedA, amps)?.slowestS ?? Infinity) : Infinity
    if (seconds < found.seconds) found = { branch, seconds }
  }
  return found
}

function addDose(
  network: ShortNetwork,
  { dose, opens }: Clearing,
  carrying: ReadonlyMap<number, number>,
  seconds: number,
) {
  for (const [i, amps] of carrying) {
    const { lead, lengthM } = network.branches[i]!
    if (!lead || lengthM === 0) continue
    const before = dose.get(i) ?? { i2t: 0, amps: 0, stage: 0, long: [] }
    const isLong = seconds > ADIABATIC_S
    dose.set(i, {
      amps: Math.max(before.amps, amps),
      stage: opens.length,
      i2t: before.i2t + (isLong ? 0 : amps ** 2 * seconds),
      long: isLong ? [...before.long, { amps, seconds }] : before.long,
    })
  }
}

function openingOf(device: Device, amps: number, drivenV: number): Opening {
  const time = openingTime(device.type, device.ratedA, amps)
  const slowestS = time?.slowestS ?? null
  const fastestS = time?.fastestS ?? null
  const overInterrupting = amps > deviceBreaksA(device, drivenV)
  // Written out: this is made more often than anything else, and a spread costs more than all the rest.
  const { place, item, kind, type, ratedA } = device
  const opening: Opening = { place, item, kind, type, ratedA, amps, slowestS, fastestS, overInterrupting }
  return kind === 'breaker' ? Object.assign(opening, plainDevice(device)) : opening
}

/** Branches through which a short's current comes, found from the short outward, with their amps. */
function branchesCarrying(network: ShortNetwork, solver: ShortFlow, node: number): Map<number, number> {
  const way = solver.way()
  if (way) {
    const along = new Map<number, number>()
    for (const i of way) along.set(i, Math.abs(solver.branchAmps(i)))
    return along
  }
  const found = new Map<number, number>()
  const queue = [node]
  while (queue.length) {
    const v = queue.pop()!
    for (const i of network.branchesAt[v]!) {
      if (found.has(i)) continue
      const amps = Math.abs(solver.branchAmps(i))
      if (amps < NOTHING_A) continue
      found.set(i, amps)
      queue.push(otherEnd(network.branches[i]!, v))
    }
  }
  return found
}

/** Sources from which there is a way to a node over what is not open. */
function feedsInto(network: ShortNetwork, node: number, opened: ReadonlySet<number>) {
  if (!opened.size) return network.feedsOf[node]!
  const over = (v: number) =>
    network.branchesAt[v]!.filter(i => !opened.has(i)).map(i => otherEnd(network.branches[i]!, v))
  const reached = reach([node], over)
  return network.feeds.filter(f => reached.has(f.node))
}

/** Devices on the main way of the current into the short, nearest first. */
function devicesToward(network: ShortNetwork, solver: ShortFlow, node: number): Opening[] {
  const found: Opening[] = []
  const way = solver.way()
  if (way) {
    for (const i of way) {
      const { device } = network.branches[i]!
      if (device) found.push(openingOf(device, Math.abs(solver.branchAmps(i)), drivenVolts(network, i)))
    }
    return found
  }
  const seen = new Set([node])
  for (let v = node; ;) {
    let best = -1
    let most = NOTHING_A
    for (const i of network.branchesAt[v]!) {
      const b = network.branches[i]!
      const inward = b.b === v ? solver.branchAmps(i) : -solver.branchAmps(i)
      if (inward > most && !seen.has(b.b === v ? b.a : b.b)) {
        most = inward
        best = i
      }
    }
    if (best < 0) return found
    const b = network.branches[best]!
    if (b.device) found.push(openingOf(b.device, most, drivenVolts(network, best)))
    v = b.b === v ? b.a : b.b
    seen.add(v)
  }
}

function conductorsOf(network: ShortNetwork, dose: ReadonlyMap<number, Dose>): ConductorInShort[] {
  const byLead = new Map<string, ConductorInShort>()
  for (const [i, taken] of dose) {
    const lead = network.branches[i]!.lead!
    const before = byLead.get(lead.id)
    // Along one way every stretch of a lead takes the same.
    const i2t = wholeDose(taken)
    if (before && before.amps === taken.amps && before.i2t === i2t) continue
    const workingC = network.workingC.get(lead.id)!
    const lives = outlives(network.plan, lead, taken, workingC)
    if (before && before.survives && !lives) byLead.delete(lead.id)
    else if (before && before.amps >= taken.amps) continue
    byLead.set(lead.id, {
      lead: lead.id,
      amps: taken.amps,
      i2t,
      withstandsI2t: withstandI2t(lead.conductor, workingC),
      survives: lives,
      lastingA: Math.max(0, ...taken.long.filter(s => s.seconds === Infinity).map(s => s.amps)),
      endedBy: i2t === null ? null : taken.stage,
    })
  }
  return [...byLead.values()]
}

/** All stages, A²s; null where one has no end. */
function wholeDose({ i2t, long }: Dose): number | null {
  const whole = long.reduce((sum, s) => sum + s.amps ** 2 * s.seconds, i2t)
  return Number.isFinite(whole) ? whole : null
}

/** Lives through the short stages together, and through each of the long ones. */
function outlives(plan: Plan, lead: Lead, { i2t, long }: Dose, workingC: number): boolean {
  const { ambientC, ampacity } = siteOf(plan)
  const { bundledConductors } = lead
  const stands = (s: Dose['long'][number]) =>
    survives(lead.conductor, ampacity, s.seconds, {
      amps: s.amps,
      ambientC: ambientC.high,
      bundledConductors,
      workingC,
    })
  return i2t < withstandI2t(lead.conductor, workingC) && long.every(stands)
}
