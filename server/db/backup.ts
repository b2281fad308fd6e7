import { asc, eq } from 'drizzle-orm'
import {
  backupHead,
  type Backup,
  type BackupDocument,
  type BackupLost,
  type BackupRevision,
  type BackupStation,
  type DocumentName,
} from '../../core/formats/backup'
import { announce } from './changes'
import { database, onDisk } from './client'
import type { Database } from './engine'
import { numbersOf, readableRevisions, readRevision } from './readable'
import { hours, logs, noise, revisions, shelf, stations, type DocumentTable } from './schema'

/** Everything in one file, and out of it again. */

const TABLES: Record<DocumentName, DocumentTable> = { noise, hours, log: logs }
const NAMES = Object.keys(TABLES) as DocumentName[]

/** The lines of a backup, one station after the other. */
async function* backupLines(): AsyncGenerator<string> {
  const db = await database()
  yield backupHead(new Date().toISOString())
  for (const station of await db.select().from(stations).orderBy(asc(stations.createdAt))) {
    const its = await readableRevisions(db, station.id)
    const [last] = its.slice(-1)
    // Of what is damaged, all that can be read; what is missing is named.
    const lost = (what: string) => JSON.stringify({ lost: { name: station.name, what } satisfies BackupLost })
    if (!last) {
      yield lost('none of its states')
      continue
    }
    const hasCurrent = its.some(r => r.number === station.revision)
    yield JSON.stringify({ station: hasCurrent ? station : { ...station, revision: last.number } })
    if (!hasCurrent) yield lost(`its last state, revision ${station.revision},`)
    for (const revision of its) yield JSON.stringify({ revision })
    for (const of of NAMES) {
      const body = await documentBody(db, TABLES[of], station.id)
      if (body === 'lost') yield lost(`its ${DOCUMENT_WORDS[of]}`)
      else if (body) yield JSON.stringify({ document: { of, stationId: station.id, ...body } })
    }
  }
  const [row] = await db.select().from(shelf).where(eq(shelf.id, 1))
  if (row) yield JSON.stringify({ shelf: JSON.parse(row.items) as unknown })
}

async function documentBody(db: Database, table: DocumentTable, stationId: string) {
  try {
    const [row] = await db.select().from(table).where(eq(table.stationId, stationId))
    return row ? { revision: row.revision, body: JSON.parse(row.body) as unknown } : null
  } catch {
    return 'lost'
  }
}

/** The same as a file is written. */
export async function* backupText(): AsyncGenerator<string> {
  for await (const line of backupLines()) yield `${line}\n`
}

/** What restoring would do, by the names of stations. */
export interface WouldChange {
  /** Not here: put in, with all their revisions. */
  added: string[]
  /** Here, and otherwise: as in the backup from a new revision on. */
  changed: string[]
  /** Deleted here: put back. */
  putBack: string[]
  /** Documents of stations that are otherwise here: as in the backup. */
  documents: string[]
  same: number
  shelf: boolean
}

const DOCUMENT_WORDS: Record<DocumentName, string> = { noise: 'noise logbook', hours: 'events', log: 'log' }

type Tx = Pick<Database, 'select' | 'insert' | 'update'>

/** What restoring a backup would change; with `restores`, it is done. */
export async function fromBackup(backup: Backup, restores: boolean): Promise<WouldChange> {
  const db = await database()
  const would: WouldChange = { added: [], changed: [], putBack: [], documents: [], same: 0, shelf: false }
  const standing = new Map<string, Standing>()
  for (const { id } of backup.stations) standing.set(id, await standingOf(db, id))
  await db.transaction(async tx => {
    for (const station of backup.stations) {
      const its = backup.revisions.filter(r => r.stationId === station.id)
      await stationFrom(tx, { station, its, own: standing.get(station.id)! }, { would, restores })
    }
    for (const document of backup.documents) await documentFrom(tx, { backup, document }, { would, restores })
    if (backup.shelf) await shelfFrom(tx, JSON.stringify(backup.shelf), { would, restores })
  })
  if (restores) {
    await onDisk()
    announce({ of: 'all' })
  }
  return would
}

