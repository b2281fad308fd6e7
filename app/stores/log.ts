import { defineStore } from 'pinia'
import { computed, ref, watch } from 'vue'
import { EMPTY_LOG, mergedLogs, type Log, type LogList } from '#core/log/log'
import { ApiError, logApi } from './stationsApi'
import { useDocumentHistory } from './useDocumentHistory'
import { useSavedDocument } from './useSavedDocument'

/** Entries put into the log, in the place of one with the same id, and taken out, each as one step. */
function entriesOf(log: () => Log | null, change: (next: Log, label: string) => void) {
  const its = (list: LogList) => (log()?.[list] ?? []) as { id: string }[]
  const set = (list: LogList, entries: { id: string }[], label: string) => {
    const now = log()
    if (now) change({ ...now, [list]: entries }, label)
  }
  return {
    put(list: LogList, entry: { id: string }, label: string) {
      const isThere = its(list).some(e => e.id === entry.id)
      const entries = its(list).map(e => (e.id === entry.id ? entry : e))
      set(list, isThere ? entries : [...entries, entry], label)
    },
    drop(list: LogList, id: string, label: string) {
      set(
        list,
        its(list).filter(e => e.id !== id),
        label,
      )
    },
  }
}

/** What was entered and is not saved yet, with what it grew from: it waits in the browser over a closed page. */
interface Draft {
  base: Log
  log: Log
}
const draftKey = (id: string) => `wireman.log.${id}`
function draftOf(id: string): Draft | null {
  try {
    return JSON.parse(localStorage.getItem(draftKey(id)) ?? 'null') as Draft | null
  } catch {
    return null
  }
}

/** The open station's log: changed as a value, saved as one works; entries of two windows are merged one by one. */
export const useLog = defineStore('log', () => {
  const stationId = ref('')
  const openProblem = ref('')
  const notice = ref('')
  let base = EMPTY_LOG
  const document = useSavedDocument<Log, Log>({
    saveAfterMs: 300,
    send: async (log, baseRevision) => {
      const { status, revision, log: theirs } = await logApi.save(stationId.value, baseRevision, log)
      if (status === 'saved') base = log
      return { status, revision, theirs }
    },
    onConflict: (theirs, now) => {
      notice.value = 'The log was changed elsewhere as well: every entry of both is kept.'
      const both = mergedLogs(now, theirs, base)
      base = theirs
      return both
    },
  })
  const history = useDocumentHistory(document)
  watch([document.value, document.state], ([log, state]) => {
    if (!stationId.value || !log) return
    if (state === 'saved') localStorage.removeItem(draftKey(stationId.value))
    else localStorage.setItem(draftKey(stationId.value), JSON.stringify({ base, log } satisfies Draft))
  })

  async function open(id: string) {
    if (stationId.value === id && document.value.value) return
    await document.saveNow()
    document.value.value = null
    stationId.value = id
    const draft = draftOf(id)
    try {
      const { log, revision } = await logApi.read(id)
      base = log
      document.show(log, revision)
      if (draft) document.change(mergedLogs(draft.log, log, draft.base))
      openProblem.value = ''
    } catch (error) {
      openProblem.value = (error as ApiError).message
      // The server is away: what waits here is shown, and saved once it is back.
      if (draft && error instanceof ApiError && error.code === 0) {
        base = draft.base
        document.show(draft.base, 0)
        document.change(draft.log)
      }
    }
    history.begin(`log-${id}`)
  }

  const saveProblem = computed(() => (document.problem.value ? `Not saved yet: ${document.problem.value}` : ''))
  return {
    stationId,
    log: document.value,
    problem: computed(() => openProblem.value || saveProblem.value || notice.value),
    saveState: document.state,
    undoable: history.undoable,
    open,
    change: history.change,
    ...entriesOf(() => document.value.value, history.change),
    saveNow: document.saveNow,
  }
})

/** An entry's own id: no two windows or devices make the same. */
export const freshId = () => `e${Date.now().toString(36)}${Math.random().toString(36).slice(2, 10)}`
/** Now, by the clock on the wall, as the log writes it. */
export function nowText(): string {
  const now = new Date()
  return new Date(now.getTime() - now.getTimezoneOffset() * 60_000).toISOString().slice(0, 19)
}
