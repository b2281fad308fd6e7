import { chemistry } from '../catalog/chemistries'
import { figure } from '../units/number'
import type { Battery } from './battery'

/** What a battery may give and take: said, or assumed of its chemistry. */

/** The smaller of the cells' and the BMS's limit, A; undefined where neither is said. */
export function batteryLimit(battery: Battery, which: 'continuousA' | 'peakA' | 'maxChargeA'): number | undefined {
  const said = [battery[which], battery.bms?.[which]].filter(a => a !== undefined)
  return said.length ? Math.min(...said) : undefined
}

/** A limit that is judged: what is said, or what is assumed of the chemistry where nothing is. */
export interface JudgedLimit {
  amps: number
  /** Where it is assumed: how, in words. */
  assumed?: string
}

/** The current it may give for long, or take; null where nothing is said and nothing can be assumed. */
export function judgedLimit(battery: Battery, which: 'continuousA' | 'maxChargeA'): JudgedLimit | null {
  const said = batteryLimit(battery, which)
  if (said !== undefined) return { amps: said }
  const { assumed, label } = chemistry(battery.chemistry)
  if (!assumed) return null
  const amps = battery.capacityAh * (which === 'continuousA' ? assumed.outPerAh : assumed.inPerAh)
  const does = which === 'continuousA' ? 'gives' : 'takes'
  return {
    amps,
    assumed: `assumed, since nothing is said: ${figure(battery.capacityAh)} Ah of ${label} ${does} ${figure(amps)} A`,
  }
}

/** Limits that are assumed of its chemistry since nobody states them, in words; none for a part of another kind. */
export function assumedLimits(part: { kind: string }): string[] {
  if (part.kind !== 'battery') return []
  const whole = part as Battery
  return (['continuousA', 'maxChargeA'] as const).flatMap(which => judgedLimit(whole, which)?.assumed ?? [])
}
