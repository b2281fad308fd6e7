import type { PgliteDatabase } from 'drizzle-orm/pglite'
import { randomUUID } from 'node:crypto'
import type { Plan } from '../../core/plan/schema'
import type * as schema from './schema'
import { revisions, stations } from './schema'

export type Database = PgliteDatabase<typeof schema>

export interface StationPlan {
  id: string
  name: string
  revision: number
  savedAt: Date
  plan: Plan
  /** What of it cannot be read any more, in words. */
  trouble?: string
}

/** A new station at its first revision. */
export async function insertStation(db: Database, plan: Plan, note: string): Promise<StationPlan> {
  const id = randomUUID()
  const savedAt = new Date()
  await db.transaction(async tx => {
    await tx.insert(stations).values({ id, name: plan.name, revision: 1, createdAt: savedAt, updatedAt: savedAt })
    await tx.insert(revisions).values({ stationId: id, number: 1, plan: JSON.stringify(plan), note, savedAt })
  })
  return { id, name: plan.name, revision: 1, savedAt, plan }
}
