import { transmittersOf } from '../circuit/conditions'
import { nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import type { Belief } from './belief'
import { SHARES, type Causes } from './cause'
import { OUTSIDE, type Suspect } from './suspect'
import type { Setup } from './setup'
import { list, NEVER, UNPLUGGED } from './words'

/** The tests there are for a case, with what each costs. */

/** What a test wants of the hour, and what the operator has at hand. */
export const NEEDS = [
  'sun',
  'load',
  'mains',
  'dummy load',
  'spare battery',
  'choke',
  'LC filter',
  'mains filter',
  'pocket medium-wave set',
  'waterfall',
] as const

export type Need = (typeof NEEDS)[number]

/** What an outcome of a test would mean. */
export interface Outcome {
  id: string
  label: string
  probability: number
  means: string
}

export interface Test {
  id: string
  what: 'listen' | 'comb' | 'sniff'
  /** For listening: the change that is made. */
  setup?: Setup
  title: string
  do: string
  watch: string
  caution?: string
  minutes: number
  needs: Need[]
}

/** What can be done now: what of Need is at hand. Things at hand cost nothing. */
export type AtHand = ReadonlySet<Need>

/** Minutes that a euro is worth. */
export const MINUTES_PER_EURO = 1.5

/** Making the noise heard again, listening twice and writing it down, whatever the test. */
export const OVERHEAD_MIN = 5

/** Devices, best first, for which tests of their own are thought of. */
const CLOSE = 5

/** Euro, typical retail of the class. */
export const COST: Partial<Record<Need, number>> = {
  'dummy load': 15,
  choke: 20,
  'LC filter': 15,
  'mains filter': 25,
  'pocket medium-wave set': 15,
  'spare battery': 40,
}

const radioName = (plan: Plan, radio: string | undefined) => {
  const part = plan.parts.find(p => p.id === radio) ?? transmittersOf(plan)[0]
  return part ? nameOf(part) : 'the radio'
}

/** What advice is given from. */
export interface Known {
  plan: Plan
  causes: Causes
  belief: Belief
  /** The radio that hears it; unsaid: the first one. */
  radio?: string
}

/** Every test that could be made. */
export function testsFor({ plan, causes, belief, radio }: Known): Test[] {
  const rig = radioName(plan, radio)
  const own = rankedDevices(causes, belief).filter(d => d.id !== OUTSIDE)
  const close = own.slice(0, CLOSE)
  const together = Array.from({ length: Math.max(0, Math.min(own.length, MOST_OFF) - 1) }, (_, i) =>
    own.slice(0, i + 2),
  )
  return [
    ...close.map(d => offTest([d])),
    ...together.map(offTest),
    ...radioTests(rig),
    ...(plan.site?.ground === 'common' ? [] : [bondTest(rig)]),
    ...close.flatMap(deviceTests),
    ...(own.length > 1 ? [sniffTest(own)] : []),
    ...(own.some(d => d.switchingHz) ? [combTest] : []),
  ]
}

/** More than these are not switched off at once. */
const MOST_OFF = 6

function offTest(devices: readonly Suspect[]): Test {
  const names = list(devices.map(d => d.name))
  return {
    id: `off:${devices.map(d => d.id).join('+')}`,
    what: 'listen',
    setup: { devices: Object.fromEntries(devices.map(d => [d.id, { state: 'off' as const }])) },
    title: `Switch off ${names}`,
    do: `While it is heard, switch off or unplug ${names}. Leave the rest as it is.`,
    watch: 'Same band, same frequency: as strong as before, weaker, or gone?',
    minutes: 1 + devices.length,
    needs: [],
    ...(devices.some(d => d.needsSun) && { caution: 'Take the panel off before the battery.' }),
  }
}

/** Changes at the radio. */
function radioTests(rig: string): Test[] {
  return [
    {
      id: 'dummy',
      what: 'listen',
      setup: { antenna: 'dummy' },
      title: 'Take the antenna off',
      do:
        `Put a dummy load on ${rig} in place of the antenna. Compare the device on and off: the floor itself ` +
        'falls too.',
      watch: 'Is the noise still there?',
      caution: 'Do not transmit without an antenna or a load that stands it.',
      minutes: 3,
      needs: ['dummy load'],
    },
    {
      id: 'own-battery',
      what: 'listen',
      setup: { feed: 'own-battery' },
      title: 'Feed the radio from a battery of its own',
      do:
        `Take ${rig} off the shared lead and feed it from a separate fused battery that nothing else hangs on. ` +
        'Unplug its USB and data leads too: they are a way in of their own.',
      watch: 'Is the noise still there?',
      minutes: 6,
      needs: ['spare battery'],
    },
    {
      id: 'gain-down',
      what: 'listen',
      setup: { rfGain: 'down' },
      title: 'Turn the RF gain down',
      do: `Turn the RF gain of ${rig} fully down, the volume up.`,
      watch: 'Can the noise still be heard in the audio?',
      minutes: 1,
      needs: [],
    },
    ...radioFilterTests(rig),
  ]
}

/** What can be put into the radio's lead. */
function radioFilterTests(rig: string): Test[] {
  return [
    {
      id: 'choke:radio',
      what: 'listen',
      setup: { added: [{ what: 'choke', at: 'radio' }] },
      title: `A choke on the DC lead of ${rig}`,
      do: `Wind both conductors of the DC lead together, four turns through four cores in a row, close to ${rig}.`,
      watch: 'As strong, weaker, or gone?',
      minutes: 8,
      needs: ['choke'],
    },
    {
      id: 'lc-filter',
      what: 'listen',
      setup: { added: [{ what: 'lc-filter', at: 'radio' }] },
      title: 'An LC filter in the DC lead',
      do:
        'Put a differential filter (inductor in the plus conductor, damped capacitor across) into the lead of ' +
        `${rig}, rated for its current and behind the fuse.`,
      watch: 'As strong, weaker, or gone?',
      minutes: 8,
      needs: ['LC filter'],
    },
  ]
}

const bondTest = (rig: string): Test => ({
  id: 'bond',
  what: 'listen',
  setup: { added: [{ what: 'bond', at: 'radio' }] },
  title: 'Bond case and battery negative',
  do: `Join the case of ${rig}, battery negative and the station ground at one point with a short, wide strap.`,
  watch: 'As strong, weaker, or gone? Listen at the low bands too.',
  caution: NEVER,
  minutes: 8,
  needs: [],
})

/** Changes at one device. */
function deviceTests(device: Suspect): Test[] {
  return [
    {
      id: `choke:${device.id}`,
      what: 'listen',
      setup: { added: [{ what: 'choke', at: device.id }] },
      title: `A choke on the leads of ${device.name}`,
      do: `Wind all conductors of its longest lead together through four cores, close to ${device.name}.`,
      watch: 'As strong, weaker, or gone?',
      minutes: 8,
      needs: ['choke'],
    },
    {
      id: `distance:${device.id}`,
      what: 'listen',
      setup: { added: [{ what: 'distance', at: device.id }] },
      title: `Move ${device.name} away`,
      do: `Move ${device.name} and its leads some metres away from the antenna and its lead.`,
      watch: 'As strong, weaker, or gone?',
      minutes: 10,
      needs: [],
    },
    ...(device.hasMains ? [mainsTest(device)] : []),
    ...currentTests(device),
    ...(device.charges ? [startTest(device)] : []),
  ]
}

const mainsTest = (device: Suspect): Test => ({
  id: `mains-filter:${device.id}`,
  what: 'listen',
  setup: { added: [{ what: 'mains-filter', at: device.id }] },
  title: `A filter on the AC side of ${device.name}`,
  do:
    `Unplug it. Put a ready-made plug-in mains filter before ${device.name}, or wind its whole AC cord ` +
    'through cores. Plug in again.',
  watch: 'As strong, weaker, or gone?',
  caution: `${UNPLUGGED} ${NEVER}`,
  minutes: 8,
  needs: ['mains filter'],
})

/** Shares of its largest current at which a device is tried: between those at which its noise may set in, and low. */
const TRIED_SHARES = [(SHARES[0] + SHARES[1]) / 2, (SHARES[1] + SHARES[2]) / 2, 0.12] as const

function currentTests(device: Suspect): Test[] {
  const { mostA } = device
  if (!mostA) return []
  return TRIED_SHARES.map((share): Test => {
    const amps = Number((share * mostA).toPrecision(2))
    return {
      id: `current:${device.id}:${amps}`,
      what: 'listen',
      setup: { devices: { [device.id]: { state: 'working', currentA: amps, minutesOn: 30 } } },
      title: `${device.name} at about ${amps} A`,
      do: `Let ${device.name} work at about ${amps} A: ${howToThrottle(device)}.`,
      watch: 'As strong as at its full current, weaker, or gone?',
      minutes: 5,
      needs: device.needsSun ? ['sun'] : ['load'],
    }
  })
}

function howToThrottle(device: Suspect): string {
  if (device.needsSun) return 'shade the panel, or wait for less sun'
  return device.charges ? 'lower its charge current, or take a fuller battery' : 'take load off it'
}

const startTest = (device: Suspect): Test => ({
  id: `start:${device.id}`,
  what: 'listen',
  setup: { devices: { [device.id]: { state: 'working', minutesOn: 15 } } },
  title: `${device.name} a quarter of an hour on`,
  do: `Start the charge anew, and listen again after a quarter of an hour at the same current.`,
  watch: 'As strong as in the first minutes, weaker, or gone?',
  minutes: 15,
  needs: device.needsSun ? ['sun'] : ['load'],
})

const sniffTest = (own: readonly Suspect[]): Test => ({
  id: 'sniff',
  what: 'sniff',
  title: 'Walk round with a pocket medium-wave set',
  do:
    'Tune a pocket set between stations near the low end of medium wave and hold it to ' +
    `${list(own.map(d => d.name))}, a hand's breadth away from each.`,
  watch: 'Where is it loudest?',
  minutes: 4,
  needs: ['pocket medium-wave set'],
})

const combTest: Test = {
  id: 'comb',
  what: 'comb',
  title: 'Measure the spacing of its tones',
  do:
    'Look for evenly spaced tones on a waterfall as wide as it goes. Type them, or drop a recording, in the ' +
    'comb view.',
  watch: 'The spacing, or that there is none.',
  minutes: 4,
  needs: ['waterfall'],
}

function rankedDevices(causes: Causes, belief: Belief): Suspect[] {
  const mass = new Map<string, number>()
  for (const p of belief.pairs) mass.set(p.device, (mass.get(p.device) ?? 0) + p.probability)
  return [...causes.devices].sort((a, b) => mass.get(b.id)! - mass.get(a.id)!)
}
