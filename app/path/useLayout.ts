import { computed, ref, watch, type Ref } from 'vue'
import { foldable, hiddenBy } from '#core/picture/fold'
import { layoutPath } from '#core/picture/layout'
import { useElementSize } from './useElementSize'
import type { Shown } from './useShown'

/** Under this width the path is a list of cards, px. */
const NARROW = 620

/**
 * The path laid out for its pane, with blocks folded into one row as one likes: what is chosen, or what a finding is
 * about, is never hidden.
 */
export function useLayout(
  shown: Readonly<Ref<Shown | null>>,
  pane: Ref<HTMLElement | undefined>,
  selected: Ref<string | null>,
) {
  const { width } = useElementSize(pane)
  const narrow = computed(() => width.value > 0 && width.value < NARROW)
  const folded = ref<ReadonlySet<string>>(new Set())
  const layout = computed(() => {
    if (!shown.value) return null
    const { plan, judged } = shown.value
    return layoutPath(plan, judged?.verdict.arrivals ?? {}, width.value, narrow.value ? undefined : folded.value)
  })

  function toggleFold(id: string) {
    const next = new Set(folded.value)
    if (!next.delete(id)) next.add(id)
    folded.value = next
  }
  watch(selected, id => {
    const by = shown.value && id !== null ? hiddenBy(shown.value.plan, folded.value, id) : null
    if (by) toggleFold(by)
  })
  /** What can be done to the chosen block; null where it is none. */
  const foldWord = computed(() => {
    const id = selected.value
    if (narrow.value || !shown.value || id === null || !foldable(shown.value.plan, id)) return null
    return folded.value.has(id) ? 'Unfold' : 'Fold'
  })
  const fold = () => foldWord.value && selected.value && toggleFold(selected.value)
  return { width, narrow, layout, toggleFold, foldWord, fold }
}
