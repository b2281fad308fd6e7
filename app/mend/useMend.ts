import { onBeforeUnmount, ref, shallowRef, type Ref, type ShallowRef } from 'vue'
import type { MendResult } from '#core/mend/mend'
import type { MendAim } from '#core/mend/tally'
import type { Plan } from '#core/plan/schema'
import type { ShelfItem } from '#core/shelf/item'
import { CoreClient, Dropped } from '../workers/client'

export interface Mending {
  result: ShallowRef<MendResult | null>
  isBusy: Ref<boolean>
  /** Plans tried so far. */
  tried: Ref<number>
  problem: Ref<string>
  /** Looks for ways; one that is under way is let go. */
  look: (plan: Plan, options: { for: MendAim; shelf: ShelfItem[]; ownedOnly: boolean }) => Promise<void>
  cancel: () => void
}

/** Whole ways to a plan with nothing left to mend, looked for in a worker of its own that can be stopped. */
export function useMend(): Mending {
  const result = shallowRef<MendResult | null>(null)
  const isBusy = ref(false)
  const tried = ref(0)
  const problem = ref('')
  const core = new CoreClient()
  core.onProgress = done => (tried.value = done)

  async function look(plan: Plan, options: { for: MendAim; shelf: ShelfItem[]; ownedOnly: boolean }) {
    if (core.isBusy) core.restart()
    result.value = null
    problem.value = ''
    tried.value = 0
    isBusy.value = true
    try {
      result.value = await core.call('mend', plan, options)
      isBusy.value = false
    } catch (error) {
      // Let go for a newer look, which is busy itself; or cancelled, which has said so.
      if (error instanceof Dropped) return
      problem.value = (error as Error).message
      isBusy.value = false
    }
  }

  function cancel() {
    core.restart()
    isBusy.value = false
  }

  onBeforeUnmount(() => core.restart())
  return { result, isBusy, tried, problem, look, cancel }
}
