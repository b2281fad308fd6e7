import { onBeforeUnmount, onMounted } from 'vue'

export type Direction = 'up' | 'down' | 'left' | 'right'

export interface Keys {
  walk: (direction: Direction) => void
  /** E, and Enter where it does not press a button. */
  edit: () => void
  remove: () => void
  close: () => void
  /** Whether something was asked for that takes the keys, and may not be there yet. */
  isAsked: () => boolean
  /** Takes a letter that is meant for it; says whether it did. */
  typedAhead: (letter: string) => boolean
  /** What one letter does; e is taken by edit. */
  letters: Record<string, () => void>
}

const ARROWS: Record<string, Direction> = {
  ArrowUp: 'up',
  ArrowDown: 'down',
  ArrowLeft: 'left',
  ArrowRight: 'right',
}

/** Someone is writing, or chooses in a list: that acts on itself, Enter chooses there, letters look for an entry. */
const isInField = (target: HTMLElement) =>
  /^(INPUT|SELECT|TEXTAREA)$/.test(target.tagName) ||
  target.closest('.p-select, .p-multiselect, [role=listbox]') !== null ||
  target.isContentEditable

const isDialogOpen = () => document.querySelector('.p-dialog-mask:not(.p-overlay-mask-leave-active)') !== null

/** The keys of the path, for as long as its view is mounted. */
export function useKeys(keys: Keys) {
  /** What a key does here; null when it is not ours. */
  function actionOf(event: KeyboardEvent): (() => void) | null {
    const target = event.target as HTMLElement
    const letter = event.key.toLowerCase()
    if (isDialogOpen()) return null
    if (event.key === 'Escape') return keys.close
    if (keys.isAsked()) return null
    const direction = ARROWS[event.key]
    if (direction) return target.closest('.p-select, .p-selectbutton') ? null : () => keys.walk(direction)
    if (event.key === 'Delete' || event.key === 'Backspace') return keys.remove
    if (letter === 'e' || (event.key === 'Enter' && target.tagName !== 'BUTTON')) return keys.edit
    return keys.letters[letter] ?? null
  }
  /** A letter typed ahead of the field that it is meant for; a button of a dialog keeps its own. */
  const isForDialog = (event: KeyboardEvent) =>
    event.key.length === 1 && !(event.target as HTMLElement).closest('[role=dialog]') && keys.typedAhead(event.key)
  function onKey(event: KeyboardEvent) {
    // Undo and redo are every view's.
    if (event.ctrlKey || event.metaKey || event.altKey || isInField(event.target as HTMLElement)) return
    if (isForDialog(event)) return event.preventDefault()
    const action = actionOf(event)
    if (!action) return
    action()
    event.preventDefault()
  }
  onMounted(() => window.addEventListener('keydown', onKey))
  onBeforeUnmount(() => window.removeEventListener('keydown', onKey))
}
