import pg from 'pg'
import { publishBy, tellWindows, type Change } from './changes'

/** Changes told between servers on one database: NOTIFY to say, LISTEN to hear. */

const CHANNEL = 'wireman'
/** A connection that broke is made anew after so long, ms. */
const AGAIN_AFTER_MS = 1000

/** @returns ends it */
export async function shareChanges(pool: pg.Pool, connection: pg.ClientConfig): Promise<() => Promise<void>> {
  let isOver = false
  let client: pg.Client | undefined
  async function listen() {
    const fresh = new pg.Client({ ...connection, keepAlive: true })
    fresh.on('error', () => undefined)
    fresh.on('notification', ({ payload }) => tellWindows(JSON.parse(payload ?? '') as Change))
    await fresh.connect()
    fresh.once('end', again)
    client = fresh
    await fresh.query(`LISTEN ${CHANNEL}`)
  }
  function again() {
    if (isOver) return
    // What was said meanwhile was missed.
    const listening = () => listen().then(() => tellWindows({ of: 'all' }), again)
    setTimeout(() => void listening(), AGAIN_AFTER_MS).unref()
  }
  await listen()
  publishBy(change => pool.query('SELECT pg_notify($1, $2)', [CHANNEL, JSON.stringify(change)]))
  return async () => {
    isOver = true
    await client?.end()
  }
}
