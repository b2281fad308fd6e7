import type { Fault } from '#core/plan/faults'
import type { TriedCure } from '#core/noise/cure'
import type { HoursEvent } from '#core/hours/event'
import type { Log } from '#core/log/log'
import type { Logbook } from '#core/noise/logbook'
import type { Plan } from '#core/plan/schema'
import type { ShelfItem } from '#core/shelf/item'

/** The server's routes, typed. Every call answers with a value or throws ApiError with words for the user. */

export interface StationRow {
  id: string
  name: string
  revision: number
  updatedAt: string
  parts: number
  /** What of it cannot be read. */
  trouble?: string
}
export interface DeletedStation {
  id: string
  name: string
  deletedAt: string
}
export interface StationPlan {
  id: string
  name: string
  revision: number
  savedAt: string
  plan: Plan
  /** What of it cannot be read any more, in words. */
  trouble?: string
}
export interface Revision {
  number: number
  note: string
  savedAt: string
}
export type SaveResult =
  { status: 'saved'; revision: number; savedAt: string } | { status: 'conflict'; current: StationPlan }

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
}

async function request<T>(method: string, path: string, call: Call = {}): Promise<T> {
  const { body, accept = [], root = '/api/stations', timeLimitMs = TIME_LIMIT_MS } = call
  let response: Response
  const text = body === undefined ? undefined : JSON.stringify(body)
  try {
    response = await fetch(`${root}${path}`, {
      method,
      signal: AbortSignal.timeout(timeLimitMs),
      ...(text !== undefined && { body: text, headers: { 'content-type': 'application/json' } }),
      ...(leaving && text !== undefined && text.length < OUTLIVES_BYTES && { keepalive: true }),
    })
  } catch {
    throw new ApiError('The server does not answer. Start it again with ./run demo; nothing typed here is lost.', 0)
  }
  const value = (await response.json().catch(() => null)) as { message?: string; data?: { faults?: Fault[] } } | null
  if (response.ok || accept.includes(response.status)) return value as T
  const words = value?.message ?? `The server answered ${response.status}.`
  throw new ApiError(words, response.status, value?.data?.faults)
}

export interface ShelfState {
  revision: number
  items: ShelfItem[]
}

/** The shelf: read whole, saved whole, refused where another window saved since. */
export const shelfApi = {
  read: () => request<ShelfState>('GET', '', { root: '/api/shelf' }),
  save: (baseRevision: number, items: ShelfItem[]) =>
    request<{ status: 'saved' | 'conflict' } & ShelfState>('PUT', '', {
      body: { baseRevision, items },
      accept: [409],
      root: '/api/shelf',
    }),
}

export interface LogbookState {
  revision: number
  logbook: Logbook
}

/** A station's noise logbook: read whole, saved whole, refused where another window saved since. */
export const noiseApi = {
  read: (id: string) => request<LogbookState>('GET', `/${id}/noise`),
  save: (id: string, baseRevision: number, logbook: Logbook) =>
    request<{ status: 'saved' | 'conflict' } & LogbookState>('PUT', `/${id}/noise`, {
      body: { baseRevision, logbook },
      accept: [409],
    }),
  /** Cures tried at any of the operator's stations. */
  tried: () => request<TriedCure[]>('GET', '', { root: '/api/cures' }),
}

export interface EventsState {
  revision: number
  events: HoursEvent[]
}
export const hoursApi = {
  read: (id: string) => request<EventsState>('GET', `/${id}/hours`),
  save: (id: string, baseRevision: number, events: HoursEvent[]) =>
    request<{ status: 'saved' | 'conflict' } & EventsState>('PUT', `/${id}/hours`, {
      body: { baseRevision, events },
      accept: [409],
    }),
}

export interface LogState {
  revision: number
  log: Log
}
export const logApi = {
  read: (id: string) => request<LogState>('GET', `/${id}/log`),
  save: (id: string, baseRevision: number, log: Log) =>
    request<{ status: 'saved' | 'conflict' } & LogState>('PUT', `/${id}/log`, {
      body: { baseRevision, log },
      accept: [409],
    }),
}

export const stationsApi = {
  list: () => request<StationRow[]>('GET', ''),
  deleted: () => request<DeletedStation[]>('GET', '/deleted'),
  read: (id: string) => request<StationPlan>('GET', `/${id}`),
  create: (plan: Plan, note: string) => request<StationPlan>('POST', '', { body: { plan, note } }),
  save: (id: string, baseRevision: number, plan: Plan, note: string) =>
    request<SaveResult>('PUT', `/${id}`, { body: { baseRevision, plan, note }, accept: [409] }),
  remove: (id: string) => request<unknown>('DELETE', `/${id}`),
  restore: (id: string) => request<unknown>('POST', `/${id}/restore`),
  revisions: (id: string) => request<Revision[]>('GET', `/${id}/revisions`),
  revision: (id: string, number: number) => request<StationPlan>('GET', `/${id}/revisions/${number}`),
}

/** Instruments that tell what they show. */
export const instrumentsApi = {
  /** Sets simulated ones up on a station. @param hide seed of a fault hidden in it; null: none */
  simulate: (id: string, hide: number | null) =>
    request<{ port: number; hides: boolean }>('POST', `/${id}/instruments`, { body: { hide } }),
  ask: (session: string, command: string) =>
    request<{ asked: string }>('POST', '/commands', { body: { session, command }, root: '/api/instruments' }),
}

/** What restoring a backup would change, or changed. */
export interface RestoreTold {
  savedAt: string
  added: string[]
  changed: string[]
  putBack: string[]
  documents: string[]
  same: number
  shelf: boolean
  aside: { line: number; wrong: string }[]
  /** The copy of what stood before. */
  kept: string | null
}
export const backupApi = {
  from: (text: string, restores: boolean) =>
    request<RestoreTold>('POST', '', { body: { text, restores }, root: '/api/backup', timeLimitMs: 120_000 }),
}
