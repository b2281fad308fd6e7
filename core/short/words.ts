import type { Device } from '../graph/device'
import { leadById, nameOf, partIdOf } from '../plan/find'
import { placeName, terminalName } from '../plan/names'
import type { Plan } from '../plan/schema'
import { seconds, shortAmpsBrief } from '../units/show'
import type { Opening, Short, ShortStudy } from './study'
import { asGiven } from '../units/number'

/** A short circuit in words: what the page, the command line and the findings say of it. */

/** "50 A fuse in main lead", "10 A fuse at Fused block, port 2". */
export function deviceWords(plan: Plan, device: Device): string {
  const isInLead = leadById(plan, device.place) !== undefined
  return `${asGiven(device.ratedA)} A ${device.kind} ${isInLead ? 'in' : 'at'} ${placeName(plan, device.place)}`
}

/** "Fused block, port 1", "end of main lead". */
export const placeWords = (plan: Plan, { kind, at, lead }: Short) =>
  kind === 'terminal' ? terminalName(plan, at) : `end of ${nameOf(leadById(plan, lead!)!)}`

/** "640 A", "over 1.2 kA" where a source does not say its internal resistance. */
export const currentWords = (s: Short) => `${s.known ? '' : 'over '}${shortAmpsBrief(s.prospectiveA)}`

/**
 * What a short comes to: nothing feeds it, something burns before it is cut off, it is cut off, it goes on at the post
 * of a source where nothing can open, or it goes on though something should open.
 */
export type Outcome = 'dead' | 'burns' | 'cleared' | 'at a post' | 'stays'

/** Less is a trickle that no fuse is for, A. */
const FED_A = 1

export function outcomeOf(s: Short): Outcome {
  if (s.prospectiveA < FED_A) return 'dead'
  if (!s.survives) return 'burns'
  if (s.clears) return 'cleared'
  return isAtPost(s) ? 'at a post' : 'stays'
}

/** The posts themselves, and what is held within a hand of them: what else feeds them may be cut off, they are not. */
const isAtPost = (s: Short) => s.from.some(f => !f.limited && partIdOf(s.at) === f.source)

export const OUTCOME_WORDS: Record<Outcome, string> = {
  dead: 'nothing flows',
  burns: 'a conductor burns',
  cleared: 'cleared',
  'at a post': 'goes on, at the post',
  stays: 'goes on',
}

export const isBad = (s: Short) => ['burns', 'stays'].includes(outcomeOf(s))

/** What opens first: "50 A fuse in main lead", or why nothing does. */
export function firstWords(plan: Plan, s: Short): string {
  if (s.opens[0]) return deviceWords(plan, s.opens[0])
  const limits = s.from.length > 0 && s.from.every(f => f.limited)
  return limits && outcomeOf(s) !== 'dead' ? 'the source limits itself' : 'nothing'
}

/** "50 A fuse in main lead: 4 ms to 20 ms at 640 A". */
export const openingWords = (plan: Plan, o: Opening) =>
  `${deviceWords(plan, o)}: ${seconds(o.fastestS)} to ${seconds(o.slowestS)} at ${shortAmpsBrief(o.amps)}`

/** Worst first: what burns, then what goes on, then what takes more along; the larger current before. */
export function worstFirst(shorts: ShortStudy['shorts']): Short[] {
  return [...shorts].sort((a, b) => rank(a) - rank(b) || b.prospectiveA - a.prospectiveA)
}

const RANK: Record<Outcome, number> = { burns: 0, stays: 1, cleared: 4, 'at a post': 5, dead: 9 }
const rank = (s: Short) => (outcomeOf(s) === 'cleared' && s.selective === false ? 2 : RANK[outcomeOf(s)])
