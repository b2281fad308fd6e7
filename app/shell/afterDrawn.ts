/** A page that nobody looks at is not drawn: what would wait for that goes on after this, ms. */
const HIDDEN_MS = 250

/** Does something once the page as it now stands has been drawn. @returns lets it go */
export function afterDrawn(then: () => void): () => void {
  let timer = setTimeout(then, HIDDEN_MS)
  const frame = globalThis.requestAnimationFrame?.(() => {
    clearTimeout(timer)
    timer = setTimeout(then)
  })
  return () => {
    clearTimeout(timer)
    if (frame !== undefined) cancelAnimationFrame(frame)
  }
}
