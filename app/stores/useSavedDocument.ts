import { ref, shallowRef, watch, type Ref, type ShallowRef } from 'vue'
import { dropDraft, keepDraft, waitingDraftsOf, type Draft, type WaitingDraft } from './keptHere'
import { ApiError } from './request'
import { isSentFromHere, withPrint, type Print } from './sentFrom'

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

type Merging<T, Theirs> = Pick<SavedDocumentOptions<T, Theirs>, 'onConflict' | 'valueIn'>

/** What the server has. */
export interface Found<Theirs> {
  theirs: Theirs
  revision: number
  savedAt?: string
}

export interface SavedDocument<T, Theirs> {
  /** The name that it was opened by. */
  name: Ref<string>
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
  /**
   * Reads it, and takes what waits in this browser on top of what the server has. From then on what is not saved is
   * kept in this browser under the name.
   */
  open: <Read>(name: string, read: () => Promise<Read>, found: (read: Read) => Found<Theirs>) => Promise<Read>
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
  const keep = outlivesPage(kept)
  const { value, state, problem, revision, savedAt, theirs } = kept
  let timer: ReturnType<typeof setTimeout> | undefined
  let saving: Promise<void> | null = null

  function show(next: T, atRevision: number, at = '') {
    clearTimeout(timer)
    value.value = next
    kept.base.value = next
    kept.sent.value = []
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
    kept.sent.value = withPrint(kept.sent.value, sent)
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

  const open = openingOf({ kept, keep, show, change, onConflict, valueIn })
  return { ...kept, show, open, change, saveNow }
}

/** A document before anything was opened. */
function refsOf<T extends object, Theirs>() {
  return {
    name: ref(''),
    value: shallowRef(null) as ShallowRef<T | null>,
    /** As the server was last known to have it. */
    base: shallowRef(null) as ShallowRef<T | null>,
    /** Sent since, and not answered: any of these may be what the server has. */
    sent: shallowRef<readonly Print[]>([]),
    state: ref<SaveState>('saved'),
    problem: ref(''),
    revision: ref(0),
    savedAt: ref(''),
    theirs: shallowRef(null) as ShallowRef<Theirs | null>,
  }
}

/**
 * What is not saved is kept in this browser, until it is.
 * @returns keeps it now; once that is answered it stands
 */
function outlivesPage<T extends object, Theirs>({
  name,
  base,
  sent,
  value,
  state,
}: ReturnType<typeof refsOf<T, Theirs>>) {
  let isAsked = false
  const keep = async () => {
    isAsked = false
    if (!name.value || !value.value) return
    if (state.value === 'saved') await dropDraft(name.value)
    else await keepDraft({ name: name.value, base: base.value, sent: sent.value, value: value.value })
  }
  // Once for a change and the state that comes with it, while its verdict is being made.
  const keepOnce = () => {
    if (!isAsked) setTimeout(keep)
    isAsked = true
  }
  watch([value, state], keepOnce, { flush: 'sync' })
  return keep
}

interface Opening<T extends object, Theirs>
  extends Pick<SavedDocument<T, Theirs>, 'show' | 'change'>, Required<Merging<T, Theirs>> {
  kept: ReturnType<typeof refsOf<T, Theirs>>
  keep: () => Promise<void>
}

function openingOf<T extends object, Theirs>(opening: Opening<T, Theirs>): SavedDocument<T, Theirs>['open'] {
  const { kept, show, valueIn } = opening
  let asked = 0
  return async (name, read, found) => {
    const mine = ++asked
    const waiting = await waitingDraftsOf<T>(name)
    const answer = await read()
    // Another was asked for meanwhile: an answer that comes late does not take its place.
    if (mine !== asked) return answer
    const { theirs, revision, savedAt } = found(answer)
    kept.name.value = ''
    show(valueIn(theirs), revision, savedAt)
    kept.name.value = name
    takeUp(waiting, theirs, opening)
    return answer
  }
}

/** What was changed before, on top of what the server has. */
function takeUp<T extends object, Theirs>(
  waiting: readonly WaitingDraft<T>[],
  theirs: Theirs,
  { kept, keep, change, onConflict, valueIn }: Opening<T, Theirs>,
) {
  for (const draft of waiting) {
    const { value, base, sent = [] } = draft
    const both = isSentFromHere(sent, valueIn(theirs)) ? value : onConflict(theirs, value, base)
    // One that is still on its way may be taken yet.
    kept.sent.value = [...kept.sent.value, ...sent]
    if (both === null) unsettled(kept, draft, theirs)
    else if (JSON.stringify(both) !== JSON.stringify(kept.value.value)) change(both)
    // It is let go of once this window has it as its own, or it is saved already: a page may be closed at any moment.
    if (!draft.isOwn || kept.state.value === 'saved') void keep().then(draft.drop)
  }
}

/** A change that was made before, and does not go together with what the server has: the user settles it. */
function unsettled<T extends object, Theirs>(
  { base, value, state, theirs }: ReturnType<typeof refsOf<T, Theirs>>,
  draft: Draft<T>,
  found: Theirs,
) {
  base.value = draft.base
  value.value = draft.value
  theirs.value = found
  state.value = 'conflict'
}

/** Takes what the server said of a save. @returns what is to be saved next; null where nothing is */
function taken<T extends object, Theirs>(
  { value, base, sent: prints, state, problem, revision, savedAt, theirs }: ReturnType<typeof refsOf<T, Theirs>>,
  result: Saved<Theirs>,
  { sent, onConflict, valueIn }: { sent: T } & Required<Merging<T, Theirs>>,
): T | null {
  const now = value.value ?? sent
  problem.value = ''
  if (result.status === 'saved') {
    base.value = sent
    prints.value = []
    revision.value = result.revision
    if (result.savedAt) savedAt.value = result.savedAt
    state.value = 'saved'
    return now === sent ? null : now
  }
  const found = valueIn(result.theirs)
  const both = isSentFromHere(prints.value, found) ? now : onConflict(result.theirs, now, base.value ?? sent)
  if (both === null) {
    theirs.value = result.theirs
    state.value = 'conflict'
    return null
  }
  base.value = found
  prints.value = []
  revision.value = result.revision
  state.value = 'unsaved'
  return both
}
