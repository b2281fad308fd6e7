import type { Way } from './cause'

/** What a change takes off a noise, dB: between the least and the most of what is usual. */
export type Takes = readonly [least: number, most: number]

const NOTHING: Takes = [0, 0]

/**
 * What single changes take off noise that comes in by each way, dB. From practice and the physics: a dummy load takes
 * the antenna away, and of what runs over the radio's case its way on; a battery of its own cuts the DC lead and leaves
 * what its capacitance lets by; a choke over all conductors works on common mode only (64 units of ferrite: 1 to 3 kΩ
 * in a loop of 50 to 400 Ω); a series inductor with a capacitor works on differential mode; a field falls with the
 * first to third power of the distance.
 */
export const STEPS = {
  dummy: takes({ antenna: [22, 60], 'dc-common': [0, 13], 'dc-differential': [0, 1], mains: [0, 16], data: [0, 10] }),
  'own-battery': takes({
    antenna: [0, 3],
    'dc-common': [11, 44],
    'dc-differential': [28, 60],
    audio: [25, 60],
    mains: [0, 10],
    data: [0, 5],
  }),
  'from-battery': takes({
    antenna: [0, 3],
    'dc-common': [0, 10],
    'dc-differential': [5, 25],
    audio: [8, 30],
    mains: [0, 4],
    data: [0, 2],
  }),
  unplugged: takes({ antenna: [0, 2], 'dc-common': [0, 4], mains: [0, 4], data: [28, 60] }),
  'gain-down': takes({
    antenna: [50, 80],
    'dc-common': [50, 80],
    'dc-differential': [50, 80],
    mains: [50, 80],
    data: [50, 80],
    inside: [0, 60],
  }),
  'choke-radio': takes({
    antenna: [0, 3],
    'dc-common': [7, 32],
    'dc-differential': [0, 1],
    mains: [0, 8],
    data: [0, 4],
  }),
  'choke-device': takes({
    antenna: [1, 20],
    'dc-common': [3, 28],
    'dc-differential': [0, 1],
    mains: [0, 6],
    data: [0, 10],
  }),
  'lc-filter': takes({ 'dc-common': [0, 4], 'dc-differential': [14, 45], audio: [2, 26] }),
  'mains-filter': takes({ antenna: [0, 2], 'dc-common': [0, 2], mains: [8, 40] }),
  distance: takes({ antenna: [4, 26], 'dc-common': [0, 4], mains: [0, 5], data: [0, 2] }),
  bond: takes({
    antenna: [0, 3],
    'dc-common': [0, 18],
    'dc-differential': [0, 2],
    audio: [0, 3],
    mains: [0, 6],
    data: [0, 12],
  }),
} as const

export type Step = keyof typeof STEPS

function takes(by: Partial<Record<Way, Takes>>): Record<Way, Takes> {
  return {
    antenna: NOTHING,
    'dc-common': NOTHING,
    'dc-differential': NOTHING,
    audio: NOTHING,
    mains: NOTHING,
    data: NOTHING,
    inside: NOTHING,
    ...by,
  }
}
