import { findCondition } from '../circuit/conditions'
import { compile } from '../circuit/network'
import { leadById } from '../plan/find'
import type { Plan } from '../plan/schema'
import { leadSide } from '../readings/model'
import type { Reading } from '../readings/reading'
import { readingsOf, RESTED, type Log, type LogReading } from './log'

/** A reading of the log that the plan as it is now cannot take: kept, and told why. */
export interface LogAside {
  entry: LogReading
  wrong: string
}

/** The readings of a log that are of places and conditions of a plan, and those that are not. */
export function usableReadings(plan: Plan, log: Log): { readings: Reading[]; aside: LogAside[] } {
  const { nodeOf } = compile(plan)
  const isPlace = ({ at, amps }: LogReading) =>
    amps === undefined ? nodeOf.has(at) || leadSide(plan, at) !== null : leadById(plan, at) !== undefined
  const aside = log.readings.flatMap((entry): LogAside[] => {
    if (entry.condition === RESTED) return []
    if (!isPlace(entry)) return [{ entry, wrong: `the plan has no ${entry.at}` }]
    if (typeof findCondition(plan, entry.condition) !== 'string') return []
    return [{ entry, wrong: `the plan has no state ${entry.condition}` }]
  })
  const ids = new Set(aside.map(a => a.entry.id))
  return { readings: readingsOf(log).filter(r => !ids.has(r.id!)), aside }
}
