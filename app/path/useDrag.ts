import { onBeforeUnmount, onMounted, ref, type Ref } from 'vue'

/** Something of the path that is held: a lead by the end it was taken at, or a part. */
export interface Held {
  id: string
  isLead: boolean
  /** Where it was taken, px of the window. */
  x: number
  y: number
}

export interface Drag {
  held: Ref<Held | null>
  /** Where the pointer is, px of the window, while something is held. */
  at: Ref<{ x: number; y: number }>
  /** What it would be let go on. */
  over: Ref<string | null>
}

/** So far a mouse moves before it drags, px: less is a press. */
const DRAGS_PX = 7
/** So long a finger rests on something before it holds it, ms: less is a press, or a scroll. */
const TAKES_MS = 350
/** So far a resting finger may slip, px. */
const SLIPS_PX = 10
/** So near to an edge what is held draws the picture along, px, and by so much a frame. */
const EDGE_PX = { finger: 70, mouse: 30 }
const SCROLLS_PX = 9

function idUnder(target: EventTarget | Element | null): { id: string; isLead: boolean } | null {
  const element = (target as Element | null)?.closest?.('[data-lead], [data-part]')
  const lead = element?.getAttribute('data-lead')
  const id = lead ?? element?.getAttribute('data-part')
  return id ? { id, isLead: !!lead } : null
}

/** Which way to go along, of what is held at `at` between two edges `near` px wide. */
const alongOf = (at: number, from: number, to: number, near: number) => {
  if (at < from + near) return -SCROLLS_PX
  return at > to - near ? SCROLLS_PX : 0
}

/** What holds the picture scrolls where it can, or the whole page, while something is held near an edge. */
function scrollAlong(pane: HTMLElement, { x, y }: { x: number; y: number }, near: number) {
  const { top, bottom, left, right } = pane.getBoundingClientRect()
  const canPane = pane.scrollHeight > pane.clientHeight
  const [upper, lower] = canPane ? [Math.max(0, top), Math.min(innerHeight, bottom)] : [0, innerHeight]
  const down = alongOf(y, upper, lower, near)
  if (down) (canPane ? pane : window).scrollBy(0, down)
  const across = pane.scrollWidth > pane.clientWidth ? alongOf(x, left, right, near) : 0
  if (across) pane.scrollBy(across, 0)
  return down !== 0 || across !== 0
}

/** Dragging leads' ends and parts of the path onto others: at once with a mouse, after a rest with a finger. */
export function useDrag(pane: Ref<HTMLElement | undefined>, letGo: (held: Held, onto: string) => void): Drag {
  const held = ref<Held | null>(null)
  const at = ref({ x: 0, y: 0 })
  const over = ref<string | null>(null)
  let begun: Held | null = null
  let isFinger = false
  let resting: ReturnType<typeof setTimeout> | undefined

  function down(event: PointerEvent) {
    stop()
    const under = event.button === 0 && event.isPrimary ? idUnder(event.target) : null
    begun = under && { ...under, x: event.clientX, y: event.clientY }
    isFinger = event.pointerType !== 'mouse'
    at.value = { x: event.clientX, y: event.clientY }
    if (begun && isFinger) resting = setTimeout(take, TAKES_MS)
  }
  function take() {
    held.value = begun
    requestAnimationFrame(drawAlong)
  }
  function move(event: PointerEvent) {
    if (!begun) return
    const moved = Math.hypot(event.clientX - begun.x, event.clientY - begun.y)
    if (!held.value && isFinger) return moved > SLIPS_PX ? stop() : undefined
    if (!held.value && moved < DRAGS_PX) return
    if (!held.value) take()
    at.value = { x: event.clientX, y: event.clientY }
    look()
  }
  /** What lies under the pointer now: the page may have gone along. */
  function look() {
    const under = idUnder(document.elementFromPoint(at.value.x, at.value.y))
    over.value = under && under.id !== begun?.id ? under.id : null
  }
  function drawAlong() {
    if (!held.value || !pane.value) return
    if (scrollAlong(pane.value, at.value, isFinger ? EDGE_PX.finger : EDGE_PX.mouse)) look()
    requestAnimationFrame(drawAlong)
  }
  function up() {
    if (held.value && over.value) letGo(held.value, over.value)
    stop()
  }
  function stop() {
    clearTimeout(resting)
    begun = held.value = null
    over.value = null
  }
  /** Letting go over what was held is no press on it. */
  const click = (event: MouseEvent) => held.value && event.stopPropagation()
  /** A finger that holds something does not scroll, and asks for no menu. */
  const notTheBrowsers = (event: Event) => {
    if (held.value && isFinger) event.preventDefault()
  }
  const key = (event: KeyboardEvent) => {
    if (event.key === 'Escape' && held.value) stop()
  }
  useEvents(pane, { down, click, notTheBrowsers }, { move, up, stop, key })
  return { held, at, over }
}

type Listen<E extends Event = PointerEvent> = (event: E) => void

/** Listens on the pane where something is taken, and on the whole window where it goes. */
function useEvents(
  pane: Ref<HTMLElement | undefined>,
  on: { down: Listen; click: (event: MouseEvent) => unknown; notTheBrowsers: Listen<Event> },
  everywhere: { move: Listen; up: () => void; stop: () => void; key: Listen<KeyboardEvent> },
) {
  const gone = new AbortController()
  const { signal } = gone
  onMounted(() => {
    pane.value?.addEventListener('pointerdown', on.down, { signal })
    pane.value?.addEventListener('click', on.click, { capture: true, signal })
    pane.value?.addEventListener('touchmove', on.notTheBrowsers, { passive: false, signal })
    pane.value?.addEventListener('contextmenu', on.notTheBrowsers, { signal })
    window.addEventListener('pointermove', everywhere.move, { signal })
    window.addEventListener('pointerup', everywhere.up, { signal })
    window.addEventListener('pointercancel', everywhere.stop, { signal })
    window.addEventListener('keydown', everywhere.key, { signal })
  })
  onBeforeUnmount(() => {
    everywhere.stop()
    gone.abort()
  })
}
