import { kindOf } from '../kinds/index'
import type { Plan } from '../plan/schema'
import { EventCourse } from './course'
import type { HoursEvent } from './event'
import { mainStore, sizableStore, withPart, type PackSet } from './sets'
import type { NamedStore } from './standing'
import { packFigures } from './worth'

/** What an hour costs in pack, and how many packs are changed in turn. */

const HALVINGS = 11

/**
 * The smallest pack, against the plan's, with which an event lasts in the weather that is said; null where none does.
 * @param at where it is looked for
 */
function leastFactor(
  plan: Plan,
  event: HoursEvent,
  { part }: NamedStore,
  at: readonly [number, number],
): number | null {
  const lasts = (factor: number) =>
    !new EventCourse(withPart(plan, kindOf(part).sized!(part, factor)), event).run({ everyH: 0 }).ends
  let [low, high] = at
  if (lasts(low)) return low
  if (!lasts(high)) return null
  for (let n = 0; n < HALVINGS; n++) {
    const middle = Math.sqrt(low * high)
    if (lasts(middle)) high = middle
    else low = middle
  }
  return high
}
/** What one more hour at the end of an event costs in pack, g; null where no pack lasts it. */
export function hourCostsG(plan: Plan, event: HoursEvent, part?: string): number | null {
  const store = sizableStore(new EventCourse(plan, event).stores, part)
  if (!store) return null
  const now = leastFactor(plan, event, store, [1 / 32, 32])
  if (now === null) return null
  const then = leastFactor(plan, { ...event, hours: event.hours + 1 }, store, [now, 2 * now])
  return then === null ? null : (then - now) * packFigures(store).massG
}

/** How many packs like the plan's last an event when changed in turn, and when; null: not a hundred of them. */
export function packsInTurn(plan: Plan, event: HoursEvent, part?: string): { packs: number; atH: number[] } | null {
  const course = new EventCourse(plan, event)
  const store = mainStore(course.stores, part)
  if (!store) return null
  const { ends, changedAtH } = course.run({ everyH: 0, spares: { part: store.part.id, count: MOST_SPARES } })
  return ends ? null : { packs: changedAtH.length + 1, atH: changedAtH }
}
const MOST_SPARES = 99

/**
 * An event with the packs of a set in turn: changed when one is used up, to the minute before; where one is filled
 * while another is used, lying ready.
 */
export function changedInTurn(
  event: HoursEvent,
  part: string,
  { changedAtH, packs, refillH }: Pick<PackSet, 'changedAtH' | 'packs' | 'refillH'>,
): HoursEvent {
  if (refillH) {
    const others = (event.spares ?? []).filter(s => s.part !== part)
    return { ...event, spares: [...others, { part, count: packs - 1, refillH }] }
  }
  const swaps = changedAtH.map(h => ({ part, at: Math.max(0, Math.floor(60 * h - 1) / 60) }))
  return { ...event, swaps: [...(event.swaps ?? []).filter(s => s.part !== part), ...swaps] }
}
