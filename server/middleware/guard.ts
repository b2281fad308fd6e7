import type { H3Event } from 'h3'
import { room } from '../db/client'
import { deviceAt } from '../lan/gate'

/** Largest request body, bytes: a plan of the most parts a plan may have fits. */
const MOST_BYTES = 4 * 1024 * 1024
/** A backup is everything there is. */
const MOST_BACKUP_BYTES = 256 * 1024 * 1024
const OWN_HOSTS = new Set(['127.0.0.1', 'localhost', '[::1]'])

const hasBody = (length: string | undefined) => length !== undefined && length !== '0'

const hostOf = (value: string) => value.replace(/:\d+$/, '').toLowerCase()

function isOwnOrigin(origin: string): boolean {
  try {
    return OWN_HOSTS.has(hostOf(new URL(origin).host))
  } catch {
    return false
  }
}

/**
 * Whatever may write. Who shuts phones out is heard on a full disk as well (server/db/devices.ts asks for room itself),
 * and so is who looks at a backup (the route asks before it restores).
 */
const wantsRoom = (path: string) => /^\/api\/(?!lan(\/|$)|backup(\?|$))/.test(path)

function refuse(statusCode: number, message: string): never {
  throw createError({ statusCode, message })
}

function ownMachine(event: H3Event) {
  const { host, origin } = getRequestHeaders(event)
  const address = event.node.req.socket.remoteAddress ?? ''
  if (address && !/^(::ffff:)?127\.|^::1$/.test(address)) refuse(403, 'Wireman answers this machine only.')
  if (!host || !OWN_HOSTS.has(hostOf(host)))
    refuse(403, `Wireman answers at 127.0.0.1 and localhost only, not at ${String(host).slice(0, 100)}.`)
  if (origin && !isOwnOrigin(origin)) refuse(403, 'Wireman does not answer pages of other sites.')
}

/**
 * The server is for the person at this machine, and for devices that the gate let in (server/lan/gate.ts, which holds
 * them to the names that were offered): requests from elsewhere, or made by another site's page, are refused.
 */
export default defineEventHandler(async event => {
  const { 'content-length': length, 'sec-fetch-site': site } = getRequestHeaders(event)
  if (!deviceAt(event.node.req)) ownMachine(event)
  // No name has it, and the database has no letter for it.
  if (/%00|\0/.test(event.node.req.url ?? event.path)) refuse(404, 'There is no such thing here.')
  // Following a link to the page is fine; asking the routes from another site's page is not.
  if (site === 'cross-site' && event.path.startsWith('/api'))
    refuse(403, 'Wireman does not answer pages of other sites.')
  if (['POST', 'PUT', 'PATCH'].includes(event.method)) {
    const isBackup = event.path.split('?')[0] === '/api/backup'
    const most = isBackup ? MOST_BACKUP_BYTES : MOST_BYTES
    const unread = getRequestHeader(event, 'transfer-encoding') !== undefined || Number(length) > most
    // The body of a refused request is never read, so its connection cannot serve another.
    if (unread) setResponseHeader(event, 'connection', 'close')
    if (getRequestHeader(event, 'transfer-encoding')) refuse(411, 'Say the length of the body (Content-Length).')
    if (Number(length) > most)
      refuse(413, `The body is larger than ${most / 1024 / 1024} MB, more than any ${isBackup ? 'backup' : 'plan'}.`)
    const type = getRequestHeader(event, 'content-type') ?? ''
    if (!/^application\/json\b/i.test(type) && hasBody(length)) {
      setResponseHeader(event, 'connection', 'close')
      refuse(415, 'Send it as JSON (content-type: application/json).')
    }
  }
  if (event.method !== 'GET' && wantsRoom(event.path)) await room(Number(length) || 0)
})
