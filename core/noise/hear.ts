import type { Cause, Causes, Part } from './cause'
import { normalCdf } from './listen/normal'
import { GONE_DB, WEAKER_DB, type Odds, type Setup } from './setup'
import { STEPS, type Step, type Takes } from './steps'
import { tablesOf } from './tables'
import { isPart, OTHER, OUTSIDE, RECEIVER, type Suspect } from './suspect'

/** How a change is heard, were this the cause: levels first, and then an ear's judgement of them. */

/** What is left of one share of a noise: as powers against what it was, each with its probability. */
interface Left {
  power: number
  probability: number
}

/** How often an ear is a whole step off, as it is told by operators of themselves: one reading in twenty. */
export const SLIP = 0.06
/** How far an ear is off in comparing two levels, and where it calls a noise gone, dB. */
const COMPARES_DB = 1.6
const GONE = { db: GONE_DB - 2, scatter: 3 }

/** Three points of a normal distribution and their weights (Gauss and Hermite): what several changes take, together. */
const POINTS = [-Math.sqrt(3), 0, Math.sqrt(3)]
const WEIGHTS = [1 / 6, 2 / 3, 1 / 6]

/** Likelihood of what was heard under every hypothesis. */
export function heardOdds(causes: Causes, setup: Setup): Odds[] {
  return eachOf(causes, setup, oddsOf)
}

/** The same of what the change itself made: no slip of the ear, and nothing that came or went by itself. */
export function causedOdds(causes: Causes, setup: Setup): Odds[] {
  return eachOf(causes, { ...setup, isSteady: true }, oddsOf).map(withoutSlip)
}

/** Probability of hearing the noise as before, weaker or gone after a change, were this its cause. */
export function expected(cause: Cause, setup: Setup, devices: readonly Suspect[]): Odds {
  const left = leftAfter(devices, setup)
  return oddsOf(left(cause), cause.second && { left: left(cause.second), belowDb: cause.second.belowDb })
}

/** Likelihood of a measured fall, per dB, under every hypothesis. */
export function measuredLikelihoods(causes: Causes, setup: Setup, fall: { db: number; errorDb: number }): number[] {
  const scatter = Math.hypot(fall.errorDb, METER_DB)
  return eachOf(causes, setup, (main, beside) => {
    let likelihood = 0
    forEachFall(main, beside, (db, probability) => {
      // What is measured falls to the floor and no farther, and how far the noise stood over it is not known.
      for (const rise of RISES) {
        const seen = decibels((rise * 10 ** (-db / 10) + 1) / (rise + 1))
        const off = (fall.db - seen) / scatter
        likelihood += (probability * Math.exp(-0.5 * off * off)) / RISES.length
      }
    })
    return likelihood
  })
}

/** What is left of the second share, and how far it lies under the first. */
interface Beside {
  left: Left[]
  belowDb: number
}

/** Something of every hypothesis, from what a change leaves of its shares: each share is worked out once. */
function eachOf<T>(causes: Causes, setup: Changed, of: (main: Left[], beside: Beside | undefined) => T): T[] {
  const { shares, first, second } = tablesOf(causes)
  const left = shares.map(leftAfter(causes.devices, setup))
  return causes.priors.map(({ cause }, i) =>
    of(left[first[i]!]!, cause.second && { left: left[second[i]!]!, belowDb: cause.second.belowDb }),
  )
}

/** How far a noise that somebody complains of stands over its floor, as powers: 6 to 36 dB, all alike. */
const RISES = [6, 9, 12, 15, 18, 21, 24, 27, 30, 33, 36].map(db => 10 ** (db / 10))
/** The band itself breathes between two readings, dB. */
const METER_DB = 1.5

/** What a change leaves of a share. */
function leftAfter(devices: readonly Suspect[], setup: Changed): (share: Part) => Left[] {
  const byId = new Map(devices.map(d => [d.id, d]))
  const own = devices.filter(d => isPart(d.id))
  // Of one or two nobody would say that everything was off.
  const isAllOff = own.length >= 3 && own.every(d => setup.devices?.[d.id]?.state === 'off')
  return share => leftOfShare(share, { setup, isAllOff }, byId.get(share.device))
}

/** By how many dB the whole noise may fall, each fall with its probability. */
function forEachFall(main: Left[], beside: Beside | undefined, told: (db: number, probability: number) => void) {
  if (!beside) {
    for (const { power, probability } of main) told(decibels(power), probability)
    return
  }
  const weight = 10 ** (-beside.belowDb / 10)
  for (const a of main)
    for (const b of beside.left)
      told(decibels((a.power + weight * b.power) / (1 + weight)), a.probability * b.probability)
}

const decibels = (power: number) => -10 * Math.log10(power + 1e-9)

/** What an ear makes of the falls that a cause may show. */
function oddsOf(main: Left[], beside: Beside | undefined): Odds {
  let [same, gone] = [0, 0]
  forEachFall(main, beside, (db, probability) => {
    const i = Math.min(JUDGED_SAME.length - 1, Math.max(0, Math.round(db / JUDGED_STEP_DB)))
    same += probability * JUDGED_SAME[i]!
    gone += probability * JUDGED_GONE[i]!
  })
  return slipped(same, Math.max(0, 1 - same - gone), gone)
}

/** An ear that is a step off: what was as strong or gone is called weaker, what was weaker either. */
const slipped = (same: number, weaker: number, gone: number): Odds => [
  (1 - SLIP) * same + (SLIP / 2) * weaker,
  (1 - SLIP) * weaker + SLIP * (same + gone),
  (1 - SLIP) * gone + (SLIP / 2) * weaker,
]

