import { FUSE_DISTANCE_M } from '../catalog/fuses'
import { largestFuseA } from '../conductor/ampacity'
import { devicesIn, plainDevice, type Device } from '../graph/device'
import { graphOf, onward, type Graph } from '../graph/graph'
import { Groups } from '../graph/groups'
import { reach } from '../graph/walk'
import { isLoad, type Part } from '../kinds/index'
import { partIdOf } from '../plan/find'
import { ambientOf, siteOf, type Lead, type Plan } from '../plan/schema'
import { shortsByItself, shortSources, sourceLimitA } from './prospective'

/** A fuse or breaker between the two zones it parts. */
export interface ZonedDevice extends Device {
  zones: [number, number]
  /** Metres from the lead's from end; for a port 0. */
  atM: number
}

/** A stretch of one lead between its ends and the devices in it. */
export interface Stretch {
  lead: Lead
  lengthM: number
  /** Largest fuse that protects it, A. */
  protectedByA: number
  zone: number
  atFrom: boolean
  atTo: boolean
  /** The lead's own devices at its ends, whichever way the lead is told: between two of them there are both. */
  devices: readonly ZonedDevice[]
}

export interface Protection {
  devices: ZonedDevice[]
  stretches: Stretch[]
  zoneOf: ReadonlyMap<string, number>
  zoneCount: number
  stretchesIn: readonly Stretch[][]
  devicesAt: readonly ZonedDevice[][]
  /**
   * Each zone and those from which a short in it draws with nothing that opens between: a gate passes on whatever is
   * asked of it, and nothing back.
   */
  into: readonly ReadonlySet<number>[]
}

/** A device with the names of the zones on its sides, which have no numbers yet. */
interface Cut {
  device: Device
  atM: number
  sides: [string, string]
}

/**
 * Cuts a plan at its fuses and breakers into zones: within one, nothing opens between any two points.
 * Switches count as closed, since they may be.
 */
export function protectionOf(plan: Plan): Protection {
  const graph = graphOf(plan)
  const zones = new Groups()
  const devices: Cut[] = []
  for (const part of plan.parts) zones.add(part.id)
  for (const t of graph.terminals.keys()) zones.add(t)
  for (const { a, b, device } of graph.closedLinks) {
    if (device) devices.push({ device, atM: 0, sides: [a, b] })
    else zones.join(a, b)
    zones.add(a)
    zones.add(b)
  }
  const cuts = plan.leads.map(lead => cutLead(lead, largestFuseOf(plan, lead), zones))
  const numbers = zones.numbers()
  const zoned = new Map<Device, ZonedDevice>()
  for (const { device, atM, sides } of [...devices, ...cuts.flatMap(c => c.devices)]) {
    const zonesOf: [number, number] = [numbers.get(sides[0])!, numbers.get(sides[1])!]
    zoned.set(device, Object.assign(plainDevice(device), { atM, zones: zonesOf }))
  }
  const all = [...zoned.values()]
  const stretches = cuts
    .flatMap(c => c.stretches)
    .map(({ zoneName, own, stretch }): Stretch => {
      stretch.zone = numbers.get(zoneName)!
      stretch.devices = own.map(d => zoned.get(d)!)
      return stretch
    })
  const stretchesIn: Stretch[][] = Array.from({ length: zones.count }, () => [])
  const devicesAt: ZonedDevice[][] = Array.from({ length: zones.count }, () => [])
  for (const s of stretches) stretchesIn[s.zone]!.push(s)
  for (const d of all) for (const z of new Set(d.zones)) devicesAt[z]!.push(d)
  const entered: number[][] = Array.from({ length: zones.count }, () => [])
  for (const { from, to, faultOhm } of graph.passes)
    if (faultOhm !== null) entered[numbers.get(to)!]!.push(numbers.get(from)!)
  const into = entered.map((_, zone) => reach([zone], z => entered[z]!))
  return { devices: all, stretches, stretchesIn, devicesAt, zoneCount: zones.count, zoneOf: numbers, into }
}

