import { breaksAt, FUSE_AT_POST_M, FUSE_CLASSES, fuseClass, ratedVolts } from '../catalog/fuses'
import { setDevice } from '../edit/ends'
import { addItem, placeFrom, setItem, type LeadEnd } from '../edit/items'
import { fittingRatings, fuseOhm, ratingsCarrying } from '../fuse/fuse'
import type { Part } from '../kinds/index'
import type { Device } from '../graph/device'
import { partIdOf } from '../plan/find'
import { partName } from '../plan/names'
import type { Lead, Plan } from '../plan/schema'
import { shortSources } from '../protection/prospective'
import type { Proposal } from './proposal'
import { asGiven } from '../units/number'

const endName = (plan: Plan, lead: Lead, end: LeadEnd) => partName(plan, partIdOf(lead[end]))

/** Classes tried for a new fuse, the handiest first. */
const NEW_FUSE_TYPES = ['blade', 'strip', 'strip-high', 'cartridge'] as const

/** What a fuse must carry for long, and what it must protect, A. */
export interface FuseTask {
  continuousA: number
  conductorAmps: number
  /** What drives a short behind a new one, where it stands next to it. */
  source?: Part
}

/** Whether a new fuse at a source's post breaks what that drives through it, at its volts. */
function breaks(type: string, ratedA: number, source: Part | undefined): boolean {
  const strongest = source ? shortSources(source)[0] : undefined
  if (!strongest) return true
  if (strongest.kind === 'limited') return strongest.volts <= ratedVolts(fuseClass(type))
  const { emfV, ohm } = strongest
  return emfV / (ohm + fuseOhm({ type, ratedA })) <= breaksAt(fuseClass(type), emfV)
}

/**
 * A fuse near one end of a lead: the smallest that carries the current and protects the conductor. Null where none does
 * both.
 */
export function addFuse(
  plan: Plan,
  lead: Lead,
  end: LeadEnd,
  { continuousA, conductorAmps, source }: FuseTask,
): Proposal | null {
  for (const type of NEW_FUSE_TYPES) {
    const ratedA = fittingRatings(type, continuousA, conductorAmps).find(a => breaks(type, a, source))
    if (ratedA === undefined) continue
    const fuse = { kind: 'fuse', type, ratedA, legs: 'positive' } as const
    const where = `${asGiven(FUSE_AT_POST_M)} m from ${endName(plan, lead, end)}`
    return {
      label: `${asGiven(ratedA)} A ${fuseClass(type).label} fuse, ${where}`,
      patch: addItem(plan, lead.id, fuse, { end, fromEndM: FUSE_AT_POST_M }),
    }
  }
  return null
}

/** Moves a fuse to the source end of its lead. */
export function moveFuse(plan: Plan, lead: Lead, itemId: string, end: LeadEnd): Proposal {
  return {
    label: `Move the fuse to ${asGiven(FUSE_AT_POST_M)} m from ${endName(plan, lead, end)}`,
    patch: setItem(plan, lead.id, itemId, { atM: placeFrom(lead, end, FUSE_AT_POST_M) }),
  }
}

/**
 * Another rating of the same class that carries the current and protects the conductor: the largest, or the smallest.
 */
export function refuse(
  plan: Plan,
  device: Device,
  { continuousA, conductorAmps }: FuseTask,
  prefer: 'largest' | 'smallest',
): Proposal | null {
  const fitting = fittingRatings(device.type, continuousA, conductorAmps)
  const ratedA = prefer === 'largest' ? fitting.at(-1) : fitting[0]
  if (ratedA === undefined || ratedA === device.ratedA) return null
  const patch = setDevice(plan, device, 'ratedA', ratedA)
  return patch && { label: `${asGiven(ratedA)} A ${device.kind} in place of ${asGiven(device.ratedA)} A`, patch }
}

/** Smallest rating of any class that carries a continuous current, A. */
export function smallestCarrying(type: string, continuousA: number): number | null {
  const [own] = ratingsCarrying(type, continuousA)
  if (own !== undefined) return own
  const others = FUSE_CLASSES.flatMap(c => ratingsCarrying(c.id, continuousA))
  return others.length ? Math.min(...others) : null
}
