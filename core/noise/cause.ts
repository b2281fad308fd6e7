import { graphOf } from '../graph/graph'
import { kindOf } from '../kinds/index'
import { BANDS, linesIn } from '../catalog/bands'
import { mixed } from '../reason/hypotheses'
import { sumOf } from '../reason/odds'
import { leadsOf, partById } from '../plan/find'
import type { Plan } from '../plan/schema'
import { besides, isPart, kindOdds, OTHER, OUTSIDE, RECEIVER, strange, suspectsOf, type Suspect } from './suspect'
import { asGiven, significant } from '../units/number'

/** Ways by which noise comes into a receiver. */
export const WAYS = [
  { id: 'antenna', label: 'by the antenna', long: 'radiated, and picked up by the antenna' },
  {
    id: 'dc-common',
    label: 'common mode on the DC lead',
    long: "along both conductors of the DC lead together, and over the radio's case",
  },
  { id: 'dc-differential', label: 'differential on the DC lead', long: 'between plus and minus of the DC lead' },
  { id: 'audio', label: 'audio ripple', long: 'as ripple of the supply, straight into the audio' },
  { id: 'mains', label: 'from the mains side', long: 'along the AC wiring' },
  { id: 'data', label: 'by a data lead', long: 'along a USB or data lead of the radio' },
  { id: 'inside', label: 'inside the receiver', long: 'made in the receiver itself' },
] as const
export type Way = (typeof WAYS)[number]['id']
export const wayLabel = (way: Way) => WAYS.find(w => w.id === way)!.label

/**
 * When it is there: whenever the device is on, only over a share of its largest current, in the first minutes of a
 * charge, or coming and going by itself.
 */
export type When = { kind: 'always' } | { kind: 'over'; share: number } | { kind: 'start' } | { kind: 'at-times' }

export const sameWhen = (a: When, b: When) =>
  a.kind === b.kind && (a.kind !== 'over' || a.share === (b as typeof a).share)

/** A source of noise with its way in. */
export interface Part {
  device: string
  way: Way
  when: When
}

/**
 * One hypothesis: a source of noise, and what comes in beside it: the same device by another way, or another device.
 */
export interface Cause extends Part {
  second?: Part & { /** Under the first, dB. */ belowDb: number }
}

/** Shares of a device's largest current at which noise may set in. */
export const SHARES = [0.2, 0.4, 0.6, 0.8] as const
/** A current this share under one at which it was quiet is the same. */
const SAME_SHARE = 0.1

/** Another device beside the first, where there is one. */
export const alsoOf = ({ device, second }: Cause): Part | undefined =>
  second && second.device !== device ? second : undefined

/** Device and way of a hypothesis, and of the other device where there are two: what a cure goes by. */
export function pairKey(
  c: Pick<Cause, 'device' | 'way'> & { also?: Pick<Part, 'device' | 'way'> | undefined },
): string {
  return c.also ? `${c.device} ${c.way} + ${c.also.device} ${c.also.way}` : `${c.device} ${c.way}`
}

/** "above about 7 A" */
export function whenWords(when: When, device: Suspect | undefined): string {
  if (when.kind === 'always') return 'whenever it is on'
  if (when.kind === 'start') return 'at the start of a charge'
  if (when.kind === 'at-times') return 'coming and going by itself'
  return device?.mostA ? `above about ${significant(when.share * device.mostA, 2)} A` : 'only when it works hard'
}

export interface Complaint {
  /** Bands it is heard on. */
  bands: readonly string[]
  /** What it sounds like, where said. */
  sound?: 'hiss' | 'tones' | 'buzz' | 'whine'
}

/** Odds before anything was tried, with why. */
export interface Prior {
  cause: Cause
  odds: number
}
export interface Causes {
  devices: Suspect[]
  priors: Prior[]
  reasons: Map<string, string[]>
  /** Devices of a very large plan that are not reasoned about. */
  leftOut: Suspect[]
}

/** Devices reasoned about at once, likeliest first; more of them no station has, and no evening. */
export const MOST_DEVICES = 40

/**
 * Prior odds of the ways by which a noise comes in (of what operators find once they know: mostly radiated or common
 * mode).
 */
export const WAY_ODDS: Record<Way, number> = {
  antenna: 4,
  'dc-common': 3,
  'dc-differential': 1,
  audio: 0.5,
  mains: 1,
  data: 0.3,
  inside: 0,
}

/** Odds that a noise comes and goes by itself, whatever is done: one complaint in fifteen, as operators tell. */
const AT_TIMES = 0.04

/** By how much what the plan or the complaint says moves the odds: judgement, listed in docs/noise.md. */
export const FACTORS = {
  heardOn: 4,
  nearAntennaLead: 2,
  choked: 0.5,
  noLine: 0.6,
  longLead: 1.5,
  unbonded: 2,
  loadTerminal: 4,
  whine: 8,
  tones: 0.2,
  dataLead: 8,
} as const

