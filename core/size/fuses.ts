import { limitsItself, runsTooLong } from '../checks/fuse'
import { FUSE_COLD_DROP_V } from '../catalog/fuses'
import { ratingsCarrying } from '../fuse/fuse'
import type { Study } from '../study/study'
import { deviceKey } from '../graph/device'
import { heldToA } from '../protection/prospective'
import { devicesInto, fusesAtTap, type ZonedDevice } from '../protection/zones'

/**
 * Which fuses are taken: each chosen together with the conductors, and with `apart` so that of two in a row the second
 * opens first; the plan's own where those carry their current; or the smallest that do, but the next larger ones for
 * the devices named.
 */
export type Fuses = 'chosen' | 'apart' | 'own' | { raised: ReadonlySet<string> }

/** Whether ratings are chosen along with the conductors. */
export const areChosen = (fuses: Fuses) => fuses === 'chosen' || fuses === 'apart'

/**
 * Of two blade fuses the smaller opens first at any current where the larger has so many times its rating: from six
 * times on 0.1 s at most for the one, 0.02 s at least for the other, at constant I²t (ISO 8820-3).
 */
export const SELECTIVE_RATIO = Math.sqrt(0.1 / 0.02)

/**
 * For each fuse the smallest rating of its class that carries its current, or its own; only at the places in `free`,
 * where that is given. Breakers stay what they are, and so do those that are `chosen` along with the conductors.
 */
export function fuseRatings(
  study: Study,
  fuses: Fuses,
  free: ReadonlySet<string> | null,
  chosen: ReadonlySet<string> = new Set(),
): Map<string, number> {
  const ratings = new Map<string, number>()
  for (const device of study.protection.devices) {
    if (device.kind === 'breaker' || (free && !free.has(device.place))) continue
    const lead = device.item === null ? undefined : study.plan.leads.find(l => l.id === device.place)
    const through = lead ? study.leadAmps(lead).value : study.portAmps(device.place).value
    if (through < 1e-6) continue
    const carrying = ratingsCarrying(device.type, through)
    const key = deviceKey(device)
    const isRaised = typeof fuses === 'object' && fuses.raised.has(key)
    const ratedA = isRaised ? (carrying[1] ?? carrying[0]) : carrying[0]
    // One that is chosen along stands as it was chosen, until it no longer carries what flows.
    const keepsOwn = fuses === 'own' || chosen.has(key)
    if (ratedA !== undefined) ratings.set(key, keepsOwn ? Math.max(ratedA, device.ratedA) : ratedA)
  }
  return ratings
}

/** A fuse that may have any rating of its class: what it drops less or more with it than with its own, V. */
export interface FreeFuse {
  key: string
  ratings: readonly { ratedA: number; moreV: number }[]
}

/**
 * The fuses that each lead brings along, whose ratings are free: those in it, and that of the port it hangs on. A
 * breaker, or a fuse whose resistance is said, stays what it is.
 */
export function freeFuses(study: Study, isFree: (leadId: string) => boolean): Map<string, FreeFuse[]> {
  const found = new Map<string, FreeFuse[]>()
  for (const device of study.protection.devices) {
    if (device.kind === 'breaker') continue
    const lead = study.plan.leads.find(l =>
      device.item === null ? [l.from, l.to].includes(device.place) : l.id === device.place,
    )
    if (!lead || !isFree(lead.id)) continue
    const item = lead.inline?.find(i => i.id === device.item)
    if (item?.kind === 'fuse' && item.ohm !== undefined) continue
    // In both legs its resistance is in the loop twice.
    const times = item?.kind === 'fuse' && item.legs === 'both' ? 2 : 1
    const amps = study.leadAmps(lead).value
    if (amps < 1e-6) continue
    const carrying = ratingsCarrying(device.type, amps)
    const drop = (ratedA: number) => (times * amps * FUSE_COLD_DROP_V) / ratedA
    const ratings = carrying.map(ratedA => ({ ratedA, moreV: drop(ratedA) - drop(device.ratedA) }))
    found.set(lead.id, [...(found.get(lead.id) ?? []), { key: deviceKey(device), ratings }])
  }
  return found
}

/** Fuses in a row, each with its own rating: the smallest of them opens. */
export type Row = readonly { key: string; ratedA: number }[]

/** What holds back the sources that feed each lead, a row for each way, by lead id. */
type Protectors = ReadonlyMap<string, readonly Row[]>

const known = new WeakMap<Study, Protectors>()

/**
 * What holds back the sources that feed each lead, a row for each way: the fuses in it, or the source by itself. The
 * way that passes most decides. Worked out once a study.
 */
export function protectors(study: Study): Protectors {
  const found = known.get(study) ?? protectorsIn(study)
  known.set(study, found)
  return found
}

function protectorsIn(study: Study): Protectors {
  const found = new Map<string, Row[]>()
  const ways = new Map<number, Row[]>()
  for (const { zone } of study.protection.stretches) if (!ways.has(zone)) ways.set(zone, rowsInto(study, zone))
  for (const stretch of study.protection.stretches) {
    if (stretch.lengthM === 0) continue
    // What stands before a fuse right at the tap is protected by that fuse too.
    const rows = ways.get(stretch.zone)!.map(row => [...row, ...fusesAtTap(stretch).map(ratedOf)])
    if (rows.length) found.set(stretch.lead.id, [...(found.get(stretch.lead.id) ?? []), ...rows])
  }
  // What no fuse protects, for it carries all that its source gives, goes on carrying it.
  for (const run of runsTooLong(study).filter(limitsItself)) {
    const row = [{ key: `${run.source.id} itself`, ratedA: heldToA(run.source)! }]
    for (const { id } of run.leads) found.set(id, [...(found.get(id) ?? []), row])
  }
  return found
}

const ratedOf = (device: ZonedDevice) => ({ key: deviceKey(device), ratedA: device.ratedA })

/** In a net of more ways each fuse next to a lead counts by itself: it may be held larger than it need be. */
const MOST_STEPS = 2000

/** Every row of devices that stands between a zone and a source. */
function rowsInto({ protection, sources }: Study, zone: number): Row[] {
  const fed = new Set(sources.map(p => protection.zoneOf.get(p.id)))
  const rows: ZonedDevice[][] = []
  const goesOn = (zones: ReadonlySet<number>, device: ZonedDevice) =>
    [...zones].some(z => protection.devicesAt[z]!.some(d => d !== device))
  let steps = 0
  const walk = (at: ReadonlySet<number>, row: readonly ZonedDevice[], seen: ReadonlySet<number>) => {
    for (const device of new Set([...at].flatMap(z => protection.devicesAt[z]!))) {
      for (const beyond of device.zones) {
        if (seen.has(beyond) || ++steps > MOST_STEPS) continue
        const next = protection.into[beyond]!
        const longer = [...row, device]
        // What stands beyond a source could only make the row pass less.
        if ([...next].some(z => fed.has(z))) rows.push(longer)
        else if (goesOn(next, device)) walk(next, longer, new Set([...seen, ...next]))
      }
    }
  }
  const here = protection.into[zone]!
  walk(here, [], here)
  // A fuse is never larger than its own wire carries, whatever stands before it; a breaker stays what it is.
  const held = rows.map(row => (row[0]!.kind === 'fuse' ? row.slice(0, 1) : row))
  const kept = steps > MOST_STEPS ? devicesInto(protection, zone).map(d => [d]) : held
  return kept.map(row => row.map(ratedOf))
}
