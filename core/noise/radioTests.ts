import type { Test } from './test'
import { NEVER } from './words'

/** Changes at the radio. */
export function radioTests(rig: string, hasData: boolean): Test[] {
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
      setup: { feed: 'own-battery', ...(!hasData && { data: 'unplugged' as const }) },
      title: 'Feed the radio from a battery of its own',
      do:
        `Take ${rig} off the shared lead and feed it from a separate fused battery that nothing else hangs on. ` +
        (hasData
          ? 'Leave its data lead in: that is a way of its own, and tried by itself.'
          : 'Unplug whatever USB or data lead it has: they are a way in of their own.'),
      watch: 'Is the noise still there?',
      minutes: 6,
      needs: ['spare battery'],
    },
    {
      id: 'from-battery',
      what: 'listen',
      setup: { feed: 'from-battery' },
      title: 'Feed the radio straight from the battery',
      do: `Take ${rig} off its block or load terminal and feed it by a fused lead of its own from the same battery.`,
      watch: 'Is the noise still there? The battery is the same: what is common to it stays.',
      caution: NEVER,
      minutes: 6,
      needs: [],
    },
    ...(hasData ? [dataTest(rig)] : []),
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

const dataTest = (rig: string): Test => ({
  id: 'data',
  what: 'listen',
  setup: { data: 'unplugged' },
  title: 'Unplug the USB and data leads',
  do: `Pull every USB, serial and audio lead out of ${rig}, and nothing else.`,
  watch: 'As strong, weaker, or gone?',
  minutes: 1,
  needs: [],
})

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

export const bondTest = (rig: string): Test => ({
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
