import { absorptionVolts } from '../battery/emf'
import { curveAt } from '../units/curve'
import type { ChargeProfiles, Efficiency } from './fields'
import { kindOf } from './index'
import type { Around, ChargeOutput, Source } from './kind'

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
  device: { chemistries?: ChargeProfiles; set?: string; lockOut?: boolean },
  current: { maxA: number; field: string; choicesA?: readonly number[] },
  under = '',
): ChargeOutput {
  return {
    at,
    ...profileOf(device.chemistries, device.set),
    maxA: current.maxA,
    fields: { set: `${under}set`, profiles: `${under}chemistries`, current: current.field },
    profiles: device.chemistries ?? {},
    ...(device.lockOut && { lockOut: true }),
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
 * Voltage to which a device charges, V. Where it does not say: the highest it has a setting for, else what suits the
 * batteries on it.
 */
export function chargesToV(output: ChargeOutput, around: Around): number {
  if (output.absorptionV !== null) return output.absorptionV
  const could = Object.values(output.profiles).flatMap(p => p?.absorptionV ?? [])
  if (could.length) return Math.max(...could)
  const wanted = around(output.at).flatMap(({ part }) => (part.kind === 'battery' ? [absorptionVolts(part) ?? 0] : []))
  return Math.max(...wanted, 0) || UNSET_CHARGE_V
}

/** Points on which a charge that has a power, and not a current, is drawn as straight lines: within 0.1 % of it. */
const POWER_POINTS = 8
/** A battery that stands lower than this under what it is charged to is none that can be charged. */
const LOWEST_SHARE = 0.6

/** A charging device at work, as a source: holds what it charges to, up to its amps and its watts. */
export function chargingSource(output: ChargeOutput, around: Around): Source {
  const { at, maxA, mostW } = output
  const emfV = chargesToV(output, around)
  if (mostW === undefined || mostW >= maxA * emfV) return { at, emfV, ohm: 0, leastA: 0, mostA: maxA }
  const fromV = Math.max(mostW / maxA, LOWEST_SHARE * emfV)
  const falling = Array.from({ length: POWER_POINTS + 1 }, (_, i) => fromV * (emfV / fromV) ** (i / POWER_POINTS))
  const curve = falling.map(v => [v, mostW / v] as const)
  return { at, emfV, ohm: 0, curve: [...curve, [emfV + STIFF_V, 0]] }
}
/** Over this it goes from what it gives to nothing, V. */
const STIFF_V = 1e-6

/** Efficiency at an output, from a number or a curve; straight lines between its points. */
export function efficiencyAt(efficiency: Efficiency, out: { amps: number; watts: number }): number {
  if (typeof efficiency === 'number') return efficiency
  const rows = efficiency.map(p => [p.outA ?? p.outW ?? 0, p.efficiency] as const).sort(([a], [b]) => a - b)
  return curveAt(rows, efficiency[0]!.outA !== undefined ? out.amps : out.watts)
}