/** Fuses and breakers that stand next to a zone, or next to one from which a gate leads into it. */
export const devicesInto = ({ into, devicesAt }: Protection, zone: number): ZonedDevice[] => [
  ...new Set([...into[zone]!].flatMap(z => devicesAt[z]!)),
]

/** The largest fuse that protects a lead, or another conductor in its place, in the hottest ambient of the site, A. */
export const largestFuseOf = (plan: Plan, lead: Lead, conductor = lead.conductor) =>
  largestFuseA(conductor, siteOf(plan).ampacity, ambientOf(plan, lead).high, lead.bundledConductors)

/** A stretch before zones have numbers, with its zone's name and its own devices at its ends. */
interface CutStretch {
  stretch: Stretch
  zoneName: string
  own: Device[]
}

interface CutLead {
  stretches: CutStretch[]
  devices: Cut[]
}

/** A lead cut at its devices; the zone of its last stretch is joined with its `to` end. */
function cutLead(lead: Lead, protectedByA: number, zones: Groups): CutLead {
  const devices = devicesIn(lead)
  const cut: CutLead = { stretches: [], devices: [] }
  let zoneName = lead.from
  let startM = 0
  for (let i = 0; i <= devices.length; i++) {
    const device = devices[i]
    const lengthM = (device?.atM ?? lead.lengthM) - startM
    const [atFrom, atTo] = [i === 0, !device]
    const stretch: Stretch = { lead, lengthM, protectedByA, zone: -1, atFrom, atTo, devices: [] }
    cut.stretches.push({ stretch, zoneName, own: devices.slice(Math.max(0, i - 1), i + 1) })
    if (!device) break
    const next = `${lead.id} | ${i}`
    zones.add(next)
    cut.devices.push({ device, atM: device.atM, sides: [zoneName, next] })
    zoneName = next
    startM = device.atM
  }
  zones.join(zoneName, lead.to)
  return cut
}

/** What lies before the first fuse on the way out of a source through one lead. */
export interface Unprotected {
  source: Part
  lead: Lead
  /** Longest run of conductor from the source to the first fuse on it, m. */
  lengthM: number
  /** The first lead holds the fuse where the run ends, and this is it. */
  device: ZonedDevice | null
  /** Every lead in the run. */
  leads: Lead[]
  /** A load hangs on it with no fuse at all between. */
  reachesLoad: boolean
  weakestA: number
}

/** For each source and each lead on it, the conductor that nothing protects from that source. */
export function unprotectedRuns(plan: Plan, protection: Protection): Unprotected[] {
  const graph = graphOf(plan)
  return plan.parts.flatMap(source => {
    // A charging device gives nothing to a conductor that its battery does not give.
    const own = shortSources(source).filter(s => s.by !== 'charging')
    const posts = new Set(own.flatMap(s => postsOf(graph, s.at)))
    return [...posts].flatMap(post =>
      graph.leadsAt(post).map(lead => runFrom(graph, protection, { source, lead, post })),
    )
  })
}

function postsOf(graph: Graph, at: string): string[] {
  const posts = onward(graph, at)
  return posts.length ? posts : [at]
}

function runFrom(
  graph: Graph,
  protection: Protection,
  { source, lead: first, post }: { source: Part; lead: Lead; post: string },
): Unprotected {
  const run: Unprotected = {
    source,
    lead: first,
    lengthM: 0,
    device: null,
    leads: [],
    reachesLoad: false,
    weakestA: Infinity,
  }
  const seen = new Set<string>()
  const walk = (lead: Lead, terminal: string, beforeM: number) => {
    if (seen.has(lead.id)) return
    seen.add(lead.id)
    const end = lead.from === terminal ? 'from' : 'to'
    const stretch = stretchAt(protection, lead, end)
    run.leads.push(lead)
    if (stretch.lengthM > 0) run.weakestA = Math.min(run.weakestA, stretch.protectedByA)
    run.lengthM = Math.max(run.lengthM, beforeM + stretch.lengthM)
    if (!(stretch.atFrom && stretch.atTo)) {
      if (lead === first) run.device = deviceAtEnd(protection, lead, end)
      return
    }
    const far = end === 'from' ? lead.to : lead.from
    const on = graph.parts.get(partIdOf(far))
    if (on && isLoad(on)) run.reachesLoad = true
    for (const t of onward(graph, far)) {
      for (const next of graph.leadsAt(t)) walk(next, t, beforeM + lead.lengthM)
    }
  }
  walk(first, post, 0)
  return run
}

