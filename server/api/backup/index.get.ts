import { Readable } from 'node:stream'
import { backupLines } from '../../db/backup'

/** Everything in one file, wireman-backup as JSON lines. */
export default defineEventHandler(event => {
  const day = new Date().toISOString().slice(0, 10)
  setResponseHeader(event, 'content-type', 'application/x-ndjson; charset=utf-8')
  setResponseHeader(event, 'content-disposition', `attachment; filename="wireman-backup-${day}.jsonl"`)
  const lines = async function* () {
    for await (const line of backupLines()) yield `${line}\n`
  }
  return sendStream(event, Readable.from(lines()))
})
