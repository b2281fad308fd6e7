import { onBeforeUnmount, onMounted, ref, type Ref } from 'vue'

/** Something of the path that is held: a lead by the end it was taken at, or a part. */
export interface Held {
  id: string
  isLead: boolean
  /** Where it was taken, px of the page. */
  x: number
  y: number
}

export interface Drag {
  held: Ref<Held | null>
  /** Where the pointer is, px of the page, while something is held. */
  at: Ref<{ x: number; y: number }>
  /** What it would be let go on. */
  over: Ref<string | null>
}

/** So far a pointer moves before it drags, px: less is a press. */
const DRAGS_PX = 7

function idUnder(target: EventTarget | Element | null): { id: string; isLead: boolean } | null {
  const element = (target as Element | null)?.closest?.('[data-lead], [data-part]')
  const lead = element?.getAttribute('data-lead')
  const id = lead ?? element?.getAttribute('data-part')
  return id ? { id, isLead: !!lead } : null
}

/** Dragging leads' ends and parts of the path onto others. */
export function useDrag(pane: Ref<HTMLElement | undefined>, letGo: (held: Held, onto: string) => void): Drag {
  const held = ref<Held | null>(null)
  const at = ref({ x: 0, y: 0 })
  const over = ref<string | null>(null)
  let begun: Held | null = null

  function down(event: PointerEvent) {
    const under = event.button === 0 && event.pointerType === 'mouse' ? idUnder(event.target) : null
    begun = under && { ...under, x: event.clientX, y: event.clientY }
  }
  function move(event: PointerEvent) {
    if (!begun) return
    if (!held.value && Math.hypot(event.clientX - begun.x, event.clientY - begun.y) < DRAGS_PX) return
    held.value = begun
    at.value = { x: event.clientX, y: event.clientY }
    const under = idUnder(document.elementFromPoint(event.clientX, event.clientY))
    over.value = under && under.id !== begun.id ? under.id : null
  }
  function up() {
    if (held.value && over.value) letGo(held.value, over.value)
    stop()
  }
  function stop() {
    begun = held.value = null
    over.value = null
  }
  /** Letting go over what was held is no press on it. */
  function click(event: MouseEvent) {
    if (held.value) event.stopPropagation()
  }
  const onKey = (event: KeyboardEvent) => {
    if (event.key === 'Escape' && held.value) stop()
  }
  onMounted(() => {
    pane.value?.addEventListener('pointerdown', down)
    pane.value?.addEventListener('click', click, true)
    window.addEventListener('pointermove', move)
    window.addEventListener('pointerup', up)
    window.addEventListener('keydown', onKey)
  })
  onBeforeUnmount(() => {
    window.removeEventListener('pointermove', move)
    window.removeEventListener('pointerup', up)
    window.removeEventListener('keydown', onKey)
  })
  return { held, at, over }
}
