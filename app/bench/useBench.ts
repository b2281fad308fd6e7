import { onBeforeUnmount, ref, shallowRef, watch, type ShallowRef } from 'vue'
import { CoreClient, Dropped, startBench } from '../workers/client'
import type { BenchApi } from '../workers/benchAnswers'

/**
 * An answer of the bench's worker that follows what it is asked of: always of what was asked last.
 * @param asks what is to be asked now; null: nothing
 */
export function useBench<T>(
  sources: () => unknown,
  asks: (client: CoreClient<BenchApi>) => Promise<T> | null,
): { answer: ShallowRef<T | null>; problem: Readonly<ReturnType<typeof ref<string>>> } {
  const client = new CoreClient<BenchApi>(startBench)
  const answer = shallowRef(null) as ShallowRef<T | null>
  const problem = ref('')
  let asked = 0
  watch(
    sources,
    async () => {
      const mine = ++asked
      try {
        const got = await asks(client)
        if (mine !== asked) return
        answer.value = got
        problem.value = ''
      } catch (error) {
        if (mine === asked && !(error instanceof Dropped)) problem.value = (error as Error).message
      }
    },
    { immediate: true },
  )
  onBeforeUnmount(() => client.restart())
  return { answer, problem }
}

/** What goes to a worker is plain. */
export const plain = <T>(value: T) => JSON.parse(JSON.stringify(value)) as T
