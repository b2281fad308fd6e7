import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { TriedCure } from '#core/noise/cure'
import { merged, type Logbook, type NoiseCase } from '#core/noise/logbook'
import type { Survey } from '#core/noise/survey/survey'
import { noiseApi, type ApiError } from './stationsApi'
import { useSavedDocument } from './useSavedDocument'

/** In the place of the one with its id, or at the end. */
function withItem<T extends { id: string }>(items: readonly T[], item: T): T[] {
  const isThere = items.some(i => i.id === item.id)
  return isThere ? items.map(i => (i.id === item.id ? item : i)) : [...items, item]
}

/** The open station's noise logbook: changed as a value, saved whole as one works. */
export const useLogbook = defineStore('logbook', () => {
  const stationId = ref('')
  const tried = shallowRef<TriedCure[]>([])
  const openProblem = ref('')
  const notice = ref('')
  const document = useSavedDocument<Logbook, Logbook>({
    saveAfterMs: 300,
    send: async (logbook, baseRevision) => {
      const { status, revision, logbook: theirs } = await noiseApi.save(stationId.value, baseRevision, logbook)
      return { status, revision, theirs }
    },
    onConflict: (theirs, now) => {
      notice.value = 'The logbook was changed in another window as well: both are kept.'
      return merged(now, theirs)
    },
  })

  async function open(id: string) {
    if (stationId.value === id && document.value.value) return
    await document.saveNow()
    document.value.value = null
    try {
      const state = await noiseApi.read(id)
      stationId.value = id
      document.show(state.logbook, state.revision)
      openProblem.value = ''
      void refreshTried()
    } catch (error) {
      openProblem.value = (error as ApiError).message
    }
  }

  async function refreshTried() {
    tried.value = await noiseApi.tried().catch(() => tried.value)
  }

  function put(list: 'surveys' | 'cases', item: Survey | NoiseCase) {
    const logbook = document.value.value
    if (!logbook) return
    document.change({ ...logbook, [list]: withItem(logbook[list] as (Survey | NoiseCase)[], item) })
  }

  function remove(list: 'surveys' | 'cases', id: string) {
    const logbook = document.value.value
    if (!logbook) return
    document.change({ ...logbook, [list]: (logbook[list] as { id: string }[]).filter(i => i.id !== id) })
  }

  const saveProblem = computed(() => (document.problem.value ? `Not saved yet: ${document.problem.value}` : ''))
  return {
    logbook: document.value,
    tried,
    problem: computed(() => openProblem.value || saveProblem.value),
    notice,
    saveState: document.state,
    open,
    change: document.change,
    put,
    remove,
    saveNow: document.saveNow,
    refreshTried,
  }
})
