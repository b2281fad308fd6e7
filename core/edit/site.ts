import { kindOf } from '../kinds/index'
import type { FormField } from '../kinds/kind'
import { idOfName, valueAt } from '../plan/find'
import { DEFAULT_AMBIENT_C, type LoadState, type Plan } from '../plan/schema'
import type { Patch } from './patch'
import { setField, setPlan } from './set'

/** The plan as a whole: its site, places with temperatures of their own, and named load states. */

/** Sets a field of the plan or its site as the form enters it. */
export function enterSite(plan: Plan, { path, within }: FormField, value: unknown): Patch {
  if (within && valueAt(plan, within.path) === undefined)
    return value === undefined ? [] : setPlan(plan, within.path, within.fresh(value))
  if (path === 'name' && value === undefined) return []
  return setPlan(plan, path, value)
}

/** A place more, as warm and as cold as the site. */
export function addZone(plan: Plan, name: string): Patch {
  const zones = plan.site?.zones ?? []
  const taken = zones.map(z => z.id)
  const id = idOfName(name, taken, 'place')
  const ambientC = { ...(plan.site?.ambientC ?? DEFAULT_AMBIENT_C) }
  return setPlan(plan, 'site.zones', [...zones, { id, ambientC }])
}

/** Takes a place away; parts that stood in it stand in the site. */
export function removeZone(plan: Plan, zoneId: string): Patch {
  const left = (plan.site?.zones ?? []).filter(z => z.id !== zoneId)
  return [
    ...plan.parts.filter(p => p.zone === zoneId).flatMap(p => setField(plan, p.id, 'zone', undefined)),
    ...setPlan(plan, 'site.zones', left.length ? left : undefined),
  ]
}

/** A load state more, with nothing active. */
export function addLoadState(plan: Plan, name: string): Patch {
  const states = plan.loadStates ?? []
  const taken = states.map(s => s.id)
  const id = idOfName(name, taken, 'place')
  return setPlan(plan, 'loadStates', [...states, { id, name, active: [] }])
}

export function removeLoadState(plan: Plan, stateId: string): Patch {
  const left = (plan.loadStates ?? []).filter(s => s.id !== stateId)
  return setPlan(plan, 'loadStates', left.length ? left : undefined)
}

type Active = LoadState['active'][number]
const partOf = (entry: Active) => (typeof entry === 'string' ? entry : entry.part)

/** How a part is in a load state: off, active, or active at a power of its own, W. */
export function activeIn(state: LoadState, partId: string): boolean | number {
  const entry = state.active.find(a => partOf(a) === partId)
  if (entry === undefined) return false
  return typeof entry === 'string' ? true : (entry.powerW ?? true)
}

/** Puts a part into a load state, or takes it out. */
export function setActive(plan: Plan, stateId: string, partId: string, how: boolean | number): Patch {
  const states = plan.loadStates ?? []
  const at = states.findIndex(s => s.id === stateId)
  const others = states[at]!.active.filter(a => partOf(a) !== partId)
  const own: Active[] = how === false ? [] : [how === true ? partId : { part: partId, powerW: how }]
  return setPlan(plan, `loadStates.${at}.active`, [...others, ...own])
}

/** Parts that can be active or not. */
export const mayBeActive = (plan: Plan) => plan.parts.filter(p => kindOf(p).role === 'load')
