import { computed, ref, type ComputedRef } from 'vue'
import { stationsApi, type DeletedStation } from '../stores/stationsApi'
import type { Undoable } from '../stores/useHistory'

type Named = Pick<DeletedStation, 'id' | 'name'>
interface Step extends Named {
  at: number
}

/** Removing stations and putting them back, one after the other. */
export interface Removing {
  undoable: ComputedRef<Undoable>
  remove: (station: Named) => Promise<void>
  putBack: (station: Named) => Promise<void>
}

/** @param done called after each, when the list is to be read again */
export function useRemoving(done: () => Promise<void>): Removing {
  const removed = ref<Step[]>([])
  const back = ref<Step[]>([])
  const without = (steps: Step[], { id }: Named) => steps.filter(s => s.id !== id)

  async function remove({ id, name }: Named) {
    await stationsApi.remove(id)
    removed.value = [...without(removed.value, { id, name }), { id, name, at: Date.now() }]
    back.value = without(back.value, { id, name })
    await done()
  }
  async function putBack({ id, name }: Named) {
    await stationsApi.restore(id)
    back.value = [...without(back.value, { id, name }), { id, name, at: Date.now() }]
    removed.value = without(removed.value, { id, name })
    await done()
  }
  const label = (step: Step | undefined) => (step ? `removal of ${step.name}` : '')
  function shift(step: Step | undefined, way: (station: Named) => Promise<void>) {
    if (!step) return null
    void way(step)
    return { label: label(step), fits: true }
  }
  const undoable = computed(() => {
    const [last, lastBack] = [removed.value.at(-1), back.value.at(-1)]
    return {
      canUndo: label(last),
      canRedo: label(lastBack),
      doneAt: last?.at ?? 0,
      undoneAt: lastBack?.at ?? 0,
      undo: () => shift(last, putBack),
      redo: () => shift(lastBack, remove),
    }
  })
  return { undoable, remove, putBack }
}
