import { nameOf } from '../plan/find'
import { isLoad, kindOf, needs, type LoadPart } from '../kinds/index'
import type { Plan } from '../plan/schema'
import { fixed } from '../units/number'
import type { HoursEvent } from './event'
import type { Odds } from './odds'
import type { Course } from './run'
import { clockWords } from './schedule'
import type { Failure } from './watch'

/** What a failure is, in a sentence without its end: "the HF radio drops under 11.7 V while transmitting". */
export function failureWords(
  plan: Plan,
  { cause, place }: Failure | { cause: Failure['cause']; place: string },
): string {
  const part = plan.parts.find(p => p.id === place)
  const name = part ? nameOf(part) : place
  switch (cause) {
    case 'starves':
      return part && isLoad(part) ? starvesWords(part) : `${name} has too little`
    case 'used up':
      return `${name} is down to what is kept`
    case 'empty':
      return `${name} is empty`
    case 'trips':
      return `${name} is asked for more than it gives and cuts off`
    case 'cuts out':
      return `${name} cuts out: its input is too low`
    case 'load terminal opens':
      return `${name} opens its load terminal`
    case 'load timer':
      return `${name}'s timer opens its load terminal`
    case 'asleep':
      return `${name} goes to sleep: too little is taken`
  }
}

function starvesWords(part: LoadPart): string {
  const when = kindOf(part).transmits ? ' while transmitting' : ''
  return `${nameOf(part)} drops under ${fixed(needs(part).minV, 1)} V${when}`
}

function oftenWords({ onAir, runs }: Odds): string {
  if (onAir === 0) return `Something fails in each of ${runs} weathers tried.`
  if (onAir === 1) return `Nothing fails in any of ${runs} weathers tried.`
  // Nine and a half of ten are not ten.
  const tenths = Math.min(9, Math.max(1, Math.round(10 * onAir)))
  return `Nothing fails in ${tenths} of 10 such events.`
}

/** " Handheld on its own pack from Sat 18:10." */
function ownPackWords(plan: Plan, event: HoursEvent, { onOwnPack, changedAtH }: Course): string {
  const name = (id: string) => nameOf(plan.parts.find(p => p.id === id)!)
  const firsts = onOwnPack.filter((o, i) => onOwnPack.findIndex(x => x.place === o.place) === i)
  const own = firsts.map(o => ` ${name(o.place)} on its own pack from ${clockWords(event, o.fromH)}.`)
  const [first] = changedAtH
  const times = changedAtH.length === 1 ? 'once' : `${changedAtH.length} times, first`
  return own.join('') + (first === undefined ? '' : ` A pack is changed ${times}, ${clockWords(event, first)}.`)
}

/** The answer in one line: how long it lasts, how often, and what ends it. */
export function courseWords(plan: Plan, event: HoursEvent, course: Course, odds: Odds | null): string {
  const { ends } = course
  const often = ownPackWords(plan, event, course) + (odds ? ` ${oftenWords(odds)}` : '')
  if (!ends) return `On the air to the end, ${clockWords(event, event.hours)}.${often}`
  const then = failureWords(plan, ends)
  if (ends.atH <= 0) return `It does not begin: ${then}.${often}`
  return `On the air until ${clockWords(event, ends.atH)}; then ${then}.${often}`
}
