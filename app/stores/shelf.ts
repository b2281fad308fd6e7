import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import type { ShelfItem } from '#core/shelf/item'
import { DOCUMENTS, documentName } from './documents'
import { shelfApi } from './stationsApi'
import type { ApiError } from './request'
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
      const { status, revision, value: theirs } = await shelfApi.save('', baseRevision, items)
      return { status, revision, theirs }
    },
    onConflict: (theirs, now, base) => {
      const { value, clashes } = DOCUMENTS.shelf.merge(base, now, theirs)
      notice.value = changedElsewhere('The shelf', clashes)
      return value
    },
  })
  let loading: Promise<void> | null = null
  const history = useDocumentHistory(document)

  async function fetchIt() {
    try {
      const name = documentName('shelf')
      await document.open(
        name,
        () => shelfApi.read(),
        ({ value, revision }) => ({ theirs: value, revision }),
      )
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
    isRead: computed(() => document.value.value !== null),
    revision: document.revision,
    problem: computed(() => loadProblem.value || saveProblem.value || notice.value),
    undoable: history.undoable,
    load,
    follow: () => history.follow(() => shelfApi.read()),
    save,
  }
})
