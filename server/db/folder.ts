import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

/** The data folder: never begun anew over what somebody owns, and what is wrong with it said in words. */

/** Something about the folder keeps the server from starting. Its message is for the operator. */
export class FolderTrouble extends Error {}

const MARK = 'wireman-data.json'
const FORMAT = 'wireman-data'
/** What a start that was cut short leaves, the lock, and what stands beside the data. */
const OWN = /^(wireman\.lock.*|wireman\.probe|pg\.new|pg\.hold|backups|lan|lost\+found)$/

interface Mark {
  format: typeof FORMAT
  /** Steps of the tables that were made (server/db/migrations). */
  steps: number
}

/**
 * Whether a folder is new, or holds data that this program reads: marked as such, or from before there was a mark.
 * Throws FolderTrouble where none of it is so. Makes the folder where there is none, and writes nothing into it.
 * @param steps of the tables that this program knows
 */
export function lookAt(folder: string, steps: number): 'new' | 'known' | 'unmarked' {
  makeFolder(folder)
  const names = readdirSync(folder)
  const mark = markIn(folder)
  if (mark && mark.steps > steps)
    throw new FolderTrouble(
      `The data in ${folder} was written by a newer Wireman. Start that one; this one would not understand all of it.`,
    )
  if (!names.includes('pg')) {
    const others = names.filter(n => !OWN.test(n) && n !== MARK)
    if (mark)
      throw new FolderTrouble(
        `The data folder ${folder} has lost its folder pg, in which the stations are. ${fromCopy(folder)}`,
      )
    if (others.length)
      throw new FolderTrouble(
        `${folder} holds other things (${others.slice(0, 3).join(', ')}) and no data of Wireman; nothing is written ` +
          `into it. Choose an empty folder, or a new one, with WIREMAN_DATA.`,
      )
    return 'new'
  }
  const lost = NEEDED.filter(name => !existsSync(join(folder, 'pg', name)))
  if (lost.length && !existsSync(join(folder, 'pg.hold', 'complete')))
    throw new FolderTrouble(
      `The data folder ${folder} is damaged: pg has lost ${lost.join(', ')}. Nothing was changed. ${fromCopy(folder)}`,
    )
  return mark ? 'known' : 'unmarked'
}

/** A copy of a day: those kept before a restoring are older or newer, their names do not tell. */
const DAY_COPY = /^\d{4}-\d\d-\d\d\.jsonl$/

/** What can be done for a folder that is damaged. */
export function fromCopy(folder: string): string {
  const backups = join(folder, 'backups')
  const last = existsSync(backups)
    ? readdirSync(backups)
        .filter(n => DAY_COPY.test(n))
        .sort()
        .at(-1)
    : undefined
  const elsewhere = 'choose another folder with WIREMAN_DATA'
  return last
    ? `Put it back from a copy; or ${elsewhere}, and restore ${join(backups, last)} there: ./run restore.`
    : `Put it back from a copy; to begin anew, ${elsewhere}.`
}

/** Without any of these the engine would begin anew, or not at all. */
const NEEDED = ['PG_VERSION', 'base', 'global', join('global', 'pg_control'), 'pg_wal', 'pg_xact']

function makeFolder(folder: string) {
  try {
    mkdirSync(folder, { recursive: true })
  } catch (error) {
    throw new FolderTrouble(inWords(error, folder))
  }
}

function markIn(folder: string): Mark | null {
  try {
    const mark = JSON.parse(readFileSync(join(folder, MARK), 'utf8')) as Mark
    return mark.format === FORMAT && Number.isInteger(mark.steps) ? mark : null
  } catch {
    return null
  }
}

/** Says that the folder is Wireman's, and what its tables are. */
export function markFolder(folder: string, steps: number) {
  if (markIn(folder)?.steps === steps) return
  writeFileSync(join(folder, MARK), `${JSON.stringify({ format: FORMAT, steps } satisfies Mark)}\n`)
}

const REASONS: Record<string, string> = {
  ENOSPC: 'the disk is full. Make room and start again; nothing that was saved is lost',
  EROFS: 'the disk cannot be written to. Mount it for writing, or choose another folder with WIREMAN_DATA',
  EACCES: 'this user may not write there. Give it leave, or choose another folder with WIREMAN_DATA',
  EPERM: 'this user may not write there. Give it leave, or choose another folder with WIREMAN_DATA',
  ENOTDIR: 'a file stands in the way. Choose another folder with WIREMAN_DATA',
  EEXIST: 'a file stands in the way. Choose another folder with WIREMAN_DATA',
  EIO: 'the disk answers with errors. Copy what can be read to another one',
  ENODEV: 'the disk is gone. Plug it in again',
}

/** What lies at the bottom of an error: the ORM's own repeats the whole query. */
function rootOf(error: unknown): unknown {
  const { cause } = (error ?? {}) as { cause?: unknown }
  return cause instanceof Error ? rootOf(cause) : error
}

/** Why a data folder cannot be opened, for the operator. */
export function inWords(error: unknown, folder: string): string {
  if (error instanceof FolderTrouble) return error.message
  const { code, message } = rootOf(error) as NodeJS.ErrnoException
  const reason =
    (code && REASONS[code]) ?? `${message ?? String(error)}. Nothing was begun anew. Put it back from a copy`
  return `The data folder ${folder} cannot be opened: ${reason}.`
}
