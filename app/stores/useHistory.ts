import { computed, shallowRef, watch, type ComputedRef } from 'vue'
import { applyEdit, type Patch } from '#core/edit/patch'
import type { Fault } from '#core/plan/faults'
import type { Plan } from '#core/plan/schema'
import { keptHistory, type KeptHistory } from './keptHistory'

export interface Step {
  label: string
  patch: Patch
  undo: Patch
}

export interface History {
  /** Label of what undo would take back, empty where there is nothing. */
  canUndo: ComputedRef<string>
  canRedo: ComputedRef<string>
  /** Applies a patch as one step that can be undone. @returns the faults that refuse it, none if it was taken */
  edit: (patch: Patch, label: string) => Fault[]
  /** @returns the label of what was taken back, null where there is nothing */
  undo: () => string | null
  redo: () => string | null
  /** Notes a step that was taken otherwise, so that it can be undone. */
  note: (step: Step) => void
  /** Begins anew; with what this window did to the very same plan before it was loaded again. */
  begin: (stationId: string) => void
}

/** Edits of a plan as patches, one after the other, back and forth. */
export function useHistory(plan: () => Plan | null, replace: (next: Plan) => void): History {
  const undone = shallowRef<Step[]>([])
  const done = shallowRef<Step[]>([])
  let kept: KeptHistory | null = null
  watch([done, undone], () => kept?.write(plan(), { done: done.value, undone: undone.value }), { flush: 'sync' })

  function note(step: Step) {
    done.value = [...done.value, step]
    undone.value = []
  }

  function edit(patch: Patch, label: string): Fault[] {
    const current = plan()
    if (!current || !patch.length) return []
    const result = applyEdit(current, patch)
    if (!result.ok) return result.faults
    replace(result.plan)
    note({ label, patch, undo: result.undo })
    return []
  }

  /** Moves the last step of one list to the other, and applies it. */
  function shift(from: typeof done, onto: typeof done, patchOf: (step: Step) => Patch): string | null {
    const step = from.value.at(-1)
    const current = plan()
    if (!step || !current) return null
    const result = applyEdit(current, patchOf(step))
    if (!result.ok) return null
    replace(result.plan)
    from.value = from.value.slice(0, -1)
    onto.value = [...onto.value, step]
    return step.label
  }

  return {
    canUndo: computed(() => done.value.at(-1)?.label ?? ''),
    canRedo: computed(() => undone.value.at(-1)?.label ?? ''),
    edit,
    undo: () => shift(done, undone, step => step.undo),
    redo: () => shift(undone, done, step => step.patch),
    note,
    begin: stationId => {
      kept = keptHistory(stationId)
      const before = kept.read(plan())
      done.value = before?.done ?? []
      undone.value = before?.undone ?? []
    },
  }
}
