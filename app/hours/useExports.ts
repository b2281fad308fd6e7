import { eventIcal } from '#core/formats/ical'
import { timelineCsv } from '#core/formats/timelineCsv'
import { EventCourse } from '#core/hours/course'
import type { HoursEvent } from '#core/hours/event'
import type { Odds } from '#core/hours/odds'
import type { Course } from '#core/hours/run'
import { eventSheet } from '#core/hours/sheet'
import type { Plan } from '#core/plan/schema'
import { download } from '../shell/download'
import { usePdf } from '../shell/usePdf'

interface Shown {
  plan: () => Plan
  event: () => HoursEvent
  course: () => Course
  odds: () => Odds | null
}

/** An event as files: its sheet to print, its own format, its timeline, a calendar. */
export function useExports({ plan, event, course, odds }: Shown) {
  const pdf = usePdf()
  return {
    async exportPdf() {
      const { eventPdf } = await import('#core/formats/pdf/event')
      const sheet = eventSheet(new EventCourse(plan(), event()), course(), odds())
      await pdf('event.pdf', loadFace => eventPdf(sheet, { loadFace }))
    },
    exportCsv: () => download('hours.csv', timelineCsv(course()), 'text/csv'),
    exportEvent: () => download('event.json', `${JSON.stringify(event(), null, 2)}\n`, 'application/json'),
    exportIcal: () => download('event.ics', eventIcal(plan(), event()), 'text/calendar'),
  }
}
