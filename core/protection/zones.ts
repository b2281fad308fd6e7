import { FUSE_DISTANCE_M } from '../catalog/fuses'
import { ampacityA } from '../conductor/ampacity'
import { gives, kindOf } from '../kinds/index'
import type { Part } from '../kinds/index'
import { ambientOf, siteOf, type Lead, type Plan } from '../plan/schema'
import { shortSources, sourceLimitA } from './prospective'

/** A fuse or breaker where it sits: between two zones. */
export interface Device {
  /** Lead or port terminal it is in. */
  place: string
  itemId?: string
  kind: 'fuse' | 'breaker'
  type: string
  ratedA: number
  zones: [number, number]
  /** Metres from the lead's from end; for a port 0. */
  atM: number
}

/** A stretch of one lead between its ends and the devices in it. */
export interface Stretch {
  lead: Lead
  lengthM: number
  ampacityA: number
  zone: number
  atFrom: boolean
  atTo: boolean
  /** The lead's own device at its inner end: what opens when this stretch is overloaded from there on. */
  device: Device | null
}

export interface Protection {
  devices: Device[]
  stretches: Stretch[]
  zoneOf: ReadonlyMap<string, number>
  zoneCount: number
  stretchesIn: readonly Stretch[][]
  devicesAt: readonly Device[][]
}

/**
 * Cuts a plan at its fuses and breakers into zones: within one, nothing opens between any two points.
 * Switches count as closed, since they may be.
 */
export function protectionOf(plan: Plan): Protection {
  const { ampacity } = siteOf(plan)
  const landings = plan.leads.flatMap(l => [l.from, l.to])
  const parent: number[] = []
  const make = () => parent.push(parent.length) - 1
  const root = (v: number): number => (parent[v] === v ? v : (parent[v] = root(parent[v]!)))
  const join = (a: number, b: number) => {
    parent[root(a)] = root(b)
  }
  const point = new Map<string, number>()
  const at = (name: string) => {
    let v = point.get(name)
    if (v === undefined) point.set(name, (v = make()))
    return v
  }
  const devices: Device[] = []
  const stretches: Stretch[] = []
  for (const part of plan.parts) {
    const kind = kindOf(part)
    at(part.id)
    const terminals = kind.terminals(part, landings)
    const fuses = new Map(terminals.map(t => [t.id, t.fuse]))
    for (const t of terminals) at(t.id)
    for (const link of kind.links?.(part, landings) ?? []) {
      const fuse = fuses.get(link.b)
      if (fuse)
        devices.push({
          place: link.b,
          kind: part.kind === 'breaker' ? 'breaker' : 'fuse',
          type: fuse.type,
          ratedA: fuse.ratedA,
          zones: [at(link.a), at(link.b)],
          atM: 0,
        })
      else join(at(link.a), at(link.b))
    }
    // A gate passes on whatever a short behind it draws.
    if (part.kind === 'gate')
      for (const side of ['supply', 'battery']) join(at(`${part.id}.${side}`), at(`${part.id}.out`))
  }
  for (const lead of plan.leads) {
    const amps = ampacityA(lead.conductor, ampacity, ambientOf(plan, lead).high, lead.bundledConductors)
    const items = (lead.inline ?? [])
      .filter(i => i.kind === 'fuse' || i.kind === 'breaker')
      .sort((a, b) => (a.atM ?? 0) - (b.atM ?? 0))
    let zone = at(lead.from)
    let startM = 0
    let before: Device | null = null
    items.forEach((item, i) => {
      const atM = item.atM ?? 0
      const next = make()
      const device: Device = {
        place: lead.id,
        itemId: item.id,
        kind: item.kind,
        ratedA: item.ratedA,
        zones: [zone, next],
        atM,
        type: item.kind === 'breaker' ? 'thermal' : (item.type ?? 'blade'),
      }
      stretches.push({ lead, lengthM: atM - startM, ampacityA: amps, zone, atFrom: i === 0, atTo: false, device })
      devices.push(device)
      before = device
      zone = next
      startM = atM
    })
    stretches.push({
      lead,
      lengthM: lead.lengthM - startM,
      ampacityA: amps,
      zone,
      atFrom: items.length === 0,
      atTo: true,
      device: before,
    })
    join(zone, at(lead.to))
  }
  for (const d of devices) d.zones = [root(d.zones[0]), root(d.zones[1])]
  for (const s of stretches) s.zone = root(s.zone)
  const stretchesIn: Stretch[][] = parent.map(() => [])
  const devicesAt: Device[][] = parent.map(() => [])
  for (const s of stretches) stretchesIn[s.zone]!.push(s)
  for (const d of devices) for (const z of new Set(d.zones)) devicesAt[z]!.push(d)
  return {
    devices,
    stretches,
    stretchesIn,
    devicesAt,
    zoneCount: parent.length,
    zoneOf: new Map([...point].map(([name, v]) => [name, root(v)])),
  }
}

/** What lies before the first fuse on the way out of a source through one lead. */
export interface Unprotected {
  source: Part
  lead: Lead
  /** Longest run of conductor from the source to the first fuse on it, m. */
  lengthM: number
  /** The first lead holds the fuse where the run ends, and this is it. */
  device: Device | null
  /** Every lead in the run. */
  leads: Lead[]
  /** A load hangs on it with no fuse at all between. */
  reachesLoad: boolean
  weakestA: number
}

