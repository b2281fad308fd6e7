import type { Fault } from '#core/plan/faults'
import { keepAnswer, keptAnswer } from './keptHere'
import { awayWords, noteAnswer } from './reach'

/** Asking the server: every call answers with a value or throws ApiError with words for the user. */

export class ApiError extends Error {
  constructor(
    message: string,
    readonly code: number,
    readonly faults: Fault[] = [],
  ) {
    super(message)
  }
}

/** A server that is silent for so long counts as one that does not answer, ms. */
const TIME_LIMIT_MS = 10000

/** What a browser takes over the end of a page, bytes: 64 KiB for all that is on its way, beyond which it refuses. */
const OUTLIVES_BYTES = 60_000
/** What is on its way so that it outlives the page, bytes. */
let outlivingBytes = 0

/** Sends a body; a page may be left at any moment, and what fits outlives it. */
async function sent(at: string, init: RequestInit, text: string): Promise<Response> {
  const bytes = new Blob([text]).size
  const keepalive = outlivingBytes + bytes < OUTLIVES_BYTES
  if (keepalive) outlivingBytes += bytes
  try {
    return await fetch(at, { ...init, body: text, headers: { 'content-type': 'application/json' }, keepalive })
  } finally {
    if (keepalive) outlivingBytes -= bytes
  }
}

interface Call {
  body?: unknown
  /** Statuses that are an answer too. */
  accept?: number[]
  /** Where the routes begin. */
  root?: string
  timeLimitMs?: number
  /** The answer is kept here, and stands in while the server is away. */
  keeps?: boolean
}

export async function request<T>(method: string, path: string, call: Call = {}): Promise<T> {
  const { body, accept = [], root = '/api/stations', timeLimitMs = TIME_LIMIT_MS, keeps = false } = call
  const at = `${root}${path}`
  let response: Response
  const text = body === undefined ? undefined : JSON.stringify(body)
  try {
    const init = { method, signal: AbortSignal.timeout(timeLimitMs) }
    response = text === undefined ? await fetch(at, init) : await sent(at, init, text)
  } catch {
    noteAnswer()
    const known = keeps ? await keptAnswer<T>(at) : undefined
    if (known !== undefined) return known
    throw new ApiError(awayWords(), 0)
  }
  noteAnswer(response.status)
  const value = (await response.json().catch(() => null)) as { message?: string; data?: { faults?: Fault[] } } | null
  if (response.ok && keeps) void keepAnswer(at, value)
  if (response.ok || accept.includes(response.status)) return value as T
  const words = value?.message ?? `The server answered ${response.status}.`
  throw new ApiError(words, response.status, value?.data?.faults)
}
