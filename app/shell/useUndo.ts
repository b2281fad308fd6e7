import { computed, onBeforeUnmount, onMounted } from 'vue'
import { useToast } from 'primevue/usetoast'
import type { Shifted, Undoable } from '../stores/useHistory'

/** Someone is writing: there Ctrl Z is the field's own. */
const elsewhere = (target: HTMLElement) => /^(INPUT|SELECT|TEXTAREA)$/.test(target.tagName) || target.isContentEditable

/**
 * Undo and redo of what a view can change, by key and by button: of several histories the last step of all. Each says
 * what it did.
 */
export function useUndo(histories: () => readonly Undoable[]) {
  const toast = useToast()
  const said = (did: string, shifted: Shifted | null | undefined) => {
    if (!shifted) return
    const summary = shifted.fits ? `${did}: ${shifted.label}` : `Cannot be taken back: ${shifted.label}`
    const detail = shifted.fits ? undefined : 'Something else changed it since.'
    toast.add({ severity: shifted.fits ? 'secondary' : 'warn', summary, detail, life: shifted.fits ? 2500 : 5000 })
  }
  const latest = (at: 'doneAt' | 'undoneAt') =>
    histories()
      .filter(h => (at === 'doneAt' ? h.canUndo : h.canRedo))
      .reduce<Undoable | null>((last, h) => (last && last[at] >= h[at] ? last : h), null)
  const toUndo = computed(() => latest('doneAt'))
  const toRedo = computed(() => latest('undoneAt'))
  const undo = () => said('Undone', toUndo.value?.undo())
  const redo = () => said('Done again', toRedo.value?.redo())

  function onKey(event: KeyboardEvent) {
    if (!(event.ctrlKey || event.metaKey) || event.altKey || elsewhere(event.target as HTMLElement)) return
    const letter = event.key.toLowerCase()
    if (letter === 'y' || (letter === 'z' && event.shiftKey)) redo()
    else if (letter === 'z') undo()
    else return
    event.preventDefault()
  }
  onMounted(() => window.addEventListener('keydown', onKey))
  onBeforeUnmount(() => window.removeEventListener('keydown', onKey))
  return {
    undo,
    redo,
    canUndo: computed(() => toUndo.value?.canUndo ?? ''),
    canRedo: computed(() => toRedo.value?.canRedo ?? ''),
  }
}
