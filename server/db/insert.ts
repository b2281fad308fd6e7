import { randomUUID } from 'node:crypto'
import type { Plan } from '../../core/plan/schema'
import type { Database } from './engine'
import { revisions, stations } from './schema'

export interface StationPlan {
  id: string
  name: string
  revision: number
  savedAt: Date
  plan: Plan
  /** What of it cannot be read any more, in words. */
  trouble?: string
}

/** What is written beside a plan when it is saved. */
export interface Remark {
  note: string
  /** The device it comes from; unsaid: this machine. */
  who?: string
}

/** A new station at its first revision. */
export async function insertStation(db: Database, plan: Plan, remark: Remark): Promise<StationPlan> {
  const id = randomUUID()
  const savedAt = new Date()
  await db.transaction(async tx => {
    await tx.insert(stations).values({ id, name: plan.name, revision: 1, createdAt: savedAt, updatedAt: savedAt })
    await tx.insert(revisions).values({ stationId: id, number: 1, plan: JSON.stringify(plan), ...remark, savedAt })
  })
  return { id, name: plan.name, revision: 1, savedAt, plan }
}
