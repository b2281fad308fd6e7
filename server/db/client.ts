import { PGlite } from '@electric-sql/pglite'
import { drizzle } from 'drizzle-orm/pglite'
import { existsSync, readFileSync, rmSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import { readMigrationFiles } from 'drizzle-orm/migrator'
import { DurableFiles, placeForGood } from './disk'
import { FolderTrouble, fromCopy, inWords, lookAt, markFolder } from './folder'
import type { Database } from './insert'
import { FolderInUse, lockFolder, type Lock } from './lock'
import { migrate } from './migrate'
import * as schema from './schema'
import { seed } from './seed'

export function dataFolder(): string {
  return resolve(process.env.WIREMAN_DATA || './data')
}

interface Opened {
  db: Database
  client: PGlite
  files: DurableFiles
  lock: Lock
}

/**
 * The one place that opens the database: looks at the folder, locks it, opens it, brings its tables up to date. Throws
 * FolderInUse, FolderTrouble, and what the engine or the disk says.
 */
async function open(): Promise<Opened> {
  const folder = dataFolder()
  const steps = readMigrationFiles({ migrationsFolder: migrationsFolder() }).length
  const was = lookAt(folder, steps)
  const lock = await lockFolder(folder, { onLost: () => lost(folder) })
  try {
    if (was === 'new') await makeNew(folder)
    const files = new DurableFiles(folder)
    await files.beforeOpen()
    const client = await PGlite.create(join(folder, 'pg'))
    const db = drizzle(client, { schema })
    if ((await migrate(db, migrationsFolder())) === 'new') {
      if (was === 'known') throw new FolderTrouble(`The data folder ${folder} has lost its tables. ${fromCopy(folder)}`)
      // What is restored into an empty folder stands alone there.
      if (!process.env.WIREMAN_EMPTY) await seed(db)
    }
    await files.settled()
    markFolder(folder, steps)
    process.off('SIGINT', end).once('SIGINT', end)
    process.off('SIGTERM', end).once('SIGTERM', end)
    return { db, client, files, lock }
  } catch (error) {
    lock.release()
    throw error
  }
}

/** Two servers must not write to one folder: this one has stood still for so long that another took it. */
function lost(folder: string) {
  console.error(`The data folder ${folder} was taken by another Wireman while this one stood still. This one ends.`)
  process.exit(1)
}

/** Writes all that is due and lets go of the folder. */
export async function close(): Promise<void> {
  if (!opened) return
  const { client, files, lock } = await opened
  opened = undefined
  await files.whileHeld(() => client.close())
  lock.release()
}

async function end() {
  await close().catch((error: unknown) => console.error(error))
  process.exit(0)
}

/** What was written so far would outlive a power cut when this comes back: no change is acknowledged before. */
export async function onDisk(): Promise<void> {
  const { client, files } = await opening()
  await files.acknowledged()
  if (++acknowledged % checkpoints.looksEvery || (await logBytes(client)) < checkpoints.logBytes) return
  // In a transaction nobody else changes anything. What was changed is on the disk already, whatever comes of this.
  const checkpoint = client.transaction(tx => files.whileHeld(() => tx.exec('CHECKPOINT')))
  await checkpoint.catch((error: unknown) => console.error(inWords(error, dataFolder())))
}
let acknowledged = 0
/** It is looked so often, in changes, whether the log has grown so that one is due: long before the engine's 1 GB. */
export const checkpoints = { looksEvery: 50, logBytes: 64 * 1024 * 1024 }

/** What the engine has logged since its last checkpoint, bytes. */
async function logBytes(client: PGlite): Promise<number> {
  const since = 'pg_wal_lsn_diff(pg_current_wal_insert_lsn(), (pg_control_checkpoint()).redo_lsn)'
  const { rows } = await client.query<{ bytes: string }>(`SELECT ${since} AS bytes`)
  return Number(rows[0]!.bytes)
}

/**
 * Makes the database files where there are none yet, aside and then moved into place, so that a start cut short
 * leaves nothing half made. A template made by the build (server/db/template.ts) saves the seconds that making one
 * from nothing takes.
 */
async function makeNew(folder: string) {
  const place = join(folder, 'pg')
  if (existsSync(place)) return
  const aside = join(folder, 'pg.new')
  rmSync(aside, { recursive: true, force: true })
  const template = templatePath()
  const client = await PGlite.create({
    dataDir: aside,
    ...(existsSync(template) && { loadDataDir: new Blob([readFileSync(template)]) }),
  })
  await client.close()
  await placeForGood(aside, place, folder)
}

/** What the build leaves beside the built server. */
const beside = (name: string) => join(dirname(resolve(process.argv[1] ?? '.')), '..', name)

export const templatePath = () => process.env.WIREMAN_TEMPLATE || beside('template.tar.gz')
export const migrationsFolder = () => process.env.WIREMAN_MIGRATIONS || beside('migrations')

let opened: Promise<Opened> | undefined

/** Opened when first asked for. Where it cannot be opened the server ends, in words. */
const opening = (): Promise<Opened> =>
  (opened ??= open().catch((error: unknown) => {
    console.error(error instanceof FolderInUse ? error.message : inWords(error, dataFolder()))
    process.exit(1)
  }))

export const database = async (): Promise<Database> => (await opening()).db
