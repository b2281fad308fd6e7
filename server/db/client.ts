import { dirname, join, resolve } from 'node:path'
import { openEmbedded } from './embedded'
import type { Database, Engine } from './engine'
import { inWords } from './folder'
import { FolderInUse } from './lock'
import { databaseInWords } from './postgresWords'

/** The one place that opens the database: of this process, or where WIREMAN_DATABASE says. */

export { checkpoints, reserve } from './embedded'

export function dataFolder(): string {
  return resolve(process.env.WIREMAN_DATA || './data')
}

/** What the build leaves beside the built server. */
const beside = (name: string) => join(dirname(resolve(process.argv[1] ?? '.')), '..', name)
const templatePath = () => process.env.WIREMAN_TEMPLATE || beside('template')
const migrationsFolder = () => process.env.WIREMAN_MIGRATIONS || beside('migrations')

async function open(): Promise<Engine> {
  const url = process.env.WIREMAN_DATABASE
  const common = { migrationsFolder: migrationsFolder(), isEmpty: Boolean(process.env.WIREMAN_EMPTY) }
  const engine = url
    ? await (await import('./postgres')).openPostgres({ url, ...common })
    : await openEmbedded({ folder: dataFolder(), template: templatePath(), ...common })
  process.off('SIGINT', end).once('SIGINT', end)
  process.off('SIGTERM', end).once('SIGTERM', end)
  return engine
}

/** Writes all that is due and lets go. */
export async function close(): Promise<void> {
  if (!opened) return
  const engine = await opened
  opened = undefined
  await engine.close()
}

async function end() {
  await close().catch((error: unknown) => console.error(error))
  process.exit(0)
}

/** What was written so far would outlive a power cut when this comes back: no change is acknowledged before. */
export const onDisk = async (): Promise<void> => (await opening()).onDisk()

/** Throws ENOSPC where so many bytes more do not fit: asked before anything is written. */
export const room = async (bytes: number): Promise<void> => (await opening()).room(bytes)

let opened: Promise<Engine> | undefined

/** Opened when first asked for. Where it cannot be opened the server ends, in words. */
const opening = (): Promise<Engine> =>
  (opened ??= open().catch((error: unknown) => {
    const words = () =>
      process.env.WIREMAN_DATABASE ? databaseInWords(error, process.env.WIREMAN_DATABASE) : inWords(error, dataFolder())
    console.error(error instanceof FolderInUse ? error.message : words())
    process.exit(1)
  }))

export const database = async (): Promise<Database> => (await opening()).db
