import { sql } from 'drizzle-orm'
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres'
import { migrate as migrateTables } from 'drizzle-orm/node-postgres/migrator'
import pg from 'pg'
import type { Engine } from './engine'
import { FolderTrouble } from './folder'
import { hasTable, migrate, rowsOf, stepsIn } from './migrate'
import * as schema from './schema'
import { shareChanges } from './postgresChanges'
import { seed } from './seed'

/** A PostgreSQL server that several of these share: a club's. It keeps what it acknowledges (synchronous_commit). */

export interface PostgresOptions {
  url: string
  migrationsFolder: string
  isEmpty: boolean
}

const CONNECT_WITHIN_MS = 5000
/** No question here takes longer on a server that is well. */
const ANSWER_WITHIN_MS = 15_000
const CONNECTIONS = 10
/** Servers that start together bring the tables up to date one after the other: any number that nobody else uses. */
const STARTING = 7_431_042

/** Opens it and brings its tables up to date. Throws FolderTrouble, and what the server or the net says. */
export async function openPostgres({ url, migrationsFolder, isEmpty }: PostgresOptions): Promise<Engine> {
  const connection = { connectionString: new URL(url).href, connectionTimeoutMillis: CONNECT_WITHIN_MS }
  const pool = new pg.Pool({ ...connection, max: CONNECTIONS, query_timeout: ANSWER_WITHIN_MS })
  // A connection that breaks while nobody uses it is made anew by the next who does.
  pool.on('error', error => console.error(`The database: ${error.message}`))
  try {
    await started(pool, migrationsFolder, isEmpty)
    const deaf = await shareChanges(pool, connection)
    return {
      db: drizzle(pool, { schema }),
      onDisk: () => Promise.resolve(),
      room: () => Promise.resolve(),
      async close() {
        await deaf()
        await pool.end()
      },
    }
  } catch (error) {
    await pool.end()
    throw error
  }
}

async function started(pool: pg.Pool, migrationsFolder: string, isEmpty: boolean) {
  const client = await pool.connect()
  try {
    const db = drizzle(client, { schema })
    await client.query('SELECT pg_advisory_lock($1)', [STARTING])
    await lookAtTables(db, stepsIn(migrationsFolder))
    if ((await migrate(db, migrationsFolder, migrateTables)) === 'new' && !isEmpty) await seed(db)
  } finally {
    // The lock goes with the connection, where it could not be given back.
    const broke = await client.query('SELECT pg_advisory_unlock($1)', [STARTING]).then(
      () => false,
      () => true,
    )
    client.release(broke)
  }
}

/** Never over what somebody else keeps there, nor over what a newer program wrote. */
async function lookAtTables(db: NodePgDatabase<typeof schema>, steps: number) {
  if (await hasTable(db, 'stations')) {
    const [done] = await rowsOf<{ count: number }>(
      db,
      sql`SELECT count(*)::int AS count FROM drizzle.__drizzle_migrations`,
    )
    if (done!.count > steps)
      throw new FolderTrouble(
        'The database was written by a newer Wireman. Start that one, or bring this one up to date.',
      )
    return
  }
  const others = await rowsOf<{ name: string }>(
    db,
    sql`SELECT table_name AS name FROM information_schema.tables WHERE table_schema = 'public' LIMIT 3`,
  )
  if (others.length)
    throw new FolderTrouble(
      `The database holds other things (${others.map(o => o.name).join(', ')}) and no data of Wireman; nothing is ` +
        'written into it. Give Wireman a database of its own: createdb wireman',
    )
}
