import { fuseClass } from '../catalog/fuses'
import { setDevice } from '../edit/ends'
import { tryPatch } from '../edit/patch'
import { deviceKey, type Device } from '../graph/device'
import { devicesOf } from '../graph/graph'
import type { Plan } from '../plan/schema'

/** Fuses that were made larger. */

const rated = (plan: Plan, ratings: ReadonlyMap<Device, number>): Plan => {
  const patch = [...ratings].flatMap(([device, ratedA]) => setDevice(plan, device, 'ratedA', ratedA) ?? [])
  return patch.length ? (tryPatch(plan, patch) ?? plan) : plan
}

/**
 * The same sizes with no fuse larger than it has to be: of those that ask for the same conductor the choice takes the
 * one that drops least, which nobody may want.
 * @param leastA what each fuse is rated at least, by its key: as it was, or what carries its current
 * @param isMet whether a plan passes what the sizes passed
 */
export function withoutExcess(sized: Plan, leastA: ReadonlyMap<string, number>, isMet: (plan: Plan) => boolean): Plan {
  const enlarged = devicesOf(sized).filter(d => (leastA.get(deviceKey(d)) ?? Infinity) < d.ratedA)
  const all = rated(sized, new Map(enlarged.map(d => [d, leastA.get(deviceKey(d))!])))
  if (!enlarged.length || isMet(all)) return all
  return enlarged.reduce((now, device) => {
    const [from, to] = [leastA.get(deviceKey(device))!, device.ratedA]
    const smaller = fuseClass(device.type).ratingsA.filter(a => a >= from && a < to)
    return smaller.map(a => rated(now, new Map([[device, a]]))).find(isMet) ?? now
  }, sized)
}
