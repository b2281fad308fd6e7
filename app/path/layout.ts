import { conductorMm2 } from '#core/conductor/resistance'
import { gives, isLoad, kindOf, needs, type Part } from '#core/kinds/index'
import { partIdOf } from '#core/plan/find'
import type { Lead, Plan } from '#core/plan/schema'
import type { Arrival } from '#core/verdict/verdict'

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

export interface Row { kind: 'load' | 'free' | 'end', y: number, id: string, chain: string[] }
export interface Box { id: string, x: number, y: number, width: number, height: number }
export interface Bar { id: string, x: number, y: number, width: number, height: number, ports: { terminal: string, y: number, ratedA: number | null, free: boolean }[] }
export interface ItemShape { id: string, kind: string, label: string, x: number, y: number }
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
  unprotected: { x1: number, x2: number, y: number } | null
  labelX: number
  /** The line is taken by a fuse or by what is unprotected: words go under it. */
  labelBelow: boolean
}
export interface Axis { x: number, width: number, minV: number, maxV: number, ticks: number[] }

const TOP = 46
const SOURCE = { x: 14, width: 132, height: 84 }
const BAR_WIDTH = 30
const LOAD_WIDTH = 124
const MARK_WIDTH = 34
const NAME_GAP = 22

interface Edge { lead: Lead, parent: string, child: string, parentTerminal: string }

/** The tree of the path: each part under the first one by which a source reaches it. Leads beyond it are ties. */
export function pathTree(plan: Plan): { roots: string[], children: Map<string, Edge[]>, ties: Lead[], islands: string[] } {
  const leadsAt = new Map<string, Lead[]>()
  for (const lead of plan.leads) {
    for (const id of new Set([partIdOf(lead.from), partIdOf(lead.to)])) leadsAt.set(id, [...leadsAt.get(id) ?? [], lead])
  }
  const roots = plan.parts.filter(gives).map(p => p.id)
  const children = new Map<string, Edge[]>()
  const seen = new Set(roots)
  const used = new Set<string>()
  const reach = (queue: string[]) => {
    for (let id = queue.shift(); id !== undefined; id = queue.shift()) {
      for (const lead of leadsAt.get(id) ?? []) {
        const outward = partIdOf(lead.from) === id
        const child = partIdOf(outward ? lead.to : lead.from)
        if (seen.has(child)) continue
        seen.add(child)
        used.add(lead.id)
        children.set(id, [...children.get(id) ?? [], { lead, parent: id, child, parentTerminal: outward ? lead.from : lead.to }])
        queue.push(child)
      }
    }
  }
  reach([...roots])
  const islands: string[] = []
  for (const part of [...plan.parts].sort((a, b) => Number(kindOf(a).role === 'load') - Number(kindOf(b).role === 'load'))) {
    if (seen.has(part.id)) continue
    islands.push(part.id)
    seen.add(part.id)
    reach([part.id])
  }
  const parts = new Map(plan.parts.map(p => [p.id, p]))
  for (const [id, edges] of children) {
    const part = parts.get(id)!
    const order = (edge: Edge) => part.kind === 'block' ? part.ports.findIndex(p => `${part.id}.${p.id}` === edge.parentTerminal) : part.kind === 'joint' ? edge.parentTerminal.charCodeAt(edge.parentTerminal.length - 1) : 0
    edges.sort((a, b) => order(a) - order(b))
  }
  return { roots, children, ties: plan.leads.filter(l => !used.has(l.id)), islands }
}

