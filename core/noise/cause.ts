import { graphOf } from '../graph/graph'
import { kindOf } from '../kinds/index'
import { BANDS, linesIn } from '../catalog/bands'
import { leadsOf, partById } from '../plan/find'
import type { Plan } from '../plan/schema'
import { suspectsOf, kindOdds, outside, OUTSIDE, type Suspect } from './suspect'
import { NEAR_SHARE } from './setup'

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
] as const
export type Way = (typeof WAYS)[number]['id']
export const wayLabel = (way: Way) => WAYS.find(w => w.id === way)!.label

/**
 * When it is there: whenever the device is on, only over a share of its largest current, or in the first minutes of a
 * charge.
 */
export type When = { kind: 'always' } | { kind: 'over'; share: number } | { kind: 'start' }

/** One hypothesis. */
export interface Cause {
  device: string
  way: Way
  when: When
}

/** Shares of a device's largest current at which noise may set in. */
export const SHARES = [0.25, 0.5, 0.75] as const

export const pairKey = (c: Pick<Cause, 'device' | 'way'>) => `${c.device} ${c.way}`

/** "above about 7 A" */
export function whenWords(when: When, device: Suspect | undefined): string {
  if (when.kind === 'always') return 'whenever it is on'
  if (when.kind === 'start') return 'at the start of a charge'
  return device?.mostA
    ? `above about ${Number((when.share * device.mostA).toPrecision(2))} A`
    : 'only when it works hard'
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
export const WAY_ODDS: Record<Way, number> = { antenna: 4, 'dc-common': 3, 'dc-differential': 1, audio: 0.5, mains: 1 }

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
} as const
/** From this length on a lead radiates well on the HF bands. */
export const LONG_LEAD_M = 5

/** Every hypothesis that the plan allows, with its prior probability. */
export function causesOf(plan: Plan, complaint: Complaint): Causes {
  const reasons = new Map<string, string[]>()
  const weighed = [...suspectsOf(plan), outside].map(device => {
    const why: string[] = []
    return { device, why, odds: deviceOdds(plan, device, complaint, why) }
  })
  const likely = new Set(
    [...weighed]
      .sort((a, b) => b.odds - a.odds)
      .slice(0, MOST_DEVICES)
      .map(w => w.device.id)
      .concat(OUTSIDE),
  )
  const kept = weighed.filter(w => likely.has(w.device.id))
  const priors = kept.flatMap(({ device, why, odds }) => {
    const ways = wayOdds(plan, device, complaint, why)
    const whens = whenOdds(plan, device, why)
    reasons.set(device.id, why)
    const [wayTotal, whenTotal] = [sum(ways.map(w => w.odds)), sum(whens.map(w => w.odds))]
    return ways.flatMap(w =>
      whens.map(t => ({
        cause: { device: device.id, way: w.way, when: t.when },
        odds: (((odds * w.odds) / wayTotal) * t.odds) / whenTotal,
      })),
    )
  })
  const total = sum(priors.map(p => p.odds))
  return {
    devices: kept.map(w => w.device),
    priors: priors.map(p => ({ ...p, odds: p.odds / total })),
    reasons,
    leftOut: weighed.filter(w => !likely.has(w.device.id)).map(w => w.device),
  }
}

const sum = (values: number[]) => values.reduce((s, v) => s + v, 0)

function deviceOdds(plan: Plan, device: Suspect, complaint: Complaint, why: string[]): number {
  let odds = kindOdds(device.kind)
  const weigh = (factor: number, words: string) => {
    odds *= factor
    why.push(words)
  }
  if (device.id === OUTSIDE) return odds
  const part = partById(plan, device.id)!
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
  if (device.id === OUTSIDE) return [{ way: 'antenna', odds: 1 }]
  const odds = { ...WAY_ODDS, mains: device.hasMains ? WAY_ODDS.mains : 0 }
  const part = partById(plan, device.id)!
  if (part.nearAntennaLead) odds.antenna *= FACTORS.nearAntennaLead
  const longest = Math.max(0, ...leadsOf(plan, device.id).map(l => l.lengthM))
  if (longest >= LONG_LEAD_M) {
    odds.antenna *= FACTORS.longLead
    why.push(`a lead of ${longest} m on it radiates well`)
  }
  if (plan.site?.ground === 'none') {
    odds['dc-common'] *= FACTORS.unbonded
    why.push('nothing is bonded to one ground, which lets common mode in')
  }
  const { loadTerminal } = kindOf(part).noise ?? {}
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

function whenOdds(plan: Plan, device: Suspect, why: string[]): { when: When; odds: number }[] {
  if (device.id === OUTSIDE) return [{ when: { kind: 'always' }, odds: 1 }]
  const part = partById(plan, device.id)!
  const quietUpToA = 'noise' in part ? part.noise?.quietUpToA : undefined
  let always = 0.5
  let over = device.mostA === undefined ? 0.15 : 0.4
  if (quietUpToA !== undefined) {
    always = 0.05
    over = 0.9
    why.push(`it was quiet up to ${quietUpToA} A`)
  }
  const quietShare = quietUpToA !== undefined && device.mostA ? quietUpToA / device.mostA : 0
  // What was tested quiet up to a current does not set in below it.
  const shares = SHARES.filter(s => s >= quietShare - NEAR_SHARE)
  const kept = shares.length ? shares : [SHARES[2]]
  return [
    { when: { kind: 'always' }, odds: always },
    ...kept.map(share => ({ when: { kind: 'over' as const, share }, odds: over / kept.length })),
    ...(device.charges ? [{ when: { kind: 'start' as const }, odds: 0.1 }] : []),
  ]
}
