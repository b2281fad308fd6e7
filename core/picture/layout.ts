import { conductorMm2 } from '../conductor/resistance'
import { gives, isLoad, kindOf, needs, type Part } from '../kinds/index'
import { partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import type { Arrival } from '../verdict/verdict'

/** Where everything of a plan's path is drawn, px. Sources at the left, loads at the right, what lies between in the order current meets it. */
export interface PathLayout {
  width: number
  height: number
  rowHeight: number
  compact: boolean
  rows: Row[]
  boxes: Box[]
  bars: Bar[]
  leads: LeadShape[]
  axis: Axis
  loadX: number
  markX: number
}

export interface Row {
  kind: 'load' | 'free' | 'end'
  y: number
  id: string
  chain: string[]
}
export interface Box {
  id: string
  x: number
  y: number
  width: number
  height: number
}
export interface Bar {
  id: string
  x: number
  y: number
  width: number
  height: number
  ports: { terminal: string; y: number; ratedA: number | null; free: boolean }[]
}
export interface ItemShape {
  id: string
  kind: string
  label: string
  x: number
  y: number
}
export interface LeadShape {
  id: string
  path: string
  /** Last straight run, toward the load. */
  x1: number
  x2: number
  y: number
  thickness: number
  tie: boolean
  open: boolean
  items: ItemShape[]
  /** Run beside the lead before its first fuse, if it leaves a source. */
  unprotected: { x1: number; x2: number; y: number } | null
  labelX: number
  /** The line is taken by a fuse or by what is unprotected: words go under it. */
  labelBelow: boolean
}
export interface Axis {
  x: number
  width: number
  minV: number
  maxV: number
  ticks: number[]
}

const TOP = 46
const SOURCE = { x: 30, width: 148, height: 78 }
const BAR_WIDTH = 30
const LOAD_WIDTH = 124
const MARK_WIDTH = 34
const NAME_GAP = 22
/** Between boxes under each other: room for the lead that ties them, and its words. */
const TIE_GAP = 50
/** Each tie past a box takes a lane of its own at the left. */
const LANE = 9

interface Edge {
  lead: Lead
  parent: string
  child: string
  parentTerminal: string
}

/** Parts that only fill a battery: they stand under it, not in the way to the loads. */
function fillsOnly(plan: Plan, part: Part): boolean {
  if (part.kind === 'charger' || (part.kind === 'converter' && part.charges !== undefined)) return true
  return part.kind === 'controller' && !plan.leads.some(l => l.from === `${part.id}.load` || l.to === `${part.id}.load`)
}

/**
 * The tree of the path: each part under the first one by which a source reaches it. Leads beyond it are ties. What fills a battery
 * (panel, controller, charger, a supply or vehicle behind them) is a feeder of it: `feeders` names what each stands under.
 */
export function pathTree(plan: Plan): {
  roots: string[]
  children: Map<string, Edge[]>
  ties: Lead[]
  islands: string[]
  feeders: { id: string; under: string }[]
} {
  const leadsAt = new Map<string, Lead[]>()
  for (const lead of plan.leads) {
    for (const id of new Set([partIdOf(lead.from), partIdOf(lead.to)]))
      leadsAt.set(id, [...(leadsAt.get(id) ?? []), lead])
  }
  const parts = new Map(plan.parts.map(p => [p.id, p]))
  const filling = new Set(plan.parts.filter(p => fillsOnly(plan, p)).map(p => p.id))
  const roots = plan.parts.filter(gives).map(p => p.id)
  const children = new Map<string, Edge[]>()
  const seen = new Set(roots)
  const used = new Set<string>()
  const reach = (queue: string[]) => {
    for (let id = queue.shift(); id !== undefined; id = queue.shift()) {
      for (const lead of leadsAt.get(id) ?? []) {
        const outward = partIdOf(lead.from) === id
        const child = partIdOf(outward ? lead.to : lead.from)
        if (seen.has(child) || filling.has(child)) continue
        seen.add(child)
        used.add(lead.id)
        children.set(id, [
          ...(children.get(id) ?? []),
          { lead, parent: id, child, parentTerminal: outward ? lead.from : lead.to },
        ])
        queue.push(child)
      }
    }
  }
  reach([...roots])
  const feeders: { id: string; under: string }[] = []
  const standing = new Set(roots.filter(id => children.has(id)))
  const queue = [...standing]
  for (let id = queue.shift(); id !== undefined; id = queue.shift()) {
    for (const lead of leadsAt.get(id) ?? []) {
      const other = partIdOf(lead.from) === id ? partIdOf(lead.to) : partIdOf(lead.from)
      const isFeeder = filling.has(other) || (gives(parts.get(other)!) && !children.has(other))
      if (standing.has(other) || !isFeeder) continue
      standing.add(other)
      seen.add(other)
      feeders.push({ id: other, under: id })
      queue.unshift(other)
    }
  }
  const islands: string[] = []
  for (const part of [...plan.parts].sort(
    (a, b) => Number(kindOf(a).role === 'load') - Number(kindOf(b).role === 'load'),
  )) {
    if (seen.has(part.id)) continue
    islands.push(part.id)
    seen.add(part.id)
    reach([part.id])
  }
  for (const [id, edges] of children) {
    const part = parts.get(id)!
    const order = (edge: Edge) =>
      part.kind === 'block'
        ? part.ports.findIndex(p => `${part.id}.${p.id}` === edge.parentTerminal)
        : part.kind === 'joint'
          ? edge.parentTerminal.charCodeAt(edge.parentTerminal.length - 1)
          : 0
    edges.sort((a, b) => order(a) - order(b))
  }
  return { roots, children, ties: plan.leads.filter(l => !used.has(l.id)), islands, feeders }
}

export function layoutPath(plan: Plan, arrivals: Record<string, Arrival | null>, availableWidth: number): PathLayout {
  const { roots, children, ties, islands, feeders } = pathTree(plan)
  const parts = new Map(plan.parts.map(p => [p.id, p]))
  const taken = new Set(plan.leads.flatMap(l => [l.from, l.to]))
  const isBar = (part: Part) => kindOf(part).role === 'between'
  const depthBelow = (id: string): number =>
    Math.max(0, ...(children.get(id) ?? []).map(e => depthBelow(e.child))) + (isBar(parts.get(id)!) ? 1 : 0)
  const barColumns = Math.max(0, ...[...roots, ...islands].map(depthBelow))

  const leastLead = barColumns > 1 ? 104 : 130
  const withoutAxis = SOURCE.x + SOURCE.width + barColumns * BAR_WIDTH + LOAD_WIDTH + MARK_WIDTH + 26
  // The axis gives way first, then the leads; beyond that the picture is wider than its pane and scrolls.
  const axisWidth = Math.max(
    170,
    Math.min(300, availableWidth * 0.26, availableWidth - withoutAxis - leastLead * (barColumns + 1)),
  )
  const fixed = withoutAxis + axisWidth
  const leadWidth = Math.max(leastLead, (availableWidth - fixed) / (barColumns + 1))
  const width = fixed + leadWidth * (barColumns + 1)
  const barX = (column: number) => SOURCE.x + SOURCE.width + leadWidth * (column + 1) + BAR_WIDTH * column
  const loadX = SOURCE.x + SOURCE.width + leadWidth * (barColumns + 1) + BAR_WIDTH * barColumns + 10

  const rowCount =
    plan.parts.filter(p => kindOf(p).role === 'load').length + plan.parts.filter(p => p.kind === 'block').length
  const compact = rowCount > 9
  const rowHeight = rowCount <= 6 ? 72 : compact ? 44 : 58

  const rows: Row[] = []
  const boxes: Box[] = []
  const bars: Bar[] = []
  const shapes: LeadShape[] = []
  const centre = new Map<string, number>()
  const columnsTaken = new Set<number>()
  const highRoots = new Set<string>()
  // In low rows a bar's name would stand under the axis.
  let nextY = TOP + rowHeight / 2 + (compact ? 14 : 0)
  let lastBottom = TOP - 14
  const addRow = (kind: Row['kind'], id: string, chain: string[]) => {
    const y = nextY
    nextY += rowHeight
    rows.push({ kind, id, y, chain })
    return y
  }

  /** Places a part and all after it; returns the y of its middle. */
  const place = (id: string, column: number, chain: string[]): number => {
    const part = parts.get(id)!
    const edges = children.get(id) ?? []
    const rowTop = nextY
    // Room for the name over a bar that stands under another.
    if (isBar(part) && columnsTaken.has(column)) nextY += NAME_GAP
    if (isBar(part)) columnsTaken.add(column)
    const here = [...chain, id]
    const ys: number[] = []
    let own: number | null = null
    if (kindOf(part).role === 'load') own = addRow('load', id, here)
    const below = edges.map(edge => {
      const y = place(edge.child, column + (isBar(part) ? 1 : 0), [...here, edge.lead.id])
      ys.push(y)
      return { edge, y }
    })
    if (isBar(part)) placeBar(part, column, here, below, ys)
    // In a long list the way in stands at the top of what it feeds, where one starts reading; in a short one in the middle.
    const middle = own ?? (ys.length ? (compact ? ys[0]! : (ys[0]! + ys[ys.length - 1]!) / 2) : nextY)
    centre.set(id, middle)
    const isSource = gives(part)
    below.forEach(({ edge, y }, i) => {
      const fromX = isSource ? SOURCE.x + SOURCE.width : isBar(part) ? barX(column) + BAR_WIDTH : loadX - 24
      const boxY = Math.max(rowTop - 24, lastBottom + 14) + SOURCE.height / 2
      const fromY = isBar(part)
        ? y
        : highRoots.has(id) && !compact
          ? boxY + (i - (below.length - 1) / 2) * 16
          : isSource && below.length > 1
            ? middle + (i - (below.length - 1) / 2) * 16
            : isSource
              ? y
              : middle
      const toX = isBar(parts.get(edge.child)!) ? barX(column + (isBar(part) ? 1 : 0)) : loadX - 10
      shapes.push(leadShape(edge.lead, edge.parentTerminal === edge.lead.from, fromX, fromY, toX, y, i, isSource))
    })
    return middle
  }

  const placeBar = (part: Part, column: number, here: string[], below: { edge: Edge; y: number }[], ys: number[]) => {
    const ports = below.map(({ edge, y }) => ({
      terminal: edge.parentTerminal,
      y,
      ratedA: portFuse(part, edge.parentTerminal),
      free: false,
    }))
    const free = part.kind === 'block' ? part.ports.map(p => `${part.id}.${p.id}`).filter(t => !taken.has(t)) : []
    if (free.length || !below.length) {
      const y = addRow(free.length ? 'free' : 'end', free[0] ?? part.id, here)
      ys.push(y)
      ports.push({
        terminal: free[0] ?? part.id,
        y,
        ratedA: free[0] === undefined ? null : portFuse(part, free[0]),
        free: true,
      })
    }
    const top = Math.min(...ports.map(p => p.y)) - 20
    const bottom = Math.max(...ports.map(p => p.y)) + 20
    bars.push({ id: part.id, x: barX(column), y: top, width: BAR_WIDTH, height: bottom - top, ports })
  }

  const lonely: string[] = []
  for (const id of roots) {
    if (!children.has(id)) {
      lonely.push(id)
      continue
    }
    const firstY = nextY
    // What fills it stands under it: then it starts at the top of its rows, and everything of it is in sight.
    const high = compact || feeders.some(f => f.under === id)
    if (high) highRoots.add(id)
    const middle = place(id, 0, [])
    // A source's box wants its own height even where its loads fill one low row.
    const top = Math.max(compact ? middle - 24 : high ? firstY - 24 : middle - SOURCE.height / 2, lastBottom + 14)
    boxes.push({ id, x: SOURCE.x, y: top, width: SOURCE.width, height: SOURCE.height })
    lastBottom = top + SOURCE.height
    nextY = Math.max(nextY, firstY + rowHeight, lastBottom - rowHeight / 2 + 14)
  }
  const fed = new Set(feeders.map(f => f.id))
  for (const id of [
    ...feeders.map(f => f.id),
    ...lonely.filter(l => !fed.has(l)),
    ...islands.filter(i => parts.get(i)!.kind === 'generator'),
  ]) {
    const top = lastBottom + TIE_GAP
    boxes.push({ id, x: SOURCE.x, y: top, width: SOURCE.width, height: SOURCE.height })
    centre.set(id, top + SOURCE.height / 2)
    lastBottom = top + SOURCE.height
  }
  for (const id of islands) if (parts.get(id)!.kind !== 'generator') place(id, 0, [])

  const barOf = new Map(bars.map(b => [b.id, b]))
  let lanes = 0
  for (const lead of ties) shapes.push(tieShape(lead, boxes, barOf, centre, loadX, () => lanes++))

  const axis = axisFor(plan, arrivals, loadX + LOAD_WIDTH, axisWidth)
  return {
    width,
    height: Math.max(nextY - rowHeight / 2, lastBottom) + 16,
    rowHeight,
    compact,
    rows,
    boxes,
    bars,
    leads: shapes,
    axis,
    loadX,
    markX: loadX + LOAD_WIDTH + axisWidth + 12,
  }
}

function portFuse(part: Part, terminal: string): number | null {
  return part.kind === 'block' ? (part.ports.find(p => `${part.id}.${p.id}` === terminal)?.fuse?.ratedA ?? null) : null
}

/** As thick as its copper: the root of its area, within what a screen can show. */
export function leadThickness(lead: Lead): number {
  return Math.min(12, Math.max(1.6, 1.65 * Math.sqrt(conductorMm2(lead.conductor))))
}

const isOpen = (lead: Lead) =>
  (lead.inline ?? []).some(i => (i.kind === 'switch' || i.kind === 'breaker') && i.closed === false)

function leadShape(
  lead: Lead,
  outward: boolean,
  x1: number,
  y1: number,
  x2: number,
  y2: number,
  index: number,
  fromSource: boolean,
): LeadShape {
  const straight = Math.abs(y1 - y2) < 1
  const bendX = x1 + 12 + index * 13
  const path = straight ? `M${x1} ${y1}H${x2}` : `M${x1} ${y1}H${bendX}V${y2}H${x2}`
  const start = straight ? x1 : bendX
  const items = itemShapes(lead, outward, start, x2, y2)
  const fuse = items.find(i => i.kind === 'fuse' || i.kind === 'breaker')
  return {
    id: lead.id,
    path,
    x1: start,
    x2,
    y: y2,
    thickness: leadThickness(lead),
    tie: false,
    open: isOpen(lead),
    items,
    unprotected: fromSource ? { x1: start + 4, x2: fuse ? fuse.x - 16 : x2 - 6, y: y2 - 10 } : null,
    labelX: start + 12,
    labelBelow: fromSource || items.length > 0,
  }
}

function itemShapes(lead: Lead, outward: boolean, x1: number, x2: number, y: number): ItemShape[] {
  const shapes = (lead.inline ?? [])
    .map(item => {
      const t = (item.atM ?? 0) / lead.lengthM
      const along = outward ? t : 1 - t
      return { id: item.id, kind: item.kind, label: itemLabel(item), x: x1 + (0.17 + 0.66 * along) * (x2 - x1), y }
    })
    .sort((a, b) => a.x - b.x)
  for (let i = 1; i < shapes.length; i++) shapes[i]!.x = Math.max(shapes[i]!.x, shapes[i - 1]!.x + 36)
  return shapes
}

function itemLabel(item: NonNullable<Lead['inline']>[number]): string {
  if (item.kind === 'fuse' || item.kind === 'breaker') return String(item.ratedA)
  if (item.kind === 'switch') return item.closed === false ? 'off' : 'on'
  if (item.kind === 'meter') return 'W'
  if (item.kind === 'choke') return `${item.turns}×${item.cores}`
  return (item.count ?? 1) > 1 ? `×${item.count}` : ''
}

/**
 * A lead beside the tree. Between boxes under each other it goes straight down; past others, round by a lane at the left; from a box to
 * a bar, across and up; else it is a curve.
 */
function tieShape(
  lead: Lead,
  boxes: readonly Box[],
  bars: Map<string, Bar>,
  centre: Map<string, number>,
  loadX: number,
  lane: () => number,
): LeadShape {
  const shape = (path: string, x1: number, x2: number, y: number, labelX: number): LeadShape => ({
    id: lead.id,
    path,
    x1,
    x2,
    y,
    thickness: leadThickness(lead),
    tie: true,
    open: isOpen(lead),
    items: [],
    unprotected: null,
    labelX,
    labelBelow: false,
  })
  const ids = [partIdOf(lead.from), partIdOf(lead.to)]
  const ends = ids.map(id => boxes.findIndex(b => b.id === id))
  if (ends.every(i => i >= 0)) {
    const [upper, lower] = ends.map(i => boxes[i]!).sort((a, b) => a.y - b.y) as [Box, Box]
    const gapY = lower.y - TIE_GAP / 2
    if (Math.abs(ends[0]! - ends[1]!) === 1)
      return shape(
        `M${upper.x + 22} ${upper.y + upper.height}V${lower.y}`,
        upper.x + 22,
        upper.x + 22,
        gapY,
        upper.x + 32,
      )
    const x = Math.max(5, upper.x - 12 - LANE * lane())
    const [y1, y2] = [upper.y + upper.height - 16, lower.y + 16]
    return shape(`M${upper.x} ${y1}H${x}V${y2}H${lower.x}`, x, lower.x, gapY, lower.x + 32)
  }
  const box = boxes[ends.find(i => i >= 0) ?? -1]
  const bar = ids.map(id => bars.get(id)).find(b => b)
  if (box && bar) {
    const [x1, x2, y1, y2] = [
      box.x + box.width,
      bar.x,
      box.y + box.height / 2,
      Math.min(bar.y + bar.height - 8, box.y + box.height / 2),
    ]
    return shape(`M${x1} ${y1}H${x2 - 18}V${y2}H${x2}`, x1, x2 - 18, y1, x1 + 10)
  }
  const anchor = (id: string) => {
    const placed = bars.get(id) ?? boxes.find(b => b.id === id)
    return placed
      ? { x: placed.x + placed.width / 2, y: placed.y + placed.height / 2 }
      : { x: loadX - 14, y: centre.get(id) ?? TOP }
  }
  const [a, b] = ids.map(anchor) as [{ x: number; y: number }, { x: number; y: number }]
  return shape(
    `M${a.x} ${a.y}C${a.x + 60} ${a.y} ${b.x + 60} ${b.y} ${b.x} ${b.y}`,
    a.x,
    b.x,
    (a.y + b.y) / 2,
    Math.max(a.x, b.x) + 32,
  )
}

function axisFor(plan: Plan, arrivals: Record<string, Arrival | null>, x: number, width: number): Axis {
  const values = plan.parts.flatMap(p => {
    if (!isLoad(p)) return []
    const span = arrivals[p.id]
    return [needs(p).minV, needs(p).maxV, ...(span ? [span.low.value, span.high.value] : [])]
  })
  const minV = Math.floor(Math.min(11, ...values) - 0.2)
  const maxV = Math.ceil(Math.max(15, ...values) + 0.2)
  const stride = [1, 2, 5, 10, 20, 50].find(s => (maxV - minV) / s <= 8) ?? 100
  const ticks: number[] = []
  for (let v = Math.ceil(minV / stride) * stride; v <= maxV; v += stride) ticks.push(v)
  return { x, width, minV, maxV, ticks }
}

/** x of a voltage on the shared axis. */
export function axisX(axis: Axis, volts: number): number {
  return (
    axis.x +
    8 +
    ((axis.width - 16) * (Math.min(axis.maxV, Math.max(axis.minV, volts)) - axis.minV)) / (axis.maxV - axis.minV)
  )
}
