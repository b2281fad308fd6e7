import { siteOf, type Plan } from '../plan/schema'
import { survives, withstandI2t } from '../conductor/withstand'
import { openingTime } from '../fuse/opening'
import { fuseClass } from '../catalog/fuses'
import { nameOf } from '../plan/find'
import { protectionOf, unprotectedRuns } from '../protection/zones'
import { isolation, type Isolation } from './isolation'
import { shortNetwork, ShortSolver, type Device, type ShortNetwork, type ShortPlace } from './network'

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
  i2t: number | null
  withstandsI2t: number
  survives: boolean
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
  /** Whether what opens cuts off every source; a source that limits itself to what the conductors carry counts as cut off. */
  clears: boolean
  clearedAfterS: number | null
  /** The way of the current: leads from the source to the short. */
  conductors: ConductorInShort[]
  survives: boolean
  /** Whether the device nearest to the short is sure to open before any other; null where fewer than two are in its way. */
  selective: boolean | null
  /** Devices farther up that may open before the nearest one. */
  opensWith: Device[]
  /** A battery management system's likely trip; it is not counted on. */
  bms: { battery: string; tripA: number }[]
}

export interface ShortStudy {
  shorts: Short[]
  unprotected: { source: string; lead: string; lengthM: number; prospectiveA: number | null }[]
  /** Most that each fuse and breaker may have to break: a dead short right behind it, on either side. */
  devices: (Device & { behindA: number; interruptA: number })[]
  isolation: Isolation[]
}

/** A dead short at every terminal and every lead's far end, from every source that feeds it; or at lead ends alone, which is all that checks ask for. */
export function shortStudy(plan: Plan, only: 'all' | 'lead-ends' = 'all'): ShortStudy {
  const network = shortNetwork(plan)
  const solver = new ShortSolver(network)
  return {
    shorts: placesOf(network, solver)
      .filter(p => only === 'all' || p.kind === 'lead-end')
      .map(place => shortAt(network, solver, place)),
    unprotected:
      only === 'lead-ends'
        ? []
        : unprotectedRuns(plan, protectionOf(plan))
            .filter(r => r.lengthM > 0)
            .map(r => {
              const post = network.places.find(
                p =>
                  p.kind === 'lead-end' &&
                  p.lead === r.lead.id &&
                  p.at === (r.lead.from.split('.')[0] === r.source.id ? r.lead.from : r.lead.to),
              )
              return {
                source: r.source.id,
                lead: r.lead.id,
                lengthM: r.lengthM,
                prospectiveA: post ? solver.short(post.node) : null,
              }
            }),
    devices: network.branches.flatMap((b, i) => {
      if (!b.device) return []
      const behindA =
        network.isForest && network.feedsOf[b.a]!.length === 1
          ? // One way in: a short on the far side, where it is smaller, comes through the device whole.
            Math.min(solver.prospective(b.a), solver.prospective(b.b))
          : Math.max(
              ...[b.a, b.b].map(side => {
                solver.short(side)
                return Math.abs(solver.branchAmps(i))
              }),
            )
      return [{ ...b.device, behindA, interruptA: fuseClass(b.device.type).interruptA }]
    }),
    isolation: isolation(plan),
  }
}

/** Every terminal, and of every lead the end that lies farther from the sources: where less flows. */
function placesOf(network: ShortNetwork, solver: ShortSolver): ShortPlace[] {
  const ends = new Map<string, { place: ShortPlace; amps: number }>()
  for (const place of network.places) {
    if (place.kind !== 'lead-end') continue
    const amps = solver.prospective(place.node)
    const other = ends.get(place.lead!)
    if (!other || amps < other.amps) ends.set(place.lead!, { place, amps })
  }
  return [...network.places.filter(p => p.kind === 'terminal'), ...[...ends.values()].map(e => e.place)]
}

/** Currents under this are none, A: the solver's, or what a diode's tail would be. */
const NOTHING_A = 0.01
/** More devices in a row than any plan has. */
const MOST_OPENINGS = 12

