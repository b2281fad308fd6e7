import { database } from '../db/client'
import { keepDaily } from '../db/kept'
import { listStations } from '../db/stations'

/**
 * Pause before the database is opened, ms: opening it holds the server up, and the first page's files come sooner
 * without.
 */
const AFTER_FIRST_FILES_MS = 350

/** The day's copy is looked for so long after the start, and so often, ms. */
const FIRST_COPY_MS = 5 * 60_000
const COPIES_EVERY_MS = 3600_000

/** What cannot be read any more is told at the start, not first when somebody misses it. */
async function tellLost() {
  for (const { name, trouble } of await listStations()) if (trouble) console.error(`${name}: ${trouble}`)
}

export default defineNitroPlugin(() => {
  process.on('uncaughtException', (error: NodeJS.ErrnoException) => {
    if (error.code !== 'EADDRINUSE') return
    console.error(
      'The port is taken, perhaps by another Wireman. Use that one, or choose another port: PORT=3211 ./run demo',
    )
    process.exit(1)
  })
  setTimeout(() => void database().then(tellLost, () => undefined), AFTER_FIRST_FILES_MS)
  // A copy a day, first once the station has been worked on for a while.
  const keep = () => void keepDaily(new Date().toISOString().slice(0, 10)).catch(e => console.error(String(e)))
  setTimeout(keep, FIRST_COPY_MS).unref()
  setInterval(keep, COPIES_EVERY_MS).unref()
})
