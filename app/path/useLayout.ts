import { computed, ref, watch, type Ref } from 'vue'
import { foldable, hiddenBy } from '#core/picture/fold'
import { layoutPath } from '#core/picture/layout'
import type { useStation } from '../stores/station'
import { useElementSize } from './useElementSize'

/** Under this width the path is a list of cards, px. */
const NARROW = 620

/**
 * The path laid out for its pane, with blocks folded into one row as one likes: what is chosen, or what a finding is
 * about, is never hidden.
 */
export function useLayout(
  station: ReturnType<typeof useStation>,
  pane: Ref<HTMLElement | undefined>,
  selected: Ref<string | null>,
) {
  const { width } = useElementSize(pane)
  const narrow = computed(() => width.value > 0 && width.value < NARROW)
  const folded = ref<ReadonlySet<string>>(new Set())
  const layout = computed(() => {
    const arrivals = station.judged?.verdict.arrivals ?? {}
    return station.plan && layoutPath(station.plan, arrivals, width.value, narrow.value ? undefined : folded.value)
  })

  function toggleFold(id: string) {
    const next = new Set(folded.value)
    if (!next.delete(id)) next.add(id)
    folded.value = next
  }
  watch(selected, id => {
    const by = station.plan && id !== null ? hiddenBy(station.plan, folded.value, id) : null
    if (by) toggleFold(by)
  })
  /** What can be done to the chosen block; null where it is none. */
  const foldWord = computed(() => {
    const id = selected.value
    if (narrow.value || !station.plan || id === null || !foldable(station.plan, id)) return null
    return folded.value.has(id) ? 'Unfold' : 'Fold'
  })
  const fold = () => foldWord.value && selected.value && toggleFold(selected.value)
  return { width, narrow, layout, toggleFold, foldWord, fold }
}