export function shortAt(network: ShortNetwork, base: ShortSolver, place: ShortPlace): Short {
  const { plan } = network
  const { ambientC, ampacity } = siteOf(plan)
  const prospectiveA = base.short(place.node)
  const feeding = feedsInto(network, place.node, new Set())
  const from = feeding
    .map(f => ({ source: f.part.id, amps: base.feedAmps(f), limited: f.limitA !== null }))
    .filter(f => f.amps > NOTHING_A)
  const dose = new Map<number, { i2t: number; amps: number; longestS: number }>()
  const opened = new Set<number>()
  const opens: Opening[] = []
  let solver = base
  let clearedAfterS: number | null = 0
  let clears = from.length === 0
  for (let round = 0; round < MOST_OPENINGS && !clears; round++) {
    const carrying = branchesCarrying(network, solver, place.node)
    let next = -1
    let seconds = Infinity
    for (const [branch, amps] of carrying) {
      const { device } = network.branches[branch]!
      const slowestS = device ? (openingTime(device.type, device.ratedA, amps)?.slowestS ?? Infinity) : Infinity
      if (slowestS >= seconds) continue
      next = branch
      seconds = slowestS
    }
    for (const [i, amps] of carrying) {
      const b = network.branches[i]!
      if (!b.lead || b.lengthM === 0) continue
      const before = dose.get(i) ?? { i2t: 0, amps: 0, longestS: 0 }
      dose.set(i, {
        i2t: before.i2t + amps ** 2 * seconds,
        amps: Math.max(before.amps, amps),
        longestS: before.longestS + seconds,
      })
    }
    if (next < 0) {
      clearedAfterS = null
      break
    }
    opens.push(openingOf(network.branches[next]!.device!, carrying.get(next)!))
    clearedAfterS = clearedAfterS! + seconds
    opened.add(next)
    const left = feedsInto(network, place.node, opened)
    if (!left.length) {
      clears = true
      break
    }
    solver = new ShortSolver(network, opened)
    if (solver.short(place.node) < NOTHING_A) clears = true
  }
  if (opened.size) base.short(place.node)
  const conductors = conductorsOf(network, dose, ambientC.high, ampacity)
  // Sources that limit themselves to what every conductor on the way carries for good: nothing burns, though nothing opens.
  const carried =
    !clears && feedsInto(network, place.node, opened).every(f => f.limitA !== null) && conductors.every(c => c.survives)
  const order = devicesToward(network, base, place.node)
  const nearest = order[0]
  const opensWith = nearest
    ? order.slice(1).filter(d => d.fastestS !== null && (nearest.slowestS === null || d.fastestS <= nearest.slowestS))
    : []
  return {
    at: place.at,
    kind: place.kind,
    lead: place.lead,
    prospectiveA,
    known: !feeding.some(f => f.unknown),
    from,
    opens,
    clears: clears || carried,
    clearedAfterS: clears ? clearedAfterS : null,
    conductors,
    survives: conductors.every(c => c.survives),
    selective: order.length < 2 ? null : opensWith.length === 0,
    opensWith: opensWith.map(({ place: at, item, kind, type, ratedA }) => ({ place: at, item, kind, type, ratedA })),
    bms: feeding.flatMap(f => {
      const trip = f.part.kind === 'battery' ? f.part.bms?.peakA : undefined
      return trip !== undefined && base.feedAmps(f) > trip ? [{ battery: f.part.id, tripA: trip }] : []
    }),
  }
}

function openingOf(device: Device, amps: number): Opening {
  const time = openingTime(device.type, device.ratedA, amps)
  const { place, item, kind, type, ratedA } = device
  return {
    place,
    item,
    kind,
    type,
    ratedA,
    amps,
    slowestS: time?.slowestS ?? null,
    fastestS: time?.fastestS ?? null,
    overInterrupting: amps > fuseClass(device.type).interruptA,
  }
}

/** Branches through which a short's current comes, found from the short outward, with their amps. */
function branchesCarrying(network: ShortNetwork, solver: ShortSolver, node: number): Map<number, number> {
  const found = new Map<number, number>()
  const queue = [node]
  while (queue.length) {
    const v = queue.pop()!
    for (const i of network.branchesAt[v]!) {
      if (found.has(i)) continue
      const amps = Math.abs(solver.branchAmps(i))
      if (amps < NOTHING_A) continue
      found.set(i, amps)
      const b = network.branches[i]!
      queue.push(b.a === v ? b.b : b.a)
    }
  }
  return found
}

/** Sources from which there is a way to a node over what is not open. */
function feedsInto(network: ShortNetwork, node: number, opened: ReadonlySet<number>) {
  if (!opened.size) return network.feedsOf[node]!
  const seen = new Set([node])
  const queue = [node]
  while (queue.length) {
    const v = queue.pop()!
    for (const i of network.branchesAt[v]!) {
      if (opened.has(i)) continue
      const b = network.branches[i]!
      const w = b.a === v ? b.b : b.a
      if (seen.has(w)) continue
      seen.add(w)
      queue.push(w)
    }
  }
  return network.feeds.filter(f => seen.has(f.node))
}

/** Devices on the main way of the current into the short, nearest first. */
function devicesToward(network: ShortNetwork, solver: ShortSolver, node: number): Opening[] {
  const found: Opening[] = []
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
    if (b.device) found.push(openingOf(b.device, most))
    v = b.b === v ? b.a : b.b
    seen.add(v)
  }
}

function conductorsOf(
  network: ShortNetwork,
  dose: ReadonlyMap<number, { i2t: number; amps: number; longestS: number }>,
  ambientC: number,
  school: ReturnType<typeof siteOf>['ampacity'],
): ConductorInShort[] {
  const byLead = new Map<string, ConductorInShort>()
  for (const [i, { i2t, amps, longestS }] of dose) {
    const lead = network.branches[i]!.lead!
    const lives =
      longestS <= 5
        ? i2t < withstandI2t(lead.conductor)
        : survives(lead.conductor, amps, longestS, school, ambientC, lead.bundledConductors)
    const before = byLead.get(lead.id)
    if (before && before.survives && !lives) byLead.delete(lead.id)
    else if (before && before.amps >= amps) continue
    byLead.set(lead.id, {
      lead: lead.id,
      amps,
      i2t: Number.isFinite(i2t) ? i2t : null,
      withstandsI2t: withstandI2t(lead.conductor),
      survives: lives,
    })
  }
  return [...byLead.values()]
}

/** A device in words: "50 A fuse in main lead". */
export function deviceWords(plan: Plan, device: Device): string {
  const lead = plan.leads.find(l => l.id === device.place)
  return `${device.ratedA} A ${device.kind} ${lead ? `in ${nameOf(lead)}` : `at ${device.place}`}`
}
