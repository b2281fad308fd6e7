import { transmittersOf } from '../circuit/conditions'
import { nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import { deviceMass, type Belief } from './belief'
import type { Causes } from './cause'
import { deviceTests } from './deviceTests'
import type { Observation } from './observation'
import { bondTest, radioTests } from './radioTests'
import type { Setup } from './setup'
import { isPart, type Suspect } from './suspect'
import type { Test } from './test'
import { list } from './words'

/** The tests there are for a case. */

/** Devices, best first, for which tests of their own are thought of. */
const CLOSE = 5

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
  /** What was found so far: a finding that is doubted is made again. */
  evidence?: readonly Observation[]
}

/** Every test that could be made. */
export function testsFor({ plan, causes, belief, radio, evidence = [] }: Known): Test[] {
  const rig = radioName(plan, radio)
  const own = rankedDevices(causes, belief).filter(d => isPart(d.id))
  const close = own.slice(0, CLOSE)
  const together = Array.from({ length: Math.max(0, Math.min(own.length, MOST_OFF) - 1) }, (_, i) =>
    own.slice(0, i + 2),
  )
  const hasData = causes.priors.some(p => p.cause.way === 'data')
  return [
    ...close.map(d => offTest([d])),
    ...together.map(offTest),
    ...everythingTests(rig),
    ...radioTests(rig, hasData),
    ...(plan.site?.ground === 'common' ? [] : [bondTest(rig)]),
    ...close.flatMap(deviceTests),
    ...(own.length > 1 ? [sniffTest(own)] : []),
    ...(own.some(d => d.switchingHz) ? [combTest] : []),
    ...belief.doubts.slice(0, MOST_AGAIN).flatMap(({ index }) => againTest(evidence[index])),
  ]
}

/** Doubted findings that are proposed to be made again. */
const MOST_AGAIN = 2

function againTest(doubted: Observation | undefined): Test[] {
  if (doubted?.kind !== 'listen') return []
  return [
    {
      id: `again:${doubted.id}`,
      what: 'listen',
      setup: doubted.setup as Setup,
      repeats: doubted.id,
      title: 'Make a doubted finding again',
      do: 'Switch to and fro several times, and listen each time: the others say that once may have been chance.',
      watch: 'As strong, weaker, or gone, most of the times?',
      minutes: 4,
      needs: [],
    },
  ]
}
/** What tells the station's own noise from what comes from outside, and that from the receiver's. */
function everythingTests(rig: string): Test[] {
  const common = { what: 'listen' as const, watch: 'Is the noise still there?', minutes: 8 }
  const off =
    `Feed ${rig} from a fused battery that nothing else hangs on, and switch everything else off: at the main ` +
    'switch, panels taken off first, and what the plan does not name too (telephones, lamps, chargers, USB leads).'
  return [
    {
      ...common,
      id: 'everything-off',
      setup: { everything: 'off', feed: 'own-battery', data: 'unplugged' },
      title: 'Everything off',
      do: off,
      needs: ['spare battery'],
    },
    {
      ...common,
      id: 'everything-off-dummy',
      setup: { everything: 'off', feed: 'own-battery', data: 'unplugged', antenna: 'dummy' },
      title: 'Everything off, and the antenna too',
      do: `${off} Then put a dummy load in place of the antenna.`,
      caution: 'Do not transmit without an antenna or a load that stands it.',
      needs: ['spare battery', 'dummy load'],
    },
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
  const mass = deviceMass(causes, belief.probabilities)
  return [...causes.devices].sort((a, b) => mass.get(b.id)! - mass.get(a.id)!)
}
