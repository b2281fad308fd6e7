import { conductorMm2 } from '../conductor/resistance'
import { isClosed } from '../graph/device'
import type { Inline } from '../kinds/inline'
import { partIdOf } from '../plan/find'
import type { Lead } from '../plan/schema'
import type { Bar, Box, ItemShape, LeadShape } from './layout'

/** How leads are drawn. */

/** Between boxes under each other: room for the lead that ties them, and its words. */
export const TIE_GAP = 50
/** Each tie past a box takes a lane of its own at the left. */
const LANE = 9
/** Items of one lead stand at least so far apart. */
export const ITEM_GAP = 36
/** From the last of them to the lead's far end: a tie may come up before it. */
const BAR_CLEAR = 37
/** What a lead is longer than its items, px. */
export const ITEMS_CLEAR = 40

/** As thick as its copper: the root of its area, within what a screen can show. */
export function leadThickness(lead: Lead): number {
  return Math.min(12, Math.max(1.6, 1.65 * Math.sqrt(conductorMm2(lead.conductor))))
}

/** Where a lead of the tree runs: out of its parent, to its child. */
export interface Run {
  outward: boolean
  x1: number
  y1: number
  x2: number
  y2: number
  /** Which of its parent's leads it is: each bends a little farther out. */
  index: number
  fromSource: boolean
}

export function leadShape(lead: Lead, { outward, x1, y1, x2, y2, index, fromSource }: Run): LeadShape {
  const straight = Math.abs(y1 - y2) < 1
  const bendX = x1 + 12 + index * 13
  const start = straight ? x1 : bendX
  const items = itemShapes(lead, { outward, x1: start, x2, y2 })
  const fuse = items.find(i => i.kind === 'fuse' || i.kind === 'breaker')
  return {
    id: lead.id,
    path: straight ? `M${x1} ${y1}H${x2}` : `M${x1} ${y1}H${bendX}V${y2}H${x2}`,
    x1: start,
    x2,
    y: y2,
    thickness: leadThickness(lead),
    tie: false,
    open: !isClosed(lead),
    items,
    unprotected: fromSource ? { x1: start + 4, x2: fuse ? fuse.x - 16 : x2 - 6, y: y2 - 10 } : null,
    labelX: start + 12,
    labelBelow: fromSource || items.length > 0,
  }
}

function itemShapes(lead: Lead, { outward, x1, x2, y2: y }: Pick<Run, 'outward' | 'x1' | 'x2' | 'y2'>): ItemShape[] {
  const shapes = (lead.inline ?? [])
    .map(item => {
      const t = (item.atM ?? 0) / lead.lengthM
      const along = outward ? t : 1 - t
      return { id: item.id, kind: item.kind, label: itemLabel(item), x: x1 + (0.17 + 0.66 * along) * (x2 - x1), y }
    })
    .sort((a, b) => a.x - b.x)
  for (let i = 1; i < shapes.length; i++) shapes[i]!.x = Math.max(shapes[i]!.x, shapes[i - 1]!.x + ITEM_GAP)
  // More of them than the lead has room for stand evenly between its ends.
  const last = x2 - BAR_CLEAR
  const steps = Math.max(1, shapes.length - 1)
  // A lead shorter than they are is run over at its near end.
  const first = Math.min(x1 + ITEM_GAP / 2, last - steps * ITEM_GAP)
  if (shapes.length && shapes.at(-1)!.x > last)
    shapes.forEach((s, i) => (s.x = shapes.length > 1 ? first + (i * (last - first)) / steps : last))
  return shapes
}

function itemLabel(item: Inline): string {
  switch (item.kind) {
    case 'fuse':
    case 'breaker':
      return String(item.ratedA)
    case 'switch':
      if (item.by) return 'relay'
      return item.closed === false ? 'off' : 'on'
    case 'meter':
      return 'W'
    case 'choke':
      return `${item.turns}×${item.cores}`
    case 'dropper':
      return (item.count ?? 1) > 1 ? `×${item.count}` : ''
  }
}

