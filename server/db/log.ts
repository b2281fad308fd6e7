import { EMPTY_LOG, type Log } from '../../core/log/log'
import { readDocument, saveDocument } from './documents'
import { logs } from './schema'

/** A station's log. null: no such station. */
export async function readLog(stationId: string) {
  const state = await readDocument<Log>(logs, stationId, EMPTY_LOG)
  return state && { revision: state.revision, log: state.value }
}

export async function saveLog(stationId: string, baseRevision: number, log: Log) {
  const saved = await saveDocument(logs, stationId, { revision: baseRevision, value: log })
  return saved && { status: saved.status, revision: saved.revision, log: saved.value }
}