/** How likely the judgement would be without a slip, of how likely it is. */
const withoutSlip = ([same, weaker, gone]: Odds): Odds => {
  // The three lines above, solved for what they were given.
  const clean = Math.max(0, (weaker - SLIP) / (1 - 2 * SLIP))
  const undo = (side: number) => Math.max(0, (side - (SLIP / 2) * clean) / (1 - SLIP))
  return [undo(same), clean, undo(gone)]
}

const JUDGED_STEP_DB = 0.25
/** Of falls in steps, how likely an ear takes them for as strong, and for gone. */
const judgedBy = (law: (db: number) => number) => Float64Array.from({ length: 401 }, (_, i) => law(i * JUDGED_STEP_DB))
const JUDGED_SAME = judgedBy(db => 1 - normalCdf((db - WEAKER_DB) / COMPARES_DB))
const JUDGED_GONE = judgedBy(db => normalCdf((db - GONE.db) / GONE.scatter))

/** A change; `isSteady` where what comes and goes by itself is taken to have stayed. */
type Changed = Setup & { isSteady?: boolean }

interface Whole {
  setup: Changed
  /** Every part of the plan that may make noise is off. */
  isAllOff: boolean
}

function leftOfShare(share: Part, whole: Whole, device: Suspect | undefined): Left[] {
  const made = emission(share, whole, device)
  const works = whole.setup.isSteady ? made : comesAndGoes(share, made)
  const steps = stepsFor(share, whole.setup).map(step => STEPS[step][share.way])
  const isGone = (whole.setup.added ?? []).some(a => a.what === 'swap' && a.at === share.device)
  if (isGone) return [{ power: 0.01, probability: 1 }]
  return works.flatMap(({ takes, probability }) =>
    takes ? spread([takes, ...steps], probability) : [{ power: 0, probability }],
  )
}

/** What changes together take off: a normal distribution of their sum, in three points. */
function spread(steps: readonly Takes[], probability: number): Left[] {
  const mean = steps.reduce((s, [least, most]) => s + (least + most) / 2, 0)
  const deviation = Math.sqrt(steps.reduce((s, [least, most]) => s + (most - least) ** 2 / 12, 0))
  if (deviation === 0) return [{ power: 10 ** (-mean / 10), probability }]
  return POINTS.map((x, i) => ({
    power: 10 ** (-Math.max(0, mean + x * deviation) / 10),
    probability: probability * WEIGHTS[i]!,
  }))
}

/** The changes that work on a share's noise: what is done to one device does nothing to the noise of another. */
function stepsFor({ device }: Part, setup: Setup): Step[] {
  const steps: Step[] = []
  if (setup.antenna === 'dummy') steps.push('dummy')
  if (setup.feed === 'own-battery' || setup.feed === 'from-battery') steps.push(setup.feed)
  if (setup.data === 'unplugged') steps.push('unplugged')
  if (setup.rfGain === 'down') steps.push('gain-down')
  for (const { what, at } of setup.added ?? []) {
    if (what === 'bond' || what === 'lc-filter') steps.push(what)
    else if (at === 'radio') steps.push(...(what === 'choke' ? ['choke-radio' as const] : []))
    else if (at === device && what !== 'swap') steps.push(what === 'choke' ? 'choke-device' : what)
  }
  return steps
}

interface Works {
  /** What its state takes off; null where it makes no noise at all. */
  takes: Takes | null
  probability: number
}

const AS_BEFORE: Works[] = [{ takes: [0, 0], probability: 1 }]
const SILENT: Works[] = [{ takes: null, probability: 1 }]
const either = (on: number, takes: Takes = [0, 0]): Works[] => [
  { takes, probability: on },
  { takes: null, probability: 1 - on },
]

/** In how many of the stations in which all parts were switched off nothing was forgotten. */
const NOTHING_FORGOTTEN = 0.7

/** Of the time a noise that comes and goes is there just when one listens after a change. */
const THERE = 0.75

/** What comes and goes by itself may be gone by itself, whatever was changed. */
function comesAndGoes({ when }: Part, works: Works[]): Works[] {
  if (when.kind !== 'at-times') return works
  const kept = works.map(w => ({ ...w, probability: THERE * w.probability }))
  return [...kept, { takes: null, probability: 1 - THERE }]
}

/** What a source of noise makes in the state it was put into. */
function emission(share: Part, { setup, isAllOff }: Whole, device: Suspect | undefined): Works[] {
  if (share.device === OUTSIDE || share.device === RECEIVER) return AS_BEFORE
  if (setup.everything === 'off') return SILENT
  if (share.device === OTHER) return isAllOff ? either(1 - NOTHING_FORGOTTEN) : AS_BEFORE
  const put = setup.devices?.[share.device]
  if (!put) return AS_BEFORE
  if (put.state === 'off') return SILENT
  const { when } = share
  const isSteady = when.kind === 'always' || when.kind === 'at-times'
  if (put.state === 'idle') return isSteady ? either(0.9, [0, 12]) : either(0.05)
  if (isSteady) return [{ takes: [0, 4], probability: 1 }]
  if (when.kind === 'start') {
    if (put.minutesOn === undefined) return either(0.7)
    return either(put.minutesOn <= STARTS_MIN ? 0.97 : 0.06)
  }
  if (put.currentA === undefined || !device?.mostA) return either(0.8)
  return either(overOdds(put.currentA / device.mostA, when.share), [0, 5])
}

const STARTS_MIN = 5

/** Half the step between the currents at which noise may set in: nearer than this they are not told apart. */
export const NEAR_SHARE = 0.13

/** Whether it works above the current where it sets in: close to it nobody can tell. */
function overOdds(share: number, setIn: number): number {
  return 0.02 + 0.96 * normalCdf((share - setIn) / (NEAR_SHARE / 1.3))
}
