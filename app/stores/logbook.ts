import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import type { TriedCure } from '#core/noise/cure'
import type { Logbook, NoiseCase } from '#core/noise/logbook'
import type { Survey } from '#core/noise/survey/survey'
import { DOCUMENTS, documentName } from './documents'
import { noiseApi, triedCures } from './stationsApi'
import type { ApiError } from './request'
import { useDocumentHistory } from './useDocumentHistory'
import { savedOfStation } from './savedOfStation'
import { useSavedDocument } from './useSavedDocument'

/** In the place of the one with its id, or at the end. */
function withItem<T extends { id: string }>(items: readonly T[], item: T): T[] {
  const isThere = items.some(i => i.id === item.id)
  return isThere ? items.map(i => (i.id === item.id ? item : i)) : [...items, item]
}

/** "survey “Evening”", "complaint “Hiss on 20 m”" */
const nameOfItem = (list: 'surveys' | 'cases', item: Survey | NoiseCase) =>
  `${list === 'surveys' ? 'survey' : 'complaint'} “${'name' in item ? item.name : item.title}”`

/** The open station's noise logbook: changed as a value, saved whole as one works. */
export const useLogbook = defineStore('logbook', () => {
  const stationId = ref('')
  const tried = shallowRef<TriedCure[]>([])
  const openProblem = ref('')
  const notice = ref('')
  const document = useSavedDocument<Logbook, Logbook>(
    savedOfStation('The logbook', DOCUMENTS.noise, { stationId, notice }),
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
      const name = documentName('noise', id)
      await document.open(
        name,
        () => noiseApi.read(id),
        ({ value, revision }) => ({ theirs: value, revision }),
      )
      if (document.name.value !== name) return
      stationId.value = id
      history.begin(`logbook-${id}`)
      openProblem.value = ''
      void refreshTried()
    } catch (error) {
      openProblem.value = (error as ApiError).message
    }
  }

  async function refreshTried() {
    tried.value = await triedCures().catch(() => tried.value)
  }

  const saveProblem = computed(() => (document.problem.value ? `Not saved yet: ${document.problem.value}` : ''))
  return {
    stationId,
    logbook: document.value,
    tried,
    problem: computed(() => openProblem.value || saveProblem.value),
    notice,
    saveState: document.state,
    open,
    undoable: history.undoable,
    change,
    follow: () => history.follow(() => noiseApi.read(stationId.value)),
    ...itemsOf(() => document.value.value, change),
    saveNow: document.saveNow,
    refreshTried,
  }
})

/** Surveys and complaints put into the logbook and taken out, each as one step. */
function itemsOf(logbook: () => Logbook | null, change: (next: Logbook, label: string) => void) {
  return {
    put(list: 'surveys' | 'cases', item: Survey | NoiseCase) {
      const now = logbook()
      if (!now) return
      const items = now[list] as (Survey | NoiseCase)[]
      const isThere = items.some(i => i.id === item.id)
      const label = `${isThere ? 'change of' : 'new'} ${nameOfItem(list, item)}`
      change({ ...now, [list]: withItem(items, item) }, label)
    },
    remove(list: 'surveys' | 'cases', id: string) {
      const now = logbook()
      const items = (now?.[list] ?? []) as (Survey | NoiseCase)[]
      const gone = items.find(i => i.id === id)
      if (!now || !gone) return
      change({ ...now, [list]: items.filter(i => i !== gone) }, `removal of ${nameOfItem(list, gone)}`)
    },
  }
}
