import { conductorOhmPerM, resistanceFactorAt } from '../conductor/resistance'
import { matingLoopOhm, type FittedContact } from '../connector/mate'
import { deviceKey, devicesIn, itemsAlong, plainDevice, type Device } from '../graph/device'
import { graphOf } from '../graph/graph'
import { isLoad, kindOf, type Part } from '../kinds/index'
import { inlineLoopOhm, type Inline } from '../kinds/inline'
import type { IntoShort } from '../kinds/kind'
import { partIdOf } from '../plan/find'
import { siteOf, type Lead, type Plan } from '../plan/schema'
import { shortSources } from '../protection/prospective'

/** A resistance of the network in which shorts are made; leads are cut at their ends and at every device in them. */
export interface ShortBranch {
  a: number
  b: number
  ohm: number
  lead: Lead | null
  device: Device | null
  /** Length of conductor, m. */
  lengthM: number
  /** Passes current from a to b only, as a gate does. */
  oneWay: boolean
}

export interface ShortFeed {
  part: Part
  node: number
  emfV: number
  ohm: number
  /** Gives this and no more; its EMF then is what it cannot go over. */
  limitA: number | null
  /** Its internal resistance is not said. */
  unknown: boolean
  /** Its management system's likely trip, A. */
  tripA: number | null
}

/** A place for a short: a terminal, or the far end of a lead before its contact. */
export interface ShortPlace {
  at: string
  kind: 'terminal' | 'lead-end'
  lead: string | null
  node: number
}

export interface ShortNetwork {
  plan: Plan
  /** How hot each lead's conductors are before the short, °C, by lead. */
  workingC: ReadonlyMap<string, number>
  nodeCount: number
  branches: ShortBranch[]
  feeds: ShortFeed[]
  places: ShortPlace[]
  nodeOf: ReadonlyMap<string, number>
  branchesAt: readonly number[][]
  /** Sources with a way to each node, everything closed. */
  feedsOf: readonly (readonly ShortFeed[])[]
  /** No two ways between any two nodes. */
  isForest: boolean
  /** The branch of each device. */
  branchOf: ReadonlyMap<string, number>
  feedNodes: ReadonlySet<number>
  /** Terminals of what uses the power, or changes it for others. */
  users: ReadonlySet<number>
}

/** A contact or a join that the plan gives no resistance is counted as this, Ω. */
const LEAST_OHM = 1e-6

/**
 * A battery whose internal resistance is not said: it drives more than anything else there, and the result says that it
 * is not known.
 */
const UNSAID_OHM = 1e-3

/** A source that limits itself is a current source; this beside it keeps the equations regular, Ω. */
export const LIMITED_OHM = 1e3

/** Gathers nodes, branches and places while a plan is taken apart. */
class Builder {
  readonly nodes = new Map<string, number>()
  readonly branches: ShortBranch[] = []
  readonly places: ShortPlace[] = []

  node(name: string): number {
    const known = this.nodes.get(name)
    if (known !== undefined) return known
    this.nodes.set(name, this.nodes.size)
    return this.nodes.size - 1
  }

  branch(a: number, b: number, ohm: number, more: Partial<ShortBranch> = {}) {
    const { lead = null, device = null, lengthM = 0, oneWay = false } = more
    this.branches.push({ a, b, ohm: Math.max(ohm, LEAST_OHM), lead, device, lengthM, oneWay })
  }
}

/**
 * The plan as shorts see it: switches and breakers closed, droppers as wire, no loads, conductors at the site's typical
 * temperature,
 * contacts new. A source that limits itself is an EMF behind the resistance that lets just its limit into a short at
 * its terminals.
 */
export function shortNetwork(plan: Plan, workingC: ReadonlyMap<string, number>): ShortNetwork {
  const graph = graphOf(plan)
  const { ambientC } = siteOf(plan)
  const build = new Builder()
  for (const at of graph.terminals.keys()) build.places.push({ at, kind: 'terminal', lead: null, node: build.node(at) })
  for (const { a, b, ohm, device } of graph.closedLinks) build.branch(build.node(a), build.node(b), ohm, { device })
  for (const { from, to, faultOhm } of graph.passes) {
    if (faultOhm !== null) build.branch(build.node(from), build.node(to), faultOhm, { oneWay: true })
  }
  const feeds = plan.parts.flatMap(part =>
    shortSources(part).map(source => feedOf(part, source, build.node(source.at))),
  )
  for (const lead of plan.leads) leadBranches(lead, resistanceFactorAt(ambientC.typical), build)
  const { nodes, branches, places } = build
  const branchesAt: number[][] = Array.from({ length: nodes.size }, () => [])
  branches.forEach((b, i) => {
    branchesAt[b.a]!.push(i)
    branchesAt[b.b]!.push(i)
  })
  const feedsOf = feedsByNode(nodes.size, branches, branchesAt, feeds)
  return {
    plan,
    workingC,
    nodeCount: nodes.size,
    branches,
    feeds,
    places,
    nodeOf: nodes,
    branchesAt,
    feedsOf,
    isForest: branches.length === nodes.size - new Set(feedsOf).size,
    branchOf: branchesOfDevices(branches),
    feedNodes: new Set(feeds.map(f => f.node)),
    users: usersAmong(plan, places),
  }
}

