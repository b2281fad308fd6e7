import type { Setup } from './setup'

/** One test, and what it costs. */

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
  /** The finding that it makes again, since the others make it doubtful. */
  repeats?: string
  title: string
  do: string
  watch: string
  caution?: string
  minutes: number
  needs: Need[]
}

/** What can be done now: what of Need is at hand. Things at hand cost nothing. */
export type AtHand = ReadonlySet<Need>

/** Making the noise heard again, listening twice and writing it down, whatever the test. */
export const OVERHEAD_MIN = 5

/** Euro, typical retail of the class. */
export const COST: Partial<Record<Need, number>> = {
  'dummy load': 15,
  choke: 20,
  'LC filter': 15,
  'mains filter': 25,
  'pocket medium-wave set': 15,
  'spare battery': 40,
}
