import { sql, type SQL } from 'drizzle-orm'
import { readMigrationFiles, type MigrationMeta } from 'drizzle-orm/migrator'
import type { Database } from './engine'

/** How many steps of the tables this program knows. */
export const stepsIn = (migrationsFolder: string) => readMigrationFiles({ migrationsFolder }).length

/**
 * Brings the tables up to date, by the steps of server/db/migrations (made by drizzle-kit).
 * @param migrationsFolder where those stand
 * @param migrateTables the engine's own way to do them
 * @returns whether there were no tables before
 */
export async function migrate<D extends Database>(
  db: D,
  migrationsFolder: string,
  migrateTables: (db: D, config: { migrationsFolder: string }) => Promise<unknown>,
): Promise<'new' | 'known'> {
  await takeOver(db, readMigrationFiles({ migrationsFolder }))
  const had = await hasTable(db, 'stations')
  await migrateTables(db, { migrationsFolder })
  return had ? 'known' : 'new'
}

/**
 * Before its steps were drizzle-kit's, a database counted them in a table of its own; the steps themselves are the
 * same. Says to drizzle which of them are done, in one transaction.
 */
async function takeOver(db: Database, steps: readonly MigrationMeta[]) {
  if (!(await hasTable(db, 'migrations'))) return
  await db.transaction(async tx => {
    const [counted] = await rowsOf<{ done: number }>(tx, sql`SELECT count(*)::int AS done FROM migrations`)
    const last = steps[counted!.done - 1]
    await tx.execute(sql`CREATE SCHEMA IF NOT EXISTS drizzle`)
    await tx.execute(sql`
      CREATE TABLE IF NOT EXISTS drizzle.__drizzle_migrations (
        id SERIAL PRIMARY KEY, hash text NOT NULL, created_at bigint
      )`)
    if (last)
      await tx.execute(sql`
        INSERT INTO drizzle.__drizzle_migrations (hash, created_at) VALUES (${last.hash}, ${last.folderMillis})`)
    await tx.execute(sql`DROP TABLE migrations`)
  })
}

/** Rows of a question, whichever engine answers it. */
export async function rowsOf<R>(db: Pick<Database, 'execute'>, question: SQL): Promise<R[]> {
  const { rows } = (await db.execute(question)) as unknown as { rows: R[] }
  return rows
}

export async function hasTable(db: Database, name: string): Promise<boolean> {
  const question = sql`SELECT 1 FROM information_schema.tables WHERE table_schema = 'public' AND table_name = ${name}`
  return (await rowsOf(db, question)).length > 0
}