function stretchAt(protection: Protection, lead: Lead, end: 'from' | 'to'): Stretch {
  const here = protection.stretchesIn[protection.zoneOf.get(lead[end])!]!
  return here.find(s => s.lead === lead && (end === 'from' ? s.atFrom : s.atTo))!
}

function deviceAtEnd(protection: Protection, lead: Lead, end: 'from' | 'to'): ZonedDevice {
  const own = protection.devices.filter(d => d.place === lead.id).sort((a, b) => a.atM - b.atM)
  return end === 'from' ? own[0]! : own[own.length - 1]!
}

/** A conductor that a source can overload because no fuse on some way to it is small enough. */
export interface Overfused {
  device: ZonedDevice
  stretch: Stretch
  source: Part
}

/**
 * For each zone, walks out over devices rated above its thinnest conductor; a source found there is not held back by
 * any of them.
 * Reported at the device next to the zone, with the thinnest conductor it lets down.
 */
export function overfused(plan: Plan, protection: Protection): Overfused[] {
  const sourcesIn = new Map<number, Part[]>()
  for (const part of plan.parts) {
    for (const { at } of shortsByItself(part)) {
      const zone = protection.zoneOf.get(at)!
      sourcesIn.set(zone, [...(sourcesIn.get(zone) ?? []), part])
    }
  }
  const found = new Map<ZonedDevice, Overfused>()
  for (let zone = 0; zone < protection.zoneCount; zone++) {
    const stretches = protection.stretchesIn[zone]!.filter(s => s.lengthM > 0 && !isTap(s))
    if (!stretches.length) continue
    const stretch = stretches.reduce((a, b) => (b.protectedByA < a.protectedByA ? b : a))
    for (const device of devicesInto(protection, zone)) {
      if (device.ratedA <= stretch.protectedByA + 1e-9) continue
      const source = threatBehind(protection, sourcesIn, { zone, device, protectedByA: stretch.protectedByA })
      const before = found.get(device)
      if (source && (!before || stretch.protectedByA < before.stretch.protectedByA))
        found.set(device, { device, stretch, source })
    }
  }
  return [...found.values()]
}

/** A conductor's own fuses within the distance allowed of where it branches off. */
export const fusesAtTap = ({ devices, lengthM }: Stretch): readonly ZonedDevice[] =>
  lengthM <= FUSE_DISTANCE_M.strict + 1e-9 ? devices : []

/** A short tap: a thinner conductor that its own fuse, right after where it branches off, protects. */
const isTap = (stretch: Stretch) => fusesAtTap(stretch).some(d => d.ratedA <= stretch.protectedByA + 1e-9)

function threatBehind(
  protection: Protection,
  sourcesIn: ReadonlyMap<number, readonly Part[]>,
  { zone, device: first, protectedByA }: { zone: number; device: ZonedDevice; protectedByA: number },
): Part | null {
  const visited = new Set(protection.into[zone])
  const queue = [first]
  while (queue.length) {
    const device = queue.pop()!
    for (const next of device.zones.flatMap(z => (visited.has(z) ? [] : [...protection.into[z]!]))) {
      if (visited.has(next)) continue
      visited.add(next)
      for (const part of sourcesIn.get(next) ?? []) {
        const limit = sourceLimitA(part)
        if (limit === null || limit > protectedByA) return part
      }
      for (const d of protection.devicesAt[next]!) if (d.ratedA > protectedByA + 1e-9) queue.push(d)
    }
  }
  return null
}
