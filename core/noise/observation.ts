import { z } from 'zod'
import { id, words } from '../kinds/fields'
import type { Cause } from './cause'
import { OUTSIDE, type Suspect } from './suspect'
import { expected, HEARD, setupSchema, type Setup } from './setup'

const common = {
  id,
  at: z.string().max(40).describe('when, ISO 8601'),
  who: words.optional(),
  bands: z.array(words).max(40).optional(),
  note: z.string().max(2000).optional(),
  allowedBy: z.enum(['sun', 'load', 'mains']).optional().describe('what made it possible at that hour'),
}

/** One thing that was found out. */
export const observationSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('listen'),
    ...common,
    setup: setupSchema,
    heard: z.enum(HEARD),
    current: z
      .strictObject({ device: id, amps: z.number().min(0).max(10000) })
      .optional()
      .describe('at which a device worked when the noise was heard, before the change'),
  }),
  z.strictObject({
    kind: z.literal('comb'),
    ...common,
    spacingHz: z.number().gt(0).max(1e7).nullable().describe('null: no even spacing'),
    uncertaintyHz: z.number().min(0).max(1e6).optional(),
  }),
  z.strictObject({ kind: z.literal('sniff'), ...common, loudest: z.union([id, z.literal('none')]) }),
])
export type Observation = z.infer<typeof observationSchema>

/** Which devices a spacing fits: their switching frequency or twice it, within what makers' figures are good for. */
export function fitting(spacingHz: number, devices: readonly Suspect[]): string[] {
  return devices
    .filter(d => d.switchingHz && [1, 2].some(f => Math.abs(spacingHz / (d.switchingHz! * f) - 1) <= 0.06))
    .map(d => d.id)
}

/** Likelihood of what was found, were this the cause; relative where the finding is a figure. */
export function likelihood(cause: Cause, observation: Observation, devices: readonly Suspect[]): number {
  switch (observation.kind) {
    case 'listen':
      return (
        heardAt(cause, observation.current, devices) *
        expected(cause, observation.setup as Setup, devices)[HEARD.indexOf(observation.heard)]!
      )
    case 'comb':
      return combLikelihood(cause, observation.spacingHz, devices)
    case 'sniff':
      return sniffLikelihood(cause, observation.loudest, devices)
  }
}

/** The noise was there before the change, at a current of a device: what sets in only above it is not the cause. */
function heardAt(
  cause: Cause,
  current: { device: string; amps: number } | undefined,
  devices: readonly Suspect[],
): number {
  if (!current || current.device !== cause.device) return 1
  const odds = expected(cause, { devices: { [current.device]: { state: 'working', currentA: current.amps } } }, devices)
  return odds[0] + odds[1]
}

/** Chance that lines are seen at all: a noise of the audio has none on the bands, a hiss hides them. */
const SEEN: Record<Cause['way'], number> = {
  antenna: 0.6,
  'dc-common': 0.6,
  'dc-differential': 0.6,
  audio: 0.03,
  mains: 0.6,
}
/** Chance that the spacing of a device with a known frequency fits it. */
const FITS = 0.93
/**
 * Chance that another device's spacing fits it by luck, and that a device whose frequency is not known has this one.
 */
const BY_LUCK = 0.06

export function combLikelihood(cause: Cause, spacingHz: number | null, devices: readonly Suspect[]): number {
  const seen = SEEN[cause.way]
  if (spacingHz === null) return 1 - seen
  const fits = fitting(spacingHz, devices)
  const own = devices.find(d => d.id === cause.device)
  if (!fits.length) return seen * (own?.switchingHz ? 1 - FITS : 1 - BY_LUCK)
  if (own?.switchingHz) return seen * (fits.includes(cause.device) ? FITS / fits.length : BY_LUCK / 2)
  return (seen * BY_LUCK) / fits.length
}

const POINTS: Record<Cause['way'], number> = {
  antenna: 0.75,
  'dc-common': 0.7,
  'dc-differential': 0.5,
  audio: 0.4,
  mains: 0.7,
}

/** A pocket medium-wave set held close is loudest at the culprit, mostly; near a quiet place it points at none. */
export function sniffLikelihood(cause: Cause, loudest: string, devices: readonly Suspect[]): number {
  const own = devices.filter(d => d.id !== OUTSIDE)
  if (cause.device === OUTSIDE) return loudest === 'none' ? 0.75 : 0.25 / Math.max(1, own.length)
  const right = POINTS[cause.way]
  const none = own.length > 1 ? 0.4 * (1 - right) : 1 - right
  if (loudest === cause.device) return right
  return loudest === 'none' ? none : (1 - right - none) / Math.max(1, own.length - 1)
}
