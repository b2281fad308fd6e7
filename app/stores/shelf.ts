import { defineStore } from 'pinia'
import { ref, shallowRef } from 'vue'
import type { ShelfItem } from '#core/shelf/item'
import { shelfApi, type ApiError } from './stationsApi'

/** What the operator owns, loaded once and saved whole at every change. */
export const useShelf = defineStore('shelf', () => {
  const items = shallowRef<ShelfItem[]>([])
  const revision = ref(0)
  const problem = ref('')
  let loading: Promise<void> | null = null

  async function fetchIt() {
    try {
      const state = await shelfApi.read()
      items.value = state.items
      revision.value = state.revision
      problem.value = ''
    } catch (error) {
      problem.value = (error as ApiError).message
    }
  }
  const load = () => (loading ??= fetchIt())

  /** Saves a changed shelf; where another window was quicker, shows what stands there and says so. */
  async function save(next: ShelfItem[]): Promise<boolean> {
    const before = items.value
    items.value = next
    try {
      const result = await shelfApi.save(revision.value, next)
      items.value = result.items
      revision.value = result.revision
      problem.value =
        result.status === 'conflict'
          ? 'The shelf was changed in another window; this is how it stands there. Make the change again.'
          : ''
      return result.status === 'saved'
    } catch (error) {
      items.value = before
      problem.value = `Not saved: ${(error as ApiError).message}`
      return false
    }
  }
  return { items, revision, problem, load, save }
})
