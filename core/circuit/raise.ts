import type { Here, Laden } from './laden'

/** How a share is raised. */
export interface Raise {
  /** By so much first; times `grows` after two steps that stood, parted by `shrinks` after one that led nowhere. */
  stride: number
  grows: number
  shrinks?: number
  /** Given up below this stride. */
  least: (share: number) => number
  enough?: number
  /** There is a point to start from; without one each attempt starts from where the one before left off. */
  stands?: boolean
}

const MOST_ATTEMPTS = 40

/**
 * Goes on by steps from the point that stands, towards a share of 1 or what is enough; a step that leads nowhere is
 * made shorter, and after the last one the point of the share reached stands.
 * @param attempt whether there is a point at a share, looked for from where the network is
 * @returns that share
 */
export function raise(
  laden: Laden,
  attempt: (share: number) => boolean,
  { stride, grows, least, enough = 1, shrinks = 2, stands = true }: Raise,
): number {
  let last = stands ? laden.here() : null
  let share = 0
  let stoodLast = false
  for (let n = 0; share < enough && stride > least(share) && n < MOST_ATTEMPTS; n++) {
    const next = Math.min(1, share + stride)
    if (attempt(next) || (last && onOtherPieces(laden, last, () => attempt(next)))) {
      share = next
      // Right after a step that led nowhere it would lead there again.
      if (stoodLast) stride *= grows
      stoodLast = true
      last = laden.here()
      continue
    }
    stride /= shrinks
    stoodLast = false
    if (last) laden.goBack(last)
  }
  return share
}

/** From a point, with sources on the pieces on which an attempt left them: one may be at its limit just beyond. */
function onOtherPieces(laden: Laden, point: Here, attempt: () => boolean): boolean {
  const pieces = laden.pieces.slice()
  if (pieces.every((p, k) => p === point.pieces[k])) return false
  laden.goBack({ ...point, pieces })
  return attempt()
}
