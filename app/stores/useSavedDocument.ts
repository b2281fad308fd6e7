import { ref, shallowRef, type Ref, type ShallowRef } from 'vue'
import { ApiError } from './stationsApi'

export type SaveState = 'saved' | 'saving' | 'unsaved' | 'conflict' | 'offline'

/** What the server says of a save: taken, or that another window saved since. */
export type Saved<Theirs> =
  { status: 'saved'; revision: number; savedAt?: string } | { status: 'conflict'; revision: number; theirs: Theirs }

export interface SavedDocumentOptions<T, Theirs> {
  /** Sends a value that was changed from a revision. Throws ApiError in words where it cannot. */
  send: (value: T, baseRevision: number) => Promise<Saved<Theirs>>
  /**
   * Another window saved since: gives a value that holds both, which is then saved, or null where the user has
   * to settle it.
   * `now` is what stands here by then, `base` what both started from.
   */
  onConflict: (theirs: Theirs, now: T, base: T) => T | null
  /** The value in what another window saved; unsaid: it is that. */
  valueIn?: (theirs: Theirs) => T
  /** Pause after a change before it is saved, ms: one save for a burst of keys. */
  saveAfterMs?: number
  /** Pause before a save that failed is tried again, ms. */
  retryAfterMs?: number
}

export interface SavedDocument<T, Theirs> {
  value: ShallowRef<T | null>
  state: Ref<SaveState>
  /** Why it is not saved, in words; empty where it is. */
  problem: Ref<string>
  revision: Ref<number>
  savedAt: Ref<string>
  /** What another window saved, while the user has not settled it. */
  theirs: ShallowRef<Theirs | null>
  /** Takes what the server has: nothing is unsaved then. */
  show: (value: T, revision: number, savedAt?: string) => void
  /** Takes a changed value; it is saved after a pause. */
  change: (next: T) => void
  /** Saves what is not yet saved. One save at a time; what was changed meanwhile goes with the next. */
  saveNow: () => Promise<void>
}

/**
 * A value that is saved as one works: station, logbook and shelf share it. Nothing typed is lost: a save that
 * fails is tried again, a
 * server that is silent counts as one that failed (the request has a time limit), and a save refused for another
 * window's is merged or
 * left to the user.
 */
export function useSavedDocument<T extends object, Theirs>({
  send,
  onConflict,
  valueIn = theirs => theirs as unknown as T,
  saveAfterMs = 250,
  retryAfterMs = 2000,
}: SavedDocumentOptions<T, Theirs>): SavedDocument<T, Theirs> {
  const kept = refsOf<T, Theirs>()
  const { value, state, problem, revision, savedAt, theirs } = kept
  let timer: ReturnType<typeof setTimeout> | undefined
  let saving: Promise<void> | null = null

  function show(next: T, atRevision: number, at = '') {
    clearTimeout(timer)
    value.value = next
    kept.base.value = next
    revision.value = atRevision
    savedAt.value = at
    state.value = 'saved'
    problem.value = ''
    theirs.value = null
  }

  function change(next: T) {
    value.value = next
    if (state.value === 'conflict') return
    state.value = 'unsaved'
    saveIn(saveAfterMs)
  }

  function saveIn(ms: number) {
    clearTimeout(timer)
    timer = setTimeout(() => void saveNow(), ms)
  }

  async function saveNow(): Promise<void> {
    clearTimeout(timer)
    if (saving) await saving
    const sent = value.value
    if (!sent || (state.value !== 'unsaved' && state.value !== 'offline')) return
    state.value = 'saving'
    saving = trySaving(sent).finally(() => {
      saving = null
    })
    await saving
  }

  async function trySaving(sent: T) {
    try {
      const next = taken(kept, await send(sent, revision.value), { sent, onConflict, valueIn })
      if (next) change(next)
    } catch (error) {
      state.value = 'offline'
      problem.value = error instanceof ApiError ? error.message : String(error)
      saveIn(retryAfterMs)
    }
  }

  return { ...kept, show, change, saveNow }
}

/** A document before anything was opened. */
function refsOf<T extends object, Theirs>() {
  return {
    value: shallowRef(null) as ShallowRef<T | null>,
    /** As the server was last known to have it. */
    base: shallowRef(null) as ShallowRef<T | null>,
    state: ref<SaveState>('saved'),
    problem: ref(''),
    revision: ref(0),
    savedAt: ref(''),
    theirs: shallowRef(null) as ShallowRef<Theirs | null>,
  }
}

/** Takes what the server said of a save. @returns what is to be saved next; null where nothing is */
function taken<T extends object, Theirs>(
  { value, base, state, problem, revision, savedAt, theirs }: ReturnType<typeof refsOf<T, Theirs>>,
  result: Saved<Theirs>,
  {
    sent,
    onConflict,
    valueIn,
  }: { sent: T } & Required<Pick<SavedDocumentOptions<T, Theirs>, 'onConflict' | 'valueIn'>>,
): T | null {
  const now = value.value ?? sent
  problem.value = ''
  if (result.status === 'saved') {
    base.value = sent
    revision.value = result.revision
    if (result.savedAt) savedAt.value = result.savedAt
    state.value = 'saved'
    return now === sent ? null : now
  }
  const both = onConflict(result.theirs, now, base.value ?? sent)
  if (both === null) {
    theirs.value = result.theirs
    state.value = 'conflict'
    return null
  }
  base.value = valueIn(result.theirs)
  revision.value = result.revision
  state.value = 'unsaved'
  return both
}
