import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { threeWay } from '#core/merge/threeWay'
import type { HoursEvent } from '#core/hours/event'
import { hoursApi, type ApiError } from './stationsApi'
import { useDocumentHistory } from './useDocumentHistory'
import { changedElsewhere } from './changedElsewhere'
import { useSavedDocument } from './useSavedDocument'

/** The open station's events: changed as a value, saved whole as one works. */
export const useHours = defineStore('hours', () => {
  const stationId = ref('')
  const openProblem = ref('')
  const notice = ref('')
  const document = useSavedDocument<HoursEvent[], HoursEvent[]>({
    saveAfterMs: 300,
    send: async (events, baseRevision) => {
      const { status, revision, events: theirs } = await hoursApi.save(stationId.value, baseRevision, events)
      return { status, revision, theirs }
    },
    onConflict: (theirs, now, base) => {
      const { value, clashes } = threeWay(base, now, theirs)
      notice.value = changedElsewhere('The events', clashes)
      return value
    },
  })
  const history = useDocumentHistory(document)

  async function open(id: string) {
    if (stationId.value === id && document.value.value) return
    await document.saveNow()
    document.value.value = null
    try {
      const { events, revision } = await hoursApi.read(id)
      stationId.value = id
      document.show(events, revision)
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
    change: history.change,
    saveNow: document.saveNow,
  }
})
