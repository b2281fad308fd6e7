import { h, type FunctionalComponent, type VNode } from 'vue'
import type { Act, Shape } from '#core/picture/scene/shape'

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
  return {
    role: 'button',
    tabindex: tab ?? undefined,
    'aria-label': label,
    onClick: telling(press),
    onDblclick: telling(open),
    onFocus: telling(focus),
  }
}

export function drawn(shape: Shape, tell: Tell): VNode {
  const holds = shape.holds.map(held => (typeof held === 'string' ? held : drawn(held, tell)))
  return h(shape.el, { ...(shape.class && { class: shape.class }), ...shape.at, ...touch(shape, tell) }, holds)
}

/** Draws shapes inside an SVG. */
const ShapeView: FunctionalComponent<{ shapes: readonly Shape[] }, { act: (act: Act) => void }> = (
  { shapes },
  { emit },
) => shapes.map(s => drawn(s, act => emit('act', act)))
ShapeView.props = ['shapes']
ShapeView.emits = ['act']

export default ShapeView
