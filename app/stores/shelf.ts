import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { ShelfItem } from '#core/shelf/item'
import { shelfApi, type ApiError } from './stationsApi'
import { useDocumentHistory } from './useDocumentHistory'
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
    onConflict: (theirs, _now, sent) => {
      const before = new Set(known.map(i => i.id))
      known = theirs
      notice.value = 'The shelf was changed in another window as well: what each added is kept.'
      const added = sent.filter(i => !before.has(i.id) && !theirs.some(t => t.id === i.id))
      return [...theirs, ...added]
    },
  })
  /** What the server was last known to have. */
  let known: ShelfItem[] = []
  let loading: Promise<void> | null = null
  const history = useDocumentHistory(document)

  async function fetchIt() {
    try {
      const state = await shelfApi.read()
      known = state.items
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
    if (document.state.value === 'saved') known = document.value.value ?? []
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
