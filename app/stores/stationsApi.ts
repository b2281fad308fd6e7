import type { Fault } from '#core/plan/faults'
import type { TriedCure } from '#core/noise/cure'
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
}
export interface StationPlan {
  id: string
  name: string
  revision: number
  savedAt: string
  plan: Plan
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

async function request<T>(
  method: string,
  path: string,
  body?: unknown,
  accept: number[] = [],
  root = '/api/stations',
): Promise<T> {
  let response: Response
  try {
    response = await fetch(`${root}${path}`, {
      method,
      ...(body !== undefined && { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }),
    })
  } catch {
    throw new ApiError('The server does not answer. Start it again with ./run demo; nothing typed here is lost.', 0)
  }
  const value = (await response.json().catch(() => null)) as { message?: string; data?: { faults?: Fault[] } } | null
  if (!response.ok && !accept.includes(response.status))
    throw new ApiError(
      value?.message ?? `The server answered ${response.status}.`,
      response.status,
      value?.data?.faults,
    )
  return value as T
}

export interface ShelfState {
  revision: number
  items: ShelfItem[]
}

/** The shelf: read whole, saved whole, refused where another window saved since. */
export const shelfApi = {
  read: () => request<ShelfState>('GET', '', undefined, [], '/api/shelf'),
  save: (baseRevision: number, items: ShelfItem[]) =>
    request<{ status: 'saved' | 'conflict' } & ShelfState>('PUT', '', { baseRevision, items }, [409], '/api/shelf'),
}

export interface LogbookState {
  revision: number
  logbook: Logbook
}

/** A station's noise logbook: read whole, saved whole, refused where another window saved since. */
export const noiseApi = {
  read: (id: string) => request<LogbookState>('GET', `/${id}/noise`),
  save: (id: string, baseRevision: number, logbook: Logbook) =>
    request<{ status: 'saved' | 'conflict' } & LogbookState>('PUT', `/${id}/noise`, { baseRevision, logbook }, [409]),
  /** Cures tried at any of the operator's stations. */
  tried: () => request<TriedCure[]>('GET', '', undefined, [], '/api/cures'),
}

export const stationsApi = {
  list: () => request<StationRow[]>('GET', ''),
  read: (id: string) => request<StationPlan>('GET', `/${id}`),
  create: (plan: Plan, note: string) => request<StationPlan>('POST', '', { plan, note }),
  save: (id: string, baseRevision: number, plan: Plan, note: string) =>
    request<SaveResult>('PUT', `/${id}`, { baseRevision, plan, note }, [409]),
  remove: (id: string) => request<unknown>('DELETE', `/${id}`),
  restore: (id: string) => request<unknown>('POST', `/${id}/restore`),
  revisions: (id: string) => request<Revision[]>('GET', `/${id}/revisions`),
  revision: (id: string, number: number) => request<StationPlan>('GET', `/${id}/revisions/${number}`),
}
