import { transmittersOf } from '../circuit/conditions'
import { nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import { entropyBits, normalised, pairsOf, type Belief } from './belief'
import { SHARES, wayLabel, whenWords, type Causes } from './cause'
import { OUTSIDE, outside, type Suspect } from './suspect'
import { combLikelihood, fitting, sniffLikelihood } from './observation'
import { expected, HEARD, type Setup } from './setup'
import { list, NEVER, UNPLUGGED } from './words'

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
export interface Advice extends Test {
  outcomes: Outcome[]
  /** What has to be bought for it. */
  euro: number
  /** Bits it is expected to tell of device and way. */
  bits: number
  /** Bits a minute, money counted as minutes. */
  rate: number
  /** What it lacks at this hour; empty where it can be done now. */
  lacks: Need[]
}

/** What can be done now: what of Need is at hand. Things at hand cost nothing. */
export type AtHand = ReadonlySet<Need>

/** Minutes that a euro is worth. */
const MINUTES_PER_EURO = 1.5
/** Making the noise heard again, listening twice and writing it down, whatever the test. */
const OVERHEAD_MIN = 5
/** Devices, best first, for which tests of their own are thought of. */
const CLOSE = 5

/** Euro, typical retail of the class. */
const COST: Partial<Record<Need, number>> = {
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

/** A spacing that is no device's. */
const FITS_NONE = Infinity

/** Rows of likelihoods, one an outcome, for a test. */
export function outcomeRows(
  test: Pick<Test, 'what' | 'setup'>,
  causes: Causes,
): { id: string; label: string; row: number[] }[] {
  const { devices, priors } = causes
  if (test.what === 'listen') {
    const all = priors.map(p => expected(p.cause, test.setup!, devices))
    const LABELS = { same: 'as strong as before', weaker: 'weaker', gone: 'gone' }
    return HEARD.map((heard, i) => ({ id: heard, label: LABELS[heard], row: all.map(o => o[i]!) }))
  }
  const own = devices.filter(d => d.id !== OUTSIDE)
  if (test.what === 'sniff') {
    return [
      ...own.map(d => ({ id: d.id, label: `loudest at ${d.name}` })),
      { id: 'none', label: 'nowhere louder' },
    ].map(o => ({ ...o, row: priors.map(p => sniffLikelihood(p.cause, o.id, devices)) }))
  }
  // Devices of one frequency cannot be told apart by it.
  const groups = new Map<string, { hz: number; ids: string[] }>()
  for (const d of own) {
    if (!d.switchingHz) continue
    const ids = fitting(d.switchingHz, devices)
    groups.set(ids.join('+'), { hz: d.switchingHz, ids })
  }
  return [
    ...[...groups].map(([id, g]) => ({
      id: `hz:${id}`,
      label: `it fits ${list(g.ids.map(i => devices.find(d => d.id === i)!.name))}`,
      row: priors.map(p => combLikelihood(p.cause, g.hz, devices)),
    })),
    {
      id: 'hz:other',
      label: 'it fits none of them',
      row: priors.map(p => combLikelihood(p.cause, FITS_NONE, devices)),
    },
    { id: 'hz:none', label: 'no even spacing', row: priors.map(p => combLikelihood(p.cause, null, devices)) },
  ]
}

/** Bits that a test is expected to tell of device and way, and what each of its outcomes would leave. */
export function weigh(test: Test, causes: Causes, belief: Belief, atHand: AtHand): Advice {
  const before = belief.openBits
  let after = 0
  const outcomes: Outcome[] = []
  for (const { id, label, row } of outcomeRows(test, causes)) {
    const joint = row.map((l, i) => l * belief.probabilities[i]!)
    const probability = joint.reduce((s, v) => s + v, 0)
    if (probability < 1e-6) continue
    const pairs = pairsOf(causes, normalised(joint))
    after += probability * entropyBits(pairs.map(p => p.probability))
    outcomes.push({ id, label, probability, means: meaning(causes, belief, pairs) })
  }
  // Likelihoods of a measured figure are relative: their sum over outcomes need not be 1.
  const total = outcomes.reduce((s, o) => s + o.probability, 0)
  const bits = Math.max(0, before - after / total)
  const euro = test.needs.reduce((s, n) => s + (atHand.has(n) ? 0 : (COST[n] ?? 0)), 0)
  const lacks = test.needs.filter(n => !atHand.has(n))
  return {
    ...test,
    euro,
    lacks,
    outcomes: outcomes.map(o => ({ ...o, probability: o.probability / total })),
    bits,
    rate: bits / (test.minutes + OVERHEAD_MIN + MINUTES_PER_EURO * euro),
  }
}

const percent = (p: number) => `${Math.round(100 * p)} %`

/** "then it is the inverter, common mode on the DC lead, 93 %", and what it rules out. */
function meaning(causes: Causes, belief: Belief, pairs: ReturnType<typeof pairsOf>): string {
  const name = (id: string) => causes.devices.find(d => d.id === id)!.name
  const [first, second] = pairs
  const massOf = (id: string, from: typeof pairs) =>
    from.filter(p => p.device === id).reduce((s, p) => s + p.probability, 0)
  // Where the device is known already, only the way is news.
  const words = (p: (typeof pairs)[number]) => {
    if (p.device === OUTSIDE) return outside.name
    return massOf(p.device, belief.pairs) > 0.9 ? wayLabel(p.way) : `${name(p.device)} ${wayLabel(p.way)}`
  }
  const best = `${words(first!)}, ${percent(first!.probability)}`
  const next = second && second.probability > 0.1 ? `; or ${words(second)}, ${percent(second.probability)}` : ''
  const gone = causes.devices.map(d => d.id).filter(id => massOf(id, belief.pairs) > 0.08 && massOf(id, pairs) < 0.03)
  return best + next + (gone.length ? `. Rules out ${list(gone.map(name))}` : '')
}

/** Below this a test tells nothing worth the walk. */
const LEAST_BITS = 0.01

/**
 * Everything that tells something next, the one that tells most per minute and euro first; what cannot be done now
 * comes after.
 */
export function nextTests(known: Known & { atHand: AtHand }): Advice[] {
  return allTests(known).filter(t => t.bits > LEAST_BITS)
}

/**
 * Every test in the same order, those that would tell next to nothing too: somebody may have made them all the same.
 */
export function allTests(known: Known & { atHand: AtHand }): Advice[] {
  return testsFor(known)
    .map(t => weigh(t, known.causes, known.belief, known.atHand))
    .sort((a, b) => Number(needsHour(a)) - Number(needsHour(b)) || b.rate - a.rate)
}

/** Waits for sun or load, which money does not buy. */
const needsHour = (test: Advice) => test.lacks.some(n => n === 'sun' || n === 'load' || n === 'mains')

/** "above about 7 A, 80 %": when it is there, as far as it is known. */
export function whenKnown(causes: Causes, pair: Belief['pairs'][number]): string {
  const best = pair.whens[0]!
  if (pair.device === OUTSIDE) return ''
  return `${whenWords(
    best.when,
    causes.devices.find(d => d.id === pair.device),
  )}, ${percent(best.probability / Math.max(1e-9, pair.probability))}`
}
