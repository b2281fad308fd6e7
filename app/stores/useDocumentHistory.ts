import { changed, changeOf } from '#core/edit/patch'
import type { SavedDocument } from './useSavedDocument'
import { useHistory, type History } from './useHistory'

/** Steps of a document that is changed as a value: each is kept as what it changed, so that other changes stay. */
export interface DocumentHistory<T> extends Pick<History, 'undoable' | 'begin'> {
  /** Takes a changed value as one step. */
  change: (next: T, label: string) => void
}

export function useDocumentHistory<T extends object>(
  document: Pick<SavedDocument<T, T>, 'value' | 'change'>,
): DocumentHistory<T> {
  const history = useHistory<T>({
    value: () => document.value.value,
    replace: document.change,
    apply(value, patch) {
      const next = changed(value, patch)
      return next ? { ok: true, value: next, undo: changeOf(next, value) } : { ok: false, faults: [] }
    },
  })
  return {
    undoable: history.undoable,
    begin: history.begin,
    change(next, label) {
      const before = document.value.value
      document.change(next)
      if (!before) return
      const patch = changeOf(before, next)
      if (patch.length) history.note({ label, patch, undo: changeOf(next, before) })
    },
  }
}
