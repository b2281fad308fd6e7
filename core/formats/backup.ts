import { z } from 'zod'
import { eventSchema } from '../hours/event'
import { logSchema } from '../log/log'
import { logbookSchema } from '../noise/logbook'
import { readPlan } from '../plan/faults'
import { shelfSchema } from '../shelf/item'

/**
 * Everything of a data folder in one file, `wireman-backup` version 1: JSON lines, a head, then stations each followed
 * by its revisions and documents, then the shelf. Every line stands by itself, so that a torn file gives what it has.
 */

export const BACKUP_FORMAT = 'wireman-backup'
const VERSION = 1

const when = z.iso.datetime({ offset: true })
const stationId = z.string().min(1).max(60)
const headSchema = z.strictObject({ format: z.literal(BACKUP_FORMAT), version: z.literal(VERSION), savedAt: when })
const stationSchema = z.strictObject({
  id: stationId,
  name: z.string().max(200),
  revision: z.int().min(1),
  createdAt: when,
  updatedAt: when,
  deletedAt: when.nullable(),
})
const revisionSchema = z.strictObject({
  stationId,
  number: z.int().min(1),
  note: z.string().max(200),
  who: z.string().max(60).default(''),
  name: z.string().max(80).default(''),
  savedAt: when,
  plan: z.unknown(),
})
const DOCUMENTS = { noise: logbookSchema, hours: z.array(eventSchema).max(100), log: logSchema }
export type DocumentName = keyof typeof DOCUMENTS
const documentSchema = z.strictObject({
  of: z.enum(['noise', 'hours', 'log']),
  stationId,
  revision: z.int().min(1),
  body: z.unknown(),
})

/** What could not be read any more when the backup was made. */
const lostSchema = z.strictObject({ name: z.string().max(200), what: z.string().max(200) })

export type BackupLost = z.infer<typeof lostSchema>
export type BackupStation = z.infer<typeof stationSchema>
export type BackupRevision = z.infer<typeof revisionSchema>
export type BackupDocument = z.infer<typeof documentSchema>

export interface Backup {
  savedAt: string
  stations: BackupStation[]
  revisions: BackupRevision[]
  documents: BackupDocument[]
  shelf: z.infer<typeof shelfSchema> | null
}

export interface BackupAside {
  line: number
  wrong: string
}
export type BackupRead =
  { ok: true; backup: Backup; aside: BackupAside[] } | { ok: false; line: number; wrong: string; right: string }

export const backupHead = (savedAt: string) => JSON.stringify({ format: BACKUP_FORMAT, version: VERSION, savedAt })

/** Never throws. Lines that cannot be used are told and left aside; what a station needs and has not is told too. */
export function readBackup(text: string): BackupRead {
  const lines = text.replace(/^\uFEFF/, '').split(/\r?\n/)
  const right = 'a wireman-backup file, as Wireman saves it'
  const head = headSchema.safeParse(parsed(lines[0] ?? ''))
  if (!head.success) return { ok: false, line: 1, wrong: headFault(lines[0] ?? ''), right }
  const backup: Backup = { savedAt: head.data.savedAt, stations: [], revisions: [], documents: [], shelf: null }
  const aside: BackupAside[] = []
  lines.forEach((line, i) => {
    if (!i || !line.trim()) return
    const wrong = taken(backup, parsed(line))
    if (wrong) aside.push({ line: i + 1, wrong })
  })
  const has = (s: BackupStation) => backup.revisions.some(r => r.stationId === s.id && r.number === s.revision)
  for (const s of backup.stations.filter(s => !has(s)))
    aside.push({ line: 0, wrong: `${s.name}: its plan as it stood (revision ${s.revision}) is not in the file` })
  backup.stations = backup.stations.filter(has)
  return { ok: true, backup, aside }
}

function parsed(line: string): unknown {
  try {
    return JSON.parse(line)
  } catch {
    return undefined
  }
}

function headFault(line: string): string {
  const { format, version } = (parsed(line) ?? {}) as { format?: unknown; version?: unknown }
  if (format !== BACKUP_FORMAT) return `it does not begin as a ${BACKUP_FORMAT} file`
  return typeof version === 'number' && version > VERSION
    ? `version ${version} is newer than this program`
    : 'its head is damaged'
}

/** Takes a line. @returns what is wrong with it; empty where it was taken */
function taken(backup: Backup, value: unknown): string {
  const { station, revision, document, shelf, lost } = (value ?? {}) as Record<string, unknown>
  if (station !== undefined) return into(backup.stations, stationSchema.safeParse(station))
  if (revision !== undefined) {
    const read = revisionSchema.safeParse(revision)
    if (!read.success) return fault(read.error)
    const plan = readPlan(read.data.plan)
    if (!plan.ok) return `revision ${read.data.number}: ${plan.faults[0]!.path} ${plan.faults[0]!.wrong}`
    backup.revisions.push(read.data)
    return ''
  }
  if (document !== undefined) {
    const read = documentSchema.safeParse(document)
    if (!read.success) return fault(read.error)
    const body = DOCUMENTS[read.data.of].safeParse(read.data.body)
    return body.success ? into(backup.documents, read) : fault(body.error)
  }
  if (shelf !== undefined) {
    const read = shelfSchema.safeParse(shelf)
    if (!read.success) return fault(read.error)
    backup.shelf = read.data
    return ''
  }
  if (lost !== undefined) {
    const read = lostSchema.safeParse(lost)
    return read.success ? lostWords(read.data) : fault(read.error)
  }
  return 'it is no line of a backup: torn, or of another program'
}

/** "Tern Rock: its log could not be read when the backup was made" */
const lostWords = ({ name, what }: BackupLost) => `${name}: ${what} could not be read when the backup was made`

/** What a line of a backup says is missing from it; empty where it says no such thing. */
export function lostIn(line: string): string {
  const read = lostSchema.safeParse((parsed(line) as { lost?: unknown } | undefined)?.lost)
  return read.success ? lostWords(read.data) : ''
}

function into<T>(list: T[], read: z.ZodSafeParseResult<T>): string {
  if (!read.success) return fault(read.error)
  list.push(read.data)
  return ''
}

const fault = (error: z.ZodError) => `${error.issues[0]!.path.join('/') || 'line'}: ${error.issues[0]!.message}`
