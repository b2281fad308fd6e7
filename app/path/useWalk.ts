import { computed, type Ref } from 'vue'
import type { PathLayout } from '#core/picture/layout'

/** Walking the path by arrows: up and down from row to row, left and right along a row's chain. */
export function useWalk(layout: Ref<PathLayout | null>, selected: Ref<string | null>) {
  /** Row of what is selected: the one last walked along where several share it. */
  let lastRow = 0
  const chains = computed(() => layout.value?.rows.map(r => (r.kind === 'load' ? r.chain : [...r.chain, r.id])) ?? [])

  function rowOf(id: string | null): number {
    if (id === null) return 0
    if (chains.value[lastRow]?.includes(id)) return lastRow
    const found = chains.value.findIndex(c => c.includes(id))
    return found < 0 ? 0 : found
  }

  function walk(direction: 'up' | 'down' | 'left' | 'right'): string | null {
    if (!chains.value.length) return null
    const row = rowOf(selected.value)
    const chain = chains.value[row]!
    const at = selected.value === null ? chain.length - 1 : chain.indexOf(selected.value)
    if (direction === 'left' || direction === 'right') {
      lastRow = row
      return chain[Math.max(0, Math.min(chain.length - 1, at + (direction === 'left' ? -1 : 1)))] ?? null
    }
    lastRow = Math.max(0, Math.min(chains.value.length - 1, row + (direction === 'up' ? -1 : 1)))
    const next = chains.value[lastRow]!
    // The same step of the next row: counted from the load end, where rows are alike.
    return next[Math.max(0, next.length - 1 - (chain.length - 1 - Math.max(0, at)))] ?? null
  }
  return { walk }
}

/**
 * Scrolls the pane to where a part or a lead is drawn. The axis, and in a wide path what arrives, lie over it at the
 * pane's edges: it is brought out from under them.
 */
export function intoSight(id: string | null) {
  const drawn = document.querySelector<SVGElement>(`[data-lead="${id}"] > g, [data-part="${id}"]`)
  const layers = drawn?.closest('.layers')
  drawn?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
  const pane = layers?.parentElement
  if (!drawn || !layers || !pane) return
  const { left, right, top } = drawn.getBoundingClientRect()
  const axis = layers.querySelector('.axis-head')!.getBoundingClientRect()
  pane.scrollTop -= Math.max(0, axis.bottom - top)
  const arrivals = layers.querySelector('.arrivals.over')
  if (!arrivals || arrivals.contains(drawn)) return
  const hidden = right - arrivals.getBoundingClientRect().left
  pane.scrollLeft += Math.max(0, Math.min(hidden, left - pane.getBoundingClientRect().left))
}
