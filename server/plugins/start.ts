import { database } from '../db/client'

/**
 * Pause before the database is opened, ms: opening it holds the server up, and the first page's files come sooner
 * without.
 */
const AFTER_FIRST_FILES_MS = 350

export default defineNitroPlugin(() => {
  process.on('uncaughtException', (error: NodeJS.ErrnoException) => {
    if (error.code !== 'EADDRINUSE') return
    console.error(
      'The port is taken, perhaps by another Wireman. Use that one, or choose another port: PORT=3211 ./run demo',
    )
    process.exit(1)
  })
  setTimeout(() => void database(), AFTER_FIRST_FILES_MS)
})
