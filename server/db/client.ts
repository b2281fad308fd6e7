import { PGlite } from '@electric-sql/pglite'
import { drizzle } from 'drizzle-orm/pglite'
import { existsSync, readFileSync, renameSync, rmSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import type { Database } from './insert'
import { FolderInUse, lockFolder } from './lock'
import { migrate } from './migrate'
import * as schema from './schema'
import { seed } from './seed'

export function dataFolder(): string {
  return resolve(process.env.WIREMAN_DATA || './data')
}

/**
 * The one place that opens the database: locks the folder, opens it, brings its tables up to date. Throws FolderInUse.
 */
async function open(): Promise<Database> {
  const folder = dataFolder()
  const lock = lockFolder(folder)
  await makeNew(folder)
  const client = await PGlite.create(join(folder, 'pg'))
  const db = drizzle(client, { schema })
  if ((await migrate(db, migrationsFolder())) === 'new') await seed(db)
  const close = async () => {
    await client.close().catch(() => {})
    lock.release()
    process.exit(0)
  }
  process.once('SIGINT', close)
  process.once('SIGTERM', close)
  return db
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
  renameSync(aside, place)
}

/** What the build leaves beside the built server. */
const beside = (name: string) => join(dirname(resolve(process.argv[1] ?? '.')), '..', name)

export const templatePath = () => process.env.WIREMAN_TEMPLATE || beside('template.tar.gz')
export const migrationsFolder = () => process.env.WIREMAN_MIGRATIONS || beside('migrations')

let opened: Promise<Database> | undefined

/** The database, opened when first asked for. Where it cannot be opened the server ends, in words. */
export function database(): Promise<Database> {
  return (opened ??= open().catch((error: unknown) => {
    console.error(error instanceof FolderInUse ? error.message : error)
    process.exit(1)
  }))
}
