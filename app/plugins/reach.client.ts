import type { ToastServiceMethods } from 'primevue/toastservice'
import { fetched } from '../shell/later'

/** After the first picture: nothing of it hurries, and its program comes then. */
const AFTER_START_MS = 3000

export default defineNuxtPlugin(nuxtApp => {
  const toast = () => {
    const { $toast } = nuxtApp.vueApp.config.globalProperties as unknown as { $toast: ToastServiceMethods }
    return $toast
  }
  nuxtApp.hooks.hookOnce('page:finish', () => {
    const follow = () => fetched(() => import('../stores/followServer')).then(f => f.followServer(toast))
    setTimeout(() => void follow(), AFTER_START_MS)
  })
})
