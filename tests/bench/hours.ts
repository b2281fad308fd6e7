import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { EventCourse } from '../../core/hours/course'
import type { HoursEvent } from '../../core/hours/event'
import { oddsOf } from '../../core/hours/odds'
import { readEventText } from '../../core/hours/readEvent'
import type { Plan } from '../../core/plan/schema'
import { demoPlan } from '../data/plans'

function weekend(plan: Plan): HoursEvent {
  const path = join(import.meta.dirname, '../../demo/events/tern-rock-weekend.json')
  const read = readEventText(readFileSync(path, 'utf8'), plan)
  if (!read.ok) throw new Error(JSON.stringify(read.faults))
  return read.event
}

const timed = (work: () => void): number => {
  const began = performance.now()
  work()
  return performance.now() - began
}

/** The odds of a weekend, a year, and a pack dragged to another size. */
export function benchHours(print: (line: string) => void) {
  const plan = demoPlan('tern-rock-light')
  const event = weekend(plan)
  const course = new EventCourse(plan, event)
  const first = timed(() => course.run())
  print(`hours, first course of 48 h on Tern Rock: ${first.toFixed(0)} ms`)
  const odds = timed(() => oddsOf(course, { runs: 1000, seed: 1 }))
  print(`hours, 1 000 runs of 48 h in one-minute steps on Tern Rock: ${(odds / 1000).toFixed(2)} s (aim 1.5 s)`)
  const year = new EventCourse(plan, { ...event, hours: 8760, supplied: [], activities: event.activities!.slice(0, 1) })
  year.suns()
  year.run({ everyH: 0 })
  print(`hours, a year in one-minute steps: ${(timed(() => year.run({ everyH: 0 })) / 1000).toFixed(2)} s (aim 0.5 s)`)
  const sizes = [60, 65, 70, 75, 80, 85, 90, 95, 100].map(capacityAh => {
    const parts = plan.parts.map(p => (p.id === 'bat' ? { ...p, capacityAh } : p)) as Plan['parts']
    return timed(() => new EventCourse({ ...plan, parts }, event).run())
  })
  sizes.sort((a, b) => a - b)
  print(`hours, a pack of another size, the circuit solved anew: median ${sizes[4]!.toFixed(0)} ms`)
  const near = [0.6, 0.65, 0.7, 0.75, 0.8, 0.85, 0.9, 0.95, 1].map(times =>
    timed(() => course.run({ capacityTimes: { bat: times } })),
  )
  near.sort((a, b) => a - b)
  print(`hours, a pack dragged to another size, its line: median ${near[4]!.toFixed(1)} ms (aim 16 ms)`)
}
