import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { HoursEvent } from '#core/hours/event'
import { DOCUMENTS, documentName } from './documents'
import { hoursApi } from './stationsApi'
import type { ApiError } from './request'
import { useDocumentHistory } from './useDocumentHistory'
import { savedOfStation } from './savedOfStation'
import { useSavedDocument } from './useSavedDocument'

/** The open station's events: changed as a value, saved whole as one works. */
export const useHours = defineStore('hours', () => {
  const stationId = ref('')
  const openProblem = ref('')
  const notice = ref('')
  const document = useSavedDocument<HoursEvent[], HoursEvent[]>(
    savedOfStation('The events', DOCUMENTS.hours, { stationId, notice }),
  )
  const history = useDocumentHistory(document)
  /** What was said of a merge is read by the time one goes on. */
  const change: typeof history.change = (next, label) => {
    notice.value = ''
    history.change(next, label)
  }

  async function open(id: string) {
    if (stationId.value === id && document.value.value) return
    await document.saveNow()
    document.value.value = null
    notice.value = ''
    try {
      const name = documentName('hours', id)
      await document.open(
        name,
        () => hoursApi.read(id),
        ({ value, revision }) => ({ theirs: value, revision }),
      )
      if (document.name.value !== name) return
      stationId.value = id
      history.begin(`hours-${id}`)
      openProblem.value = ''
    } catch (error) {
      openProblem.value = (error as ApiError).message
    }
  }

  const saveProblem = computed(() => (document.problem.value ? `Not saved yet: ${document.problem.value}` : ''))
  return {
    stationId,
    events: document.value,
    problem: computed(() => openProblem.value || saveProblem.value || notice.value),
    saveState: document.state,
    undoable: history.undoable,
    open,
    change,
    follow: () => history.follow(() => hoursApi.read(stationId.value)),
    saveNow: document.saveNow,
  }
})
