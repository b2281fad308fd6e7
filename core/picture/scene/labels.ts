import { nameOf } from '../../plan/find'
import type { Bar, LeadShape, PathLayout } from '../layout'
import { leadWords, ownLine, shortened } from '../words'
import type { Drawing } from './drawing'

/**
 * Where the words of leads stand: where they are used to stand, or at the next free place along the lead, so that no
 * word lies on another, on a line or on a box. Where there is none they are left to the lead's title.
 */

/** Two lines of words: their left end, and the baselines of both, px. */
export interface LabelPlace {
  x: number
  first: number
  second: number
}

interface Rect {
  x1: number
  y1: number
  x2: number
  y2: number
}

/** Widths of words, px: a letter of the typeface is about so wide for its size. */
export const LETTER = 0.55
export const widthOf = (text: string, size: number) => LETTER * size * text.length
const SIZES = { first: 12, second: 11.5 }
/** What flows is not known to the layout: room for "21.5 A · 0.82 V". */
const FLOW_LETTERS = 15
/** A mark stands at the end of a label. */
const MARK_PX = 20
const GAP = 2

const touch = (a: Rect, b: Rect) => a.x1 < b.x2 - GAP && b.x1 < a.x2 - GAP && a.y1 < b.y2 - GAP && b.y1 < a.y2 - GAP

/** What is taken already, by bands of the picture: a label asks only of those it lies in. */
class Taken {
  private readonly bands = new Map<number, Rect[]>()

  add(rects: readonly Rect[]) {
    for (const rect of rects)
      for (const band of bandsOf(rect)) {
        const there = this.bands.get(band)
        if (there) there.push(rect)
        else this.bands.set(band, [rect])
      }
  }

  has(rect: Rect): boolean {
    return bandsOf(rect).some(band => this.bands.get(band)?.some(t => touch(t, rect)))
  }
}
const BAND_PX = 40
function bandsOf({ y1, y2 }: Rect): number[] {
  const first = Math.floor(y1 / BAND_PX)
  return Array.from({ length: Math.floor(y2 / BAND_PX) - first + 1 }, (_, i) => first + i)
}

/** Straight runs of a lead's path; a curve is the box that it lies in. */
function runsOf({ path }: LeadShape): Rect[] {
  const curve = /^M([-\d.]+) ([-\d.]+)C.* ([-\d.]+) ([-\d.]+)$/.exec(path)
  if (curve) {
    const [x1, y1, x2, y2] = curve.slice(1).map(Number) as [number, number, number, number]
    const right = Math.max(x1, x2) + 45
    return [{ x1: right - 12, x2: right, y1: Math.min(y1, y2), y2: Math.max(y1, y2) }]
  }
  const runs: Rect[] = []
  let [x, y] = [0, 0]
  for (const [, op, a, b] of path.matchAll(/([MHV])([-\d.]+)(?: ([-\d.]+))?/g)) {
    const [nextX, nextY] = op === 'V' ? [x, Number(a)] : [Number(a), op === 'M' ? Number(b) : y]
    if (op !== 'M')
      runs.push({ x1: Math.min(x, nextX), x2: Math.max(x, nextX), y1: Math.min(y, nextY), y2: Math.max(y, nextY) })
    ;[x, y] = [nextX, nextY]
  }
  return runs
}

const around = (x: number, y: number, halfX: number, halfY: number): Rect => ({
  x1: x - halfX,
  x2: x + halfX,
  y1: y - halfY,
  y2: y + halfY,
})
const textAt = (text: string, size: number, { x, y, middle }: { x: number; y: number; middle?: boolean }): Rect => {
  const left = middle ? x - widthOf(text, size) / 2 : x
  return { x1: left, x2: left + widthOf(text, size), y1: y - 0.75 * size, y2: y + 0.25 * size }
}

/** Words under a bar begin so far left of it, px: clear of the lead that comes up beside it. */
export const UNDER_BAR = 8
/** Letters of a bar's name: into the leads beside it, and no farther. */
export const BAR_LETTERS = 20
export const barName = (bar: Bar, { graph }: Pick<Drawing, 'graph'>) =>
  shortened(nameOf(graph.parts.get(bar.id)!), BAR_LETTERS)

