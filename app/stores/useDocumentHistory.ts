import { changed, changeOf } from '#core/edit/patch'
import type { Stands } from './stationsApi'
import type { SavedDocument } from './useSavedDocument'
import { useHistory, type History } from './useHistory'

/** Steps of a document that is changed as a value: each is kept as what it changed, so that other changes stay. */
export interface DocumentHistory<T> extends Pick<History, 'undoable' | 'begin'> {
  /** Takes a changed value as one step. */
  change: (next: T, label: string) => void
  /** Takes what another window saved since, where nothing here is unsaved: a step that can be taken back. */
  follow: (read: () => Promise<Stands<T>>) => Promise<void>
}

export function useDocumentHistory<T extends object>(
  document: Pick<SavedDocument<T, T>, 'value' | 'change' | 'show' | 'state' | 'revision'>,
): DocumentHistory<T> {
  const history = useHistory<T>({
    value: () => document.value.value,
    replace: document.change,
    apply(value, patch) {
      const next = changed(value, patch)
      return next ? { ok: true, value: next, undo: changeOf(next, value) } : { ok: false, faults: [] }
    },
  })
  const note = (label: string, before: T, next: T) => {
    const patch = changeOf(before, next)
    if (patch.length) history.note({ label, patch, undo: changeOf(next, before) })
  }
  return {
    async follow(read) {
      if (!document.value.value || document.state.value !== 'saved') return
      const now = await read().catch(() => null)
      const before = document.value.value
      if (!now || now.revision <= document.revision.value || document.state.value !== 'saved') return
      document.show(now.value, now.revision)
      note("another window's changes", before, now.value)
    },
    undoable: history.undoable,
    begin: history.begin,
    change(next, label) {
      const before = document.value.value
      document.change(next)
      if (before) note(label, before, next)
    },
  }
}
