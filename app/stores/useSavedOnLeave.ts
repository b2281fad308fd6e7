import { onBeforeUnmount, onMounted } from 'vue'
import type { useStation } from './station'

/** Saves the station when its view is left, warns where that did not happen, and looks for news on coming back. */
export function useSavedOnLeave(station: ReturnType<typeof useStation>) {
  function warnUnsaved(event: BeforeUnloadEvent) {
    if (station.saveState === 'saved') return
    void station.saveNow()
    event.preventDefault()
  }
  onMounted(() => {
    window.addEventListener('focus', station.refresh)
    window.addEventListener('beforeunload', warnUnsaved)
  })
  onBeforeUnmount(() => {
    window.removeEventListener('focus', station.refresh)
    window.removeEventListener('beforeunload', warnUnsaved)
    void station.saveNow()
  })
}
