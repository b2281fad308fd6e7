import { watch, type Ref } from 'vue'
import { hasPlace } from '#core/plan/find'
import type { useStation } from '../stores/station'

/** Lets go of what was chosen once the plan has it no longer. */
export function useStillThere(station: ReturnType<typeof useStation>, ...chosen: Ref<string | null>[]) {
  watch(
    () => station.plan,
    plan => {
      if (!plan) return
      for (const id of chosen) {
        if (id.value !== null && !hasPlace(plan, id.value)) id.value = null
      }
    },
  )
}
