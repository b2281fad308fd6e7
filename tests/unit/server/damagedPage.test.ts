import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readBackup } from '../../../core/formats/backup'
import { fromBackup } from '../../../server/db/backup'
import { close, database } from '../../../server/db/client'
import { backupTo } from '../../../server/db/kept'
import { revisions } from '../../../server/db/schema'
import * as store from '../../../server/db/stations'
import { thinHistories } from '../../../server/db/thin'
import { damageLongValues, longPlan } from '../../data/damage'
import { demoPlan } from '../../data/plans'

/** A data folder with a damaged page: backed up, thinned, restored into. */

const HOUR_MS = 3_600_000
let folder: string
let id: string
let whole: string
const file = (name: string) => join(folder, name)
const readIn = (path: string) => {
  const read = readBackup(readFileSync(path, 'utf8'))
  if (!read.ok) throw new Error(read.wrong)
  return read
}

beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'wireman-damaged-'))
  Object.assign(process.env, {
    WIREMAN_DATA: folder,
    WIREMAN_MIGRATIONS: 'server/db/migrations',
    WIREMAN_EMPTY: 'yes',
  })
  id = (await store.createStation(demoPlan('tern-rock-light'), { note: 'made' })).id
  // Of two days ago, all in one hour.
  for (const revision of [1, 2])
    await store.saveStation(id, revision, { ...demoPlan('tern-rock-light'), name: `Edit ${revision}` }, { note: '' })
  await (await database()).update(revisions).set({ savedAt: new Date(Date.now() - 48 * HOUR_MS) })
  await store.saveStation(id, 3, longPlan(), { note: 'long' })
  whole = file('whole.jsonl')
  expect(await backupTo(whole)).toEqual([])
  await close()
  await damageLongValues(join(folder, 'pg'), 'revisions')
})
afterAll(async () => {
  await close()
  rmSync(folder, { recursive: true, force: true })
})

describe('a folder with a damaged page', () => {
  it('is backed up with all that can be read, and what is not in it is named', async () => {
    const lost = await backupTo(file('rest.jsonl'))
    expect(lost).toEqual(['Tern Rock light: its last state, revision 4, could not be read when the backup was made'])
    const { backup, aside } = readIn(file('rest.jsonl'))
    expect(aside.map(a => a.wrong)).toEqual(lost)
    expect(backup.revisions.map(r => r.number)).toEqual([1, 2, 3])
    expect(backup.stations).toMatchObject([{ id, revision: 3 }])
  })
  it('keeps the older states of a station whose last one is lost', async () => {
    expect(await thinHistories(new Date())).toBe(0)
    expect(await store.listRevisions(id)).toHaveLength(4)
  })
  it('takes back what a backup has of it, and is thinned again', async () => {
    const { backup } = readIn(whole)
    expect(await fromBackup(backup, false)).toMatchObject({ changed: ['Tern Rock light'] })
    expect(await fromBackup(backup, true)).toMatchObject({ changed: ['Tern Rock light'] })
    expect(await store.readStation(id)).toMatchObject({ revision: 5, plan: longPlan() })
    expect(await thinHistories(new Date())).toBe(1)
  })
})