/** What stands here of a station, as far as it can be read. */
interface Standing {
  numbers: number[]
  /** JSON of its current state; null where there is none that can be read. */
  plan: string | null
}

/** Read before the transaction: one damaged page would end that as a whole. */
async function standingOf(db: Database, id: string): Promise<Standing> {
  const [here] = await db.select({ revision: stations.revision }).from(stations).where(eq(stations.id, id))
  if (!here) return { numbers: [], plan: null }
  const current = await readRevision(db, id, here.revision)
  const numbers = (await numbersOf(db, id)).map(r => r.number)
  return { numbers, plan: current && JSON.stringify(current.plan) }
}

interface Going {
  would: WouldChange
  restores: boolean
}

async function stationFrom(
  tx: Tx,
  { station, its, own }: { station: BackupStation; its: readonly BackupRevision[]; own: Standing },
  { would, restores }: Going,
) {
  const { id, name } = station
  const [here] = await tx.select().from(stations).where(eq(stations.id, id))
  if (!here) {
    would.added.push(name)
    if (restores) await addStation(tx, station, its)
    return
  }
  const plan = JSON.stringify(its.find(r => r.number === station.revision)!.plan)
  const changes = own.plan !== plan
  const comesBack = here.deletedAt !== null && station.deletedAt === null
  if (changes) would.changed.push(name)
  else would.same++
  if (comesBack) would.putBack.push(name)
  if (!restores || !(changes || comesBack)) return
  const savedAt = new Date()
  // What stands here stays in its history.
  // A number that was lost is not given again: windows that stand on it would not notice.
  const number = changes ? Math.max(here.revision, ...own.numbers) + 1 : here.revision
  if (changes)
    await tx.insert(revisions).values({ stationId: id, number, plan, note: 'restored from a backup', savedAt })
  const deletedAt = comesBack ? null : here.deletedAt
  await tx.update(stations).set({ name, revision: number, updatedAt: savedAt, deletedAt }).where(eq(stations.id, id))
}

async function addStation(tx: Tx, station: BackupStation, its: readonly BackupRevision[]) {
  await tx.insert(stations).values({ ...station, ...timesOf(station) })
  for (const r of its)
    await tx.insert(revisions).values({ ...r, plan: JSON.stringify(r.plan), savedAt: new Date(r.savedAt) })
}

async function documentFrom(
  tx: Tx,
  { backup, document }: { backup: Backup; document: BackupDocument },
  { would, restores }: Going,
) {
  const { of, stationId, body } = document
  const station = backup.stations.find(s => s.id === stationId)
  if (!station) return
  const table = TABLES[of]
  const [row] = await tx.select().from(table).where(eq(table.stationId, stationId))
  const text = JSON.stringify(body)
  if (row?.body === text) return
  if (row) would.documents.push(`${station.name}: ${DOCUMENT_WORDS[of]}`)
  if (!restores) return
  const values = { stationId, revision: (row?.revision ?? 0) + 1, body: text, savedAt: new Date() }
  await tx.insert(table).values(values).onConflictDoUpdate({ target: table.stationId, set: values })
}

async function shelfFrom(tx: Tx, items: string, { would, restores }: Going) {
  const [own] = await tx.select().from(shelf).where(eq(shelf.id, 1))
  would.shelf = own?.items !== items
  if (!restores || !would.shelf) return
  const values = { id: 1, revision: (own?.revision ?? 0) + 1, items, savedAt: new Date() }
  await tx.insert(shelf).values(values).onConflictDoUpdate({ target: shelf.id, set: values })
}

const timesOf = (s: BackupStation) => ({
  createdAt: new Date(s.createdAt),
  updatedAt: new Date(s.updatedAt),
  deletedAt: s.deletedAt === null ? null : new Date(s.deletedAt),
})
