import { EventCourse } from '../../core/hours/course'
import type { HoursEvent } from '../../core/hours/event'
import { readEvent } from '../../core/hours/readEvent'
import type { Plan } from '../../core/plan/schema'
import { battery, lead, smallPlan } from './plans'

/** Events of plans, for tests. */

type Loose = Record<string, unknown>

/** An event of a plan from 13 June 2026 at eight, two days long where nothing else is said. */
export function eventOf(plan: Plan, more: Loose = {}): HoursEvent {
  const value = { format: 'wireman-event', version: 1, name: 'Event', start: '2026-06-13T08:00', hours: 48, ...more }
  const read = readEvent(value, plan)
  if (!read.ok) throw new Error(JSON.stringify(read.faults))
  return read.event
}

export const courseOf = (plan: Plan, more: Loose = {}) => new EventCourse(plan, eventOf(plan, more))

/** A window that anything is within. */
export const wide = { minV: 5, nominalV: 12, maxV: 20 }

/** A pack of 20 Ah that stands anything, and one load on a short thick lead. */
export const packAnd = (loadPart: Loose, pack: Loose = {}): Plan =>
  smallPlan({
    parts: [battery({ id: 'bat', capacityAh: 20, internalOhm: 0.01, continuousA: 100, peakA: 100, ...pack }), loadPart],
    leads: [lead({ id: 'l1', from: 'bat', to: loadPart.id, lengthM: 1, conductor: { awg: 8, insulationC: 105 } })],
  })
