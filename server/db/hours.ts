import type { HoursEvent } from '../../core/hours/event'
import { readDocument, saveDocument } from './documents'
import { hours } from './schema'

/** A station's events. null: no such station. */
export async function readEvents(stationId: string) {
  const state = await readDocument<HoursEvent[]>(hours, stationId, [])
  return state && { revision: state.revision, events: state.value }
}

export async function saveEvents(stationId: string, baseRevision: number, events: HoursEvent[]) {
  const saved = await saveDocument(hours, stationId, { revision: baseRevision, value: events })
  return saved && { status: saved.status, revision: saved.revision, events: saved.value }
}
