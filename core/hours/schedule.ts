import type { EventTime, HoursEvent } from './event'

/** A stretch of an event, hours from its start. */
export interface Stretch {
  fromH: number
  toH: number
}

const HOUR_MS = 3600e3
/** Local times are counted as if they were UTC: only their differences matter. */
const localMs = (moment: string) => Date.parse(`${moment}:00Z`)

/** The moment that so many hours after the start are. */
export function momentAt(event: HoursEvent, h: number): Date {
  return new Date(localMs(event.start) - (event.utcOffsetH ?? 0) * HOUR_MS + h * HOUR_MS)
}

/** The local clock at so many hours after the start: its date in UTC fields. */
export const localAt = (event: HoursEvent, h: number): Date => new Date(localMs(event.start) + h * HOUR_MS)

/** "Sun 03:40" */
export function clockWords(event: HoursEvent, h: number): string {
  const at = localAt(event, h)
  const day = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'][at.getUTCDay()]
  return `${day} ${at.toISOString().slice(11, 16)}`
}

const isDaily = (time: EventTime | undefined): time is string => typeof time === 'string' && !time.includes('T')

function clockHours(clock: string): number {
  const [h, m] = clock.split(':').map(Number)
  return h! + m! / 60
}

/** Hours from the start that a time names; a clock time on the day of the start. */
export function hoursAt(event: HoursEvent, time: EventTime): number {
  if (typeof time === 'number') return time
  if (!isDaily(time)) return (localMs(time) - localMs(event.start)) / HOUR_MS
  return clockHours(time) - clockHours(event.start.slice(11))
}

/**
 * When something goes on: once, or each day where it begins or ends by the clock. Over midnight where it ends before
 * it begins. Cut to the event.
 */
export function stretchesOf(event: HoursEvent, { from, to }: { from?: EventTime; to?: EventTime }): Stretch[] {
  const first = from === undefined ? 0 : hoursAt(event, from)
  const last = to === undefined ? event.hours : hoursAt(event, to)
  if (!isDaily(from) && !isDaily(to)) return cut(event, [{ fromH: first, toH: last }])
  // Only one of the two by the clock: from it or up to it on each day.
  const begins = isDaily(from) ? first : hoursAt(event, '00:00')
  const ends = isDaily(to) ? last : hoursAt(event, '24:00')
  const lastsH = ends > begins ? ends - begins : ends + 24 - begins
  const days = Math.ceil(event.hours / 24) + 2
  const daily = Array.from({ length: days }, (_, d) => ({
    fromH: begins + 24 * (d - 1),
    toH: begins + 24 * (d - 1) + lastsH,
  }))
  const [least, most] = [isDaily(from) ? 0 : first, isDaily(to) ? event.hours : last]
  return cut(
    event,
    daily.map(s => ({ fromH: Math.max(s.fromH, least), toH: Math.min(s.toH, most) })),
  )
}

const cut = ({ hours }: HoursEvent, stretches: Stretch[]): Stretch[] =>
  stretches.map(s => ({ fromH: Math.max(0, s.fromH), toH: Math.min(hours, s.toH) })).filter(s => s.toH > s.fromH)

/** Whether any of some stretches holds a moment. */
export const isIn = (stretches: readonly Stretch[], h: number): boolean =>
  stretches.some(s => s.fromH <= h && h < s.toH)