/** Where a lead beside the tree may find its ends. */
export interface TiePlaces {
  boxes: readonly Box[]
  bars: ReadonlyMap<string, Bar>
  /** y of the middle of each placed part. */
  centre: ReadonlyMap<string, number>
  loadX: number
  top: number
}

/**
 * A lead beside the tree. Between boxes under each other it goes straight down; past others, round by a lane at the
 * left; from a box to
 * a bar, across and up; else it is a curve.
 */
export function tieShape(lead: Lead, places: TiePlaces, lane: () => number): LeadShape {
  const ids = [partIdOf(lead.from), partIdOf(lead.to)] as const
  const boxes = ids.map(id => places.boxes.findIndex(b => b.id === id))
  if (boxes.every(i => i >= 0)) return boxToBox(lead, places, boxes as [number, number], lane)
  const box = places.boxes[boxes.find(i => i >= 0) ?? -1]
  const bar = ids.map(id => places.bars.get(id)).find(b => b)
  if (box && bar) return boxToBar(lead, box, bar, [...places.bars.values()])
  return curve(lead, places, ids)
}

function tie(lead: Lead, path: string, [x1, x2, y]: [number, number, number], labelX: number): LeadShape {
  return {
    id: lead.id,
    path,
    x1,
    x2,
    y,
    thickness: leadThickness(lead),
    tie: true,
    open: !isClosed(lead),
    items: [],
    unprotected: null,
    labelX,
    labelBelow: false,
  }
}

function boxToBox(lead: Lead, { boxes }: TiePlaces, [a, b]: [number, number], lane: () => number): LeadShape {
  const [upper, lower] = [boxes[a]!, boxes[b]!].sort((p, q) => p.y - q.y) as [Box, Box]
  const gapY = lower.y - TIE_GAP / 2
  if (Math.abs(a - b) === 1) {
    const x = upper.x + 22
    return tie(lead, `M${x} ${upper.y + upper.height}V${lower.y}`, [x, x, gapY], upper.x + 32)
  }
  const x = Math.max(5, upper.x - 12 - LANE * lane())
  const [y1, y2] = [upper.y + upper.height - 16, lower.y + 16]
  return tie(lead, `M${upper.x} ${y1}H${x}V${y2}H${lower.x}`, [x, lower.x, gapY], lower.x + 32)
}

/** Under a bar that stands in the way, px. */
const UNDER = 44

function boxToBar(lead: Lead, box: Box, bar: Bar, bars: readonly Bar[]): LeadShape {
  const [x1, y1] = [box.x + box.width, box.y + box.height / 2]
  const y2 = Math.min(bar.y + bar.height - 8, y1)
  const before = bars.filter(b => b.x < bar.x && y1 > b.y - 8 && y1 < b.y + b.height + 8)
  if (before.length) {
    const under = Math.max(...before.map(b => b.y + b.height)) + UNDER
    const path = `M${x1} ${y1}H${x1 + 10}V${under}H${bar.x - 18}V${y2}H${bar.x}`
    return tie(lead, path, [x1 + 10, bar.x - 18, under], x1 + 20)
  }
  return tie(lead, `M${x1} ${y1}H${bar.x - 18}V${y2}H${bar.x}`, [x1, bar.x - 18, y1], x1 + 10)
}

function curve(lead: Lead, { boxes, bars, centre, loadX, top }: TiePlaces, ids: readonly [string, string]): LeadShape {
  const anchor = (id: string) => {
    const placed = bars.get(id) ?? boxes.find(b => b.id === id)
    if (!placed) return { x: loadX - 14, y: centre.get(id) ?? top }
    return { x: placed.x + placed.width / 2, y: placed.y + placed.height / 2 }
  }
  const [a, b] = [anchor(ids[0]), anchor(ids[1])]
  const path = `M${a.x} ${a.y}C${a.x + 60} ${a.y} ${b.x + 60} ${b.y} ${b.x} ${b.y}`
  return tie(lead, path, [a.x, b.x, (a.y + b.y) / 2], Math.max(a.x, b.x) + 32)
}
