import type { EventCourse } from './course'
import type { HoursEvent } from './event'
import { fixed } from '../units/number'

/** What somebody measured over an event: charge or energy taken, or two readings of a display and its last figure. */
export type Measured =
  | { kind: 'Ah'; value: number }
  | { kind: 'Wh'; value: number }
  | { kind: 'percent'; from: number; to: number; resolution: number }

/** Transmit time against what the schedule says, and between what it lies. */
export interface Calibration {
  duty: number
  low: number
  high: number
}

/** Nobody transmits more than so many times what the schedule says. */
const MOST_DUTY = 20
const HALVINGS = 30

/**
 * The transmit time at which an event takes what was measured. In words where no transmit time does: then other loads
 * are not as the schedule has them.
 * @param store the battery that was measured
 */
export function calibrate(course: EventCourse, store: string, measured: Measured): Calibration | string {
  const at = course.stores.findIndex(s => s.part.id === store)
  if (at < 0) return `the plan has no store ${store}`
  const { capacity } = course.stores[at]!
  const taken = (duty: number): number => {
    const { energy, leaves } = course.run({ duty, everyH: course.event.hours })
    const start = course.event.stores?.find(s => s.part === store)?.startCharge ?? 1
    if (measured.kind === 'Wh') return energy.storesWh
    return (start - leaves[store]!) * (measured.kind === 'Ah' ? capacity : 1)
  }
  const [least, most] = [taken(0), taken(MOST_DUTY)]
  const dutyFor = (value: number) => {
    let [low, high] = [0, MOST_DUTY]
    for (let n = 0; n < HALVINGS; n++) {
      const middle = (low + high) / 2
      if (taken(middle) < value) low = middle
      else high = middle
    }
    return (low + high) / 2
  }
  const band = bandOf(measured)
  if (band.value < least)
    return `what does not transmit takes ${figureOf(least, measured)} by itself, and more than was measured`
  if (band.value > most) return `no transmit time takes ${figureOf(band.value, measured)}: the pack is empty before`
  return {
    duty: dutyFor(band.value),
    low: dutyFor(Math.max(least, band.low)),
    high: dutyFor(Math.min(most, band.high)),
  }
}

/** A display shows its last figure to half of itself, at both readings. */
function bandOf(measured: Measured): { value: number; low: number; high: number } {
  if (measured.kind !== 'percent') return { value: measured.value, low: measured.value, high: measured.value }
  const value = (measured.from - measured.to) / 100
  const off = measured.resolution / 100
  return { value, low: value - off, high: value + off }
}

const figureOf = (value: number, { kind }: Measured) =>
  kind === 'percent' ? `${fixed(100 * value, 0)} %` : `${fixed(value, 1)} ${kind}`

/** An event with its transmit shares as they were measured. */
export const withDuty = (event: HoursEvent, duty: number, usualShare: (mode: string) => number): HoursEvent => ({
  ...event,
  ...(event.activities && {
    activities: event.activities.map(a => ({ ...a, share: Math.min(1, (a.share ?? usualShare(a.mode)) * duty) })),
  }),
})
