import { onBeforeUnmount, ref } from 'vue'
import { CoreClient, Dropped, startHours } from '../workers/client'
import type { HoursApi } from '../workers/hoursAnswers'

/** Longer questions about an event, worked out beside the page and beside its course: one at a time, with a stop. */
export function useLasting() {
  const client = new CoreClient<HoursApi>(startHours)
  /** How far it is, 0–100; null while nothing is asked. */
  const progress = ref<number | null>(null)
  const problem = ref('')
  client.onProgress = done => {
    if (progress.value !== null) progress.value = done
  }

  /** @returns null where it was stopped, or asked anew */
  async function ask<M extends keyof HoursApi>(
    method: M,
    ...args: Parameters<HoursApi[M]>
  ): Promise<ReturnType<HoursApi[M]> | null> {
    if (client.isBusy) client.restart()
    progress.value = 0
    problem.value = ''
    try {
      // What Vue watches over cannot be sent: a plain copy can.
      const plain = JSON.parse(JSON.stringify(args)) as never[]
      const call = client.call.bind(client) as (method: M, ...args: never[]) => Promise<unknown>
      const got = await call(method, ...plain)
      progress.value = null
      return got as ReturnType<HoursApi[M]>
    } catch (error) {
      if (error instanceof Dropped) return null
      progress.value = null
      problem.value = (error as Error).message
      return null
    }
  }
  function stop() {
    client.restart()
    progress.value = null
  }
  onBeforeUnmount(() => client.restart())
  return { ask, stop, progress, problem }
}
