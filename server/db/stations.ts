import { and, desc, eq, isNotNull, isNull, lt, ne, type SQL } from 'drizzle-orm'
import type { Plan } from '../../core/plan/schema'
import { announce } from './changes'
import { database, onDisk } from './client'
import { insertStation, type Remark, type StationPlan } from './insert'
import { damagedIn, listIn, readIn, type StationRow } from './readable'
import { revisions, stations } from './schema'

/** Stations whose last state could not be read when it was last looked. */
let damaged: ReadonlySet<string> = new Set()

export const listStations = async (): Promise<StationRow[]> => listIn(await database(), damaged)

const BETWEEN_MS = 10
/** Looks at every station's last state, without hurry. @returns what cannot be read, in words */
export async function lookForLost(): Promise<string[]> {
  damaged = await damagedIn(await database(), () => new Promise(resolve => setTimeout(resolve, BETWEEN_MS)))
  return (await listStations()).flatMap(({ name, trouble }) => (trouble ? [`${name}: ${trouble}`] : []))
}

export async function createStation(plan: Plan, remark: Remark): Promise<StationPlan> {
  const made = await insertStation(await database(), plan, remark)
  await onDisk()
  announce({ of: 'list' })
  return made
}

/** A station's plan, as it is now or as it was in a revision. */
export const readStation = async (id: string, number?: number) => readIn(await database(), id, number)

export type SaveResult =
  | { status: 'saved'; revision: number; savedAt: Date }
  | { status: 'gone' }
  /** Somebody else saved since: what stands now is given back, nothing is overwritten. */
  | { status: 'conflict'; current: StationPlan }

/** Saves a plan as the next revision, if the station is still at the revision the edit was made on. */
export async function saveStation(id: string, baseRevision: number, plan: Plan, remark: Remark): Promise<SaveResult> {
  const db = await database()
  const savedAt = new Date()
  const saved = await db.transaction(async tx => {
    const [row] = await tx
      .update(stations)
      .set({ name: plan.name, revision: baseRevision + 1, updatedAt: savedAt })
      .where(and(eq(stations.id, id), eq(stations.revision, baseRevision), isNull(stations.deletedAt)))
      .returning({ revision: stations.revision })
    if (row)
      await tx
        .insert(revisions)
        .values({ stationId: id, number: row.revision, plan: JSON.stringify(plan), ...remark, savedAt })
    return row
  })
  await onDisk()
  if (saved) announce({ of: 'plan', id, revision: saved.revision })
  if (saved) return { status: 'saved', revision: saved.revision, savedAt }
  const current = await readStation(id)
  return current ? { status: 'conflict', current } : { status: 'gone' }
}

const REVISION_ROW = {
  number: revisions.number,
  note: revisions.note,
  name: revisions.name,
  who: revisions.who,
  savedAt: revisions.savedAt,
}
/** States that are listed, the last ones; those that have a name are, however old. */
const MOST_LISTED = 500

export async function listRevisions(id: string) {
  const db = await database()
  const listed = (which?: SQL) =>
    db
      .select(REVISION_ROW)
      .from(revisions)
      .where(and(eq(revisions.stationId, id), which))
      .orderBy(desc(revisions.number))
  const last = await listed().limit(MOST_LISTED)
  if (last.length < MOST_LISTED) return last
  return [...last, ...(await listed(and(ne(revisions.name, ''), lt(revisions.number, last.at(-1)!.number))))]
}

/** Gives a state a name, by which it is kept for good; empty: no longer. @returns whether there is such a state */
export async function nameRevision(id: string, number: number, name: string): Promise<boolean> {
  const db = await database()
  const rows = await db
    .update(revisions)
    .set({ name })
    .where(and(eq(revisions.stationId, id), eq(revisions.number, number)))
    .returning({ number: revisions.number })
  await onDisk()
  return rows.length > 0
}

/** Stations that were deleted and can be put back, the last one first. */
export async function listDeleted(): Promise<{ id: string; name: string; deletedAt: Date }[]> {
  const db = await database()
  const rows = await db
    .select({ id: stations.id, name: stations.name, deletedAt: stations.deletedAt })
    .from(stations)
    .where(isNotNull(stations.deletedAt))
    .orderBy(desc(stations.deletedAt))
    .limit(MOST_DELETED)
  return rows.map(row => ({ ...row, deletedAt: row.deletedAt! }))
}
/** Of many deleted ones the last are shown. */
const MOST_DELETED = 100

/** Takes a station off the list, or puts it back. */
export async function setDeleted(id: string, deleted: boolean): Promise<boolean> {
  const db = await database()
  const rows = await db
    .update(stations)
    .set({ deletedAt: deleted ? new Date() : null })
    .where(eq(stations.id, id))
    .returning({ id: stations.id })
  await onDisk()
  if (rows.length) announce({ of: 'list' })
  return rows.length > 0
}
