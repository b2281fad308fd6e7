import { MODES } from '../hours/modes'
import type { HoursEvent } from '../hours/event'
import { momentAt, stretchesOf } from '../hours/schedule'
import { partName } from '../plan/names'
import type { Plan } from '../plan/schema'
import { printable } from '../units/inert'

/** Words as iCalendar has them (RFC 5545, 3.3.11). */
const escaped = (text: string) =>
  printable(text)
    .replace(/\\/g, '\\\\')
    .replace(/;/g, '\\;')
    .replace(/,/g, '\\,')
    .replace(/[\r\n]+/g, '\\n')

/** Lines are folded at 75 octets: fewer letters, so that none of several octets is cut. */
const folded = (line: string): string => {
  const letters = [...line]
  const rows: string[] = []
  for (let at = 0; at < letters.length; at += 60) rows.push(letters.slice(at, at + 60).join(''))
  return rows.join('\r\n ')
}

const stamp = (at: Date) => `${at.toISOString().replace(/[-:]/g, '').slice(0, 15)}Z`

interface Entry {
  summary: string
  stretches: ReturnType<typeof stretchesOf>
}

/** Watches, charging and generator hours of an event as a calendar, in UTC. */
export function eventIcal(plan: Plan, event: HoursEvent): string {
  const name = (id: string) => partName(plan, id)
  const entries: Entry[] = [
    ...(event.activities ?? []).map(a => ({
      summary: [a.who, name(a.part), MODES[a.mode].label].filter(Boolean).join(', '),
      stretches: stretchesOf(event, a),
    })),
    ...(event.supplied ?? []).map(s => ({
      summary: `${s.parts.map(name).join(', ')} on`,
      stretches: stretchesOf(event, s),
    })),
    ...(event.swaps ?? []).map(s => ({
      summary: `swap ${name(s.part)}`,
      stretches: stretchesOf(event, { from: s.at })
        .slice(0, 1)
        .map(x => ({ ...x, toH: x.fromH + 0.25 })),
    })),
  ]
  const lines = entries.flatMap(({ summary, stretches }, i) =>
    stretches.flatMap(({ fromH, toH }, k) => [
      'BEGIN:VEVENT',
      `UID:${event.start}-${i}-${k}@wireman`,
      `DTSTAMP:${stamp(momentAt(event, 0))}`,
      `DTSTART:${stamp(momentAt(event, fromH))}`,
      `DTEND:${stamp(momentAt(event, toH))}`,
      `SUMMARY:${escaped(summary)}`,
      'END:VEVENT',
    ]),
  )
  return calendar('hours', lines)
}

/** Days on which something is due, each as an entry of that day. @param dues days as 2026-06-13 */
export function dueIcal(dues: readonly { on: string; what: string }[]): string {
  const bare = (on: string) => on.replaceAll('-', '')
  const lines = dues.flatMap(({ on, what }, i) => [
    'BEGIN:VEVENT',
    `UID:due-${bare(on)}-${i}@wireman`,
    `DTSTAMP:${bare(on)}T000000Z`,
    `DTSTART;VALUE=DATE:${bare(on)}`,
    `SUMMARY:${escaped(what)}`,
    'END:VEVENT',
  ])
  return calendar('log', lines)
}

function calendar(of: string, lines: readonly string[]): string {
  const all = ['BEGIN:VCALENDAR', 'VERSION:2.0', `PRODID:-//Wireman//${of}//EN`, ...lines, 'END:VCALENDAR']
  return `${all.map(folded).join('\r\n')}\r\n`
}
