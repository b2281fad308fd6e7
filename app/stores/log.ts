import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { Log } from '#core/log/log'
import type { LogList } from '#core/log/merge'
import { DOCUMENTS, documentName } from './documents'
import { logApi } from './stationsApi'
import type { ApiError } from './request'
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

/** The open station's log: changed as a value, saved as one works; entries of two windows are merged one by one. */
export const useLog = defineStore('log', () => {
  const stationId = ref('')
  const openProblem = ref('')
  const notice = ref('')
  const document = useSavedDocument<Log, Log>({
    saveAfterMs: 300,
    send: async (log, baseRevision) => {
      const { status, revision, value: theirs } = await logApi.save(stationId.value, baseRevision, log)
      return { status, revision, theirs }
    },
    onConflict: (theirs, now, base) => {
      notice.value = 'The log was changed elsewhere as well: every entry of both is kept.'
      return DOCUMENTS.log.merge(base, now, theirs).value
    },
  })
  const history = useDocumentHistory(document)

  async function open(id: string) {
    if (stationId.value === id && document.value.value) return
    await document.saveNow()
    document.value.value = null
    stationId.value = id
    openProblem.value = ''
    try {
      await document.open(
        documentName('log', id),
        () => logApi.read(id),
        ({ value, revision }) => ({ theirs: value, revision }),
      )
      notice.value = ''
    } catch (error) {
      openProblem.value = (error as ApiError).message
    }
    if (stationId.value === id) history.begin(`log-${id}`)
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
    follow: () => history.follow(() => logApi.read(stationId.value)),
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