/** Everything that stands still. */
function obstaclesOf(drawing: Worded): Rect[] {
  const { layout, graph } = drawing
  const ofBoxes = layout.boxes.map(b => ({ x1: b.x, x2: b.x + b.width, y1: b.y, y2: b.y + b.height }))
  const ofBars = layout.bars.flatMap(bar => {
    const middle = bar.x + bar.width / 2
    const line = ownLine(graph.parts.get(bar.id)!)
    return [
      { x1: bar.x, x2: bar.x + bar.width, y1: bar.y, y2: bar.y + bar.height },
      textAt(barName(bar, drawing), 12, { x: middle, y: bar.y - 7, middle: true }),
      ...(line ? [textAt(line, 11.5, { x: bar.x - UNDER_BAR, y: bar.y + bar.height + 14 })] : []),
      textAt('mind', 11.5, { x: bar.x - UNDER_BAR, y: bar.y + bar.height + (line ? 28 : 14) }),
    ]
  })
  const ofRows = layout.rows
    .filter(r => r.kind === 'load' || r.kind === 'folded')
    .map(r => ({ x1: layout.loadX, x2: layout.width, y1: r.y - 14, y2: r.y + 18 }))
  const ofFree = layout.rows
    .filter(r => r.kind === 'free')
    .map(r => {
      const bar = layout.bars.find(b => b.id === r.chain.at(-1))
      return textAt('free port p10: press A to add a load here', 11.5, {
        x: (bar ? bar.x + bar.width : layout.loadX) + 10,
        y: r.y + 4,
      })
    })
  // A diode has its word under it.
  const ofItems = layout.leads.flatMap(l =>
    l.items.map(i => (i.kind === 'dropper' ? around(i.x, i.y + 6, 26, 19) : around(i.x, i.y, 17, 13))),
  )
  return [...ofBoxes, ...ofBars, ...ofRows, ...ofFree, ...ofItems]
}

/** Baselines of both lines from a run's y: beside it, under it, over it. */
const STYLES = {
  beside: [-9, 18],
  low: [-9, 15],
  under: [24, 39],
  over: [-24, -9],
  high: [-32, -17],
  tie: [-2, 13],
} as const
/** Steps along a run, px. */
const STEP = 14

/** Places where a label may stand, as it always stood first. */
function* candidates(lead: LeadShape, { compact }: PathLayout): Generator<LabelPlace> {
  const beside = compact ? STYLES.low : STYLES.beside
  const usual = lead.labelBelow ? STYLES.under : beside
  const at = (x: number, y: number, [first, second]: readonly [number, number]) => ({
    x,
    first: y + first,
    second: y + second,
  })
  yield at(lead.labelX, lead.y, lead.tie ? STYLES.tie : usual)
  for (const run of runsOf(lead)) {
    if (run.y1 === run.y2)
      for (const style of [usual, beside, STYLES.under, STYLES.over, STYLES.high])
        for (let x = run.x1 + 12; x < run.x2; x += STEP) yield at(x, run.y1, style)
    else
      for (let y = run.y1 + 10; y < run.y2 - 8; y += STEP) {
        yield at(run.x2 + 10, y, STYLES.tie)
        yield at(run.x1 - 96, y, STYLES.tie)
      }
  }
}

type Places = ReadonlyMap<string, LabelPlace | null>
/** Of leads as they lie, with what else moves words: choosing something moves none, nor does the axis. */
const KNOWN = new WeakMap<readonly LeadShape[], { key: string; places: Places }>()

/** What the places of words hang on. */
type Worded = Pick<Drawing, 'layout' | 'graph' | 'units' | 'worst'>

/** A place for each lead's words; null where there is none that is free. */
export function labelPlaces(drawing: Worded): Places {
  const key = [drawing.units.length, ...[...drawing.worst.keys()].filter(id => drawing.graph.leads.has(id))].join()
  const known = KNOWN.get(drawing.layout.leads)
  if (known?.key === key) return known.places
  const places = placed(drawing)
  KNOWN.set(drawing.layout.leads, { key, places })
  return places
}

function placed(drawing: Worded): Places {
  const { layout, graph, units } = drawing
  const taken = new Taken()
  taken.add(obstaclesOf(drawing))
  taken.add(layout.leads.flatMap(l => runsOf(l).map(grown)))
  const dashes = layout.leads.flatMap(({ unprotected: u }) =>
    u ? [{ x1: u.x1, x2: u.x2, y1: u.y - 2, y2: u.y + 2 }] : [],
  )
  taken.add(dashes.map(grown))
  const isFree = (rects: readonly Rect[]) => rects.every(r => r.x1 > 0 && r.y1 > 0 && !taken.has(r))
  const places = new Map<string, LabelPlace | null>()
  for (const lead of layout.leads) {
    const { conductor, length } = leadWords(graph.leads.get(lead.id)!, units)
    const firstPx = widthOf(`${conductor} · ${length}`, SIZES.first) + (drawing.worst.has(lead.id) ? MARK_PX : 0)
    const secondPx = widthOf('x'.repeat(FLOW_LETTERS), SIZES.second)
    const rectsAt = (p: LabelPlace): Rect[] => [
      { x1: p.x, x2: p.x + firstPx, y1: p.first - 9, y2: p.first + 3 },
      { x1: p.x, x2: p.x + secondPx, y1: p.second - 9, y2: p.second + 3 },
    ]
    let place: LabelPlace | null = null
    for (const candidate of candidates(lead, layout))
      if (isFree(rectsAt(candidate))) {
        place = candidate
        break
      }
    places.set(lead.id, place)
    if (place) taken.add(rectsAt(place))
  }
  return places
}

/** A line is as thick as its copper. */
const grown = ({ x1, x2, y1, y2 }: Rect): Rect => ({ x1: x1 - 4, x2: x2 + 4, y1: y1 - 4, y2: y2 + 4 })
