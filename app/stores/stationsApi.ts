import type { TriedCure } from '#core/noise/cure'
import type { HoursEvent } from '#core/hours/event'
import type { Log } from '#core/log/log'
import type { Logbook } from '#core/noise/logbook'
import type { Plan } from '#core/plan/schema'
import type { ShelfItem } from '#core/shelf/item'
import { keepAnswer } from './keptHere'
import { request } from './request'

/** The server's routes, typed. */

export interface StationRow {
  id: string
  name: string
  revision: number
  updatedAt: string
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
  /** Given by somebody: it is kept for good. */
  name: string
  /** The device it was saved from; empty: the station's own machine. */
  who: string
  savedAt: string
}
export type SaveResult =
  { status: 'saved'; revision: number; savedAt: string } | { status: 'conflict'; current: StationPlan }

/** A document as it stands. */
export interface Stands<T> {
  revision: number
  value: T
}
type Saving<T> = { status: 'saved' | 'conflict' } & Stands<T>

/** A document: read whole, saved whole, refused where another window saved since. */
function documentApi<T>(pathOf: (id: string) => string, field: string) {
  type Answer = { revision: number } & Record<string, T>
  return {
    async read(id = ''): Promise<Stands<T>> {
      const answer = await request<Answer>('GET', pathOf(id), { root: '/api', keeps: true })
      return { revision: answer.revision, value: answer[field]! }
    },
    async save(id: string, baseRevision: number, value: T): Promise<Saving<T>> {
      const path = pathOf(id)
      const body = { baseRevision, [field]: value }
      const answer = await request<Answer & Pick<Saving<T>, 'status'>>('PUT', path, {
        body,
        accept: [409],
        root: '/api',
      })
      const { status, revision } = answer
      if (status === 'saved') void keepAnswer(`/api${path}`, { revision, [field]: value })
      return { status, revision, value: answer[field]! }
    },
  }
}

/** What the operator owns. */
export const shelfApi = documentApi<ShelfItem[]>(() => '/shelf', 'items')
export const noiseApi = documentApi<Logbook>(id => `/stations/${id}/noise`, 'logbook')
export const hoursApi = documentApi<HoursEvent[]>(id => `/stations/${id}/hours`, 'events')
export const logApi = documentApi<Log>(id => `/stations/${id}/log`, 'log')

/** Cures tried at any of the operator's stations. */
export const triedCures = () => request<TriedCure[]>('GET', '', { root: '/api/cures', keeps: true })

const KEPT = { keeps: true } as const

export const stationsApi = {
  list: () => request<StationRow[]>('GET', '', KEPT),
  deleted: () => request<DeletedStation[]>('GET', '/deleted', KEPT),
  read: (id: string) => request<StationPlan>('GET', `/${id}`, KEPT),
  create: (plan: Plan, note: string) => request<StationPlan>('POST', '', { body: { plan, note } }),
  async save(id: string, baseRevision: number, plan: Plan, note: string): Promise<SaveResult> {
    const result = await request<SaveResult>('PUT', `/${id}`, { body: { baseRevision, plan, note }, accept: [409] })
    if (result.status === 'saved') {
      const { revision, savedAt } = result
      void keepAnswer(`/api/stations/${id}`, { id, name: plan.name, revision, savedAt, plan } satisfies StationPlan)
    }
    return result
  },
  remove: (id: string) => request<unknown>('DELETE', `/${id}`),
  restore: (id: string) => request<unknown>('POST', `/${id}/restore`),
  revisions: (id: string) => request<Revision[]>('GET', `/${id}/revisions`, KEPT),
  nameRevision: (id: string, number: number, name: string) =>
    request<unknown>('PUT', `/${id}/revisions/${number}`, { body: { name } }),
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

/** A device that was let in. */
export interface DeviceRow {
  id: string
  name: string
  pairedAt: string
  seenAt: string
}
export interface LanTold {
  on: boolean
  urls: string[]
  trouble: string
}

/** Phones and others on the local net. */
export const lanApi = {
  read: () => request<LanTold & { devices: DeviceRow[] }>('GET', '', { root: '/api/lan' }),
  turn: (on: boolean) => request<LanTold>('PUT', '', { body: { on }, root: '/api/lan' }),
  code: () => request<{ code: string; until: string; urls: string[] }>('POST', '/code', { body: {}, root: '/api/lan' }),
  revoke: (id: string) => request<unknown>('DELETE', `/devices/${id}`, { root: '/api/lan' }),
  /** The name that this device was let in by; empty: the station's own machine. */
  me: () => request<{ device: string }>('GET', '', { root: '/api/me', keeps: true }),
}
