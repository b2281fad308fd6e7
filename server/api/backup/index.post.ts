import { readBackup } from '../../../core/formats/backup'
import { fromBackup } from '../../db/backup'
import { room } from '../../db/client'
import { keepCopy } from '../../db/kept'
import { backupBody } from '../../requests/body'

/** What a backup would change here; with `restores` it is done, after a copy of what stands was kept aside. */
export default defineEventHandler(async event => {
  const { text, restores } = await backupBody(event)
  const read = readBackup(text)
  if (!read.ok)
    throw createError({ statusCode: 422, message: `Line ${read.line}: ${read.wrong}; right would be ${read.right}.` })
  if (restores) await room(Buffer.byteLength(text))
  const kept = restores ? await keepCopy(`before-restoring-${new Date().toISOString().replaceAll(':', '-')}`) : null
  return { ...(await fromBackup(read.backup, restores)), savedAt: read.backup.savedAt, aside: read.aside, kept }
})
