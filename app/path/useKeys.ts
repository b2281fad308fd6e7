import { onBeforeUnmount, onMounted } from 'vue'

export type Direction = 'up' | 'down' | 'left' | 'right'

export interface Keys {
  walk: (direction: Direction) => void
  /** E, and Enter where it does not press a button. */
  edit: () => void
  remove: () => void
  close: () => void
  /** What one letter does; e is taken by edit. */
  letters: Record<string, () => void>
}

const ARROWS: Record<string, Direction> = {
  ArrowUp: 'up',
  ArrowDown: 'down',
  ArrowLeft: 'left',
  ArrowRight: 'right',
}

/** Someone is writing, or a dialog has the keys. */
const elsewhere = (target: HTMLElement) =>
  /^(INPUT|SELECT|TEXTAREA)$/.test(target.tagName) ||
  // A list acts on itself: Enter chooses there, letters look for an entry.
  target.closest('.p-select, .p-multiselect, [role=listbox]') !== null ||
  target.isContentEditable ||
  document.querySelector('.p-dialog-mask:not(.p-overlay-mask-leave-active)') !== null

/** The keys of the path, for as long as its view is mounted. */
export function useKeys(keys: Keys) {
  /** What a key does here; null when it is not ours. */
  function actionOf(event: KeyboardEvent): (() => void) | null {
    const target = event.target as HTMLElement
    const letter = event.key.toLowerCase()
    // Undo and redo are every view's.
    if (event.ctrlKey || event.metaKey || event.altKey) return null
    const direction = ARROWS[event.key]
    if (direction) return target.closest('.p-select, .p-selectbutton') ? null : () => keys.walk(direction)
    if (event.key === 'Delete' || event.key === 'Backspace') return keys.remove
    if (event.key === 'Escape') return keys.close
    if (letter === 'e' || (event.key === 'Enter' && target.tagName !== 'BUTTON')) return keys.edit
    return keys.letters[letter] ?? null
  }
  function onKey(event: KeyboardEvent) {
    if (elsewhere(event.target as HTMLElement)) return
    const action = actionOf(event)
    if (!action) return
    action()
    event.preventDefault()
  }
  onMounted(() => window.addEventListener('keydown', onKey))
  onBeforeUnmount(() => window.removeEventListener('keydown', onKey))
}
