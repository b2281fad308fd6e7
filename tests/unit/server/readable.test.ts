import { PGlite } from '@electric-sql/pglite'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { drizzle } from 'drizzle-orm/pglite'
import { migrate as migrateTables } from 'drizzle-orm/pglite/migrator'
import { afterAll, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { Database } from '../../../server/db/engine'
import { insertStation } from '../../../server/db/insert'
import { migrate } from '../../../server/db/migrate'
import { damagedIn, listIn, readableRevisions, readIn, Unreadable } from '../../../server/db/readable'
import * as schema from '../../../server/db/schema'
import { damageLongValues, longPlan } from '../../data/damage'
import { emptyDatabase } from '../../data/emptyDatabase'
import { demoPlan } from '../../data/plans'

let client: PGlite
let db: Database
const withTables = async (client: PGlite) => {
  const db = drizzle(client, { schema })
  await migrate(db, 'server/db/migrations', migrateTables)
  return db
}
let ids: Record<'tern' | 'moor' | 'clean', string>
beforeAll(async () => {
  client = await emptyDatabase()
  db = await withTables(client)
})
afterAll(() => client.close())
beforeEach(async () => {
  await db.delete(schema.stations)
  const station = async (name: string) => (await insertStation(db, demoPlan(name as never), { note: 'made' })).id
  ids = {
    tern: await station('tern-rock-light'),
    moor: await station('moor-walk-kit'),
    clean: await station('clean-bench'),
  }
  // Tern Rock was saved three times.
  for (const number of [2, 3])
    await client.query(
      `INSERT INTO revisions (station_id, number, plan)
       SELECT $1, $2, plan FROM revisions WHERE station_id = $1 AND number = 1`,
      [ids.tern, number],
    )
  await client.query('UPDATE stations SET revision = 3 WHERE id = $1', [ids.tern])
})
const listed = async () => listIn(db, await damagedIn(db, () => Promise.resolve()))
const others = async () => (await listed()).filter(s => s.id !== ids.tern)

describe('a station of which something is lost', () => {
  it('all well: the list has no trouble', async () => {
    const list = await listed()
    expect(list).toHaveLength(3)
    expect(list.every(s => s.trouble === undefined)).toBe(true)
  })
  it.each([
    ['its last revision gone', `DELETE FROM revisions WHERE number = 3`],
    ['its last revision torn', `UPDATE revisions SET plan = left(plan, 90) WHERE number = 3`],
    ['its last revision something else', `UPDATE revisions SET plan = '{}' WHERE number = 3`],
  ])('%s: the one before stands in for it, is told, and is built on', async (_what, sql) => {
    await client.exec(sql)
    const tern = (await listed()).find(s => s.id === ids.tern)!
    expect(tern.trouble).toMatch(/revision 3, cannot be read any more; revision 2 of \d{4}-\d\d-\d\d \d\d:\d\d UTC/)
    expect((await others()).every(s => s.trouble === undefined)).toBe(true)
    const read = (await readIn(db, ids.tern))!
    expect(read).toMatchObject({ revision: 3, trouble: tern.trouble })
    expect(read.plan).toEqual(demoPlan('tern-rock-light'))
    expect(await readIn(db, ids.tern, 3)).toBeNull()
    // Looked at before, and saved anew since: nothing is wrong with it any more.
    const damaged = await damagedIn(db, () => Promise.resolve())
    await client.query(
      `INSERT INTO revisions (station_id, number, plan) SELECT station_id, 4, plan FROM revisions
       WHERE station_id = $1 AND number = 2`,
      [ids.tern],
    )
    await client.query('UPDATE stations SET revision = 4 WHERE id = $1', [ids.tern])
    expect((await listIn(db, damaged)).every(s => s.trouble === undefined)).toBe(true)
    expect((await readIn(db, ids.tern, 1))!.trouble).toBeUndefined()
  })
  it('with nothing left of it: it stays on the list, with what to do, and the others open', async () => {
    await client.query('DELETE FROM revisions WHERE station_id = $1', [ids.tern])
    const tern = (await listed()).find(s => s.id === ids.tern)!
    expect(tern.trouble).toMatch(/no earlier one either: put it back from a backup/)
    await expect(readIn(db, ids.tern)).rejects.toThrow(Unreadable)
    expect((await readIn(db, ids.moor))!.plan.name).toBe(demoPlan('moor-walk-kit').name)
  })
})

describe('a damaged page', () => {
  it('costs its own station alone', async () => {
    await client.close()
    const folder = mkdtempSync(join(tmpdir(), 'wireman-page-'))
    client = await emptyDatabase(folder)
    db = await withTables(client)
    const clean = await insertStation(db, demoPlan('clean-bench'), { note: '' })
    const tern = await insertStation(db, demoPlan('tern-rock-light'), { note: '' })
    const note = JSON.stringify(longPlan())
    await client.query('INSERT INTO revisions (station_id, number, plan) VALUES ($1, 2, $2)', [tern.id, note])
    await client.query('UPDATE stations SET revision = 2 WHERE id = $1', [tern.id])
    await client.close()
    await damageLongValues(folder, 'revisions')

    client = await PGlite.create(folder)
    db = drizzle(client, { schema })
    await expect(client.query('SELECT length(plan || $1) FROM revisions', [''])).rejects.toThrow(/page/)
    const list = await listed()
    expect(list.find(s => s.id === tern.id)!.trouble).toMatch(/revision 2, cannot be read any more; revision 1 of/)
    expect(list.find(s => s.id === clean.id)).toMatchObject({ name: demoPlan('clean-bench').name })
    expect(list.find(s => s.id === clean.id)!.trouble).toBeUndefined()
    expect((await readIn(db, tern.id))!.plan).toEqual(demoPlan('tern-rock-light'))
    // A backup has all that can be read.
    const kept = async (id: string) => (await readableRevisions(db, id)).map(r => [r.number, r.plan.name])
    expect(await kept(tern.id)).toEqual([[1, demoPlan('tern-rock-light').name]])
    expect(await kept(clean.id)).toEqual([[1, demoPlan('clean-bench').name]])
    rmSync(folder, { recursive: true, force: true })
  })
})
