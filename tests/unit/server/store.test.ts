import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { eq } from 'drizzle-orm'
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import { readBackup } from '../../../core/formats/backup'
import { EMPTY_LOG } from '../../../core/log/log'
import { emptyLogbook } from '../../../core/noise/logbook'
import { backupText, fromBackup } from '../../../server/db/backup'
import { onChange, type Change } from '../../../server/db/changes'
import { close, database, reserve } from '../../../server/db/client'
import { deviceOf, listDevices, pairDevice, revokeDevice, SESSION_DAYS } from '../../../server/db/devices'
import { readLog, saveLog } from '../../../server/db/log'
import { allTriedCures, readLogbook, saveLogbook } from '../../../server/db/noise'
import { readShelf, saveShelf } from '../../../server/db/shelf'
import { devices, revisions, shelf, stations } from '../../../server/db/schema'
import * as store from '../../../server/db/stations'
import { thinHistories } from '../../../server/db/thin'
import { smallPlan } from '../../data/plans'
import { startPostgres, type TestPostgres } from '../../data/postgres'

/** What is saved, on both engines: the one in this process, and a server of its own. */

let postgres: TestPostgres
beforeAll(async () => {
  postgres = await startPostgres()
})
afterAll(() => postgres.stop())

/** Every engine, empty, and what it leaves taken away. */
const ENGINES = {
  async embedded() {
    const folder = mkdtempSync(join(tmpdir(), 'wireman-store-'))
    process.env.WIREMAN_DATA = folder
    return () => rmSync(folder, { recursive: true, force: true })
  },
  async postgres() {
    process.env.WIREMAN_DATABASE = await postgres.database()
    return () => delete process.env.WIREMAN_DATABASE
  },
}

