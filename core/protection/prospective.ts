import { restedVolts } from '../battery/emf'
import { profileOf } from '../kinds/charging'
import type { Part } from '../kinds/index'

/** What a part can drive into a dead short at its terminals: an EMF behind a resistance, or no more than a limit of its own. */
export type ShortSource = { kind: 'emf'; emfV: number; ohm: number } | { kind: 'limited'; volts: number; amps: number }

/** A part's terminals at which it gives power, each with what it can drive into a short there. A BMS counts for nothing. */
export function shortSources(part: Part): { at: string; source: ShortSource }[] {
  const limited = (at: string, volts: number, amps: number) => ({
    at,
    source: { kind: 'limited' as const, volts, amps },
  })
  switch (part.kind) {
    case 'battery':
      return [{ at: part.id, source: { kind: 'emf', emfV: restedVolts(part, 1), ohm: part.internalOhm } }]
    case 'vehicle':
      return [{ at: part.id, source: { kind: 'emf', emfV: part.engineOnV, ohm: part.internalOhm } }]
    case 'supply':
      return [limited(part.id, part.setV, part.peakA ?? part.continuousA)]
    case 'panel':
      return [limited(part.id, part.openCircuitV, SUN_FACTOR * part.shortCircuitA)]
    case 'usbSource':
      return [
        limited(
          part.id,
          Math.max(...part.voltages.map(v => v.volts), part.adjustable?.maxV ?? 0),
          Math.max(...part.voltages.map(v => v.amps), part.adjustable?.amps ?? 0),
        ),
      ]
    case 'powerStation':
      return part.ports.map(p => limited(`${part.id}.${p.id}`, p.volts, p.ratedA))
    case 'converter':
      return [limited(`${part.id}.out`, part.outV, part.maxOutA)]
    case 'controller':
      return [
        limited(`${part.id}.battery`, profileOf(part.chemistries, part.set).absorptionV ?? UNSET_V, part.maxChargeA),
      ]
    case 'charger':
      return [limited(part.id, profileOf(part.chemistries, part.set).absorptionV ?? UNSET_V, part.maxA)]
    default:
      return []
  }
}

/** A charging device that does not say to what it is set: no 12 V one goes higher, V. */
const UNSET_V = 15

/** Sun on a bright cold day and its reflection give more than a panel's label (NFPA 70, 690.8). */
export const SUN_FACTOR = 1.25

/** Most a source can give for long, A; null for a battery or vehicle, whose limit is no protection. */
export function sourceLimitA(part: Part): number | null {
  const sources = shortSources(part)
  return sources.length && sources.every(s => s.source.kind === 'limited')
    ? Math.max(...sources.map(s => (s.source.kind === 'limited' ? s.source.amps : 0)))
    : null
}

/** Current into a dead short at the posts, A; null where its internal resistance is not said. */
export function prospectiveAtPost(part: Part): number | null {
  const [first] = shortSources(part)
  if (!first) return null
  if (first.source.kind === 'limited') return first.source.amps
  return first.source.ohm > 0 ? first.source.emfV / first.source.ohm : null
}
