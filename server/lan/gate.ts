import type { IncomingMessage, RequestListener, ServerResponse } from 'node:http'
import { z } from 'zod'
import { deviceOf, pairDevice, type Device } from '../db/devices'
import { troubleOf } from '../requests/troubles'
import { PAIR_PAGE, PAIR_PAGE_POLICY } from './pairPage'
import type { Pairing } from './pairing'

/** All that comes from the net passes here first: without a session nothing answers but the page that asks for one. */

export interface GateOptions {
  pairing: Pairing
  /** Hosts with their port, as they were offered: nothing else is answered. */
  hosts: () => ReadonlySet<string>
  /** The certificate that a device may trust, PEM. */
  authority: () => string
  /** What answers devices that were let in. */
  inside: RequestListener
}

const COOKIE = '__Host-wireman'
/** The longest that browsers keep one; a session that nobody uses is over long before (server/db/devices.ts). */
const COOKIE_DAYS = 400
const DAY_S = 86_400
const MOST_BYTES = 2000

/** The device that a request comes from; none: this machine itself. */
const DEVICES = new WeakMap<IncomingMessage, Device>()
export const deviceAt = (request: IncomingMessage): Device | undefined => DEVICES.get(request)

/** Answers that a device has not had the end of yet: a stream of changes stays open for hours. */
const OPEN = new Map<string, Set<ServerResponse>>()

function keepOpen({ id }: Device, response: ServerResponse) {
  const its = OPEN.get(id) ?? new Set()
  OPEN.set(id, its.add(response))
  response.once('close', () => {
    its.delete(response)
    if (!its.size) OPEN.delete(id)
  })
}

/** Ends what a device still has open: its session was taken back. */
export function cutOff(id: string) {
  for (const response of OPEN.get(id) ?? []) response.destroy()
}

const HEADERS = {
  'x-content-type-options': 'nosniff',
  'referrer-policy': 'no-referrer',
  'x-frame-options': 'DENY',
  'cache-control': 'no-store',
}

function answer(response: ServerResponse, status: number, headers: Record<string, string>, body: string) {
  response.writeHead(status, { ...HEADERS, ...headers })
  response.end(body)
}
const refuse = (response: ServerResponse, status: number, message: string) =>
  answer(response, status, { 'content-type': 'application/json', connection: 'close' }, JSON.stringify({ message }))

const NOT_OFFERED = 'Wireman does not answer at this name.'
const FOREIGN = 'Wireman does not answer pages of other sites.'
const NOT_LET_IN = 'This device has not been let in, or no longer is: open /pair.'

export function gateOf({ pairing, hosts, authority, inside }: GateOptions): RequestListener {
  return (request, response) => {
    void through(request, response).catch((error: unknown) => {
      const trouble = troubleOf(error)
      if (!trouble) console.error(error)
      if (response.headersSent) return
      refuse(response, trouble?.statusCode ?? 500, trouble?.message ?? 'Something went wrong here.')
    })
  }

  async function through(request: IncomingMessage, response: ServerResponse) {
    const { host, origin } = request.headers
    if (!host || !hosts().has(host.toLowerCase())) return refuse(response, 421, NOT_OFFERED)
    if (origin !== undefined && origin.toLowerCase() !== `https://${host.toLowerCase()}`)
      return refuse(response, 403, FOREIGN)
    const path = (request.url ?? '/').split(/[?#]/)[0]!
    if (path === '/pair/authority.crt' && request.method === 'GET')
      return answer(response, 200, { 'content-type': 'application/x-x509-ca-cert' }, authority())
    const device = await sessionOf(request)
    if (path === '/pair') return device ? goTo(response, '/') : askOrPair(request, response)
    if (device) {
      DEVICES.set(request, device)
      keepOpen(device, response)
      return inside(request, response)
    }
    if (request.method === 'GET' && /text\/html/.test(request.headers.accept ?? '')) return goTo(response, '/pair')
    refuse(response, 401, NOT_LET_IN)
  }

  async function askOrPair(request: IncomingMessage, response: ServerResponse) {
    if (request.method === 'GET')
      return answer(
        response,
        200,
        { 'content-type': 'text/html; charset=utf-8', 'content-security-policy': PAIR_PAGE_POLICY },
        PAIR_PAGE,
      )
    if (request.method !== 'POST') return refuse(response, 405, 'GET or POST.')
    // Another site's page cannot send this type without asking first, and is not answered then.
    if (!/^application\/json\b/i.test(request.headers['content-type'] ?? ''))
      return refuse(response, 415, 'Send it as JSON (content-type: application/json).')
    const asked = askedSchema.safeParse(await jsonOf(request))
    if (!asked.success) return refuse(response, 400, 'Enter the code and a name of up to 40 letters.')
    const guess = pairing.guess(asked.data.code, request.socket.remoteAddress ?? '')
    if (guess.is === 'early')
      return refuse(response, 429, `Too many wrong codes. Try again in ${Math.ceil(guess.waitMs / 1000)} s.`)
    if (guess.is === 'wrong') return refuse(response, 403, 'That is not the code on the station’s screen.')
    if (guess.is === 'none')
      return refuse(
        response,
        403,
        'No code holds now. Ask for a new one on the station’s screen: it holds for five minutes.',
      )
    const { token } = await pairDevice(asked.data.name)
    answer(response, 200, { 'content-type': 'application/json', 'set-cookie': cookieOf(token) }, '{}')
  }
}

const askedSchema = z.strictObject({
  code: z.string().min(1).max(40),
  name: z
    .string()
    .trim()
    .min(1)
    .max(40)
    .regex(/^[^\p{C}]+$/u),
})

const goTo = (response: ServerResponse, location: string) => answer(response, 303, { location }, '')

const cookieOf = (token: string) =>
  `${COOKIE}=${token}; Path=/; Secure; HttpOnly; SameSite=Strict; Max-Age=${COOKIE_DAYS * DAY_S}`

/** A session's secret is 32 bytes. */
const TOKEN = new RegExp(`(?:^|;\\s*)${COOKIE}=([A-Za-z0-9_-]{43})(?:;|$)`)

async function sessionOf({ headers }: IncomingMessage): Promise<Device | null> {
  const token = TOKEN.exec(headers.cookie ?? '')?.[1]
  return token ? deviceOf(token) : null
}

/** The JSON of a small body; null where it is none or too large. */
async function jsonOf(request: IncomingMessage): Promise<unknown> {
  let text = ''
  for await (const chunk of request) {
    text += String(chunk)
    if (text.length > MOST_BYTES) return null
  }
  try {
    return JSON.parse(text)
  } catch {
    return null
  }
}