function branchesOfDevices(branches: readonly ShortBranch[]): Map<string, number> {
  const found = new Map<string, number>()
  branches.forEach(({ device }, i) => {
    const key = device && deviceKey(device)
    if (key && !found.has(key)) found.set(key, i)
  })
  return found
}

function usersAmong({ parts }: Plan, places: readonly ShortPlace[]): Set<number> {
  const uses = new Set(parts.filter(p => isLoad(p) || kindOf(p).transfers).map(p => p.id))
  return new Set(places.filter(p => p.kind === 'terminal' && uses.has(partIdOf(p.at))).map(p => p.node))
}

function feedOf(part: Part, source: IntoShort, node: number): ShortFeed {
  if (source.kind === 'limited') {
    const { volts: emfV, amps: limitA } = source
    return { part, node, emfV, ohm: LIMITED_OHM, limitA, unknown: false, tripA: null }
  }
  const unknown = source.ohm <= 0
  const ohm = unknown ? UNSAID_OHM : source.ohm
  return { part, node, emfV: source.emfV, ohm, limitA: null, unknown, tripA: source.tripA ?? null }
}

function feedsByNode(
  n: number,
  branches: readonly ShortBranch[],
  branchesAt: readonly number[][],
  feeds: readonly ShortFeed[],
): ShortFeed[][] {
  const lists: ShortFeed[][] = Array.from({ length: n })
  for (let start = 0; start < n; start++) {
    if (lists[start]) continue
    const list: ShortFeed[] = []
    lists[start] = list
    const waiting = [start]
    for (let at = waiting.pop(); at !== undefined; at = waiting.pop()) {
      for (const i of branchesAt[at]!) {
        const next = otherEnd(branches[i]!, at)
        if (lists[next]) continue
        lists[next] = list
        waiting.push(next)
      }
    }
  }
  for (const feed of feeds) lists[feed.node]!.push(feed)
  return lists
}

/** The far side of a branch, seen from one of its nodes. */
export const otherEnd = (branch: { a: number; b: number }, node: number) => (branch.a === node ? branch.b : branch.a)

/** A contact counts as new: that lets most through. */
const newLoopOhm = (end: FittedContact | undefined) => matingLoopOhm(end && { connector: end.connector })

/** A lead from end to end: contact, wire cut at every item, contact. */
function leadBranches(lead: Lead, warm: number, build: Builder) {
  const throughChassis = lead.return === 'chassis'
  const perM = (throughChassis ? 1 : 2) * conductorOhmPerM(lead.conductor) * warm
  const devices = new Map(devicesIn(lead).map(d => [d.item, d]))
  let n = 0
  let at = build.node(`${lead.id} | ${n}`)
  const on = (ohm: number, more: Partial<ShortBranch> = {}) => {
    const next = build.node(`${lead.id} | ${++n}`)
    build.branch(at, next, ohm, { lead, ...more })
    at = next
  }
  build.branch(build.node(lead.from), at, newLoopOhm(lead.ends?.from), { lead })
  build.places.push({ at: lead.from, kind: 'lead-end', lead: lead.id, node: at })
  let atM = 0
  for (const item of itemsAlong(lead)) {
    const nextM = item.atM ?? 0
    if (nextM > atM) on((nextM - atM) * perM, { lengthM: nextM - atM })
    atM = Math.max(atM, nextM)
    const device = devices.get(item.id)
    on(itemOhm(item), { device: device ? plainDevice(device) : null })
  }
  const chassisOhm = throughChassis ? (lead.chassisOhm ?? 0) : 0
  on((lead.lengthM - atM) * perM + chassisOhm, { lengthM: lead.lengthM - atM })
  build.branch(at, build.node(lead.to), newLoopOhm(lead.ends?.to), { lead })
  build.places.push({ at: lead.to, kind: 'lead-end', lead: lead.id, node: at })
}

/** In a short a dropper is as good as wire. */
const itemOhm = (item: Inline) => (item.kind === 'dropper' ? 0 : inlineLoopOhm(item))
