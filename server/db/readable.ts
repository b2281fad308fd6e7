import { and, desc, eq, isNull } from 'drizzle-orm'
import type { Plan } from '../../core/plan/schema'
import type { Database } from './engine'
import type { StationPlan } from './insert'
import { revisions, stations } from './schema'

/** Stations of which something cannot be read any more: each costs itself and no other. */

/** The last state of a station that can be read. */
export interface Readable {
  number: number
  savedAt: Date
  plan: Plan
}

/** The plan of a text; null where it is damaged. */
export function planIn(text: string | null): Plan | null {
  try {
    const plan = JSON.parse(text ?? '') as Plan
    return Array.isArray(plan.parts) && Array.isArray(plan.leads) ? plan : null
  } catch {
    return null
  }
}

/** The numbers of a station's states, the first one first: no page of a plan is read for them. */
export const numbersOf = (db: Database, stationId: string) =>
  db
    .select({ number: revisions.number })
    .from(revisions)
    .where(eq(revisions.stationId, stationId))
    .orderBy(revisions.number)
    .catch(() => [])

/** Looks back, one revision at a time: a damaged page fails alone. */
export async function lastReadable(db: Database, stationId: string): Promise<Readable | null> {
  const numbers = await numbersOf(db, stationId)
  for (const { number } of numbers.reverse()) {
    const found = await readRevision(db, stationId, number)
    if (found) return found
  }
  return null
}

/** One revision; null where it is lost or damaged. */
export async function readRevision(db: Database, stationId: string, number: number): Promise<Readable | null> {
  const rows = await db
    .select({ savedAt: revisions.savedAt, plan: revisions.plan })
    .from(revisions)
    .where(and(eq(revisions.stationId, stationId), eq(revisions.number, number)))
    .catch(() => [])
  const plan = planIn(rows[0]?.plan ?? null)
  return plan && { number, savedAt: rows[0]!.savedAt, plan }
}

/** All of a station's states that can be read, the first one first. */
export async function readableRevisions(db: Database, stationId: string) {
  const its = eq(revisions.stationId, stationId)
  const rows = await db
    .select()
    .from(revisions)
    .where(its)
    .orderBy(revisions.number)
    .catch(() => null)
  const all = rows ?? (await oneByOne(db, stationId))
  return all.flatMap(({ plan: text, ...rest }) => {
    const plan = planIn(text)
    return plan ? [{ ...rest, plan }] : []
  })
}

/** Row by row, without those that lie on a damaged page. */
async function oneByOne(db: Database, stationId: string) {
  const its = eq(revisions.stationId, stationId)
  const rows = []
  for (const { number } of await numbersOf(db, stationId))
    rows.push(
      ...(await db
        .select()
        .from(revisions)
        .where(and(its, eq(revisions.number, number)))
        .catch(() => [])),
    )
  return rows
}

/** "Its last state, revision 7, cannot be read any more; revision 6 of 2026-06-13 20:14 UTC stands in for it." */
function lostWords(revision: number, last: Readable | null): string {
  const lost = `Its last state, revision ${revision}, cannot be read any more`
  if (!last) return `${lost}, and no earlier one either: put it back from a backup, or take it off the list.`
  const when = last.savedAt.toISOString().slice(0, 16).replace('T', ' ')
  return `${lost}; revision ${last.number} of ${when} UTC stands in for it.`
}

export interface StationRow {
  id: string
  name: string
  revision: number
  updatedAt: Date
  /** What of it cannot be read. */
  trouble?: string
}

const ROW = { id: stations.id, name: stations.name, revision: stations.revision, updatedAt: stations.updatedAt }

/**
 * The stations, last changed first, each with what is wrong with it where its last state is missing, or known to be
 * damaged: no plan is read for the list, however many there are.
 * @param damaged stations whose last state was found to be so (damagedIn)
 */
export async function listIn(db: Database, damaged: ReadonlySet<string> = new Set()): Promise<StationRow[]> {
  const isCurrent = and(eq(revisions.stationId, stations.id), eq(revisions.number, stations.revision))
  const rows = await db
    .select({ ...ROW, current: revisions.number })
    .from(stations)
    .leftJoin(revisions, isCurrent)
    .where(isNull(stations.deletedAt))
    .orderBy(desc(stations.updatedAt))
  return Promise.all(
    rows.map(async ({ current, ...row }) => {
      const isSuspect = current === null || damaged.has(row.id)
      // Saved anew since it was looked at, it is well.
      const isWell = !isSuspect || (await readRevision(db, row.id, row.revision)) !== null
      return isWell ? row : { ...row, trouble: lostWords(row.revision, await lastReadable(db, row.id)) }
    }),
  )
}

/**
 * Reads every station's last state, one after the other, and gives those that cannot be read.
 * @param between is waited for after each: whoever works meanwhile goes first
 */
export async function damagedIn(db: Database, between: () => Promise<unknown>): Promise<Set<string>> {
  const damaged = new Set<string>()
  for (const { id, revision } of await db.select(ROW).from(stations).where(isNull(stations.deletedAt))) {
    if (!(await readRevision(db, id, revision))) damaged.add(id)
    await between()
  }
  return damaged
}

/**
 * A station as it is now, or as it was in a revision; null where there is none. Where its last state is lost, the last
 * that can be read stands in for it, under the number that is to be built on, and it is told.
 */
export async function readIn(db: Database, id: string, number?: number): Promise<StationPlan | null> {
  const [row] = await db
    .select(ROW)
    .from(stations)
    .where(and(eq(stations.id, id), isNull(stations.deletedAt)))
  if (!row) return null
  const found = await readRevision(db, id, number ?? row.revision)
  if (found) return { id, name: row.name, revision: found.number, savedAt: found.savedAt, plan: found.plan }
  if (number !== undefined) return null
  const last = await lastReadable(db, id)
  const trouble = lostWords(row.revision, last)
  if (!last) throw new Unreadable(`${row.name}: ${trouble}`)
  return { id, name: row.name, revision: row.revision, savedAt: last.savedAt, plan: last.plan, trouble }
}

/** Nothing of a station can be read. */
export class Unreadable extends Error {}
