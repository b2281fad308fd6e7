/**
 * Scrolls a pane, and nothing around it, so that something in it is in sight.
 * @param marginPx left free between it and the pane's edge
 */
export function bringWithin(pane: HTMLElement, shown: Element, marginPx: number) {
  const [edge, at] = [pane.getBoundingClientRect(), shown.getBoundingClientRect()]
  const by = (from: number, to: number, low: number, high: number) =>
    Math.max(0, to - high + marginPx) - Math.max(0, low - from + marginPx)
  pane.scrollLeft += by(at.left, at.right, edge.left, edge.right)
  pane.scrollTop += by(at.top, at.bottom, edge.top, edge.bottom)
}
