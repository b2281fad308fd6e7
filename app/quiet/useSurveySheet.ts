import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch, type Ref } from 'vue'
import { cellOrder, keyed, withReading, type Survey, type SurveyCell } from '#core/noise/survey/survey'

/** Keys that also move through the page: the sheet has them only while it has the focus itself. */
const OF_THE_PAGE = ['Tab', 'Enter', ' ']
/** They belong to the digit keyed just before, from which the sheet has moved on already. */
const AFTERTHOUGHTS = ['+', '.', ',']

/** Where one stands in a survey's sheet, what is read there, and the keys that fill and move. */
export function useSurveySheet(survey: Ref<Survey | undefined>, put: (next: Survey) => void) {
  const order = computed(() => (survey.value ? cellOrder(survey.value) : []))
  const reading = (row: string, column: string) => survey.value?.readings[row]?.[column]
  const at = ref(0)
  const cell = computed(() => order.value[at.value])
  const row = computed(() => survey.value?.rows.find(r => r.id === cell.value?.row))
  const left = computed(() => order.value.filter(c => !reading(c.row, c.column)).length)

  const firstEmpty = () =>
    Math.max(
      0,
      order.value.findIndex(c => !reading(c.row, c.column)),
    )
  watch(
    () => survey.value?.id,
    () => (at.value = firstEmpty()),
    { immediate: true },
  )
  const intoSight = () => document.querySelector('.cell.on')?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
  watch(at, () => void nextTick(intoSight))

  const set = ({ row, column }: SurveyCell, value: string) =>
    put(withReading(survey.value!, { row, column, value }, new Date().toISOString()))

  const go = (by: number) => (at.value = Math.max(0, Math.min(order.value.length - 1, at.value + by)))
  const choose = (rowId: string, column: string) =>
    (at.value = order.value.findIndex(c => c.row === rowId && c.column === column))

  function fill(name: string): boolean {
    const here = cell.value!
    const before = order.value[at.value - 1]
    const target = AFTERTHOUGHTS.includes(name) && !reading(here.row, here.column) && before ? before : here
    const result = keyed(reading(target.row, target.column), name)
    if (!result) return false
    set(target, result.reading)
    if (result.next) go(1)
    return true
  }

  function clear() {
    const here = cell.value!
    if (!reading(here.row, here.column)) go(-1)
    set(cell.value!, '')
  }

  const moves = (columns: number): Record<string, () => void> => ({
    ArrowRight: () => go(1),
    ' ': () => go(1),
    Tab: () => go(1),
    Enter: () => go(1),
    ArrowLeft: () => go(-1),
    ArrowDown: () => go(columns),
    ArrowUp: () => go(-columns),
    Backspace: clear,
    Delete: clear,
  })

  /** Whether the sheet has a use for a key. */
  function key(name: string): boolean {
    if (!cell.value || !survey.value) return false
    if (fill(name)) return true
    const move = moves(survey.value.columns.length)[name]
    move?.()
    return Boolean(move)
  }

  useWindowKeys(key)

  return { order, at, cell, row, left, reading, go, choose, key }
}

/** Keys of the whole window, but not while somebody writes, chooses in a list or has a dialog open. */
function useWindowKeys(key: (name: string) => boolean) {
  function onKey(event: KeyboardEvent) {
    if (event.ctrlKey || event.metaKey || event.altKey || document.querySelector('[role=dialog]')) return
    const target = event.target as HTMLElement
    if (target.closest('input, textarea, select, [role=combobox], [role=listbox]')) return
    if (OF_THE_PAGE.includes(event.key) && !target.closest('.sheet')) return
    if (key(event.key)) event.preventDefault()
  }
  onMounted(() => window.addEventListener('keydown', onKey))
  onBeforeUnmount(() => window.removeEventListener('keydown', onKey))
}
