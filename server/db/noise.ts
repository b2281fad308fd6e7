import { and, eq, isNull } from 'drizzle-orm'
import type { TriedCure } from '../../core/noise/cure'
import { emptyLogbook, triedCures, type Logbook } from '../../core/noise/logbook'
import type { Plan } from '../../core/plan/schema'
import { database } from './client'
import { readDocument, saveDocument } from './documents'
import { noise, revisions, stations } from './schema'

/** A station's noise logbook. null: no such station. */
export async function readLogbook(stationId: string) {
  const state = await readDocument<Logbook>(noise, stationId, emptyLogbook())
  return state && { revision: state.revision, logbook: state.value }
}

export async function saveLogbook(stationId: string, baseRevision: number, logbook: Logbook) {
  const saved = await saveDocument(noise, stationId, { revision: baseRevision, value: logbook })
  return saved && { status: saved.status, revision: saved.revision, logbook: saved.value }
}

/** Every cure tried at any station, with the kind of device it was tried on. */
export async function allTriedCures(): Promise<TriedCure[]> {
  const db = await database()
  const rows = await db
    .select({ logbook: noise.body, plan: revisions.plan })
    .from(noise)
    .innerJoin(stations, eq(stations.id, noise.stationId))
    .innerJoin(revisions, and(eq(revisions.stationId, stations.id), eq(revisions.number, stations.revision)))
    .where(isNull(stations.deletedAt))
  return rows.flatMap(r => triedCures(JSON.parse(r.plan) as Plan, JSON.parse(r.logbook) as Logbook))
}
