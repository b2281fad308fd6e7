import { computed, ref, watch, type Ref } from 'vue'
import { foldable, hiddenBy } from '#core/picture/fold'
import { layoutPath } from '#core/picture/layout'
import { prepareScene } from '#core/picture/scene/scene'
import type { Plan } from '#core/plan/schema'
import type { Units } from '#core/units/quantity'
import { useElementSize } from './useElementSize'
import type { Shown } from './useShown'

/** Under this width the path is a list of cards, px. */
const NARROW = 700

interface LayoutOf {
  shown: Readonly<Ref<Shown | null>>
  /** The plan as it is by now, whose verdict may be still to come. */
  coming: () => Plan | null
  pane: Ref<HTMLElement | undefined>
  selected: Ref<string | null>
  units: Readonly<Ref<Units>>
}

/**
 * The path laid out for its pane, with blocks folded into one row as one likes: what is chosen, or what a finding is
 * about, is never hidden.
 */
export function useLayout({ shown, coming, pane, selected, units }: LayoutOf) {
  const { width } = useElementSize(pane)
  const narrow = computed(() => width.value > 0 && width.value < NARROW)
  const folded = ref<ReadonlySet<string>>(new Set())
  const layout = computed(() => {
    if (!shown.value) return null
    const { plan, judged } = shown.value
    return layoutPath(plan, judged?.verdict.arrivals ?? {}, width.value, narrow.value ? undefined : folded.value)
  })

  // While the verdict of an edit is being made the page has nothing to do: what hangs on the plan alone is got ready.
  watch(coming, plan => plan && setTimeout(() => getReady(plan)))
  function getReady(plan: Plan) {
    const verdict = shown.value?.judged?.verdict ?? null
    if (plan !== coming() || narrow.value || !verdict) return
    prepareScene(plan, layoutPath(plan, verdict.arrivals, width.value, folded.value), { units: units.value, verdict })
  }

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
