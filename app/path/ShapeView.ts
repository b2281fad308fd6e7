import { defineComponent, h, withMemo, type PropType, type VNode } from 'vue'
import type { Act, Acts, Shape } from '#core/picture/scene/shape'

/** Shapes of a scene as elements of the page; what is pressed is told as its act. */

type Tell = (act: Act) => void

/** A form for a figure opens where the figure stands. */
function placed(act: Act, target: EventTarget | null): Act {
  if (act.does !== 'token' || act.x !== undefined) return act
  const { x, y } = (target as SVGGraphicsElement).getBBox()
  return { ...act, x, y }
}

function touch({ acts }: Shape, tell: Tell): Record<string, unknown> {
  if (!acts) return {}
  const { label, tab, press, open, focus } = acts
  const telling = (act: Act | undefined) => act && ((event: Event) => tell(placed(act, event.currentTarget)))
  /** As a button: Space presses it, and Enter where it opens nothing of its own. */
  const key = (event: KeyboardEvent) => {
    if (!press || (event.key !== ' ' && (event.key !== 'Enter' || open))) return
    event.preventDefault()
    event.stopPropagation()
    tell(placed(press, event.currentTarget))
  }
  return {
    role: 'button',
    tabindex: tab ?? undefined,
    'aria-label': label,
    onClick: telling(press),
    onDblclick: telling(open),
    onFocus: telling(focus),
    onKeydown: tab === 0 ? key : undefined,
  }
}

export function drawn(shape: Shape, tell: Tell): VNode {
  const holds = shape.holds.map(held => (typeof held === 'string' ? held : drawn(held, tell)))
  return h(shape.el, { ...(shape.class && { class: shape.class }), ...shape.at, ...touch(shape, tell) }, holds)
}

type Held = Shape['holds'][number]

const isSameAct = (a: Act | undefined, b: Act | undefined) =>
  a === b || (a !== undefined && b !== undefined && a.does === b.does && a.id === b.id && isSameToken(a, b))
const isSameToken = (a: Act, b: Act) =>
  (a.does !== 'token' && b.does !== 'token') || JSON.stringify(a) === JSON.stringify(b)

function doAlike(a: Acts | undefined, b: Acts | undefined): boolean {
  if (a === b) return true
  if (!a || !b || a.label !== b.label || a.tab !== b.tab) return false
  return isSameAct(a.press, b.press) && isSameAct(a.open, b.open) && isSameAct(a.focus, b.focus)
}

/** Whether two shapes are drawn alike and do the same. A large picture has thousands: no lists are made here. */
function isAlike(a: Held, b: Held | undefined): boolean {
  if (a === b) return true
  if (typeof a === 'string' || typeof b === 'string' || b === undefined) return false
  if (a.el !== b.el || a.class !== b.class || a.holds.length !== b.holds.length) return false
  let more = 0
  for (const name in a.at) {
    if (a.at[name] !== b.at[name]) return false
    more++
  }
  for (const _name in b.at) more--
  if (more) return false
  if (!doAlike(a.acts, b.acts)) return false
  for (let i = 0; i < a.holds.length; i++) if (!isAlike(a.holds[i]!, b.holds[i])) return false
  return true
}

/**
 * Draws shapes inside an SVG. One that is as it was is not drawn again: most of a large picture stands still after an
 * edit.
 */
const ShapeView = defineComponent({
  props: { shapes: { type: Array as PropType<readonly Shape[]>, required: true } },
  emits: { act: (_act: Act) => true },
  setup(props, { emit }) {
    const kept: VNode[] = []
    const tell = (act: Act) => emit('act', act)
    let before: readonly Shape[] = []
    return () => {
      kept.length = Math.min(kept.length, props.shapes.length)
      // One that is as it was stands for itself: by it Vue knows that nothing is to be done.
      before = props.shapes.map((shape, i) => (isAlike(shape, before[i]) ? before[i]! : shape))
      return before.map((shape, i) => withMemo([shape], () => drawn(shape, tell), kept, i))
    }
  },
})

export default ShapeView
