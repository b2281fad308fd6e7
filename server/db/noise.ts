import { and, eq, isNull } from 'drizzle-orm'
import type { TriedCure } from '../../core/noise/cure'
import { emptyLogbook, triedCures, type Logbook } from '../../core/noise/logbook'
import type { Plan } from '../../core/plan/schema'
import { database } from './client'
import { noise, revisions, stations } from './schema'

export interface LogbookState {
  revision: number
  logbook: Logbook
}

/** A station's noise logbook; an empty one at revision 0 while nothing was written. null: no such station. */
export async function readLogbook(stationId: string): Promise<LogbookState | null> {
  const db = await database()
  const [row] = await db
    .select({ id: stations.id, revision: noise.revision, logbook: noise.logbook })
    .from(stations)
    .leftJoin(noise, eq(noise.stationId, stations.id))
    .where(and(eq(stations.id, stationId), isNull(stations.deletedAt)))
  if (!row) return null
  return row.logbook
    ? { revision: row.revision!, logbook: JSON.parse(row.logbook) as Logbook }
    : { revision: 0, logbook: emptyLogbook() }
}

/** Saves the whole logbook, if it is still at the revision the change was made on; else gives back what stands now. */
export async function saveLogbook(
  stationId: string,
  baseRevision: number,
  logbook: Logbook,
): Promise<({ status: 'saved' | 'conflict' } & LogbookState) | null> {
  const db = await database()
  const standing = await readLogbook(stationId)
  if (!standing) return null
  const values = { revision: baseRevision + 1, logbook: JSON.stringify(logbook), savedAt: new Date() }
  const rows =
    baseRevision === 0
      ? await db
          .insert(noise)
          .values({ stationId, ...values })
          .onConflictDoNothing()
          .returning({ revision: noise.revision })
      : await db
          .update(noise)
          .set(values)
          .where(and(eq(noise.stationId, stationId), eq(noise.revision, baseRevision)))
          .returning({ revision: noise.revision })
  return rows.length
    ? { status: 'saved', revision: baseRevision + 1, logbook }
    : { status: 'conflict', ...(await readLogbook(stationId))! }
}

/** Every cure tried at any station, with the kind of device it was tried on. */
export async function allTriedCures(): Promise<TriedCure[]> {
  const db = await database()
  const rows = await db
    .select({ logbook: noise.logbook, plan: revisions.plan })
    .from(noise)
    .innerJoin(stations, eq(stations.id, noise.stationId))
    .innerJoin(revisions, and(eq(revisions.stationId, stations.id), eq(revisions.number, stations.revision)))
    .where(isNull(stations.deletedAt))
  return rows.flatMap(r => triedCures(JSON.parse(r.plan) as Plan, JSON.parse(r.logbook) as Logbook))
}
