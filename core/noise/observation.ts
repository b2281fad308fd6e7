import { z } from 'zod'
import { id, words } from '../kinds/fields'
import { alsoOf, type Cause, type Part } from './cause'
import { isPart, OTHER, OUTSIDE, RECEIVER, type Suspect } from './suspect'
import { expected } from './hear'
import { HEARD, setupSchema, type Setup } from './setup'

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
    heard: z.enum([...HEARD, 'not-sure']),
    fall: z
      .strictObject({ db: z.number().min(-60).max(120), errorDb: z.number().min(0).max(60) })
      .optional()
      .describe('of the noise itself, measured, with its standard uncertainty: counts in place of the ear'),
    times: z.int().min(1).max(200).optional().describe('how often it was switched to and fro'),
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
  z.strictObject({
    kind: z.literal('own'),
    ...common,
    words: z.string().min(1).max(500),
    concerns: id.describe('a part, or outside, other, receiver'),
    way: z.string().max(40).optional(),
    speaks: z.enum(['for', 'against']),
  }),
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
    case 'listen': {
      const before = heardAt(cause, observation.current, devices)
      if (observation.heard === 'not-sure') return before
      return before * expected(cause, observation.setup as Setup, devices)[HEARD.indexOf(observation.heard)]!
    }
    case 'comb':
      return combLikelihood(cause, observation.spacingHz, devices)
    case 'sniff':
      return sniffLikelihood(cause, observation.loudest, devices)
    case 'own':
      return ownLikelihood(cause, observation)
  }
}

/** The noise was there before the change, at a current of a device: what sets in only above it is not the cause. */
export function heardAt(
  cause: Cause,
  current: { device: string; amps: number } | undefined,
  devices: readonly Suspect[],
): number {
  if (!current || current.device !== cause.device) return 1
  const odds = expected(cause, { devices: { [current.device]: { state: 'working', currentA: current.amps } } }, devices)
  return odds[0] + odds[1]
}

/** What somebody's own finding weighs: as much as hearing it, and no more. */
const OWN_FACTOR = 4

function ownLikelihood(cause: Cause, own: Extract<Observation, { kind: 'own' }>): number {
  const shares = [cause, ...(cause.second ? [cause.second] : [])]
  const isIt = shares.some(s => s.device === own.concerns && (own.way === undefined || s.way === own.way))
  return isIt === (own.speaks === 'for') ? OWN_FACTOR / (1 + OWN_FACTOR) : 1 / (1 + OWN_FACTOR)
}

/** Chance that lines are seen at all: a noise of the audio has none on the bands, a hiss hides them. */
const SEEN: Record<Cause['way'], number> = {
  antenna: 0.6,
  'dc-common': 0.6,
  'dc-differential': 0.6,
  audio: 0.03,
  mains: 0.6,
  data: 0.6,
  inside: 0.3,
}
/** Chance that the spacing of a device with a known frequency fits it. */
const FITS = 0.93
/**
 * Chance that another device's spacing fits it by luck, and that a device whose frequency is not known has this one.
 */
const BY_LUCK = 0.06

export function combLikelihood(cause: Cause, spacingHz: number | null, devices: readonly Suspect[]): number {
  if (spacingHz === null) return 1 - seenOf(cause)
  return combOf(cause, spacingHz, devices)
}

/** Of two, the lines of either may be what is seen. */
function seenOf(cause: Cause): number {
  const also = alsoOf(cause)
  return also ? 1 - (1 - SEEN[cause.way]) * (1 - SEEN[also.way]) : SEEN[cause.way]
}

function combOf(cause: Cause, spacingHz: number, devices: readonly Suspect[]): number {
  const fits = fitting(spacingHz, devices)
  const also = alsoOf(cause)
  const of = ({ device }: Part) => {
    const own = devices.find(d => d.id === device)
    if (!fits.length) return own?.switchingHz ? 1 - FITS : 1 - BY_LUCK
    if (own?.switchingHz) return fits.includes(device) ? FITS / fits.length : BY_LUCK / 2
    return BY_LUCK / fits.length
  }
  return seenOf(cause) * (also ? 0.5 * (of(cause) + of(also)) : of(cause))
}

const POINTS: Record<Cause['way'], number> = {
  antenna: 0.75,
  'dc-common': 0.7,
  'dc-differential': 0.5,
  audio: 0.4,
  mains: 0.7,
  data: 0.6,
  inside: 0,
}

/** A pocket medium-wave set held close is loudest at the culprit, mostly; near a quiet place it points at none. */
export function sniffLikelihood(cause: Cause, loudest: string, devices: readonly Suspect[]): number {
  const also = alsoOf(cause)
  return also
    ? 0.5 * (sniffOf(cause, loudest, devices) + sniffOf(also, loudest, devices))
    : sniffOf(cause, loudest, devices)
}

function sniffOf({ device, way }: Part, loudest: string, devices: readonly Suspect[]): number {
  const own = devices.filter(d => isPart(d.id))
  if (device === OUTSIDE || device === RECEIVER || device === OTHER)
    return loudest === 'none' ? 0.75 : 0.25 / Math.max(1, own.length)
  const right = POINTS[way]
  const none = own.length > 1 ? 0.4 * (1 - right) : 1 - right
  if (loudest === device) return right
  return loudest === 'none' ? none : (1 - right - none) / Math.max(1, own.length - 1)
}
