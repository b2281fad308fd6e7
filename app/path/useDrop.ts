import { computed, watch, type ComputedRef, type Ref } from 'vue'
import type { Patch } from '#core/edit/patch'
import { leadById, leadName, nameOf, partById, partIdOf } from '#core/plan/find'
import type { Lead } from '#core/plan/schema'
import { fetched, notYet } from '../shell/later'
import type { useStation } from '../stores/station'
import { useDrag, type Drag, type Held } from './useDrag'
import type { Joining } from './usePathEdits'

const puttingBetween = notYet(() => import('#core/edit/between'))

/** What letting go of something held does: a lead's end or a load onto a part's terminals, a part into a lead. */
export function useDrop(of: {
  station: ReturnType<typeof useStation>
  pane: Ref<HTMLElement | undefined>
  joining: Ref<Joining | null>
  said: (patch: Patch, label: string) => boolean
}): Drag & { words: ComputedRef<string>; onto: ComputedRef<ReadonlySet<string>> } {
  const { station, pane, joining, said } = of

  /** The end of a lead whose part is drawn nearer to where it is taken; by the time it is let go all may have moved. */
  function nearerEnd(lead: Lead, { x, y }: Held): 'from' | 'to' {
    const away = (end: 'from' | 'to') => {
      const drawn = pane.value?.querySelector(`[data-part="${partIdOf(lead[end])}"]`)?.getBoundingClientRect()
      if (!drawn) return Infinity
      return Math.hypot(Math.max(drawn.left - x, x - drawn.right, 0), Math.max(drawn.top - y, y - drawn.bottom, 0))
    }
    return away('from') < away('to') ? 'from' : 'to'
  }

  async function letGo(taken: Held, onto: string) {
    const { id, isLead } = taken
    const plan = station.plan!
    const lead = leadById(plan, id)
    const into = leadById(plan, onto)
    if (lead && !into) joining.value = { id, end, onto: partIdOf(onto) }
    if (isLead) return
    const part = partById(plan, partIdOf(id))
    if (!part) return
    if (!into) {
      joining.value = { id: part.id, onto: partIdOf(onto) }
      return
    }
    const { moveInto } = await fetched(puttingBetween)
    const patch = station.plan && moveInto(station.plan, part.id, onto)
    if (patch) said(patch, `${nameOf(part)} into ${leadName(into)}`)
  }

  const drag = useDrag(pane, letGo)
  let end: 'from' | 'to' = 'to'
  watch(
    drag.held,
    taken => {
      const lead = taken?.isLead && leadById(station.plan!, taken.id)
      if (lead) end = nearerEnd(lead, taken)
    },
    { flush: 'sync' },
  )
  const words = computed(() => {
    const { held } = drag
    if (!held.value || !station.plan) return ''
    const lead = leadById(station.plan, held.value.id)
    if (lead) return leadName(lead)
    const part = partById(station.plan, partIdOf(held.value.id))
    return part ? nameOf(part) : ''
  })
  const onto = computed(() => new Set(drag.over.value ? [drag.over.value] : []))
  return { ...drag, words, onto }
}
