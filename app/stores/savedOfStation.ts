import type { Ref } from 'vue'
import { changedElsewhere } from './changedElsewhere'
import type { DocumentKind } from './documents'
import type { SavedDocumentOptions } from './useSavedDocument'

/** Whose it is, and where it is told that it was merged. */
interface Of {
  stationId: Ref<string>
  notice: Ref<string>
}

/** How what belongs to a station is saved: where another window saved since, both are merged, and that is told. */
export const savedOfStation = <T extends object>(
  what: string,
  { save, merge }: DocumentKind<T>,
  { stationId, notice }: Of,
): SavedDocumentOptions<T, T> => ({
  saveAfterMs: 300,
  send: async (value, baseRevision) => {
    const { status, revision, value: theirs } = await save(stationId.value, baseRevision, value)
    return { status, revision, theirs }
  },
  onConflict: (theirs, now, base) => {
    const { value, clashes } = merge(base, now, theirs)
    notice.value = changedElsewhere(what, clashes)
    return value
  },
})
