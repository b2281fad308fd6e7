import { watch, type Ref } from 'vue'
import { leadById, partById, partIdOf } from '#core/plan/find'
import type { useStation } from '../stores/station'

/** Lets go of what was chosen once the plan has it no longer. */
export function useStillThere(station: ReturnType<typeof useStation>, ...chosen: Ref<string | null>[]) {
  watch(
    () => station.plan,
    plan => {
      if (!plan) return
      for (const id of chosen) {
        const isThere = id.value !== null && (partById(plan, partIdOf(id.value)) ?? leadById(plan, id.value))
        if (!isThere) id.value = null
      }
    },
  )
}
