import { z } from 'zod'
import { id } from '../kinds/fields'
import type { Cause, Way } from './cause'
import type { Suspect } from './suspect'

/** What was changed against the state in which the noise is heard. What it does not name stays as it was. */
export const setupSchema = z.strictObject({
  devices: z
    .partialRecord(
      id,
      z.strictObject({
        state: z.enum(['off', 'idle', 'working']),
        currentA: z.number().min(0).max(10000).optional(),
        minutesOn: z.number().min(0).max(10000).optional().describe('since it was started'),
      }),
    )
    .optional(),
  antenna: z.enum(['antenna', 'dummy']).optional(),
  feed: z.enum(['shared', 'own-battery']).optional(),
  rfGain: z.enum(['up', 'down']).optional(),
  added: z
    .array(
      z.strictObject({
        what: z.enum(['choke', 'lc-filter', 'mains-filter', 'distance', 'bond']),
        at: z.union([id, z.literal('radio')]).describe('the part whose lead it is on, or that was moved'),
      }),
    )
    .max(20)
    .optional(),
})
export type Setup = z.infer<typeof setupSchema>
export type Added = NonNullable<Setup['added']>[number]

/** The noise itself, not the floor: from so many dB less on it is weaker, from so many on it counts as gone. */
export const WEAKER_DB = 4
export const GONE_DB = 15

/** What is heard then: as strong as before, weaker, or gone. */
export const HEARD = ['same', 'weaker', 'gone'] as const
export type Heard = (typeof HEARD)[number]
/** Probabilities of same, weaker and gone. */
export type Odds = readonly [same: number, weaker: number, gone: number]

const SAME: Odds = [1, 0, 0]
const GONE: Odds = [0, 0, 1]

/**
 * What single changes do to noise that comes in by each way: the stated likelihoods of the reasoning. From practice and
 * the physics: a
 * dummy load takes the antenna away, but not what runs over the radio's case; a battery of its own cuts the DC lead; a
 * choke over all
 * conductors works on common mode only, and never wholly; a series inductor with a capacitor works on differential
 * mode.
 */
export const STEPS: Record<
  | 'dummy'
  | 'own-battery'
  | 'gain-down'
  | 'choke-radio'
  | 'choke-device'
  | 'lc-filter'
  | 'mains-filter'
  | 'distance'
  | 'bond',
  Record<Way, Odds>
> = {
  dummy: {
    antenna: [0, 0.05, 0.95],
    'dc-common': [0.5, 0.48, 0.02],
    'dc-differential': [0.97, 0.03, 0],
    audio: SAME,
    mains: [0.3, 0.55, 0.15],
  },
  'own-battery': {
    antenna: [0.97, 0.03, 0],
    'dc-common': [0, 0.1, 0.9],
    'dc-differential': [0, 0.02, 0.98],
    audio: [0, 0.03, 0.97],
    mains: [0.45, 0.53, 0.02],
  },
  'gain-down': { antenna: GONE, 'dc-common': GONE, 'dc-differential': GONE, audio: SAME, mains: GONE },
  'choke-radio': {
    antenna: [0.97, 0.03, 0],
    'dc-common': [0.02, 0.38, 0.6],
    'dc-differential': [0.99, 0.01, 0],
    audio: SAME,
    mains: [0.7, 0.3, 0],
  },
  'choke-device': {
    antenna: [0.15, 0.55, 0.3],
    'dc-common': [0.08, 0.47, 0.45],
    'dc-differential': [0.97, 0.03, 0],
    audio: SAME,
    mains: [0.75, 0.25, 0],
  },
  'lc-filter': {
    antenna: SAME,
    'dc-common': [0.95, 0.05, 0],
    'dc-differential': [0.01, 0.09, 0.9],
    audio: [0.15, 0.45, 0.4],
    mains: SAME,
  },
  'mains-filter': {
    antenna: [0.98, 0.02, 0],
    'dc-common': [0.98, 0.02, 0],
    'dc-differential': SAME,
    audio: [0.97, 0.03, 0],
    mains: [0.01, 0.2, 0.79],
  },
  distance: {
    antenna: [0.05, 0.6, 0.35],
    'dc-common': [0.95, 0.05, 0],
    'dc-differential': SAME,
    audio: SAME,
    mains: [0.85, 0.15, 0],
  },
  bond: {
    antenna: [0.97, 0.03, 0],
    'dc-common': [0.25, 0.55, 0.2],
    'dc-differential': [0.97, 0.03, 0],
    audio: [0.95, 0.05, 0],
    mains: [0.85, 0.15, 0],
  },
}

