import type { Plan } from '../../../core/plan/schema'
import { fuse, lead } from '../plans'

/** A plan chosen to fool the checks, judged by hand before it was tried. */
export interface HardPlan {
  name: string
  /** The hand's arithmetic. */
  why: string
  plan: () => Plan
  /** All that is dangerous or fails, as `danger fuse-missing l1`: nothing beside it. */
  bad: readonly string[]
  /** All cautions and notes. */
  told: readonly string[]
}

type Loose = Record<string, unknown>

export const ends = (a: string, b: string) => ({
  from: { connector: a, method: 'crimp' },
  to: { connector: b, method: 'crimp' },
})
/** A lead with its ends: 1 m of 10 AWG with a 20 A fuse, where nothing else is said. */
export const wire = (id: string, [from, to]: [string, string], [a, b]: [string, string], more: Loose = {}) =>
  lead({ id, from, to, ends: ends(a, b), ...more })
export const profiles = {
  lifepo4: { absorptionV: 14.4, floatV: 13.5 },
  agm: { absorptionV: 14.6, floatV: 13.6 },
}
export const amps = (activeA: number, idleA = 1) => ({ model: 'constant-current', idleA, activeA })
export const busbar = (id = 'j', connector = 'ring-m6') => ({ id, kind: 'joint', style: 'busbar', connector })
export const fuseAt = (ratedA: number, atM = 0.05, more: Loose = {}) => [fuse(ratedA, atM, more)]
export const mppt = (more: Loose = {}) => ({
  id: 'ctl',
  kind: 'controller',
  type: 'mppt',
  maxPanelV: 50,
  maxPanelA: 20,
  maxChargeA: 10,
  chemistries: profiles,
  set: 'lifepo4',
  panel: 'screw',
  battery: 'screw',
  load: 'screw',
  ...more,
})
export const panel = (more: Loose = {}) => ({
  id: 'sun',
  kind: 'panel',
  openCircuitV: 22,
  shortCircuitA: 6,
  maxPowerV: 18,
  maxPowerA: 5.5,
  terminal: 'pv-single',
  ...more,
})
export const charger = (more: Loose = {}) => ({
  id: 'chg',
  kind: 'charger',
  maxA: 10,
  chemistries: profiles,
  terminal: 'ring-m6',
  ...more,
})
export const vehicle = (more: Loose = {}) => ({
  id: 'car',
  kind: 'vehicle',
  engineOnV: 14.2,
  engineOffV: 12.6,
  internalOhm: 0.02,
  alternatorSpareA: 30,
  terminal: 'ring-m8',
  ...more,
})