export function layoutPath(plan: Plan, arrivals: Record<string, Arrival | null>, availableWidth: number): PathLayout {
  const { roots, children, ties, islands } = pathTree(plan)
  const parts = new Map(plan.parts.map(p => [p.id, p]))
  const taken = new Set(plan.leads.flatMap(l => [l.from, l.to]))
  const isBar = (part: Part) => kindOf(part).role === 'between'
  const depthBelow = (id: string): number => Math.max(0, ...(children.get(id) ?? []).map(e => depthBelow(e.child))) + (isBar(parts.get(id)!) ? 1 : 0)
  const barColumns = Math.max(0, ...[...roots, ...islands].map(depthBelow))

  const leastLead = barColumns > 1 ? 104 : 130
  const withoutAxis = SOURCE.x + SOURCE.width + barColumns * BAR_WIDTH + LOAD_WIDTH + MARK_WIDTH + 26
  // The axis gives way first, then the leads; beyond that the picture is wider than its pane and scrolls.
  const axisWidth = Math.max(170, Math.min(300, availableWidth * 0.26, availableWidth - withoutAxis - leastLead * (barColumns + 1)))
  const fixed = withoutAxis + axisWidth
  const leadWidth = Math.max(leastLead, (availableWidth - fixed) / (barColumns + 1))
  const width = fixed + leadWidth * (barColumns + 1)
  const barX = (column: number) => SOURCE.x + SOURCE.width + leadWidth * (column + 1) + BAR_WIDTH * column
  const loadX = SOURCE.x + SOURCE.width + leadWidth * (barColumns + 1) + BAR_WIDTH * barColumns + 10

  const rowCount = plan.parts.filter(p => kindOf(p).role === 'load').length + plan.parts.filter(p => p.kind === 'block').length
  const compact = rowCount > 9
  const rowHeight = rowCount <= 6 ? 72 : compact ? 44 : 58

  const rows: Row[] = []
  const boxes: Box[] = []
  const bars: Bar[] = []
  const shapes: LeadShape[] = []
  const centre = new Map<string, number>()
  const columnsTaken = new Set<number>()
  let nextY = TOP + rowHeight / 2
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
    // Room for the name over a bar that stands under another.
    if (isBar(part) && columnsTaken.has(column)) nextY += NAME_GAP
    if (isBar(part)) columnsTaken.add(column)
    const here = [...chain, id]
    const ys: number[] = []
    let own: number | null = null
    if (kindOf(part).role === 'load') own = addRow('load', id, here)
    const below = edges.map((edge) => {
      const y = place(edge.child, column + (isBar(part) ? 1 : 0), [...here, edge.lead.id])
      ys.push(y)
      return { edge, y }
    })
    if (isBar(part)) placeBar(part, column, here, below, ys)
    // In a long list the way in stands at the top of what it feeds, where one starts reading; in a short one in the middle.
    const middle = own ?? (ys.length ? compact ? ys[0]! : (ys[0]! + ys[ys.length - 1]!) / 2 : nextY)
    centre.set(id, middle)
    const isSource = gives(part)
    below.forEach(({ edge, y }, i) => {
      const fromX = isSource ? SOURCE.x + SOURCE.width : isBar(part) ? barX(column) + BAR_WIDTH : loadX - 24
      const fromY = isBar(part) ? y : isSource && below.length > 1 ? middle + (i - (below.length - 1) / 2) * 16 : isSource ? y : middle
      const toX = isBar(parts.get(edge.child)!) ? barX(column + (isBar(part) ? 1 : 0)) : loadX - 10
      shapes.push(leadShape(edge.lead, edge.parentTerminal === edge.lead.from, fromX, fromY, toX, y, i, isSource))
    })
    return middle
  }

  const placeBar = (part: Part, column: number, here: string[], below: { edge: Edge, y: number }[], ys: number[]) => {
    const ports = below.map(({ edge, y }) => ({ terminal: edge.parentTerminal, y, ratedA: portFuse(part, edge.parentTerminal), free: false }))
    const free = part.kind === 'block' ? part.ports.map(p => `${part.id}.${p.id}`).filter(t => !taken.has(t)) : []
    if (free.length || !below.length) {
      const y = addRow(free.length ? 'free' : 'end', free[0] ?? part.id, here)
      ys.push(y)
      ports.push({ terminal: free[0] ?? part.id, y, ratedA: free[0] === undefined ? null : portFuse(part, free[0]), free: true })
    }
    const top = Math.min(...ports.map(p => p.y)) - 20
    const bottom = Math.max(...ports.map(p => p.y)) + 20
    bars.push({ id: part.id, x: barX(column), y: top, width: BAR_WIDTH, height: bottom - top, ports })
  }

  let lastBottom = TOP - 14
  const lonely: string[] = []
  for (const id of roots) {
    if (!children.has(id)) {
      lonely.push(id)
      continue
    }
    const firstY = nextY
    const middle = place(id, 0, [])
    // A source's box wants its own height even where its loads fill one low row.
    const top = Math.max(compact ? middle - 24 : middle - SOURCE.height / 2, lastBottom + 14)
    boxes.push({ id, x: SOURCE.x, y: top, width: SOURCE.width, height: SOURCE.height })
    lastBottom = top + SOURCE.height
    nextY = Math.max(nextY, firstY + rowHeight, lastBottom - rowHeight / 2 + 14)
  }
  for (const id of lonely) {
    const top = lastBottom + 56
    boxes.push({ id, x: SOURCE.x, y: top, width: SOURCE.width, height: SOURCE.height })
    centre.set(id, top + SOURCE.height / 2)
    lastBottom = top + SOURCE.height
  }
  for (const id of islands) place(id, 0, [])

  const boxOf = new Map(boxes.map(b => [b.id, b]))
  const barOf = new Map(bars.map(b => [b.id, b]))
  for (const lead of ties) shapes.push(tieShape(lead, boxOf, barOf, centre, loadX))

  const axis = axisFor(plan, arrivals, loadX + LOAD_WIDTH, axisWidth)
  return {
    width, height: Math.max(nextY - rowHeight / 2, lastBottom) + 16, rowHeight, compact, rows, boxes, bars, leads: shapes, axis,
    loadX, markX: loadX + LOAD_WIDTH + axisWidth + 12,
  }
}

