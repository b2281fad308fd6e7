import { PGlite } from '@electric-sql/pglite'
import { drizzle } from 'drizzle-orm/pglite'
import { existsSync, readFileSync, renameSync, rmSync } from 'node:fs'
import { dirname, join, resolve } from 'node:path'
import type { Database } from './insert'
import { FolderInUse, lockFolder } from './lock'
import { MIGRATIONS } from './migrations'
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
  if ((await migrate(client)) === 'new') await seed(db)
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
 * Makes the database files where there are none yet, aside and then moved into place, so that a start cut short leaves
 * nothing
 * half made. A template made by the build (server/db/template.ts) saves the seconds that making one from nothing takes.
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

/** Where the build leaves the template: beside the built server. */
export function templatePath(): string {
  return process.env.WIREMAN_TEMPLATE || join(dirname(resolve(process.argv[1] ?? '.')), '..', 'template.tar.gz')
}

/** Brings the tables up to date. @returns whether there were none before */
async function migrate(client: PGlite): Promise<'new' | 'known'> {
  await client.exec('CREATE TABLE IF NOT EXISTS migrations (number integer PRIMARY KEY)')
  const done = (await client.query<{ count: number }>('SELECT count(*)::int AS count FROM migrations')).rows[0]!.count
  for (let number = done; number < MIGRATIONS.length; number++) {
    await client.transaction(async tx => {
      await tx.exec(MIGRATIONS[number]!)
      await tx.query('INSERT INTO migrations VALUES ($1)', [number])
    })
  }
  return done === 0 ? 'new' : 'known'
}

let opened: Promise<Database> | undefined

/**
 * The database, opened when first asked for. Without it there is no server: one that cannot be opened ends it, in
 * words.
 */
export function database(): Promise<Database> {
  return (opened ??= open().catch((error: unknown) => {
    console.error(error instanceof FolderInUse ? error.message : error)
    process.exit(1)
  }))
}