/**
 * Prior odds that a noise comes in by one way alone, that the same device has a second way in that is heard, and that
 * there are two devices: of what operators find once they know.
 */
export const MADE_OF = { one: 0.42, twoWays: 0.38, two: 0.2 } as const
/** How far a second way, and a second device, lie under the first, dB. */
export const BELOW_DB = { way: [5, 9, 15], device: [0.5, 5] } as const
/** Devices that are thought of in twos, likeliest first. */
const MOST_IN_TWOS = 9
/** From this length on a lead radiates well on the HF bands. */
export const LONG_LEAD_M = 5

/**
 * Every hypothesis that the plan allows, with its prior probability.
 * @param named things that findings speak of: what the plan does not have is a suspect all the same
 */
export function causesOf(plan: Plan, complaint: Complaint, named: readonly string[] = []): Causes {
  const reasons = new Map<string, string[]>()
  const own = suspectsOf(plan)
  const known = new Set([...own, ...besides].map(d => d.id))
  const strangers = [...new Set(named)].filter(id => !known.has(id)).map(strange)
  const weighed = [...own, ...strangers, ...besides].map(device => {
    const why: string[] = []
    return { device, why, odds: deviceOdds(plan, device, complaint, why) }
  })
  const likely = new Set(
    [...weighed]
      .sort((a, b) => b.odds - a.odds)
      .filter(w => isPart(w.device.id))
      .slice(0, MOST_DEVICES)
      .map(w => w.device.id)
      .concat(besides.map(b => b.id)),
  )
  const kept = weighed.filter(w => likely.has(w.device.id))
  const singles = kept.flatMap(({ device, why, odds }) => {
    const ways = wayOdds(plan, device, complaint, why)
    const whens = whenOdds(plan, device, why)
    reasons.set(device.id, why)
    const [wayTotal, whenTotal] = [sumOf(ways.map(w => w.odds)), sumOf(whens.map(w => w.odds))]
    return ways.flatMap(w =>
      whens.map(t => ({
        cause: { device: device.id, way: w.way, when: t.when },
        odds: (((odds * w.odds) / wayTotal) * t.odds) / whenTotal,
      })),
    )
  })
  return {
    devices: kept.map(w => w.device),
    priors: mixed([
      { share: MADE_OF.one, all: singles },
      { share: MADE_OF.twoWays, all: twoWays(singles) },
      { share: MADE_OF.two, all: twoDevices(singles) },
    ]),
    reasons,
    leftOut: weighed.filter(w => !likely.has(w.device.id)).map(w => w.device),
  }
}

/** A device by one way, and weaker by another. */
function twoWays(singles: readonly Prior[]): Prior[] {
  return singles.flatMap(first => {
    const { device, when } = first.cause
    const others = singles.filter(
      s => s.cause.device === device && s.cause.way !== first.cause.way && sameWhen(s.cause.when, when),
    )
    const total = sumOf(others.map(o => o.odds))
    return others.flatMap(other =>
      BELOW_DB.way.map(belowDb => ({
        cause: { ...first.cause, second: { ...other.cause, belowDb } },
        odds: (first.odds * other.odds) / total / BELOW_DB.way.length,
      })),
    )
  })
}

/** Two devices, each by one way, and neither much louder than the other. */
function twoDevices(singles: readonly Prior[]): Prior[] {
  const mass = new Map<string, number>()
  for (const { cause, odds } of singles) mass.set(cause.device, (mass.get(cause.device) ?? 0) + odds)
  const likely = new Set(
    [...mass]
      .sort((a, b) => b[1] - a[1])
      .slice(0, MOST_IN_TWOS)
      .map(([d]) => d),
  )
  // Of two at once, each is taken as always there: when it sets in is found once they are known.
  const each = singles.filter(s => likely.has(s.cause.device) && s.cause.when.kind === 'always')
  // Beside what comes from outside a weaker device changes nothing that could be heard; beside a device it does.
  const first = each.filter(s => isPart(s.cause.device))
  const second = each.filter(s => isPart(s.cause.device) || s.cause.device === OUTSIDE)
  return first.flatMap(a =>
    second.flatMap(b =>
      a.cause.device === b.cause.device
        ? []
        : BELOW_DB.device.map(belowDb => ({
            cause: { ...a.cause, second: { ...b.cause, belowDb } },
            odds: a.odds * b.odds,
          })),
    ),
  )
}