function portFuse(part: Part, terminal: string): number | null {
  return part.kind === 'block' ? part.ports.find(p => `${part.id}.${p.id}` === terminal)?.fuse?.ratedA ?? null : null
}

/** As thick as its copper: the root of its area, within what a screen can show. */
export function leadThickness(lead: Lead): number {
  return Math.min(12, Math.max(1.6, 1.65 * Math.sqrt(conductorMm2(lead.conductor))))
}

const isOpen = (lead: Lead) => (lead.inline ?? []).some(i => (i.kind === 'switch' || i.kind === 'breaker') && i.closed === false)

function leadShape(lead: Lead, outward: boolean, x1: number, y1: number, x2: number, y2: number, index: number, fromSource: boolean): LeadShape {
  const straight = Math.abs(y1 - y2) < 1
  const bendX = x1 + 14 + index * 7
  const path = straight ? `M${x1} ${y1}H${x2}` : `M${x1} ${y1}H${bendX}V${y2}H${x2}`
  const start = straight ? x1 : bendX
  const items = itemShapes(lead, outward, start, x2, y2)
  const fuse = items.find(i => i.kind === 'fuse' || i.kind === 'breaker')
  return {
    id: lead.id, path, x1: start, x2, y: y2, thickness: leadThickness(lead), tie: false, open: isOpen(lead), items,
    unprotected: fromSource ? { x1: start + 4, x2: fuse ? fuse.x - 16 : x2 - 6, y: y2 - 10 } : null,
    labelX: start + 12, labelBelow: fromSource || items.length > 0,
  }
}

function itemShapes(lead: Lead, outward: boolean, x1: number, x2: number, y: number): ItemShape[] {
  const shapes = (lead.inline ?? []).map((item) => {
    const t = (item.atM ?? 0) / lead.lengthM
    const along = outward ? t : 1 - t
    return { id: item.id, kind: item.kind, label: itemLabel(item), x: x1 + (0.17 + 0.66 * along) * (x2 - x1), y }
  }).sort((a, b) => a.x - b.x)
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

/** A lead that closes a ring, or joins two sources: drawn beside the tree. */
function tieShape(lead: Lead, boxes: Map<string, Box>, bars: Map<string, Bar>, centre: Map<string, number>, loadX: number): LeadShape {
  const anchor = (terminal: string) => {
    const id = partIdOf(terminal)
    const box = boxes.get(id)
    const bar = bars.get(id)
    if (box) return { x: box.x + 26, top: box.y, bottom: box.y + box.height }
    if (bar) return { x: bar.x + bar.width / 2, top: bar.y, bottom: bar.y + bar.height }
    const y = centre.get(id) ?? TOP
    return { x: loadX - 14, top: y, bottom: y }
  }
  const [a, b] = [anchor(lead.from), anchor(lead.to)].sort((p, q) => p.top - q.top) as [ReturnType<typeof anchor>, ReturnType<typeof anchor>]
  const straight = Math.abs(a.x - b.x) < 1 && b.top > a.bottom
  const [y1, y2] = straight ? [a.bottom, b.top] : [(a.top + a.bottom) / 2, (b.top + b.bottom) / 2]
  const path = straight ? `M${a.x} ${y1}V${y2}` : `M${a.x} ${y1}C${a.x + 60} ${y1} ${b.x + 60} ${y2} ${b.x} ${y2}`
  return {
    id: lead.id, path, x1: a.x, x2: b.x, y: (y1 + y2) / 2, thickness: leadThickness(lead), tie: true, open: isOpen(lead),
    items: [], unprotected: null, labelX: (straight ? a.x : Math.max(a.x, b.x) + 20) + 12, labelBelow: false,
  }
}

function axisFor(plan: Plan, arrivals: Record<string, Arrival | null>, x: number, width: number): Axis {
  const values = plan.parts.flatMap((p) => {
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
  return axis.x + 8 + (axis.width - 16) * (Math.min(axis.maxV, Math.max(axis.minV, volts)) - axis.minV) / (axis.maxV - axis.minV)
}
