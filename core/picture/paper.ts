import type { Plan } from '../plan/schema'
import { METRIC, type Units } from '../units/quantity'
import type { Verdict } from '../verdict/verdict'
import { layoutPath } from './layout'
import { LIGHT } from './scene/palette'
import { pathScene } from './scene/scene'
import { shape, words, type Shape } from './scene/shape'
import type { Shown } from './shown'
import { rounded } from '../units/number'

const FONT = 'Archivo, Helvetica, Arial, sans-serif'
const FOOT = 'Drawn by Wireman; local codes and a licensed electrician decide.'
/** Room for the foot, px. */
const FOOT_HEIGHT = 24

export interface PaperOptions {
  units?: Units
  widthPx?: number
}

/** The path as it is printed: one picture by itself, px, without what invites a hand. */
export function pathOnPaper(
  plan: Plan,
  verdict: Verdict,
  shown: Shown,
  { units = METRIC, widthPx = 1000 }: PaperOptions = {},
): { picture: Shape; width: number; height: number } {
  const layout = layoutPath(plan, verdict.arrivals, widthPx)
  const { head, body, arrivals } = pathScene(plan, layout, { units, verdict, shown, onPaper: true })
  const { width } = layout
  const height = layout.height + FOOT_HEIGHT
  const tenth = (px: number) => String(rounded(px, 1))
  const at = {
    xmlns: 'http://www.w3.org/2000/svg',
    width,
    height,
    viewBox: `0 0 ${tenth(width)} ${tenth(height)}`,
    'font-family': FONT,
  }
  const foot = words('small', [14, layout.height + 14], `${plan.name}. ${FOOT}`)
  const ground = shape('rect', '', { width, height, fill: LIGHT.print })
  const picture = shape('svg', 'path', at, [
    shape('title', '', {}, [plan.name]),
    ground,
    ...head.slice(1),
    ...arrivals,
    ...body,
    foot,
  ])
  return { picture, width, height }
}
