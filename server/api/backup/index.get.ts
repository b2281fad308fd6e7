import { Readable } from 'node:stream'
import { backupText } from '../../db/backup'

/** Everything in one file, wireman-backup as JSON lines. */
export default defineEventHandler(event => {
  const day = new Date().toISOString().slice(0, 10)
  setResponseHeader(event, 'content-type', 'application/x-ndjson; charset=utf-8')
  setResponseHeader(event, 'content-disposition', `attachment; filename="wireman-backup-${day}.jsonl"`)
  return sendStream(event, Readable.from(backupText()))
})
