import { computed, shallowRef, watch, type ComputedRef } from 'vue'
import type { Patch } from '#core/edit/patch'
import type { Fault } from '#core/plan/faults'
import { keptHistory, type KeptHistory } from './keptHistory'

export interface Step {
  label: string
  patch: Patch
  undo: Patch
  /** When it was taken, ms: of several histories the last step is taken back first. */
  at?: number
}

/** A step that was taken back or again; `fits` not where something changed it since. */
export interface Shifted {
  label: string
  fits: boolean
}

/** What undo and redo work on. */
export interface Undoable {
  /** Label of what undo would take back, empty where there is nothing. */
  canUndo: string
  canRedo: string
  /** When that was done, and when taken back, ms; 0 where there is nothing. */
  doneAt: number
  undoneAt: number
  /** @returns what was taken back, null where there is nothing */
  undo: () => Shifted | null
  redo: () => Shifted | null
}

export const NOTHING_DONE: Undoable = {
  canUndo: '',
  canRedo: '',
  doneAt: 0,
  undoneAt: 0,
  undo: () => null,
  redo: () => null,
}

export interface History {
  undoable: ComputedRef<Undoable>
  /** Applies a patch as one step that can be undone. @returns the faults that refuse it, none if it was taken */
  edit: (patch: Patch, label: string) => Fault[]
  /** Notes a step that was taken otherwise, so that it can be undone. */
  note: (step: Step) => void
  /** Begins anew; with what this window did to the very same value before it was loaded again. */
  begin: (name: string) => void
}

/** What a history is of. */
export interface HistoryOf<T> {
  value: () => T | null
  replace: (next: T) => void
  /** A value with a patch applied and the patch that takes it back, or why not. */
  apply: (value: T, patch: Patch) => { ok: true; value: T; undo: Patch } | { ok: false; faults: Fault[] }
}

/** Edits of a value as patches, one after the other, back and forth. */
export function useHistory<T>({ value, replace, apply }: HistoryOf<T>): History {
  const undone = shallowRef<Step[]>([])
  const done = shallowRef<Step[]>([])
  let kept: KeptHistory | null = null
  watch([done, undone], () => kept?.write(value(), { done: done.value, undone: undone.value }), { flush: 'sync' })

  function note(step: Step) {
    done.value = [...done.value, { at: Date.now(), ...step }]
    undone.value = []
  }

  function edit(patch: Patch, label: string): Fault[] {
    const current = value()
    if (!current || !patch.length) return []
    const result = apply(current, patch)
    if (!result.ok) return result.faults
    replace(result.value)
    note({ label, patch, undo: result.undo })
    return []
  }

  /** Moves the last step of one list to the other, and applies it; one that no longer fits goes. */
  function shift(from: typeof done, onto: typeof done, patchOf: (step: Step) => Patch): Shifted | null {
    const step = from.value.at(-1)
    const current = value()
    if (!step || !current) return null
    const result = apply(current, patchOf(step))
    if (result.ok) replace(result.value)
    from.value = from.value.slice(0, -1)
    if (result.ok) onto.value = [...onto.value, { ...step, at: Date.now() }]
    return { label: step.label, fits: result.ok }
  }

  const undo = () => shift(done, undone, step => step.undo)
  const redo = () => shift(undone, done, step => step.patch)
  return {
    undoable: computed(() => ({
      canUndo: done.value.at(-1)?.label ?? '',
      canRedo: undone.value.at(-1)?.label ?? '',
      doneAt: done.value.at(-1)?.at ?? 0,
      undoneAt: undone.value.at(-1)?.at ?? 0,
      undo,
      redo,
    })),
    edit,
    note,
    begin: name => {
      kept = keptHistory(name)
      const before = kept.read(value())
      done.value = before?.done ?? []
      undone.value = before?.undone ?? []
    },
  }
}
