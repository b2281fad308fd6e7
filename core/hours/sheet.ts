import { partName } from '../plan/names'
import { asGiven, figure, fixed } from '../units/number'
import { percent } from '../units/show'
import { durationWords } from '../units/clock'
import type { EventCourse } from './course'
import { MODES } from './modes'
import type { Odds } from './odds'
import type { Course } from './run'
import { clockWords, hoursAt, stretchesOf, type Stretch } from './schedule'
import { courseWords, failureWords } from './tell'

/** An event on paper: who does what when, how full the packs should be by the clock, what ends it. */
export interface EventSheet {
  name: string
  /** The answer in one line. */
  says: string
  when: string
  notes: string[]
  schedule: { who: string; what: string; when: string }[]
  /** Column headings beside the time: the packs, then the radios. */
  columns: string[]
  moments: { at: string; figures: string[] }[]
  failures: string[]
  cautions: string[]
}

/** As many lines as a page has. */
const MOMENTS = 26
const STEPS_H = [0.25, 0.5, 1, 2, 3, 4, 6, 12, 24, 48, 168, 336, 720]
/** Whether a moment of the timeline is the first at or after a whole number of steps. */
const isAt = (h: number, stepH: number) => h - Math.floor(h / stepH + 1e-9) * stepH < EVERY_H - 1e-9
/** The timeline has a moment so often, or less often where it is long. */
const EVERY_H = 0.25
const CAUTIONS = [
  'Typical of the classes of cells, not of yours: measure one discharge before you trust it.',
  'Never charge lithium under 0 °C. Flooded cells vent gas on charge: ventilate. A generator runs outdoors only.',
]

/** @param course a course of it with its timeline */
export function eventSheet({ plan, event, assumed }: EventCourse, course: Course, odds: Odds | null): EventSheet {
  const name = (id: string) => partName(plan, id)
  const clock = (h: number) => clockWords(event, h)
  const during = (stretches: readonly Stretch[]) =>
    stretches.map(s => `${clock(s.fromH)} to ${clock(s.toH)}`).join(', ') || 'never'
  const rows = (
    list: 'activities' | 'loads' | 'supplied' | 'spares',
    what: (entry: never) => { who: string; what: string },
  ) => (event[list] ?? []).map(entry => ({ ...what(entry as never), when: during(stretchesOf(event, entry)) }))
  const { timeline, failures } = course
  const stepH = STEPS_H.find(h => event.hours / h <= MOMENTS) ?? STEPS_H.at(-1)!
  const shown = timeline.filter((m, i) => isAt(m.h, stepH) || i === timeline.length - 1)
  const [first] = timeline
  const [stores, loads] = [Object.keys(first?.soc ?? {}), usedOf(Object.keys(first?.volts ?? {}), event)]
  return {
    name: event.name,
    says: courseWords(plan, event, course, odds),
    when: `${clock(0)}, ${event.start.replace('T', ' ')}, for ${durationWords(event.hours)}`,
    notes: [...(event.note ? [event.note] : []), ...assumed.map(a => `Assumed: ${a}.`)],
    schedule: [
      ...rows('activities', (a: Activity) => ({
        who: a.who ?? '',
        what: `${name(a.part)}, ${modeWords(a)}`,
      })),
      ...rows('loads', (l: NonNullable<typeof event.loads>[number]) => ({
        who: '',
        what: `${name(l.part)}${l.duty === undefined ? '' : `, ${percent(l.duty)} of the time`}`,
      })),
      ...rows('supplied', (s: NonNullable<typeof event.supplied>[number]) => ({
        who: '',
        what: `${s.parts.map(name).join(', ')} on`,
      })),
      ...(event.swaps ?? []).map(s => ({
        who: '',
        what: `another ${name(s.part)} put in`,
        when: clock(hoursAt(event, s.at)),
      })),
      ...rows('spares', (s: NonNullable<typeof event.spares>[number]) => ({
        who: '',
        what:
          `${s.count} × ${name(s.part)} ready` +
          (s.refillH === undefined ? '' : `, one refilled in ${figure(s.refillH)} h`),
      })),
      ...course.changedAtH.map(h => ({ who: '', what: 'a pack from the heap put in', when: clock(h) })),
    ],
    columns: [...stores.map(name), ...loads.map(l => `${name(l)}, V`)],
    moments: shown.map(m => ({
      at: clock(m.h),
      figures: [...stores.map(s => percent(m.soc[s]!)), ...loads.map(l => fixed(m.volts[l]!, 1))],
    })),
    failures: failures.map(f => `${clock(f.atH)} to ${clock(f.untilH)}: ${failureWords(plan, f)}`),
    cautions: CAUTIONS,
  }
}

type Activity = NonNullable<EventCourse['event']['activities']>[number]

/** "voice, 50 W, 30 % transmitting". */
function modeWords(activity: Activity): string {
  const power = activity.powerW && `${asGiven(activity.powerW)} W`
  const sends = `${percent(shareOf(activity))} transmitting`
  return [MODES[activity.mode].label, power, sends].filter(Boolean).join(', ')
}

const shareOf = ({ share, mode }: Activity) => share ?? MODES[mode].share

/** The radios that are used, else all that is fed. */
function usedOf(loads: readonly string[], { activities }: EventCourse['event']): string[] {
  const used = loads.filter(id => activities?.some(a => a.part === id))
  return used.length ? used : [...loads]
}
