import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core'
import type * as schema from './schema'

/** Either engine's database: the same tables, the same questions. */
export type Database = PgDatabase<PgQueryResultHKT, typeof schema>

/** What keeps the stations: the engine in this process, or a server of its own. */
export interface Engine {
  db: Database
  /** What was written so far would outlive a power cut when this comes back: no change is acknowledged before. */
  onDisk: () => Promise<void>
  /** Throws ENOSPC where so many bytes more would not fit with what the engine wants beside them. */
  room: (bytes: number) => Promise<void>
  /** Writes all that is due and lets go. */
  close: () => Promise<void>
}
