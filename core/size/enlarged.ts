import { fuseClass } from '../catalog/fuses'
import { setDevice } from '../edit/ends'
import { tryPatch } from '../edit/patch'
import { deviceKey } from '../graph/device'
import { devicesOf } from '../graph/graph'
import type { Plan } from '../plan/schema'

/** Ratings of fuses in a plan, and of those the ones that were made larger. */

/** The plan with other ratings, by the fuses' keys. */
export function withRatings(plan: Plan, ratings: ReadonlyMap<string, number>): Plan {
  const patch = devicesOf(plan).flatMap(device => {
    const ratedA = ratings.get(deviceKey(device))
    return ratedA === undefined || ratedA === device.ratedA ? [] : (setDevice(plan, device, 'ratedA', ratedA) ?? [])
  })
  return patch.length ? tryPatch(plan, patch)! : plan
}

/**
 * The same sizes with no fuse larger than it has to be: of those that ask for the same conductor the choice takes the
 * one that drops least, which nobody may want.
 * @param leastA what each fuse is rated at least, by its key: as it was, or what carries its current
 * @param isMet whether a plan passes what the sizes passed
 */
export function withoutExcess(sized: Plan, leastA: ReadonlyMap<string, number>, isMet: (plan: Plan) => boolean): Plan {
  const enlarged = devicesOf(sized).filter(d => (leastA.get(deviceKey(d)) ?? Infinity) < d.ratedA)
  const all = withRatings(sized, new Map(enlarged.map(d => [deviceKey(d), leastA.get(deviceKey(d))!])))
  if (!enlarged.length || isMet(all)) return all
  return enlarged.reduce((now, device) => {
    const key = deviceKey(device)
    const smaller = fuseClass(device.type).ratingsA.filter(a => a >= leastA.get(key)! && a < device.ratedA)
    return smaller.map(a => withRatings(now, new Map([[key, a]]))).find(isMet) ?? now
  }, sized)
}