/** How an ear errs: what is as strong, weaker or gone, taken for each of the three. */
export const EAR: Record<Heard, Odds> = {
  same: [0.95, 0.045, 0.005],
  weaker: [0.09, 0.82, 0.09],
  gone: [0.005, 0.045, 0.95],
}

/**
 * Half the step between the currents at which noise may set in (quarters of the largest): nearer than this they are not
 * told apart.
 */
export const NEAR_SHARE = 0.13

/** Close under the current where it sets in, and at it, nobody can tell. */
function overOdds(share: number, setIn: number): Odds {
  const apart = share - setIn
  if (apart >= NEAR_SHARE) return [0.85, 0.12, 0.03]
  if (apart <= -NEAR_SHARE) return [0.02, 0.05, 0.93]
  return [0.3, 0.3, 0.4]
}

const STARTS_MIN = 5

/** A device's own part: whether it makes its noise in the state it was put into. */
function emission(cause: Cause, setup: Setup, device: Suspect | undefined): Odds {
  const put = setup.devices?.[cause.device]
  if (!put) return SAME
  if (put.state === 'off') return GONE
  const { when } = cause
  if (put.state === 'idle') return when.kind === 'always' ? [0.6, 0.35, 0.05] : [0.02, 0.05, 0.93]
  if (when.kind === 'always') return [0.9, 0.1, 0]
  if (when.kind === 'start') {
    if (put.minutesOn === undefined) return [0.5, 0.2, 0.3]
    return put.minutesOn <= STARTS_MIN ? [0.95, 0.05, 0] : [0.02, 0.08, 0.9]
  }
  return put.currentA === undefined || !device?.mostA
    ? [0.7, 0.15, 0.15]
    : overOdds(put.currentA / device.mostA, when.share)
}

/** One after the other: gone if any takes it away, weaker if any weakens it. */
const then = (a: Odds, b: Odds): Odds => {
  const same = a[0] * b[0]
  const left = (a[0] + a[1]) * (b[0] + b[1])
  return [same, left - same, 1 - left]
}

/** Probability of hearing the noise as before, weaker or gone after a change, were this its cause. */
export function expected(cause: Cause, setup: Setup, devices: readonly Suspect[]): Odds {
  let odds = emission(
    cause,
    setup,
    devices.find(d => d.id === cause.device),
  )
  if (setup.antenna === 'dummy') odds = then(odds, STEPS.dummy[cause.way])
  if (setup.feed === 'own-battery') odds = then(odds, STEPS['own-battery'][cause.way])
  if (setup.rfGain === 'down') odds = then(odds, STEPS['gain-down'][cause.way])
  for (const { what, at } of setup.added ?? []) odds = then(odds, addedOdds(cause, what, at))
  return [0, 1, 2].map(heard =>
    HEARD.reduce((s, actual, i) => s + odds[i]! * EAR[actual][heard]!, 0),
  ) as unknown as Odds
}

function addedOdds(cause: Cause, what: Added['what'], at: string): Odds {
  if (what === 'bond' || what === 'lc-filter') return STEPS[what][cause.way]
  if (at === 'radio') return what === 'choke' ? STEPS['choke-radio'][cause.way] : SAME
  // What is done to one device does nothing to the noise of another.
  if (at !== cause.device) return SAME
  return STEPS[what === 'choke' ? 'choke-device' : what][cause.way]
}
