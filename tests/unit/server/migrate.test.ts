import type { PGlite } from '@electric-sql/pglite'
import { drizzle } from 'drizzle-orm/pglite'
import { migrate as migrateTables } from 'drizzle-orm/pglite/migrator'
import { afterEach, beforeAll, describe, expect, it } from 'vitest'
import { migrate } from '../../../server/db/migrate'
import * as schema from '../../../server/db/schema'
import { emptyDatabase } from '../../data/emptyDatabase'
import { OLD_STEPS } from '../../data/oldTables'

const FOLDER = 'server/db/migrations'

let client: PGlite
const opened = async () => {
  client = await emptyDatabase()
  return drizzle(client, { schema })
}
afterEach(() => client.close())

/** Tables, columns with type, default and whether they may be empty, and what is tied to what. */
async function shapeOf() {
  const columns = await client.query(
    `SELECT table_name, column_name, data_type, is_nullable, column_default FROM information_schema.columns
     WHERE table_schema = 'public' ORDER BY table_name, column_name`,
  )
  const ties = await client.query(
    `SELECT conrelid::regclass::text AS at, pg_get_constraintdef(oid) AS says FROM pg_constraint
     WHERE connamespace = 'public'::regnamespace AND contype IN ('p', 'f') ORDER BY 1, 2`,
  )
  return { columns: columns.rows, ties: ties.rows }
}

/** A database as version N of the program left it, with a station that was saved twice. */
async function oldDatabase(version: number) {
  await client.exec('CREATE TABLE migrations (number integer PRIMARY KEY)')
  for (let number = 0; number < version; number++) {
    await client.exec(OLD_STEPS[number]!)
    await client.query('INSERT INTO migrations VALUES ($1)', [number])
  }
  await client.exec(`
    INSERT INTO stations (id, name, revision) VALUES ('one', 'Bench', 2);
    INSERT INTO revisions (station_id, number, plan) VALUES ('one', 1, '{"a":1}'), ('one', 2, '{"a": 2}');`)
  if (version > 1) await client.exec(`INSERT INTO shelf (id, revision, items) VALUES (1, 3, '[]')`)
  if (version > 2) await client.exec(`INSERT INTO noise (station_id, revision, logbook) VALUES ('one', 4, '{}')`)
}

describe('tables are brought up to date', () => {
  let wanted: Awaited<ReturnType<typeof shapeOf>>
  beforeAll(async () => {
    await migrate(await opened(), FOLDER, migrateTables)
    wanted = await shapeOf()
    await client.close()
  })

  it('from nothing, and a second time nothing is done', async () => {
    const db = await opened()
    expect(await migrate(db, FOLDER, migrateTables)).toBe('new')
    expect(await migrate(db, FOLDER, migrateTables)).toBe('known')
    expect(await shapeOf()).toEqual(wanted)
  })

  it.each([1, 2, 3])('from version %i, to what a new database has, with nothing lost', async version => {
    const old = await opened()
    await oldDatabase(version)
    expect(await migrate(old, FOLDER, migrateTables)).toBe('known')
    expect(await shapeOf()).toEqual(wanted)
    const revisions = await old.select().from(schema.revisions)
    expect(revisions.map(r => r.plan)).toEqual(['{"a":1}', '{"a": 2}'])
    expect(await old.select().from(schema.shelf)).toHaveLength(version > 1 ? 1 : 0)
    expect(await old.select().from(schema.noise)).toHaveLength(version > 2 ? 1 : 0)
    await old.insert(schema.noise).values({ stationId: 'one', revision: 1, body: '{}' }).onConflictDoNothing()
    expect(await migrate(old, FOLDER, migrateTables)).toBe('known')
  })
})
