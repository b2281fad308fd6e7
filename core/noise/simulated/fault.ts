import { WAYS, type Cause, type Causes, type Way } from '../cause'
import type { Random } from '../../chance/random'
import type { Setup } from '../setup'
import { OTHER, RECEIVER } from '../suspect'

/** A made-up fault: its cause, and how it shows. Everything that the reasoning does not know is in here. */
export interface Fault {
  cause: Cause
  /** Between its lines. */
  spacingHz: number
  oddOnly: boolean
  /** How far a line wavers at 10 MHz, Hz. */
  waverHz: number
  /** Whether it shows lines, or only hiss. */
  lines: boolean
  /** Rise over the floor where it is worst, dB. */
  riseDb: number
  bands: string[]
  /** Exact share of its largest current at which it sets in. */
  setInShare: number
  /** How much of it comes in by each way, dB under the main one. */
  leaksDb: Record<Way, number>
  /** What each change takes off each way, dB. */
  takesDb: Record<Step, Record<Way, number>>
}

const STEP = [
  'dummy',
  'own-battery',
  'from-battery',
  'unplugged',
  'gain-down',
  'choke-radio',
  'choke-device',
  'lc-filter',
  'mains-filter',
  'distance',
  'bond',
] as const
type Step = (typeof STEP)[number]

/**
 * Ranges from which a fault draws what a change takes off, dB, for the ways it works on at all: [least, most]. They are
 * the physics of
 * the simulated station, written apart from the reasoning's likelihoods.
 */
const TAKES: Record<Step, Partial<Record<Way, readonly [number, number]>>> = {
  dummy: { antenna: [22, 60], 'dc-common': [0, 10], mains: [0, 18] },
  'own-battery': {
    antenna: [0, 2],
    'dc-common': [12, 45],
    'dc-differential': [30, 60],
    audio: [25, 60],
    mains: [0, 12],
  },
  'from-battery': { antenna: [0, 2], 'dc-common': [0, 9], 'dc-differential': [6, 24], audio: [8, 30], mains: [0, 3] },
  unplugged: { 'dc-common': [0, 3], mains: [0, 3], data: [30, 60] },
  'gain-down': {
    antenna: [80, 90],
    'dc-common': [80, 90],
    'dc-differential': [80, 90],
    mains: [80, 90],
    data: [80, 90],
  },
  'choke-radio': { antenna: [0, 3], 'dc-common': [7, 32], mains: [0, 7] },
  'choke-device': { antenna: [2, 22], 'dc-common': [3, 28], 'dc-differential': [0, 1], mains: [0, 6] },
  'lc-filter': { 'dc-common': [0, 4], 'dc-differential': [14, 45], audio: [2, 25] },
  'mains-filter': { antenna: [0, 1], 'dc-common': [0, 1], mains: [9, 40] },
  distance: { antenna: [4, 22], 'dc-common': [0, 3], mains: [0, 5] },
  bond: { antenna: [0, 2], 'dc-common': [0, 18], 'dc-differential': [0, 1], audio: [0, 2], mains: [0, 5] },
}

/** Draws a hidden fault, its cause by the prior odds: one device of the plan, or something outside. */
export function drawFault(causes: Causes, bands: readonly string[], random: Random): Fault {
  const single = causes.priors.filter(({ cause }) => !cause.second && !NOT_DRAWN.includes(cause.device))
  let left = random.uniform() * single.reduce((s, p) => s + p.odds, 0)
  const prior = single.find(p => (left -= p.odds) < 0) ?? single.at(-1)!
  return faultOf(prior.cause, causes, bands, random)
}

/** What no practice case hides. */
const NOT_DRAWN: readonly string[] = [OTHER, RECEIVER]

/** A fault of a given cause. */
export function faultOf(cause: Cause, causes: Causes, bands: readonly string[], random: Random): Fault {
  const between = (low: number, high: number) => low + (high - low) * random.uniform()
  const device = causes.devices.find(d => d.id === cause.device)!
  const perWay = (of: (way: Way) => number) =>
    Object.fromEntries(WAYS.map(w => [w.id, of(w.id)])) as Record<Way, number>
  return {
    cause,
    // A maker's figure is good to a few percent.
    spacingHz: (device.switchingHz ?? between(35e3, 180e3)) * between(0.97, 1.03),
    oddOnly: random.uniform() < 0.25,
    waverHz: between(5, 60),
    lines: random.uniform() < 0.65,
    riseDb: between(12, 32),
    bands: [...bands],
    setInShare: cause.when.kind === 'over' ? cause.when.share + between(-0.1, 0.1) : 0,
    leaksDb: perWay(way => {
      if (way === cause.way) return 0
      const cannot = way === 'audio' || way === 'data' || way === 'inside' || (way === 'mains' && !device.hasMains)
      return cannot ? 90 : between(16, 34)
    }),
    takesDb: Object.fromEntries(
      STEP.map(step => [
        step,
        perWay(way => {
          const range = TAKES[step][way]
          return range ? between(...range) : 0
        }),
      ]),
    ) as Fault['takesDb'],
  }
}

/** The changes of a setup that work on a culprit's noise. */
export function faultSteps(setup: Setup, culprit: string): Step[] {
  const steps: Step[] = []
  if (setup.antenna === 'dummy') steps.push('dummy')
  if (setup.feed === 'own-battery' || setup.feed === 'from-battery') steps.push(setup.feed)
  if (setup.data === 'unplugged') steps.push('unplugged')
  if (setup.rfGain === 'down') steps.push('gain-down')
  for (const { what, at } of setup.added ?? []) {
    if (what === 'swap') continue
    if (what === 'bond' || what === 'lc-filter') steps.push(what)
    else if (at === 'radio') steps.push(...(what === 'choke' ? ['choke-radio' as const] : []))
    else if (at === culprit) steps.push(what === 'choke' ? 'choke-device' : what)
  }
  return steps
}
