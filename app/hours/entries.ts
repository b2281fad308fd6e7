import { asGiven, readNumber } from '#core/units/number'
import type { EventTime, HoursEvent } from '#core/hours/event'

/** How an event's figures are written in its rows, and read back; undefined where they cannot be. */

/** The days of an event by their names, where each comes but once. */
const DAY_NAMES = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat']
const A_WEEK_H = 6 * 24
const DAY_MS = 24 * 3600e3
const dayOf = (date: string) => DAY_NAMES[new Date(`${date}T00:00:00Z`).getUTCDay()]!

/** "09:00" each day, "2.5 h", and a moment of an event of less than a week as "Sat 19:00". */
export const showTime = (time: EventTime | undefined, { hours }: HoursEvent): string => {
  if (time === undefined) return ''
  if (typeof time === 'number') return `${asGiven(time)} h`
  const [date, clock] = time.split('T')
  if (clock === undefined) return time
  return hours <= A_WEEK_H ? `${dayOf(date!)} ${clock}` : `${date} ${clock}`
}

/** "09:00" each day, "Sat 19:00" or "2026-06-13 19:00" once, "2.5 h" from the start; empty: unsaid, told as null. */
export function readTime(text: string, { start, hours }: HoursEvent): EventTime | null | undefined {
  if (!text) return null
  if (/^\d{1,2}:\d{2}$/.test(text)) return clockOf(text)
  if (/^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}$/.test(text)) return text.replace(' ', 'T')
  const named = /^([a-z]{3})[a-z]*\.? (\d{1,2}:\d{2})$/i.exec(text)
  if (named) {
    const day = daysOf(start, hours).find(d => dayOf(d).toLowerCase() === named[1]!.toLowerCase())
    const clock = clockOf(named[2]!)
    return day && clock ? `${day}T${clock}` : undefined
  }
  const read = /^([\d.,]+)\s*h?$/.exec(text)
  const figure = read && readNumber(read[1]!)
  return figure?.ok ? figure.value : undefined
}

function clockOf(text: string): string | undefined {
  const clock = text.padStart(5, '0')
  return /^([01]\d|2[0-3]):[0-5]\d$|^24:00$/.test(clock) ? clock : undefined
}

/** The dates that an event touches. */
function daysOf(start: string, hours: number): string[] {
  const first = Date.parse(`${start.slice(0, 10)}T00:00:00Z`)
  const days = Math.ceil(hours / 24) + 1
  return Array.from({ length: days }, (_, d) => new Date(first + d * DAY_MS).toISOString().slice(0, 10))
}
export const TIME_RIGHT = '09:00 (every day), Sat 09:00, or 2.5 h from the start'

export const showPercent = (share: number | undefined): string =>
  share === undefined ? '' : `${Math.round(1000 * share) / 10} %`
export function readPercent(text: string): number | null | undefined {
  if (!text) return null
  const read = readNumber(text.replace('%', '').trim())
  return read.ok && read.value >= 0 && read.value <= 100 ? read.value / 100 : undefined
}

export const showFigure = (value: number | undefined, unit = ''): string =>
  value === undefined ? '' : `${String(value).replace('-', '−')}${unit && ` ${unit}`}`
export const readFigure =
  (unit: string, least: number, most: number) =>
  (text: string): number | null | undefined => {
    if (!text) return null
    const bare = unit && text.toLowerCase().endsWith(unit.toLowerCase()) ? text.slice(0, -unit.length) : text
    const read = readNumber(bare.trim())
    return read.ok && read.value >= least && read.value <= most ? read.value : undefined
  }

/** Lists of an event with entries of their own. */
export type List = 'activities' | 'loads' | 'supplied' | 'panels' | 'stores' | 'swaps' | 'spares'

/** An event with a field of an entry changed; null takes it away. */
export function withField(event: HoursEvent, list: List, index: number, change: object): HoursEvent {
  const entries = [...((event[list] ?? []) as object[])]
  entries[index] = without({ ...entries[index], ...change })
  return { ...event, [list]: entries }
}

export const withEntry = (event: HoursEvent, list: List, entry: object): HoursEvent => ({
  ...event,
  [list]: [...((event[list] ?? []) as object[]), entry],
})

export const withoutEntry = (event: HoursEvent, list: List, index: number): HoursEvent => ({
  ...event,
  [list]: ((event[list] ?? []) as object[]).filter((_, i) => i !== index),
})

/** A change of the event's own fields; null takes one away. */
export const withChange = (event: HoursEvent, change: object): HoursEvent =>
  without({ ...event, ...change }) as HoursEvent

const without = (entry: object) =>
  Object.fromEntries(Object.entries(entry).filter(([, v]) => v !== null && v !== undefined))

export const MONTH_NAMES =
  'January February March April May June July August September October November December'.split(' ')
