import { EventCourse } from './course'
import type { HoursEvent } from './event'
import { MODES } from './modes'
import { USUAL_COVER } from './panels'
import type { Plan } from '../plan/schema'

/** What the sun carries in one month, for ever. */
export interface Month {
  /** 1–12. */
  month: number
  /** Transmit time, against what the schedule says, at which the sun balances the draw; null: not even listening. */
  duty: number | null
}

const DAYS = 8
/** Transmit time is tried up to so many times what the schedule says, and not beyond all of the time. */
const MOST_DUTY = 8
const HALVINGS = 12
/** A day that ends with less than it began by no more than this is balanced. */
const EVEN = 0.002
/** One that was so full on a day owes nothing to the day before: as days grow shorter its evenings fall anyway. */
const FULL_ONCE = 0.95

/**
 * The transmit share at which sun balances draw, month by month: whether a station goes on indefinitely. The event's
 * days are repeated in the middle of each month, without mains and engine, in the weather it says on average.
 */
export function monthsOf(plan: Plan, event: HoursEvent): Month[] {
  const shares = (event.activities ?? []).map(a => a.share ?? MODES[a.mode].share)
  const most = Math.min(MOST_DUTY, 1 / Math.max(1 / MOST_DUTY, ...shares))
  return Array.from({ length: 12 }, (_, i) => {
    const course = new EventCourse(plan, monthly(event, i + 1))
    const lasts = (duty: number) => isBalanced(course, duty)
    if (!lasts(0)) return { month: i + 1, duty: null }
    if (lasts(most)) return { month: i + 1, duty: most }
    let [low, high] = [0, most]
    for (let n = 0; n < HALVINGS; n++) {
      const middle = (low + high) / 2
      if (lasts(middle)) low = middle
      else high = middle
    }
    return { month: i + 1, duty: low }
  })
}

function monthly(event: HoursEvent, month: number): HoursEvent {
  const { cloud = USUAL_COVER } = event.weather ?? {}
  const mean = typeof cloud === 'number' ? cloud : cloud.reduce((sum, c) => sum + c, 0) / cloud.length
  const { irradianceWm2: _measured, ...weather } = event.weather ?? {}
  const start = `${event.start.slice(0, 5)}${String(month).padStart(2, '0')}-14${event.start.slice(10)}`
  return {
    ...event,
    start,
    hours: 24 * DAYS,
    weather: { ...weather, cloud: mean },
    activities: event.activities?.filter(isDaily),
    loads: event.loads?.filter(isDaily),
    supplied: undefined,
    swaps: undefined,
    spares: undefined,
  }
}

/** What comes on every day, or goes on all the time; a date of its own is of that day only. */
const isDaily = ({ from, to }: { from?: unknown; to?: unknown }) =>
  [from, to].every(t => t === undefined || (typeof t === 'string' && !t.includes('T')))

/** Whether nothing fails on the last day, and the pack was full on it once or ends it as full as it began. */
function isBalanced(course: EventCourse, duty: number): boolean {
  const { timeline, failures } = course.run({ duty, everyH: 1 })
  const lastDay = timeline.filter(m => m.h >= 24 * (DAYS - 1))
  const [before, after] = [lastDay[0]!, lastDay.at(-1)!]
  const holds = course.stores.every(({ part: { id } }) => {
    const wasFull = lastDay.some(m => m.soc[id]! >= FULL_ONCE)
    return wasFull || after.soc[id]! >= before.soc[id]! - EVEN
  })
  return holds && !failures.some(f => f.untilH > 24 * (DAYS - 1))
}