describe.each(Object.keys(ENGINES) as (keyof typeof ENGINES)[])('what is saved: %s', engine => {
  let leave: () => unknown
  let changes: Change[]
  let deaf: () => void
  beforeAll(async () => {
    Object.assign(process.env, {
      WIREMAN_MIGRATIONS: 'server/db/migrations',
      WIREMAN_EMPTY: 'yes',
    })
    leave = await ENGINES[engine]()
    await database()
  })
  beforeEach(async () => {
    const db = await database()
    for (const table of [stations, shelf, devices]) await db.delete(table)
    changes = []
    deaf = onChange(c => changes.push(c))
  })
  afterEach(() => deaf())
  afterAll(async () => {
    await close()
    leave()
  })

  const plan = { ...smallPlan(), name: 'Nordhügel 站 «A»' }

  it('comes back to the byte, every state of it, and says who', async () => {
    const { id } = await store.createStation(plan, { note: 'made' })
    const next = { ...plan, name: 'Second' }
    expect(await store.saveStation(id, 1, next, { note: 'renamed', who: 'Field phone' })).toMatchObject({
      status: 'saved',
      revision: 2,
    })
    expect(JSON.stringify((await store.readStation(id))!.plan)).toBe(JSON.stringify(next))
    expect((await store.readStation(id, 1))!.plan).toEqual(plan)
    expect((await store.listRevisions(id)).map(r => [r.number, r.note, r.who])).toEqual([
      [2, 'renamed', 'Field phone'],
      [1, 'made', ''],
    ])
    expect(await store.listStations()).toMatchObject([{ id, name: 'Second', revision: 2 }])
  })
  it('is refused where somebody saved since, with what stands', async () => {
    const { id } = await store.createStation(plan, { note: '' })
    await store.saveStation(id, 1, { ...plan, name: 'theirs' }, { note: '' })
    const late = await store.saveStation(id, 1, { ...plan, name: 'mine' }, { note: '' })
    expect(late).toMatchObject({ status: 'conflict', current: { revision: 2, name: 'theirs' } })
    expect(await store.saveStation('nowhere', 1, plan, { note: '' })).toEqual({ status: 'gone' })
  })
  it('of many who save at once, one is taken and the others are told', async () => {
    const { id } = await store.createStation(plan, { note: '' })
    const saves = Array.from({ length: 12 }, (_, i) =>
      store.saveStation(id, 1, { ...plan, name: `from ${i}` }, { note: `${i}` }),
    )
    const results = await Promise.all(saves)
    expect(results.filter(r => r.status === 'saved')).toHaveLength(1)
    expect(results.filter(r => r.status === 'conflict')).toHaveLength(11)
    expect(await store.listRevisions(id)).toHaveLength(2)
  })
  it('documents and shelf likewise', async () => {
    const { id } = await store.createStation(plan, { note: '' })
    const log = { ...EMPTY_LOG, instruments: [{ id: 'i1', name: 'Meter' }] }
    expect(await readLog(id)).toEqual({ revision: 0, log: EMPTY_LOG })
    expect(await saveLog(id, 0, log)).toMatchObject({ status: 'saved', revision: 1 })
    expect(await saveLog(id, 0, EMPTY_LOG)).toMatchObject({ status: 'conflict', revision: 1, log })
    expect(await saveLog('nowhere', 0, log)).toBeNull()
    const firsts = await Promise.all([1, 2, 3].map(() => saveLogbook(id, 0, emptyLogbook())))
    expect(firsts.map(f => f!.status).sort()).toEqual(['conflict', 'conflict', 'saved'])
    expect((await readLogbook(id))!.revision).toBe(1)
    expect(await allTriedCures()).toEqual([])
    expect(await saveShelf(0, [])).toMatchObject({ status: 'saved', revision: 1 })
    expect(await saveShelf(0, [])).toMatchObject({ status: 'conflict', revision: 1 })
    expect((await readShelf()).revision).toBe(1)
  })
  it('deleted ones go off the list and come back', async () => {
    const { id } = await store.createStation(plan, { note: '' })
    expect(await store.setDeleted(id, true)).toBe(true)
    expect(await store.listStations()).toEqual([])
    expect(await readLog(id)).toBeNull()
    expect(await store.listDeleted()).toMatchObject([{ id, name: plan.name }])
    await store.setDeleted(id, false)
    expect(await store.listStations()).toHaveLength(1)
    expect(await store.setDeleted('nowhere', true)).toBe(false)
  })
  it('is thinned by age: named states, the first and the last stay, and all of a day', async () => {
    const { id } = await store.createStation(plan, { note: '' })
    const db = await database()
    const now = new Date('2026-06-30T12:00:00Z')
    const at = (hours: number) => new Date(now.getTime() - hours * 3_600_000)
    // Two in one hour of yesterday's yesterday, three in one day of last year, two of this hour.
    const ages = [9000, 8999, 8998, 50.4, 50.2, 0.2, 0.1]
    for (const [i, hours] of ages.entries())
      await db
        .insert(revisions)
        .values({ stationId: id, number: i + 2, plan: JSON.stringify(plan), savedAt: at(hours) })
    await db.update(stations).set({ revision: 8 })
    await db
      .update(revisions)
      .set({ savedAt: at(9001) })
      .where(eq(revisions.number, 1))
    expect(await store.nameRevision(id, 3, 'before the move')).toBe(true)
    expect(await store.nameRevision(id, 99, 'none')).toBe(false)
    expect(await thinHistories(now)).toBe(2)
    const left = (await store.listRevisions(id)).map(r => r.number)
    expect(left).toEqual([8, 7, 6, 4, 3, 1])
    expect(await thinHistories(now)).toBe(0)
    expect((await store.readStation(id))!.revision).toBe(8)
  })
  it('is told to whoever listens, with its revision', async () => {
    const { id } = await store.createStation(plan, { note: '' })
    await store.saveStation(id, 1, plan, { note: '' })
    await saveLog(id, 0, EMPTY_LOG)
    await saveShelf(0, [])
    await expect
      .poll(() => changes)
      .toEqual([
        { of: 'list' },
        { of: 'plan', id, revision: 2 },
        { of: 'log', id, revision: 1 },
        { of: 'shelf', revision: 1 },
      ])
  })
  it('what a device enters in a log says so, and goes on saying so', async () => {
    const { id } = await store.createStation(plan, { note: '' })
    const time = '2026-06-01T12:00:00'
    const read = (...steps: { id: string; note?: string; who?: string }[]) => ({
      ...EMPTY_LOG,
      steps: steps.map(s => ({ time, ...s })),
    })
    await saveLog(id, 0, read({ id: 'desk' }))
    // What a device says of itself is not asked.
    await saveLog(id, 1, read({ id: 'desk' }, { id: 'field', who: 'Somebody' }), 'Field phone')
    const kept = async () => (await readLog(id))!.log.steps.map(({ time: _, ...s }) => s)
    expect(await kept()).toEqual([{ id: 'desk' }, { id: 'field', who: 'Field phone' }])
    // Nor does who changes it, or a page that has not heard of it, take it over.
    await saveLog(id, 2, read({ id: 'desk', note: 'again' }, { id: 'field' }), 'Tablet')
    expect(await kept()).toEqual([
      { id: 'desk', note: 'again' },
      { id: 'field', who: 'Field phone' },
    ])
    await saveLog(id, 3, read({ id: 'field' }))
    expect(await kept()).toEqual([{ id: 'field', who: 'Field phone' }])
  })
  it('sessions: one is let in, seen, over when nobody used it, taken back at once', async () => {
    const now = new Date('2026-06-01T12:00:00Z')
    const later = (days: number) => new Date(now.getTime() + days * 86_400_000)
    const { device, token } = await pairDevice('Field phone', now)
    expect(await deviceOf(token, later(1))).toEqual(device)
    // Used in time it goes on.
    expect(await deviceOf(token, later(SESSION_DAYS))).toEqual(device)
    expect(await listDevices(later(SESSION_DAYS))).toMatchObject([{ name: 'Field phone' }])
    expect(await deviceOf(token, later(2 * SESSION_DAYS + 1))).toBeNull()
    expect(await deviceOf(`${token.slice(1)}A`, later(1))).toBeNull()
    const other = await pairDevice('Tablet', now)
    expect(await revokeDevice(other.device.id)).toBe(true)
    expect(await deviceOf(other.token, now)).toBeNull()
    expect(await revokeDevice(other.device.id)).toBe(false)
  })
  it('a state that has a name is listed, however many came after it', async () => {
    const { id } = await store.createStation(plan, { note: 'made' })
    expect(await store.nameRevision(id, 1, 'As built')).toBe(true)
    const db = await database()
    const text = JSON.stringify(plan)
    await db
      .insert(revisions)
      .values(Array.from({ length: 520 }, (_, i) => ({ stationId: id, number: i + 2, plan: text, note: '' })))
    const listed = await store.listRevisions(id)
    expect(listed).toHaveLength(501)
    expect(listed.at(-1)).toMatchObject({ number: 1, name: 'As built' })
    expect(listed[0]!.number).toBe(521)
  })
  it('a device is shut out at once, and told of, where the disk has no room to write it down', async () => {
    const { device, token } = await pairDevice('Field phone')
    const was = reserve.bytes
    try {
      reserve.bytes = Infinity
      // Only a folder of its own can be full.
      if (engine === 'postgres') return
      await expect(revokeDevice(device.id)).rejects.toMatchObject({ code: 'ENOSPC' })
      expect(await deviceOf(token)).toBeNull()
      expect(await listDevices()).toHaveLength(1)
      await expect(pairDevice('Tablet')).rejects.toMatchObject({ code: 'ENOSPC' })
    } finally {
      reserve.bytes = was
    }
    expect(await revokeDevice(device.id)).toBe(true)
    expect(await listDevices()).toEqual([])
  })
  it('a device that only reads is answered on a full disk', async () => {
    const now = new Date()
    const { device, token } = await pairDevice('Field phone', now)
    const was = reserve.bytes
    try {
      reserve.bytes = Infinity
      expect(await deviceOf(token, new Date(now.getTime() + 86_400_000))).toEqual(device)
    } finally {
      reserve.bytes = was
    }
  })
  it('all of it goes into a file and comes back', async () => {
    const { id } = await store.createStation(plan, { note: 'made', who: 'Field phone' })
    await saveLog(id, 0, EMPTY_LOG)
    let text = ''
    for await (const line of backupText()) text += line
    const read = readBackup(text)
    if (!read.ok) throw new Error(read.wrong)
    await store.saveStation(id, 1, { ...plan, name: 'changed since' }, { note: '' })
    expect(await fromBackup(read.backup, true)).toMatchObject({ changed: [plan.name] })
    expect((await store.readStation(id))!.name).toBe(plan.name)
    expect((await store.listRevisions(id)).at(-1)).toMatchObject({ note: 'made', who: 'Field phone' })
  })
})
