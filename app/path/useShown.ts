import { onScopeDispose, shallowRef, watch, type ShallowRef } from 'vue'
import type { Plan } from '#core/plan/schema'
import type { Judged } from '../workers/answers'
import type { useStation } from '../stores/station'

/** A verdict that takes longer does not hold the picture back, ms. */
const HOLD_MS = 250

export interface Shown {
  plan: Plan
  judged: Judged | null
}

/**
 * The plan and the verdict that the picture shows. An edit and its verdict come in one: drawn one after the other, the
 * first drawing of a large station would stand in the way of the second. Who waits for a verdict sees the edit alone.
 */
export function useShown(station: ReturnType<typeof useStation>): Readonly<ShallowRef<Shown | null>> {
  const now = (): Shown | null => station.plan && { plan: station.plan, judged: station.judged }
  const shown = shallowRef(now())
  let waiting: ReturnType<typeof setTimeout> | undefined

  function show() {
    clearTimeout(waiting)
    waiting = undefined
    shown.value = now()
  }
  watch(
    () => station.plan,
    () => {
      const isFirst = !shown.value || !station.plan || !station.judged
      if (isFirst) show()
      else waiting ??= setTimeout(show, HOLD_MS)
    },
    { flush: 'sync' },
  )
  watch(() => station.judged, show, { flush: 'sync' })
  onScopeDispose(() => clearTimeout(waiting))
  return shown
}
