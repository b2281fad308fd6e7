import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { threeWay } from '#core/merge/threeWay'
import type { ShelfItem } from '#core/shelf/item'
import { shelfApi, type ApiError } from './stationsApi'
import { useDocumentHistory } from './useDocumentHistory'
import { changedElsewhere } from './changedElsewhere'
import { useSavedDocument } from './useSavedDocument'

/** What the operator owns, loaded once and saved whole at every change. */
export const useShelf = defineStore('shelf', () => {
  const loadProblem = ref('')
  const notice = ref('')
  const document = useSavedDocument<ShelfItem[], ShelfItem[]>({
    saveAfterMs: 0,
    send: async (items, baseRevision) => {
      const { status, revision, items: theirs } = await shelfApi.save(baseRevision, items)
      return { status, revision, theirs }
    },
    onConflict: (theirs, now, base) => {
      const { value, clashes } = threeWay(base, now, theirs, { renames: true })
      notice.value = changedElsewhere('The shelf', clashes)
      return value
    },
  })
  let loading: Promise<void> | null = null
  const history = useDocumentHistory(document)

  async function fetchIt() {
    try {
      const state = await shelfApi.read()
      document.show(state.items, state.revision)
      history.begin('shelf')
      loadProblem.value = ''
    } catch (error) {
      loading = null
      loadProblem.value = (error as ApiError).message
    }
  }
  const load = () => (loading ??= fetchIt())

  /** Takes a changed shelf as one step and saves it. @returns whether it is saved by now */
  async function save(next: ShelfItem[], label: string): Promise<boolean> {
    notice.value = ''
    history.change(next, label)
    await document.saveNow()
    return document.state.value === 'saved'
  }

  const saveProblem = computed(() => (document.problem.value ? `Not saved yet: ${document.problem.value}` : ''))
  return {
    items: computed(() => document.value.value ?? []),
    revision: document.revision,
    problem: computed(() => loadProblem.value || saveProblem.value || notice.value),
    undoable: history.undoable,
    load,
    save,
  }
})
