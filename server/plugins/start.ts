import type { RequestListener } from 'node:http'
import { database } from '../db/client'
import { keepDaily } from '../db/kept'
import { lookForLost } from '../db/stations'
import { thinHistories } from '../db/thin'
import { lan } from '../lan/lan'
import { invite } from '../lan/invite'

/**
 * Pause before the database is opened, ms: opening it holds the server up, and the first page's files come sooner
 * without.
 */
const AFTER_FIRST_FILES_MS = 100

/** The day's copy is looked for so long after the start, and so often, ms. */
const FIRST_COPY_MS = 5 * 60_000
const COPIES_EVERY_MS = 3600_000

/** What cannot be read any more is told at the start, not first when somebody misses it. */
async function tellLost() {
  for (const words of await lookForLost()) console.error(words)
}

/** What answers this machine answers the devices that were let in as well, where that was chosen. */
async function listenOnLan(inside: RequestListener) {
  await lan.serve(inside)
  if (process.env.WIREMAN_LAN) invite(console.log)
}

export default defineNitroPlugin(nitro => {
  process.on('uncaughtException', (error: NodeJS.ErrnoException) => {
    if (error.code !== 'EADDRINUSE') return
    console.error(
      'The port is taken, perhaps by another Wireman. Use that one, or choose another port: PORT=3211 ./run demo',
    )
    process.exit(1)
  })
  const begin = async () => {
    await database()
    await listenOnLan(toNodeListener(nitro.h3App))
    await tellLost()
  }
  setTimeout(() => void begin().catch(e => console.error(String(e))), AFTER_FIRST_FILES_MS)
  // A copy a day, first once the station has been worked on for a while.
  const keep = () =>
    void keepDaily(new Date().toISOString().slice(0, 10))
      .then(() => thinHistories(new Date()))
      .catch(e => console.error(String(e)))
  setTimeout(keep, FIRST_COPY_MS).unref()
  setInterval(keep, COPIES_EVERY_MS).unref()
})
