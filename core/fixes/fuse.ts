import { CONTINUOUS_FACTOR, FUSE_AT_POST_M, FUSE_CLASSES, fuseClass } from '../catalog/fuses'
import { fittingRatings } from '../fuse/fuse'
import type { Patch } from '../plan/edit'
import { nameOf, partById, partIdOf, pathOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import type { Device } from '../protection/zones'
import type { Proposal } from './proposal'

/** Distance from the lead's `from` end of a point `fromEndM` away from the given end, m. */
const placeFrom = (lead: Lead, end: 'from' | 'to', fromEndM: number) =>
  Number((end === 'from' ? Math.min(fromEndM, lead.lengthM) : Math.max(0, lead.lengthM - fromEndM)).toFixed(3))

const endName = (plan: Plan, lead: Lead, end: 'from' | 'to') => nameOf(partById(plan, partIdOf(lead[end]))!)

/** Classes tried for a new fuse, the handiest first. */
const NEW_FUSE_TYPES = ['blade', 'strip', 'strip-high'] as const

/** A fuse near one end of a lead: the smallest that carries the current and protects the conductor. Null where none does both. */
export function addFuse(
  plan: Plan,
  lead: Lead,
  end: 'from' | 'to',
  continuousA: number,
  conductorAmps: number,
): Proposal | null {
  for (const type of NEW_FUSE_TYPES) {
    const ratedA = fittingRatings(type, continuousA, conductorAmps)[0]
    if (ratedA === undefined) continue
    const taken = new Set(lead.inline?.map(i => i.id))
    let n = 1
    while (taken.has(`f${n}`)) n++
    const item = {
      id: `f${n}`,
      kind: 'fuse',
      type,
      ratedA,
      atM: placeFrom(lead, end, FUSE_AT_POST_M),
      legs: 'positive',
    }
    const path = `${pathOf(plan, lead.id)}/inline`
    return {
      label: `${ratedA} A ${fuseClass(type).label} fuse, ${FUSE_AT_POST_M} m from ${endName(plan, lead, end)}`,
      patch: lead.inline ? [{ op: 'add', path: `${path}/-`, value: item }] : [{ op: 'add', path, value: [item] }],
    }
  }
  return null
}

/** Moves a fuse to the source end of its lead. */
export function moveFuse(plan: Plan, lead: Lead, itemId: string, end: 'from' | 'to'): Proposal {
  const index = lead.inline!.findIndex(i => i.id === itemId)
  return {
    label: `Move the fuse to ${FUSE_AT_POST_M} m from ${endName(plan, lead, end)}`,
    patch: [
      { op: 'add', path: `${pathOf(plan, lead.id)}/inline/${index}/atM`, value: placeFrom(lead, end, FUSE_AT_POST_M) },
    ],
  }
}

/** JSON Pointer to a device's rating. */
function ratingPath(plan: Plan, device: Device): string {
  if (device.itemId !== undefined) {
    const lead = plan.leads.find(l => l.id === device.place)!
    return `${pathOf(plan, lead.id)}/inline/${lead.inline!.findIndex(i => i.id === device.itemId)}/ratedA`
  }
  const part = partById(plan, partIdOf(device.place))
  if (part?.kind !== 'block') throw new Error(`no port fuse at ${device.place}`)
  return `${pathOf(plan, part.id)}/ports/${part.ports.findIndex(p => `${part.id}.${p.id}` === device.place)}/fuse/ratedA`
}

export function setRatingPatch(plan: Plan, device: Device, ratedA: number): Patch {
  return [{ op: 'replace', path: ratingPath(plan, device), value: ratedA }]
}

/** Another rating of the same class that carries the current and protects the conductor: the largest, or the smallest. */
export function refuse(
  plan: Plan,
  device: Device,
  continuousA: number,
  conductorAmps: number,
  prefer: 'largest' | 'smallest',
): Proposal | null {
  const fitting = fittingRatings(device.type, continuousA, conductorAmps)
  const ratedA = prefer === 'largest' ? fitting[fitting.length - 1] : fitting[0]
  if (ratedA === undefined || ratedA === device.ratedA) return null
  return {
    label: `${ratedA} A ${device.kind} in place of ${device.ratedA} A`,
    patch: setRatingPatch(plan, device, ratedA),
  }
}

/** Smallest rating of any class that carries a continuous current, A. */
export function smallestCarrying(type: string, continuousA: number): number | null {
  const own = fuseClass(type).ratingsA.find(a => a >= CONTINUOUS_FACTOR * continuousA - 1e-9)
  if (own !== undefined) return own
  const all = FUSE_CLASSES.flatMap(c => c.ratingsA)
    .filter(a => a >= CONTINUOUS_FACTOR * continuousA)
    .sort((a, b) => a - b)
  return all[0] ?? null
}