/** For each source and each lead on it, the conductor that nothing protects from that source. */
export function unprotectedRuns(plan: Plan, protection: Protection): Unprotected[] {
  const runs: Unprotected[] = []
  const landings = plan.leads.flatMap(l => [l.from, l.to])
  const isLoad = new Set(plan.parts.filter(p => kindOf(p).role === 'load').map(p => p.id))
  const siblings = siblingTerminals(plan, landings)
  const leadsAt = new Map<string, Lead[]>()
  for (const lead of plan.leads) for (const t of [lead.from, lead.to]) leadsAt.set(t, [...(leadsAt.get(t) ?? []), lead])
  const stretchOf = (lead: Lead, end: 'from' | 'to') =>
    protection.stretchesIn[protection.zoneOf.get(lead[end])!]!.find(
      s => s.lead === lead && (end === 'from' ? s.atFrom : s.atTo),
    )!

  for (const source of plan.parts) {
    if (!gives(source) && source.kind !== 'converter') continue
    for (const post of new Set(shortSources(source).flatMap(s => siblings.get(s.at) ?? [s.at]))) {
      for (const first of leadsAt.get(post) ?? []) {
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
          const stretch = stretchOf(lead, end)
          run.leads.push(lead)
          if (stretch.lengthM > 0) run.weakestA = Math.min(run.weakestA, stretch.ampacityA)
          run.lengthM = Math.max(run.lengthM, beforeM + stretch.lengthM)
          if (!(stretch.atFrom && stretch.atTo)) {
            if (lead === first) run.device = deviceAtEnd(protection, lead, end)
            return
          }
          const far = end === 'from' ? lead.to : lead.from
          if (isLoad.has(far)) run.reachesLoad = true
          for (const t of siblings.get(far) ?? [])
            for (const next of leadsAt.get(t) ?? []) walk(next, t, beforeM + lead.lengthM)
        }
        walk(first, post, 0)
        runs.push(run)
      }
    }
  }
  return runs
}

/** Which terminals of a part are one conductor: joined inside it, and not behind a fuse of their own. */
function siblingTerminals(plan: Plan, landings: readonly string[]): Map<string, string[]> {
  const siblings = new Map<string, string[]>()
  for (const part of plan.parts) {
    const kind = kindOf(part)
    const terminals = kind.terminals(part, landings)
    const fused = new Set(terminals.filter(t => t.fuse).map(t => t.id))
    const names = new Set([...terminals.map(t => t.id), part.id])
    const group = new Map([...names].map(t => [t, t]))
    const links =
      part.kind === 'gate'
        ? ['supply', 'battery'].map(s => ({ a: `${part.id}.${s}`, b: `${part.id}.out` }))
        : (kind.links?.(part, landings) ?? [])
    for (const { a, b } of links) {
      if (fused.has(b)) continue
      const [keep, gone] = [group.get(a)!, group.get(b)!]
      for (const [t, g] of group) if (g === gone) group.set(t, keep)
    }
    for (const t of names)
      siblings.set(
        t,
        terminals.map(o => o.id).filter(o => group.get(o) === group.get(t)),
      )
  }
  return siblings
}

function deviceAtEnd(protection: Protection, lead: Lead, end: 'from' | 'to'): Device {
  const own = protection.devices.filter(d => d.place === lead.id).sort((a, b) => a.atM - b.atM)
  return end === 'from' ? own[0]! : own[own.length - 1]!
}

/** A conductor that a source can overload because no fuse on some way to it is small enough. */
export interface Overfused {
  device: Device
  stretch: Stretch
  source: Part
}

/**
 * For each zone, walks out over devices rated above its thinnest conductor; a source found there is not held back by any of them.
 * Reported at the device next to the zone, with the thinnest conductor it lets down.
 */
export function overfused(plan: Plan, protection: Protection): Overfused[] {
  const sourcesIn = new Map<number, Part[]>()
  for (const part of plan.parts) {
    if (!gives(part)) continue
    for (const { at } of shortSources(part)) {
      const zone = protection.zoneOf.get(at)!
      sourcesIn.set(zone, [...(sourcesIn.get(zone) ?? []), part])
    }
  }
  const found = new Map<Device, Overfused>()
  for (let zone = 0; zone < protection.zoneCount; zone++) {
    const stretches = protection.stretchesIn[zone]!.filter(s => s.lengthM > 0 && !isTap(s))
    if (!stretches.length) continue
    const stretch = stretches.reduce((a, b) => (b.ampacityA < a.ampacityA ? b : a))
    for (const device of protection.devicesAt[zone]!) {
      if (device.ratedA <= stretch.ampacityA + 1e-9) continue
      const source = threatBehind(protection, sourcesIn, zone, device, stretch.ampacityA)
      const before = found.get(device)
      if (source && (!before || stretch.ampacityA < before.stretch.ampacityA))
        found.set(device, { device, stretch, source })
    }
  }
  return [...found.values()]
}

/** A short tap: a thinner conductor whose own fuse stands within the distance allowed of where it branches off. */
function isTap(stretch: Stretch): boolean {
  return (
    stretch.device !== null &&
    stretch.device.ratedA <= stretch.ampacityA + 1e-9 &&
    stretch.lengthM <= FUSE_DISTANCE_M.strict + 1e-9
  )
}

function threatBehind(
  protection: Protection,
  sourcesIn: Map<number, Part[]>,
  zone: number,
  first: Device,
  ampacityA: number,
): Part | null {
  const visited = new Set([zone])
  const queue = [first]
  while (queue.length) {
    const device = queue.pop()!
    for (const next of device.zones) {
      if (visited.has(next)) continue
      visited.add(next)
      for (const part of sourcesIn.get(next) ?? []) {
        const limit = sourceLimitA(part)
        if (limit === null || limit > ampacityA) return part
      }
      for (const d of protection.devicesAt[next]!) if (d.ratedA > ampacityA + 1e-9) queue.push(d)
    }
  }
  return null
}
