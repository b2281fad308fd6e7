import type { ToastServiceMethods } from 'primevue/toastservice'

/** After the first picture: nothing of it hurries, and its program comes then. */
const AFTER_START_MS = 3000

export default defineNuxtPlugin(nuxtApp => {
  const toast = () => {
    const { $toast } = nuxtApp.vueApp.config.globalProperties as unknown as { $toast: ToastServiceMethods }
    return $toast
  }
  nuxtApp.hooks.hookOnce('page:finish', () => {
    setTimeout(() => void import('../stores/followServer').then(f => f.followServer(toast)), AFTER_START_MS)
  })
})