function deviceOdds(plan: Plan, device: Suspect, complaint: Complaint, why: string[]): number {
  let odds = kindOdds(device.kind)
  const weigh = (factor: number, words: string) => {
    odds *= factor
    why.push(words)
  }
  if (!isPart(device.id)) return odds
  const part = partById(plan, device.id)
  if (!part) return odds
  const noise = 'noise' in part ? part.noise : undefined
  const shared = (noise?.bands ?? []).filter(b => complaint.bands.includes(b))
  if (shared.length) weigh(FACTORS.heardOn, `the plan says it is heard on ${shared.join(', ')}`)
  if (part.nearAntennaLead) weigh(FACTORS.nearAntennaLead, 'it lies beside an antenna lead')
  if (leadsOf(plan, device.id).some(l => l.inline?.some(i => i.kind === 'choke')))
    weigh(FACTORS.choked, 'a lead of it has a choke already')
  if (device.switchingHz && complaint.bands.length) {
    const bands = BANDS.filter(b => complaint.bands.includes(b.id))
    if (bands.every(b => linesIn(b, device.switchingHz!) === 0))
      weigh(FACTORS.noLine, 'no multiple of its switching frequency falls into these bands')
  }
  return odds
}

function wayOdds(plan: Plan, device: Suspect, complaint: Complaint, why: string[]): { way: Way; odds: number }[] {
  const beside = Object.hasOwn(BESIDE_WAYS, device.id) && BESIDE_WAYS[device.id]
  if (beside) return beside
  const odds = { ...WAY_ODDS, mains: device.hasMains ? WAY_ODDS.mains : 0 }
  const part = partById(plan, device.id)
  // What hangs on the radio by a data lead sends its noise along it; others reach it through that one.
  const linked = plan.parts.flatMap(p => ('dataTo' in p && p.dataTo ? [p.dataTo] : []))
  if (!linked.length) odds.data = 0
  if (linked.includes(device.id)) {
    odds.data *= FACTORS.dataLead
    why.push('it hangs on the radio by a data lead')
  }
  if (part?.nearAntennaLead) odds.antenna *= FACTORS.nearAntennaLead
  const longest = Math.max(0, ...leadsOf(plan, device.id).map(l => l.lengthM))
  if (longest >= LONG_LEAD_M) {
    odds.antenna *= FACTORS.longLead
    why.push(`a lead of ${asGiven(longest)} m on it radiates well`)
  }
  if (plan.site?.ground === 'none') {
    odds['dc-common'] *= FACTORS.unbonded
    why.push('nothing is bonded to one ground, which lets common mode in')
  }
  const { loadTerminal } = (part && kindOf(part).noise) ?? {}
  if (loadTerminal !== undefined && graphOf(plan).leadsAt(`${device.id}.${loadTerminal}`).length) {
    odds['dc-differential'] *= FACTORS.loadTerminal
    why.push('loads hang on its load terminal')
  }
  if (complaint.sound === 'whine') {
    odds.audio *= FACTORS.whine
    why.push('a whine in the audio')
  }
  if (complaint.sound === 'tones') odds.audio *= FACTORS.tones
  return WAYS.map(w => ({ way: w.id, odds: odds[w.id] })).filter(w => w.odds > 0)
}

/** Ways of what is no part of the plan. */
const BESIDE_WAYS: Record<string, { way: Way; odds: number }[]> = {
  [OUTSIDE]: [{ way: 'antenna', odds: 1 }],
  [OTHER]: [
    { way: 'antenna', odds: 4 },
    { way: 'dc-common', odds: 1 },
    { way: 'mains', odds: 1 },
  ],
  [RECEIVER]: [{ way: 'inside', odds: 1 }],
}

function whenOdds(plan: Plan, device: Suspect, why: string[]): { when: When; odds: number }[] {
  const atTimes = { when: { kind: 'at-times' as const }, odds: AT_TIMES }
  if (device.id === RECEIVER) return [{ when: { kind: 'always' }, odds: 1 }]
  if (!isPart(device.id)) return [{ when: { kind: 'always' }, odds: 1 - AT_TIMES }, atTimes]
  const part = partById(plan, device.id)
  const quietUpToA = part && 'noise' in part ? part.noise?.quietUpToA : undefined
  let always = 0.5
  let over = device.mostA === undefined ? 0.15 : 0.4
  if (quietUpToA !== undefined) {
    always = 0.05
    over = 0.9
    why.push(`it was quiet up to ${asGiven(quietUpToA)} A`)
  }
  const quietShare = quietUpToA !== undefined && device.mostA ? quietUpToA / device.mostA : 0
  // What was tested quiet up to a current does not set in below it.
  const shares = SHARES.filter(s => s >= quietShare - SAME_SHARE)
  const kept = shares.length ? shares : [SHARES.at(-1)!]
  return [
    { when: { kind: 'always' }, odds: always },
    ...kept.map(share => ({ when: { kind: 'over' as const, share }, odds: over / kept.length })),
    ...(device.charges ? [{ when: { kind: 'start' as const }, odds: 0.1 }] : []),
    atTimes,
  ]
}
