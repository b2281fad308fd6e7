import { chemistry } from '../catalog/chemistries'
import { curveAt } from '../units/curve'

export interface BatteryFacts {
  chemistry: string
  seriesCells: number
  capacityAh: number
  usableFraction?: number
  stopV?: number
  absorptionV?: number
  charged?: 'in-place' | 'elsewhere'
  curve?: { soc: number; volts: number }[]
}

/**
 * Of a plan with a battery, the first five; without one, the source's own. `charging` is the end of a charge, `bulk`
 * its start: every charging source gives what it can into a battery that is low.
 */
export type SourceState = 'charging' | 'bulk' | 'full' | 'nominal' | 'low' | 'engine-on' | 'engine-off'

/** States in which what charges a battery works. */
export const isCharging = (state: SourceState): boolean => state === 'charging' || state === 'bulk'

/** What a battery still takes at the end of a charge, per Ah (practice: 3 to 5 % of its capacity in amps). */
export const TAIL_PER_AH = 0.03

/** Rested open-circuit voltage of the whole battery at a state of charge (0–1), V. The owner's own curve goes first. */
export function restedVolts(battery: BatteryFacts, soc: number): number {
  const cells = battery.curve?.length ? 1 : battery.seriesCells
  const rows = battery.curve?.length
    ? [...battery.curve].sort((a, b) => a.soc - b.soc).map(p => [p.soc, p.volts] as const)
    : chemistry(battery.chemistry).curve
  return curveAt(rows, soc) * cells
}

/** State of charge at which its owner stops using it: 1 less the usable fraction. */
export function endOfUse(battery: BatteryFacts): number {
  return 1 - (battery.usableFraction ?? chemistry(battery.chemistry).usableFraction)
}

/**
 * Voltage it is held at while charging, V: the battery's own figure, or the middle of its chemistry's range.
 * null for one that is not charged where its loads are.
 */
export function absorptionVolts(battery: BatteryFacts): number | null {
  const range = chemistry(battery.chemistry).absorptionV
  if (battery.charged === 'elsewhere') return null
  if (battery.absorptionV !== undefined) return battery.absorptionV
  return range && ((range[0] + range[1]) / 2) * battery.seriesCells
}

/** EMF of a rested battery in a source state, V. A battery not charged in place counts as full while others charge. */
export function batteryEmf(battery: BatteryFacts, state: SourceState): number {
  if (state === 'low' || state === 'bulk') return battery.stopV ?? restedVolts(battery, endOfUse(battery))
  return restedVolts(battery, state === 'nominal' ? 0.5 : 1)
}
