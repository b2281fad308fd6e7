import { CONTINUOUS_FACTOR, fuseClass } from '../catalog/fuses'
import type { Study } from '../study/study'
import { deviceKey } from '../graph/device'
import { reach } from '../graph/walk'
import { devicesInto, hasFuseAtTap, zonesInto, type ZonedDevice } from '../protection/zones'

/**
 * Which fuses are taken: the plan's own where those carry their current, or the smallest that do, but the next larger
 * ones for the devices named.
 */
export type Fuses = 'own' | { raised: ReadonlySet<string> }

/**
 * For each fuse the smallest rating of its class that carries its current, or its own; only at the places in `free`,
 * where that is given. Breakers stay what they are.
 */
export function fuseRatings(study: Study, fuses: Fuses, free: ReadonlySet<string> | null): Map<string, number> {
  const ratings = new Map<string, number>()
  for (const device of study.protection.devices) {
    if (device.kind === 'breaker' || (free && !free.has(device.place))) continue
    const lead = device.item === null ? undefined : study.plan.leads.find(l => l.id === device.place)
    const through = lead ? study.leadAmps(lead).value : study.portAmps(device.place).value
    if (through < 1e-6) continue
    const carrying = fuseClass(device.type).ratingsA.filter(a => a >= CONTINUOUS_FACTOR * through - 1e-9)
    const key = deviceKey(device)
    const isRaised = fuses !== 'own' && fuses.raised.has(key)
    const ratedA = isRaised ? (carrying[1] ?? carrying[0]) : carrying[0]
    if (ratedA !== undefined) ratings.set(key, fuses === 'own' ? Math.max(ratedA, device.ratedA) : ratedA)
  }
  return ratings
}

/** The fuse that a lead hangs behind, with the rating it will have. */
export function protectors(study: Study, ratings: ReadonlyMap<string, number>): Map<string, { ratedA: number }> {
  const found = new Map<string, { ratedA: number }>()
  for (const stretch of study.protection.stretches) {
    // Before a fuse right at the tap it is that fuse which protects.
    if (stretch.lengthM === 0 || hasFuseAtTap(stretch)) continue
    // Toward the source every device around its zone counts that could be what opens: the largest of them decides.
    const around = devicesInto(study.protection, stretch.zone)
    const rated = around.filter(d => feeds(study, d, stretch.zone)).map(d => ratings.get(deviceKey(d)) ?? d.ratedA)
    if (!rated.length) continue
    const before = found.get(stretch.lead.id)?.ratedA ?? 0
    found.set(stretch.lead.id, { ratedA: Math.max(before, ...rated) })
  }
  return found
}

/** Whether a device passes current from a source into a zone: with it gone, the zone would be fed by less. */
function feeds(study: Study, device: ZonedDevice, zone: number): boolean {
  const { protection } = study
  const into = zonesInto(protection, zone)
  const other = device.zones.filter(z => !into.has(z))
  const beyond = (z: number) =>
    [...protection.devicesAt[z]!.flatMap(d => d.zones), ...protection.entered[z]!].filter(next => !into.has(next))
  const reached = reach(other, beyond)
  return study.sources.some(p => reached.has(protection.zoneOf.get(p.id) ?? -1))
}
