import { onBeforeUnmount, onMounted } from 'vue'

/** Lists that open over a dialog close first. */
const OPEN = '.p-select-open, .p-multiselect-open'

/**
 * Escape closes the dialog that is open, wherever in it the focus stands: a closed list of the component library keeps
 * the key to itself.
 */
export function useEscape() {
  function close(event: KeyboardEvent) {
    if (event.key !== 'Escape' || document.querySelector(OPEN)) return
    const dialog = (event.target as Element).closest?.('.p-select, .p-multiselect') && lastDialog()
    dialog?.querySelector<HTMLElement>('.p-dialog-close-button')?.click()
  }
  const lastDialog = () => [...document.querySelectorAll('.p-dialog')].at(-1)
  onMounted(() => window.addEventListener('keydown', close, true))
  onBeforeUnmount(() => window.removeEventListener('keydown', close, true))
}
