import { sql } from 'drizzle-orm'
import { readMigrationFiles, type MigrationMeta } from 'drizzle-orm/migrator'
import { migrate as migrateTables } from 'drizzle-orm/pglite/migrator'
import type { Database } from './insert'

/**
 * Brings the tables up to date, by the steps of server/db/migrations (made by drizzle-kit).
 * @param migrationsFolder where those stand
 * @returns whether there were no tables before
 */
export async function migrate(db: Database, migrationsFolder: string): Promise<'new' | 'known'> {
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
    const { rows } = await tx.execute<{ done: number }>(sql`SELECT count(*)::int AS done FROM migrations`)
    const last = steps[rows[0]!.done - 1]
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

async function hasTable(db: Database, name: string): Promise<boolean> {
  const { rows } = await db.execute(
    sql`SELECT 1 FROM information_schema.tables WHERE table_schema = 'public' AND table_name = ${name}`,
  )
  return rows.length > 0
}
