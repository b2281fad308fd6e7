import { onBeforeUnmount, ref, shallowRef, watch, type Ref, type ShallowRef } from 'vue'
import type { SchoolId } from '#core/catalog/schools'
import type { Plan } from '#core/plan/schema'
import type { Compared, SchoolMatters } from '#core/schools/compare'
import { CoreClient, Dropped } from '../workers/client'

export interface Schools {
  /** Those whose sides make another station first; null until it is known. */
  schools: ShallowRef<SchoolMatters[] | null>
  /** What the opened side comes to. */
  compared: ShallowRef<Compared | null>
  /** Plans tried so far, while a side is built and mended. */
  tried: Ref<number>
  problem: Ref<string>
  compare: (id: SchoolId, choice: string) => Promise<void>
  close: () => void
}

/** The schools of a plan, and two sides of one compared, in a worker of its own that can be stopped. */
export function useSchools(plan: () => Plan | null): Schools {
  const schools = shallowRef<SchoolMatters[] | null>(null)
  const compared = shallowRef<Compared | null>(null)
  const tried = ref(0)
  const problem = ref('')
  const core = new CoreClient()
  core.onProgress = done => (tried.value = done)

  async function asked<T>(call: Promise<T>, put: (answer: T) => void) {
    try {
      put(await call)
    } catch (error) {
      if (!(error instanceof Dropped)) problem.value = (error as Error).message
    }
  }

  watch(
    plan,
    async now => {
      if (!now) return
      if (core.isBusy) core.restart()
      compared.value = null
      await asked(core.call('schools', now), s => (schools.value = s))
    },
    { immediate: true },
  )

  async function compare(id: SchoolId, choice: string) {
    const now = plan()
    if (!now) return
    if (core.isBusy) core.restart()
    compared.value = null
    problem.value = ''
    tried.value = 0
    await asked(core.call('compare', now, id, choice), c => (compared.value = c))
  }

  function close() {
    if (core.isBusy) core.restart()
    compared.value = null
  }

  onBeforeUnmount(() => core.restart())
  return { schools, compared, tried, problem, compare, close }
}
