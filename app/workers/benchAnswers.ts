import { expectationsOf, type Expectation } from '#core/commission/expected'
import { settingFaults, type SettingFault } from '#core/commission/settings'
import { commissionSteps, readingWords, takeDownSteps } from '#core/commission/steps'
import type { CommissionStep } from '#core/commission/step'
import { historyOf, type HistoryDay } from '#core/log/history'
import { seenOf, type Log } from '#core/log/log'
import { usableReadings } from '#core/log/usable'
import { terminalName } from '#core/plan/names'
import { leadById, leadName } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import { nextReadings } from '#core/readings/next'
import { pointsOf, type Point } from '#core/readings/points'
import { consequencesOf, jointWords } from '#core/readings/tell'
import { doNotFit } from '#core/readings/joints'
import { daysOf, standingOf, trendsOf, type Trend } from '#core/readings/trend'
import { believeSymptom, type PowerBelief, type PowerCase } from '#core/symptoms/believe'

/** What the bench asks of the core, beside the page. */
export interface BenchApi {
  commission: (plan: Plan, log: Log, day: string) => Commissioning
  readings: (plan: Plan, log: Log) => ReadingsAnswer
  /** What the log's readings say of the joints counts. */
  symptom: (plan: Plan, about: PowerCase, log: Log) => PowerBelief
  history: (plan: Plan, log: Log) => HistoryDay[]
}

export interface Commissioning {
  steps: (CommissionStep & { condition?: string })[]
  expected: Record<string, Expectation>
  settings: SettingFault[]
  takeDown: string[]
}

export interface Told {
  where: string
  state: string
}
export interface ReadingsAnswer {
  points: (Point & Told)[]
  /** `asOf`: the day it was last looked at, where that is not the last day. */
  suspects: { place: string; sure: number; words: string; asOf: string }[]
  /** The readings do not fit together. */
  doNotFit: boolean
  next: ({ at: string; condition: string; why: string } & Told)[]
  /** Kept in the log, and of no place or state of the plan as it is now. */
  aside: { at: string; condition: string; time: string; wrong: string }[]
  trends: (Trend & { words: string })[]
}

export const benchApi: BenchApi = {
  commission(plan, log, day) {
    const steps = commissionSteps(plan)
    return {
      steps: steps.map(s => (s.reading ? { ...s, condition: readingWords(plan, s.reading.condition) } : s)),
      expected: expectationsOf(plan, log, steps, day),
      settings: settingFaults(plan, log),
      takeDown: takeDownSteps(plan),
    }
  },
  readings(plan, log) {
    const { readings, aside } = usableReadings(plan, log)
    const days = daysOf(plan, readings, seenOf(log))
    const { found, day: lastDay } = days.at(-1)!
    const suspects = standingOf(days).filter(s => s.state.suspect)
    const does = consequencesOf(plan, { joints: suspects.map(s => s.state) })
    const told = <T extends { at: string; condition: string }>(x: T) => ({
      ...x,
      where: whereWords(plan, x.at),
      state: readingWords(plan, x.condition),
    })
    const wordsOf = new Map(found.joints.map(j => [j.joint.place, j.joint.words]))
    return {
      points: pointsOf(days).map(told),
      suspects: suspects.map(({ state, day }, i) => ({
        place: state.joint.place,
        sure: state.bad,
        words: jointWords(state, does[i]!),
        asOf: day === lastDay ? '' : day,
      })),
      doNotFit: doNotFit(found),
      next: nextReadings(plan, found).map(told),
      aside: aside.map(({ entry: { at, condition, time }, wrong }) => ({ at, condition, time, wrong })),
      trends: trendsOf(days).map(t => ({ ...t, words: wordsOf.get(t.place) ?? t.place })),
    }
  },
  symptom(plan, about, log) {
    const days = daysOf(plan, usableReadings(plan, log).readings, seenOf(log))
    return believeSymptom(plan, { ...about, joints: standingOf(days).map(s => s.state) })
  },
  history: (plan, log) => historyOf(plan, log),
}

/** "HF radio", "Fused block, port 1", "HF lead at HF radio", or amps "in HF lead". */
export function whereWords(plan: Plan, at: string): string {
  const lead = leadById(plan, at)
  if (lead) return `in ${leadName(lead)}`
  const [id, end] = at.split('.')
  const own = leadById(plan, id!)
  if (own && (end === 'from' || end === 'to'))
    return `${leadName(own)}, its own side at ${terminalName(plan, own[end])}`
  return terminalName(plan, at)
}
