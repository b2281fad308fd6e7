import type { Severity } from '../../checks/check'
import { shape, type Shape } from './shape'

/** Each severity has a shape of its own and a word for those who hear it; colour only helps. */

export type Mark = Severity | 'passed'

export const MARK_WORDS: Record<Mark, string> = {
  danger: 'danger',
  fail: 'fails',
  caution: 'caution',
  note: 'note',
  passed: 'passed',
}

const DRAWN: Record<Mark, Shape[]> = {
  danger: [shape('path', '', { d: 'M-4-9H4L9-4V4L4 9H-4L-9 4V-4Z' }), shape('path', 'sign', { d: 'M0-5V1.5M0 5V5.2' })],
  fail: [
    shape('path', '', { d: 'M0-9.2L9.6 8H-9.6Z' }),
    shape('path', 'sign', { d: 'M-2.4-0.6L2.4 5M2.4-0.6L-2.4 5' }),
  ],
  caution: [shape('path', '', { d: 'M0-9L9 0L0 9L-9 0Z' })],
  note: [
    shape('rect', '', { x: -7, y: -7, width: 14, height: 14, rx: 3 }),
    shape('path', 'sign', { d: 'M0-1V4M0-4.4V-4.2' }),
  ],
  passed: [shape('circle', 'hollow', { r: 7 })],
}

const SIZE = 18

const markOf = (mark: Mark, size: number): Shape =>
  shape(
    'svg',
    ['mark', mark],
    { width: size, height: size, viewBox: '-10 -10 20 20', role: 'img', 'aria-label': MARK_WORDS[mark] },
    [shape('title', '', {}, [MARK_WORDS[mark]]), ...DRAWN[mark]],
  )

/** Those of the usual size: one for all places, so that nobody looks twice whether they are alike. */
const USUAL = new Map((Object.keys(DRAWN) as Mark[]).map(mark => [mark, markOf(mark, SIZE)]))

/** @param size px */
export const markShape = (mark: Mark, size = SIZE): Shape => (size === SIZE ? USUAL.get(mark)! : markOf(mark, size))

export const markAt = (mark: Mark | undefined, x: number, y: number): Shape | null =>
  mark ? shape('g', '', { transform: `translate(${x} ${y})` }, [markShape(mark)]) : null
