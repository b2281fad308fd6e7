import type { Plan } from '../plan/schema'
import { inferJoints, type Inference, type JointState } from './joints'
import type { Reading, Seen } from './reading'

/** Readings of one day and what they say: charge, draw and joints are those of that day. Unsaid days are one. */
export interface Day {
  day: string
  found: Inference
}

/** Day by day, the last one last: what a station is today is what its last day says. */
export function daysOf(plan: Plan, readings: readonly Reading[], seen: readonly Seen[] = []): Day[] {
  const byDay = new Map<string, Reading[]>()
  for (const r of readings) {
    const day = r.time?.slice(0, 10) ?? ''
    byDay.set(day, [...(byDay.get(day) ?? []), r])
  }
  if (!byDay.size) byDay.set('', [])
  const days = [...byDay].sort(([a], [b]) => a.localeCompare(b))
  // What was seen has no day: it counts for the last.
  return days.map(([day, its], i) => ({ day, found: inferJoints(plan, its, i === days.length - 1 ? seen : []) }))
}

/** A joint over the days it was measured on, mΩ. */
export interface Trend {
  place: string
  days: { day: string; milliohm: number; errorMilliohm: number; suspect: boolean }[]
  /** It has clearly more on the last day than on the first. */
  rises: boolean
}

const SIGMAS = 2

/** Every joint as it was on the last day that anything was read of it; else as on the last day. */
export function standingOf(days: readonly Day[]): { state: JointState; day: string }[] {
  return days.at(-1)!.found.joints.map((_, k) => {
    const looked = days.findLast(d => d.found.joints[k]!.looked) ?? days.at(-1)!
    return { state: looked.found.joints[k]!, day: looked.day }
  })
}

/** Joints that were suspect on any of several days on which they were looked at, or that rise. */
export function trendsOf(all: readonly Day[]): Trend[] {
  const days = all.filter(d => d.day)
  if (days.length < 2) return []
  return days[0]!.found.joints.flatMap(({ joint }, k): Trend[] => {
    const its = days.flatMap(({ day, found }) => {
      const { milliohm, errorMilliohm, suspect } = found.joints[k]!
      return found.joints[k]!.looked ? [{ day, milliohm, errorMilliohm, suspect }] : []
    })
    const [first, last] = [its[0], its.at(-1)]
    if (!first || !last || first === last) return []
    const rises = last.milliohm - first.milliohm > SIGMAS * Math.hypot(first.errorMilliohm, last.errorMilliohm)
    return rises || its.some(d => d.suspect) ? [{ place: joint.place, days: its, rises }] : []
  })
}
