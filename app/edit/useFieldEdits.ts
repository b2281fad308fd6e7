import { computed, ref, type ComputedRef, type Ref } from 'vue'
import type { Patch } from '#core/edit/patch'
import { setByHand } from '#core/edit/set'
import type { Fault } from '#core/plan/faults'
import { valueAt } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'

export interface FieldEdits {
  /** Why a change was refused, by the path of its field. */
  refused: Ref<Record<string, string>>
  /** Sets one field at once with what goes along with it. */
  change: (path: string, value: unknown, label: string) => void
  /** Applies the patch that entering a field takes. */
  apply: (path: string, label: string, patch: Patch) => void
  /** What a field holds now. */
  at: (path: string) => unknown
  subject: ComputedRef<object | undefined>
}

/** The fields of one part or lead as edits of the plan; a refused one keeps its reason beside its field. */
export function useFieldEdits(
  props: { plan: Plan; id: string; edit: (patch: Patch, label: string) => Fault[] },
  subjectOf: (plan: Plan, id: string) => object | undefined,
): FieldEdits {
  const refused = ref<Record<string, string>>({})
  const subject = computed(() => subjectOf(props.plan, props.id))
  const at = (path: string) => valueAt(subject.value, path)
  function apply(path: string, label: string, patch: Patch) {
    const faults = props.edit(patch, label)
    refused.value = faults.length ? { [path]: `${faults[0]!.wrong}; right would be ${faults[0]!.right}` } : {}
  }
  const change = (path: string, value: unknown, label: string) =>
    apply(path, label, setByHand(props.plan, props.id, path, value))
  return { refused, change, apply, at, subject }
}
