import { PGlite } from '@electric-sql/pglite'
import { drizzle } from 'drizzle-orm/pglite'
import { migrate as migrateTables } from 'drizzle-orm/pglite/migrator'
import { existsSync, rmSync } from 'node:fs'
import { cp, statfs, writeFile } from 'node:fs/promises'
import { setFlagsFromString } from 'node:v8'
import { join } from 'node:path'
import { DurableFiles, placeForGood } from './disk'
import type { Engine } from './engine'
import { FolderTrouble, fromCopy, inWords, lookAt, markFolder } from './folder'
import { lockFolder } from './lock'
import { migrate, stepsIn } from './migrate'
import * as schema from './schema'
import { seed } from './seed'
import { watchOver } from './watchdog'

/** The engine that lives in this very process, its files in the data folder. */

/**
 * The engine's code is compiled once and quickly: compiling it again, better, costs a quarter of the memory and a
 * second of the start, for edits that take ten milliseconds either way.
 */
setFlagsFromString('--liftoff-only')

export interface EmbeddedOptions {
  folder: string
  migrationsFolder: string
  /** An empty database, made by the build. */
  template: string
  /** Without demo stations: what is restored into an empty folder stands alone there. */
  isEmpty: boolean
}

/**
 * Looks at the folder, locks it, opens the database, brings its tables up to date. Throws FolderInUse, FolderTrouble,
 * and what the engine or the disk says.
 */
export async function openEmbedded({ folder, migrationsFolder, template, isEmpty }: EmbeddedOptions): Promise<Engine> {
  const steps = stepsIn(migrationsFolder)
  const was = lookAt(folder, steps)
  const lock = await lockFolder(folder, { onLost: () => lost(folder) })
  try {
    if (was === 'new') await makeNew(folder, template)
    const files = new DurableFiles(folder)
    await files.beforeOpen()
    const client = await PGlite.create(join(folder, 'pg'))
    const db = drizzle(client, { schema })
    if ((await migrate(db, migrationsFolder, migrateTables)) === 'new') {
      if (was === 'known') throw new FolderTrouble(`The data folder ${folder} has lost its tables. ${fromCopy(folder)}`)
      if (!isEmpty) await seed(db)
    }
    await files.settled()
    markFolder(folder, steps)
    const watch = watchOver(STANDS_STILL)
    return {
      db,
      onDisk: () => onDisk({ client, files, folder }),
      room: bytes => roomFor(folder, bytes),
      async close() {
        await watch.end()
        await files.whileHeld(() => client.close())
        lock.release()
      },
    }
  } catch (error) {
    lock.release()
    throw error
  }
}

/** Written before every change, to see whether the disk takes it. */
const PROBE = 'wireman.probe'
/** A next piece of the engine's log is 16 MB: where there is no room for it, the engine stops for good. */
export const reserve = { bytes: 40 * 1024 * 1024 }
/** What is written goes into the log and into the tables. */
const TIMES_WRITTEN = 2

/**
 * Throws what the disk says where nothing can be written, ENODEV where it was pulled, ENOSPC where it is full. It is
 * tried: a file system that broke still gives leave.
 */
export async function roomFor(folder: string, bytes: number) {
  await writeFile(join(folder, PROBE), '.').catch((error: NodeJS.ErrnoException) => {
    throw error.code === 'ENOENT' ? Object.assign(new Error(`${folder} is gone`), { code: 'ENODEV' }) : error
  })
  const { bavail, bsize } = await statfs(folder)
  if (bavail * bsize >= reserve.bytes + TIMES_WRITTEN * bytes) return
  throw Object.assign(new Error(`no room in ${folder}`), { code: 'ENOSPC' })
}

const STANDS_STILL =
  'Wireman has stood still for a minute, as when the disk takes nothing more. It ends; what was saved is on the ' +
  'disk. Look whether that is full, broken or gone, and start it again.'

/** Two servers must not write to one folder: this one has stood still for so long that another took it. */
function lost(folder: string) {
  console.error(`The data folder ${folder} was taken by another Wireman while this one stood still. This one ends.`)
  process.exit(1)
}

/** What was written so far would outlive a power cut when this comes back: no change is acknowledged before. */
async function onDisk({ client, files, folder }: { client: PGlite; files: DurableFiles; folder: string }) {
  await files.acknowledged()
  if (++acknowledged % checkpoints.looksEvery || (await logBytes(client)) < checkpoints.logBytes) return
  // In a transaction nobody else changes anything. What was changed is on the disk already, whatever comes of this.
  const checkpoint = client.transaction(tx => files.whileHeld(() => tx.exec('CHECKPOINT')))
  await checkpoint.catch((error: unknown) => console.error(inWords(error, folder)))
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
async function makeNew(folder: string, template: string) {
  const place = join(folder, 'pg')
  if (existsSync(place)) return
  const aside = join(folder, 'pg.new')
  const clear = () => rmSync(aside, { recursive: true, force: true })
  clear()
  try {
    if (existsSync(template)) await cp(template, aside, { recursive: true })
    else await (await PGlite.create(aside)).close()
    await placeForGood(aside, place, folder)
  } catch (error) {
    // Half of it would only fill a full disk.
    clear()
    throw error
  }
}
