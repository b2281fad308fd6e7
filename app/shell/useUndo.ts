import { onBeforeUnmount, onMounted } from 'vue'
import { useToast } from 'primevue/usetoast'
import { useStation } from '../stores/station'

/** Someone is writing: there Ctrl Z is the field's own. */
const elsewhere = (target: HTMLElement) => /^(INPUT|SELECT|TEXTAREA)$/.test(target.tagName) || target.isContentEditable

/** Undo and redo of the station, by key on each of its views; each says what it did. */
export function useUndo(): { undo: () => void; redo: () => void } {
  const station = useStation()
  const toast = useToast()
  const said = (did: string, label: string | null) => {
    if (label !== null) toast.add({ severity: 'secondary', summary: `${did}: ${label}`, life: 2500 })
  }
  const undo = () => said('Undone', station.undo())
  const redo = () => said('Done again', station.redo())

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
  return { undo, redo }
}
