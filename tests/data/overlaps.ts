import { layoutPath } from '../../core/picture/layout'
import { shownOf } from '../../core/picture/shown'
import { pathScene } from '../../core/picture/scene/scene'
import type { Shape } from '../../core/picture/scene/shape'
import type { Plan } from '../../core/plan/schema'
import { METRIC } from '../../core/units/quantity'
import { judge } from '../../core/verdict/verdict'

/** What lies on what in the picture of a path, measured on its shapes. */

interface Rect {
  /** Words of a lead, among the copper; all else is drawn over it and hides it. */
  isLabel?: boolean
  x1: number
  y1: number
  x2: number
  y2: number
  of: string
}
interface Line extends Rect {
  lead: string
}

/** Sizes of letters by class, px, as in the scene's style; widths are those of the typeface on average. */
const SIZES: Record<string, number> = { small: 11.5, mind: 11.5, name: 13.5, name2: 12, figure: 13, volts: 11.5 }
const LETTER = 0.52
/** Less than this is a touch. */
const SLACK = 2

function textOf(s: Shape | string): string {
  if (typeof s === 'string') return s
  return s.el === 'title' ? '' : s.holds.map(textOf).join('')
}

function shiftOf(at: Shape['at']): [number, number] {
  const found = /translate\(([-\d.]+)[ ,]+([-\d.]+)\)/.exec(String(at.transform ?? ''))
  return found ? [Number(found[1]), Number(found[2])] : [0, 0]
}

interface Found {
  texts: Rect[]
  lines: Line[]
}
interface Under {
  shift: [number, number]
  lead: string
  isItem: boolean
}

function collect(shape: Shape, under: Under, found: Found) {
  const [dx, dy] = under.shift
  const { lead } = under
  const isItem = under.isItem || /^item\b/.test(shape.class)
  const [tx, ty] = shiftOf(shape.at)
  const [x, y] = [dx + tx, dy + ty]
  const own = String(shape.at['data-lead'] ?? lead)
  if (shape.el === 'text') {
    const text = textOf(shape)
    const size = SIZES[shape.class.split(' ')[0]!] ?? 12
    const width = text.length * size * LETTER
    const anchor = shape.at['text-anchor']
    const back = { middle: width / 2, end: width }[String(anchor)] ?? 0
    const left = x + Number(shape.at.x ?? 0) - back
    const base = y + Number(shape.at.y ?? 0)
    if (text.trim())
      found.texts.push({
        x1: left,
        x2: left + width,
        y1: base - 0.75 * size,
        y2: base + 0.2 * size,
        of: text,
        isLabel: own !== '' && !isItem,
      })
    return
  }
  if (shape.class === 'copper') {
    let at: [number, number] = [0, 0]
    for (const [, op, a, b] of String(shape.at.d).matchAll(/([MHV])\s*([-\d.]+)(?:[ ,]+([-\d.]+))?/g)) {
      const straight: [number, number] = op === 'H' ? [Number(a), at[1]] : [at[0], Number(a)]
      const next = op === 'M' ? ([Number(a), Number(b)] as [number, number]) : straight
      if (op !== 'M')
        found.lines.push({
          x1: x + Math.min(at[0], next[0]),
          x2: x + Math.max(at[0], next[0]),
          y1: y + Math.min(at[1], next[1]),
          y2: y + Math.max(at[1], next[1]),
          of: `lead ${own}`,
          lead: own,
        })
      at = next
    }
  }
  for (const held of shape.holds)
    if (typeof held !== 'string') collect(held, { shift: [x, y], lead: own, isItem }, found)
}

const overlap = (a: Rect, b: Rect) =>
  Math.min(a.x2, b.x2) - Math.max(a.x1, b.x1) > SLACK && Math.min(a.y2, b.y2) - Math.max(a.y1, b.y1) > SLACK
const crosses = (line: Line, text: Rect) =>
  Math.min(line.x2, text.x2) - Math.max(line.x1, text.x1) > (line.y1 === line.y2 ? SLACK : -1) &&
  Math.min(line.y2, text.y2) - Math.max(line.y1, text.y1) > (line.x1 === line.x2 ? SLACK : -1) &&
  text.x1 + SLACK < line.x2 + 1 &&
  text.x2 - SLACK > line.x1 - 1 &&
  text.y1 + SLACK < line.y2 + 1 &&
  text.y2 - SLACK > line.y1 - 1

/** Every overlap of boxes, words and lines in the picture of a plan, in words. */
export function overlapsIn(plan: Plan, width = 930, folded: ReadonlySet<string> = new Set()): string[] {
  const { verdict, study } = judge(plan)
  const layout = layoutPath(plan, verdict.arrivals, width, folded)
  const { body, arrivals } = pathScene(plan, layout, { verdict, shown: shownOf(study, verdict), units: METRIC })
  const found: Found = { texts: [], lines: [] }
  for (const s of [...body, ...arrivals]) collect(s, { shift: [0, 0], lead: '', isItem: false }, found)
  const boxes: Rect[] = [...layout.boxes, ...layout.bars].map(b => ({
    x1: b.x,
    x2: b.x + b.width,
    y1: b.y,
    y2: b.y + b.height,
    of: b.id,
  }))
  const told: string[] = []
  const pairs = (list: readonly Rect[], what: string) =>
    list.forEach((a, i) =>
      list.slice(i + 1).forEach(b => overlap(a, b) && told.push(`${what}: “${a.of}” and “${b.of}”`)),
    )
  pairs(boxes, 'boxes')
  pairs(found.texts, 'words')
  for (const text of found.texts)
    for (const line of found.lines)
      if (text.isLabel && crosses(line, text)) told.push(`line through words: ${line.of} and “${text.of}”`)
  for (const line of found.lines)
    for (const box of boxes) {
      const inside = { ...box, x1: box.x1 + 3, x2: box.x2 - 3, y1: box.y1 + 3, y2: box.y2 - 3 }
      if (crosses(line, inside)) told.push(`line through a box: ${line.of} and ${box.of}`)
    }
  return told
}
