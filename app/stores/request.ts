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

/** The page is being left: what is sent now has to outlive it. Registered first, before any view listens. */
let leaving = false
if (typeof window !== 'undefined')
  window.addEventListener('beforeunload', () => {
    leaving = true
    // Whoever stays after all is not leaving.
    setTimeout(() => (leaving = false))
  })
/** What a browser takes over the end of a page, bytes: under 64 KiB for all that is on its way. */
const OUTLIVES_BYTES = 60_000

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
    response = await fetch(at, {
      method,
      signal: AbortSignal.timeout(timeLimitMs),
      ...(text !== undefined && { body: text, headers: { 'content-type': 'application/json' } }),
      ...(leaving && text !== undefined && text.length < OUTLIVES_BYTES && { keepalive: true }),
    })
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
