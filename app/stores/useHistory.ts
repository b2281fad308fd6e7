import { computed, shallowRef, type ComputedRef } from 'vue'
import { applyEdit, type Patch } from '#core/edit/patch'
import type { Fault } from '#core/plan/faults'
import type { Plan } from '#core/plan/schema'

interface Step {
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
  forget: () => void
}

/** Edits of a plan as patches, one after the other, back and forth. */
export function useHistory(plan: () => Plan | null, replace: (next: Plan) => void): History {
  const undone = shallowRef<Step[]>([])
  const done = shallowRef<Step[]>([])

  function note(step: Step) {
    done.value = [...done.value, step]
    undone.value = []
  }

  function edit(patch: Patch, label: string): Fault[] {
    const current = plan()
    if (!current || !patch.length) return []
    const result = applyEdit(current, patch)
    if (!result.ok) return result.faults
    note({ label, patch, undo: result.undo })
    replace(result.plan)
    return []
  }

  /** Moves the last step of one list to the other, and applies it. */
  function shift(from: typeof done, onto: typeof done, patchOf: (step: Step) => Patch): string | null {
    const step = from.value.at(-1)
    const current = plan()
    if (!step || !current) return null
    const result = applyEdit(current, patchOf(step))
    if (!result.ok) return null
    from.value = from.value.slice(0, -1)
    onto.value = [...onto.value, step]
    replace(result.plan)
    return step.label
  }

  return {
    canUndo: computed(() => done.value.at(-1)?.label ?? ''),
    canRedo: computed(() => undone.value.at(-1)?.label ?? ''),
    edit,
    undo: () => shift(done, undone, step => step.undo),
    redo: () => shift(undone, done, step => step.patch),
    note,
    forget: () => {
      done.value = []
      undone.value = []
    },
  }
}
