import { EMPTY_LOG, signedLog, type Log } from '../../core/log/log'
import { readDocument, saveDocument } from './documents'
import { logs } from './schema'

/** A station's log. null: no such station. */
export async function readLog(stationId: string) {
  const state = await readDocument<Log>(logs, stationId, EMPTY_LOG)
  return state && { revision: state.revision, log: state.value }
}

/** @param who saves it: what is new in it says so; empty: this machine */
export async function saveLog(stationId: string, baseRevision: number, log: Log, who = '') {
  // Changed since then, it is not saved: what is signed by something older goes nowhere.
  const before = await readLog(stationId)
  const value = signedLog(log, before?.log ?? EMPTY_LOG, who)
  const saved = await saveDocument(logs, stationId, { revision: baseRevision, value })
  return saved && { status: saved.status, revision: saved.revision, log: saved.value }
}
