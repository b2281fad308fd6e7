import { and, eq, getTableName, isNull } from 'drizzle-orm'
import { announce, type Change } from './changes'
import { database, onDisk } from './client'
import { stations, type DocumentTable } from './schema'

/** A document as it stands; empty at revision 0 while nothing was written. */
export interface DocumentState<T> {
  revision: number
  value: T
}

/** The documents by their tables. */
const KIND_OF: Record<string, Change['of']> = { noise: 'noise', hours: 'hours', logs: 'log' }

/** A station's document. null: no such station. */
export async function readDocument<T>(
  table: DocumentTable,
  stationId: string,
  empty: T,
): Promise<DocumentState<T> | null> {
  const db = await database()
  const [row] = await db
    .select({ id: stations.id, revision: table.revision, body: table.body })
    .from(stations)
    .leftJoin(table, eq(table.stationId, stations.id))
    .where(and(eq(stations.id, stationId), isNull(stations.deletedAt)))
  if (!row) return null
  return { revision: row.revision ?? 0, value: row.body ? (JSON.parse(row.body) as T) : empty }
}

/** Saves it whole, if it is still at the revision the change was made on; else gives back what stands now. */
export async function saveDocument<T>(
  table: DocumentTable,
  stationId: string,
  { revision: baseRevision, value }: DocumentState<T>,
): Promise<({ status: 'saved' | 'conflict' } & DocumentState<T>) | null> {
  const db = await database()
  if (!(await readDocument(table, stationId, value))) return null
  const values = { revision: baseRevision + 1, body: JSON.stringify(value), savedAt: new Date() }
  const unchanged = and(eq(table.stationId, stationId), eq(table.revision, baseRevision))
  const written = { revision: table.revision }
  const rows =
    baseRevision === 0
      ? await db
          .insert(table)
          .values({ stationId, ...values })
          .onConflictDoNothing()
          .returning(written)
      : await db.update(table).set(values).where(unchanged).returning(written)
  await onDisk()
  if (rows.length) announce({ of: KIND_OF[getTableName(table)]!, id: stationId, revision: baseRevision + 1 })
  if (rows.length) return { status: 'saved', revision: baseRevision + 1, value }
  return { status: 'conflict', ...(await readDocument(table, stationId, value))! }
}
