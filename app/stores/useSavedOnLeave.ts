import { onBeforeUnmount, onMounted } from 'vue'
import type { SaveState } from './useSavedDocument'

/** Anything that is saved as one works. */
export interface Saving {
  saveState: SaveState
  saveNow: () => Promise<void>
}

/** Saves what a view changes when it is left or hidden, and warns where the page goes before that has happened. */
export function useSavedOnLeave(...documents: Saving[]) {
  const saveAll = () => documents.forEach(d => void d.saveNow())
  function onHidden() {
    if (document.visibilityState === 'hidden') saveAll()
  }
  function warnUnsaved(event: BeforeUnloadEvent) {
    if (documents.every(d => d.saveState === 'saved')) return
    saveAll()
    event.preventDefault()
  }
  onMounted(() => {
    document.addEventListener('visibilitychange', onHidden)
    window.addEventListener('beforeunload', warnUnsaved)
  })
  onBeforeUnmount(() => {
    document.removeEventListener('visibilitychange', onHidden)
    window.removeEventListener('beforeunload', warnUnsaved)
    saveAll()
  })
}
