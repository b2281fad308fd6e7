import { calibrate, type Calibration, type Measured } from '#core/hours/calibrate'
import { EventCourse } from '#core/hours/course'
import type { HoursEvent } from '#core/hours/event'
import { monthsOf, type Month } from '#core/hours/months'
import { oddsOf, type Odds } from '#core/hours/odds'
import { readEvent } from '#core/hours/readEvent'
import type { Course } from '#core/hours/run'
import { fillingsOf, restingOf, startersOf, type Filling, type Resting, type Starter } from '#core/hours/refill'
import { sagOf, sagWords } from '#core/hours/sag'
import { mainStore, setsFor, type Sets, type SetWish } from '#core/hours/sets'
import { hourCostsG, packsInTurn } from '#core/hours/turns'
import { answersTo, heldWords, whatIfs, type WhatIfAnswer } from '#core/hours/whatIf'
import { courseWords, failureWords } from '#core/hours/tell'
import { kindOf, type Part } from '#core/kinds/index'
import { partName } from '#core/plan/names'
import type { Fault } from '#core/plan/faults'
import type { Plan } from '#core/plan/schema'

/** A course with its words, or why there is none. */
export type CourseAnswer =
  | {
      ok: true
      course: Course
      words: string
      assumed: string[]
      /** Of each failure, what it is. */
      failures: string[]
      /** What falling volts cost each radio. */
      sag: string[]
    }
  | { ok: false; faults: Fault[] }

export interface HoursApi {
  course: (plan: Plan, event: HoursEvent) => CourseAnswer
  /** Nearly the course with packs of other sizes, at once: the circuit is the one that was last asked for. */
  near: (plan: Plan) => CourseAnswer | null
  /** Of the event that was last asked for; null where there was none. Tells the share done, in hundredths. */
  odds: (runs: number, seed: number) => { odds: Odds; words: string } | null
  whatIf: (plan: Plan, event: HoursEvent, whole: Plan) => { answers: WhatIfAnswer[]; held: string | null }
  sets: (plan: Plan, event: HoursEvent, wish: Omit<SetWish, 'progress'>) => SetsAnswer | null
  charging: (plan: Plan, event: HoursEvent) => { fillings: Filling[]; resting: Resting[]; starters: Starter[] }
  months: (plan: Plan, event: HoursEvent) => Month[]
  /** What was measured at the largest pack says of the transmit time; in words where it cannot be. */
  calibrate: (plan: Plan, event: HoursEvent, measured: Measured) => Calibration | string
}

export interface SetsAnswer extends Sets {
  turns: { packs: number; atH: number[] } | null
  hourG: number | null
}

const MONTHS = Array.from({ length: 12 }, (_, i) => i + 1)

let last: EventCourse | null = null

const told = ({ event, assumed }: EventCourse, plan: Plan, course: Course): CourseAnswer => ({
  ok: true,
  course,
  words: courseWords(plan, event, course, null),
  assumed,
  failures: course.failures.map(f => failureWords(plan, f)),
  sag: sagOf(plan, course).map(s => sagWords(partName(plan, s.part), s)),
})

export const hoursApi = (tell: (done: number) => void): HoursApi => ({
  course(plan, event) {
    const read = readEvent(event, plan)
    if (!read.ok) return { ok: false, faults: read.faults }
    last = new EventCourse(plan, read.event)
    return told(last, plan, last.run())
  },
  near(plan) {
    if (!last) return null
    const capacity = (part: Part | undefined) => (part && kindOf(part).store?.(part, () => [])?.capacity) ?? 0
    const times = last.stores.map(s => [
      s.part.id,
      capacity(plan.parts.find(p => p.id === s.part.id)) / s.capacity || 1,
    ])
    return told(last, plan, last.run({ capacityTimes: Object.fromEntries(times) }))
  },
  odds(runs, seed) {
    const progress = (share: number) => {
      tell(Math.round(100 * share))
      return true
    }
    const odds = last && oddsOf(last, { runs, seed, progress })
    return odds && { odds, words: courseWords(last!.plan, last!.event, last!.run({ everyH: 0 }), odds) }
  },
  whatIf(plan, event, whole) {
    const answers = answersTo(plan, event, whatIfs(plan, event, whole), share => tell(Math.round(100 * share)))
    return { answers, held: heldWords(plan, answers) }
  },
  sets(plan, event, wish) {
    const progress = (share: number) => {
      tell(Math.round(100 * share))
      return true
    }
    const sets = setsFor(plan, event, { ...wish, progress })
    return sets && { ...sets, turns: packsInTurn(plan, event, wish.part), hourG: hourCostsG(plan, event, wish.part) }
  },
  charging: (plan, event) => ({
    fillings: fillingsOf(plan, event, event.place ? MONTHS : []),
    resting: restingOf(plan, event),
    starters: startersOf(plan),
  }),
  months: (plan, event) => monthsOf(plan, event),
  calibrate(plan, event, measured) {
    const course = new EventCourse(plan, event)
    const store = mainStore(course.stores)
    return store ? calibrate(course, store.part.id, measured) : 'the plan has nothing that runs out'
  },
})
