import { threeWay } from '#core/merge/threeWay'
import type { HoursEvent } from '#core/hours/event'
import type { Log } from '#core/log/log'
import { mergedLogs } from '#core/log/merge'
import type { Logbook } from '#core/noise/logbook'
import { readPlan } from '#core/plan/faults'
import type { Plan } from '#core/plan/schema'
import type { ShelfItem } from '#core/shelf/item'
import { hoursApi, logApi, noiseApi, shelfApi, stationsApi, type Stands } from './stationsApi'

/** Every kind of document that is kept on the server: how it is read and saved, and how two windows' become one. */

export interface DocumentKind<T> {
  read: (id: string) => Promise<Stands<T>>
  save: (id: string, baseRevision: number, value: T) => Promise<{ status: 'saved' | 'conflict' } & Stands<T>>
  /** What both changed in two ways is told; null: the user has to settle it. */
  merge: (base: T, mine: T, theirs: T) => { value: T | null; clashes: readonly string[] }
}

const FROM_WAITING = 'changed while the station was away'

const plan: DocumentKind<Plan> = {
  async read(id) {
    const { revision, plan } = await stationsApi.read(id)
    return { revision, value: plan }
  },
  async save(id, baseRevision, value) {
    const result = await stationsApi.save(id, baseRevision, value, FROM_WAITING)
    if (result.status === 'saved') return { status: 'saved', revision: result.revision, value }
    return { status: 'conflict', revision: result.current.revision, value: result.current.plan }
  },
  // What makes no plan together is not saved.
  merge(base, mine, theirs) {
    const { value, clashes } = threeWay(base, mine, theirs)
    const read = clashes.length ? null : readPlan(value)
    return { value: read?.ok ? read.plan : null, clashes }
  },
}

export const DOCUMENTS = {
  plan,
  noise: {
    ...noiseApi,
    merge: (base, mine, theirs) => threeWay(base, mine, theirs, { renames: true }),
  } satisfies DocumentKind<Logbook>,
  hours: { ...hoursApi, merge: (base, mine, theirs) => threeWay(base, mine, theirs) } satisfies DocumentKind<
    HoursEvent[]
  >,
  log: {
    ...logApi,
    merge: (base, mine, theirs) => ({ value: mergedLogs(mine, theirs, base), clashes: [] }),
  } satisfies DocumentKind<Log>,
  shelf: {
    ...shelfApi,
    merge: (base, mine, theirs) => threeWay(base, mine, theirs, { renames: true }),
  } satisfies DocumentKind<ShelfItem[]>,
}
export type DocumentName = keyof typeof DOCUMENTS

/** "plan 3f2a…", "shelf" */
export const documentName = (kind: DocumentName, id = '') => `${kind} ${id}`.trim()
