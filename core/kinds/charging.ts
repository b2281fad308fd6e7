import { absorptionVolts, type BatteryFacts } from '../battery/emf'
import type { ChargeProfiles, Efficiency } from './fields'
import { kindOf } from './index'
import type { Around, ChargeOutput } from './kind'

/** A charging device that does not say to what it is set: no 12 V one goes higher, V. */
export const UNSET_CHARGE_V = 15

/**
 * What a mains supply or charger takes from its AC side for what it gives (typical of the class); its volts where none
 * are said.
 */
export const AC_EFFICIENCY = 0.85
export const AC_CHARGE_V = 14.4

/** What a charging device is set to: the profile of its set chemistry, or its only one. */
export function profileOf(
  profiles: ChargeProfiles | undefined,
  set: string | undefined,
): { chemistry: string | undefined; absorptionV: number | null; floatV: number | null } {
  const entries = Object.entries(profiles ?? {})
  const [chemistry, profile] =
    entries.find(([id]) => id === set) ?? (set === undefined && entries.length === 1 ? entries[0]! : [set, undefined])
  return { chemistry, absorptionV: profile?.absorptionV ?? null, floatV: profile?.floatV ?? null }
}

/** How a device charges that says its profiles and its setting in fields of its own. */
export function chargeOutput(
  at: string,
  device: { chemistries?: ChargeProfiles; set?: string },
  current: { maxA: number; field: string; choicesA?: readonly number[] },
  under = '',
): ChargeOutput {
  return {
    at,
    ...profileOf(device.chemistries, device.set),
    maxA: current.maxA,
    fields: { set: `${under}set`, profiles: `${under}chemistries`, current: current.field },
    profiles: device.chemistries ?? {},
    ...(current.choicesA && { choicesA: current.choicesA }),
  }
}

/** The charging devices wired to a battery. */
export function chargersOf(batteryId: string, around: Around): { partId: string; output: ChargeOutput }[] {
  return around(batteryId).flatMap(({ part, terminal }) => {
    const output = kindOf(part).charge?.(part, around)
    return output && output.at === terminal ? [{ partId: part.id, output }] : []
  })
}

/**
 * Voltage a battery is held at while it is charged, V: the highest absorption voltage of the charging devices wired to
 * it, else its own
 * or its chemistry's. null for one that is not charged where its loads are.
 */
export function chargeVoltsOf(battery: BatteryFacts & { id: string }, around: Around): number | null {
  const own = absorptionVolts(battery)
  if (battery.charged === 'elsewhere') return null
  const said = chargersOf(battery.id, around).flatMap(c => c.output.absorptionV ?? [])
  return said.length ? Math.max(...said) : own
}

/** Efficiency at an output, from a number or a curve; straight lines between its points. */
export function efficiencyAt(efficiency: Efficiency, out: { amps: number; watts: number }): number {
  if (typeof efficiency === 'number') return efficiency
  const points = efficiency.map(p => ({ x: p.outA ?? p.outW ?? 0, y: p.efficiency })).sort((a, b) => a.x - b.x)
  const x = efficiency[0]!.outA !== undefined ? out.amps : out.watts
  if (x <= points[0]!.x) return points[0]!.y
  for (let i = 1; i < points.length; i++) {
    const [a, b] = [points[i - 1]!, points[i]!]
    if (x <= b.x) return a.y + ((b.y - a.y) * (x - a.x)) / (b.x - a.x)
  }
  return points.at(-1)!.y
}
