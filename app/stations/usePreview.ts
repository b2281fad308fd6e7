import { computed, onBeforeUnmount, ref, shallowRef, watch, type ComputedRef, type Ref } from 'vue'
import type { Plan } from '#core/plan/schema'
import { useMend, type Mending } from '../mend/useMend'
import type { Judged } from '../workers/answers'
import { CoreClient, Dropped } from '../workers/client'

/** While somebody answers, no verdict is begun oftener than this, ms. */
const SETTLES_MS = 120

export interface Preview {
  /** What is shown: the plan that was asked for, or that mended as far as it has been found how. */
  plan: ComputedRef<Plan | null>
  judged: Readonly<Ref<Judged | null>>
  /** Why there is no verdict, in words. */
  problem: Readonly<Ref<string>>
  mending: Mending
  /** Ways to mend what is asked for now have been looked for, or cannot be. */
  isReady: ComputedRef<boolean>
}

/** A plan that is only looked at: the verdict of it as asked or as mended, and the ways to mend it. */
export function usePreview(asked: Readonly<Ref<Plan | null>>, shows: 'asked' | 'mended'): Preview {
  const mending = useMend()
  const judged = shallowRef<Judged | null>(null)
  const problem = ref('')
  const core = new CoreClient()
  core.warm()
  /** The plan that was looked at last: ways are of it. */
  const looked = ref('')
  const plan = computed(() => {
    const way = mending.result.value?.ways[0]?.plan
    const isMended = shows === 'mended' && way && looked.value === JSON.stringify(asked.value)
    return isMended ? way : asked.value
  })

  let timer: ReturnType<typeof setTimeout> | undefined
  watch(
    () => JSON.stringify(asked.value),
    text => {
      clearTimeout(timer)
      mending.cancel()
      mending.result.value = null
      if (!asked.value) return
      timer = setTimeout(() => {
        looked.value = text
        void mending.look(JSON.parse(text) as Plan, { for: 'change', shelf: [], ownedOnly: false })
      }, SETTLES_MS)
    },
    { immediate: true },
  )
  watch(
    () => JSON.stringify(plan.value),
    async text => {
      if (!plan.value) {
        judged.value = null
        problem.value = ''
        return
      }
      try {
        judged.value = await core.call('judge', JSON.parse(text) as Plan)
        problem.value = ''
      } catch (error) {
        if (error instanceof Dropped) return
        judged.value = null
        problem.value = (error as Error).message
      }
    },
    { immediate: true },
  )
  onBeforeUnmount(() => {
    clearTimeout(timer)
    core.restart()
  })
  const isReady = computed(() => {
    const isOfThis = looked.value === JSON.stringify(asked.value)
    return isOfThis && (mending.result.value !== null || mending.problem.value !== '')
  })
  return { plan, judged, problem, mending, isReady }
}
