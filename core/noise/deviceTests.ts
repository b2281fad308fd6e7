import { SHARES } from './cause'
import type { Suspect } from './suspect'
import type { Test } from './test'
import { NEVER, UNPLUGGED } from './words'
import { asGiven, roundedTo } from '../units/number'

/** Changes at one device. */
export function deviceTests(device: Suspect): Test[] {
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
    {
      id: `swap:${device.id}`,
      what: 'listen',
      setup: { added: [{ what: 'swap', at: device.id }] },
      title: `Another one in place of ${device.name}`,
      do: `Put another one, with its own cable, in place of ${device.name}: a borrowed one, or a plain battery.`,
      watch: 'As strong, weaker, or gone?',
      caution: NEVER,
      minutes: 20,
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
const TRIED_SHARES = [(SHARES[1] + SHARES[2]) / 2, (SHARES[0] + SHARES[1]) / 2, 0.1] as const

function currentTests(device: Suspect): Test[] {
  const { mostA } = device
  if (!mostA) return []
  return TRIED_SHARES.map((share): Test => {
    const amps = roundedTo(share * mostA, 2)
    return {
      id: `current:${device.id}:${amps}`,
      what: 'listen',
      setup: { devices: { [device.id]: { state: 'working', currentA: amps, minutesOn: 30 } } },
      title: `${device.name} at about ${asGiven(amps)} A`,
      do: `Let ${device.name} work at about ${asGiven(amps)} A: ${howToThrottle(device)}.`,
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
