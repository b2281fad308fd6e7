import type { ToastServiceMethods } from 'primevue/toastservice'
import { fetchAhead } from '../shell/later'

type Lazy = () => Promise<unknown>
const QUIET_MS = 2000
const TOLD_FOR_MS = 10_000

/** Whether somebody pays for every byte, and has told the browser so. */
const sparing = () => (navigator as { connection?: { saveData?: boolean } }).connection?.saveData === true

/**
 * A station's views keep opening while the server is away: their programs come once the first one stands.
 * One that has not come yet does not take the page with it: what is not saved would be lost.
 */
export default defineNuxtPlugin(nuxtApp => {
  const views = () =>
    useRouter()
      .getRoutes()
      .map(route => route.components?.default)
      .filter((view): view is Lazy => typeof view === 'function')
  nuxtApp.hooks.hookOnce('page:finish', () => {
    if (!sparing()) setTimeout(() => void fetchAhead(views()), QUIET_MS)
  })
  let toldAt = -TOLD_FOR_MS
  nuxtApp.hook('app:chunkError', () => {
    const now = performance.now()
    if (now - toldAt < TOLD_FOR_MS) return
    toldAt = now
    const { $toast } = nuxtApp.vueApp.config.globalProperties as unknown as { $toast: ToastServiceMethods }
    $toast.add({
      severity: 'warn',
      summary: 'This view has not come from the server',
      detail: 'The server does not answer, or it was renewed. Try again, or reload the page once all is saved.',
      life: TOLD_FOR_MS,
    })
  })
})
