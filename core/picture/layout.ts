import { freePortsOf } from '../graph/free'
import { graphOf, type Graph } from '../graph/graph'
import { gives, isLoad, kindOf, type Part } from '../kinds/index'
import type { Plan } from '../plan/schema'
import type { Arrival } from '../verdict/verdict'
import { ITEM_GAP, ITEMS_CLEAR, leadShape, TIE_GAP, tieShape } from './leads'
import { axisFor, type Axis } from './axis'
import { foldedTree, type Fold, type FoldedTree } from './fold'
import type { Edge } from './tree'

export { leadThickness } from './leads'

/**
 * Where everything of a plan's path is drawn, px. Sources at the left, loads at the right, what lies between in the
 * order current meets it.
 */
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
  kind: 'load' | 'free' | 'end' | 'folded'
  y: number
  id: string
  chain: string[]
  /** Of a folded part, what it hides. */
  fold?: Fold
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

const TOP = 46
const SOURCE = { x: 30, width: 148, height: 78 }
const BAR_WIDTH = 30
const LOAD_WIDTH = 124
const MARK_WIDTH = 34
const NAME_GAP = 22
/** Between boxes of two sources that feed rows of their own. */
const BOX_GAP = 14
/** From a port's line to the edge of its bar. */
const BAR_EDGE = 20
/** Between the lines of leads that leave one box. */
const FAN = 16

/** Few rows are tall, many are low: all should be in sight. */
const ROWS = { tall: { most: 6, height: 72 }, middle: { most: 9, height: 58 }, compact: { height: 44 } } as const

const isBar = (part: Part) => kindOf(part).role === 'between'

/** Columns and rows: how wide and how tall things are drawn. */
interface Grid {
  barColumns: number
  leadWidth: number
  axisWidth: number
  width: number
  loadX: number
  compact: boolean
  rowHeight: number
}

function gridOf(plan: Plan, { roots, islands, children, folds }: FoldedTree, availableWidth: number): Grid {
  const { parts } = graphOf(plan)
  const below = (id: string): number => Math.max(0, ...(children.get(id) ?? []).map(e => depth(e.child)))
  const depth = (id: string): number => below(id) + (isBar(parts.get(id)!) ? 1 : 0)
  const barColumns = Math.max(0, ...[...roots, ...islands].map(depth))
  const mostItems = Math.max(0, ...plan.leads.map(l => l.inline?.length ?? 0))
  const leastLead = Math.max(barColumns > 1 ? 104 : 130, ITEMS_CLEAR + ITEM_GAP * mostItems)
  const withoutAxis = SOURCE.x + SOURCE.width + barColumns * BAR_WIDTH + LOAD_WIDTH + MARK_WIDTH + 26
  // The axis gives way first, then the leads; beyond that the picture is wider than its pane and scrolls.
  const roomForAxis = availableWidth - withoutAxis - leastLead * (barColumns + 1)
  const axisWidth = Math.max(170, Math.min(300, availableWidth * 0.26, roomForAxis))
  const fixed = withoutAxis + axisWidth
  const leadWidth = Math.max(leastLead, (availableWidth - fixed) / (barColumns + 1))
  const hidden = (id: string) => [...folds.values()].some(f => f.hides.has(id))
  const wantsRow = (p: Part) => isLoad(p) || kindOf(p).ports?.distributes
  const rowCount = plan.parts.filter(p => wantsRow(p) && !hidden(p.id)).length
  const compact = rowCount > ROWS.middle.most
  const low = compact ? ROWS.compact.height : ROWS.middle.height
  return {
    barColumns,
    leadWidth,
    axisWidth,
    width: fixed + leadWidth * (barColumns + 1),
    loadX: SOURCE.x + SOURCE.width + leadWidth * (barColumns + 1) + BAR_WIDTH * barColumns + 10,
    compact,
    rowHeight: rowCount <= ROWS.tall.most ? ROWS.tall.height : low,
  }
}

/** Where all stands but the axis: by the plan alone. */
type Places = Omit<PathLayout, 'axis'> & { axisWidth: number }

/** Of a plan, as it was placed last: nobody writes to a plan, nor to what was placed. */
const PLACED = new WeakMap<Plan, { key: string; places: Places }>()

function placesOf(plan: Plan, availableWidth: number, folded: ReadonlySet<string>): Places {
  const key = [availableWidth, ...folded].join(' ')
  const known = PLACED.get(plan)
  if (known?.key === key) return known.places
  const places = placed(plan, availableWidth, folded)
  PLACED.set(plan, { key, places })
  return places
}

function placed(plan: Plan, availableWidth: number, folded: ReadonlySet<string>): Places {
  const tree = foldedTree(plan, folded)
  const grid = gridOf(plan, tree, availableWidth)
  const placing = new Placing(plan, tree, grid)
  placing.placeAll()
  const { rows, boxes, bars, leads } = placing
  const { loadX, axisWidth, width, rowHeight, compact } = grid
  const markX = loadX + LOAD_WIDTH + axisWidth + 12
  return { width, height: placing.bottom(), rowHeight, compact, rows, boxes, bars, leads, loadX, markX, axisWidth }
}

/** @param folded parts whose loads are drawn as one row */
export function layoutPath(
  plan: Plan,
  arrivals: Record<string, Arrival | null>,
  availableWidth: number,
  folded: ReadonlySet<string> = new Set(),
): PathLayout {
  const { axisWidth, ...places } = placesOf(plan, availableWidth, folded)
  return { ...places, axis: axisFor(plan, arrivals, places.loadX + LOAD_WIDTH, axisWidth) }
}

/** A child with the y it was placed at. */
interface Placed {
  edge: Edge
  y: number
}

/** Places the tree row by row, depth first, and the ties when all else stands. */
class Placing {
  readonly rows: Row[] = []
  readonly boxes: Box[] = []
  readonly bars: Bar[] = []
  readonly leads: LeadShape[] = []
  private readonly graph: Graph
  private readonly centre = new Map<string, number>()
  private readonly columnsTaken = new Set<number>()
  private readonly highRoots = new Set<string>()
  private nextY: number
  private lastBottom = TOP - BOX_GAP

  constructor(
    plan: Plan,
    private readonly tree: FoldedTree,
    private readonly grid: Grid,
  ) {
    this.graph = graphOf(plan)
    // In low rows a bar's name would stand under the axis.
    this.nextY = TOP + grid.rowHeight / 2 + (grid.compact ? 14 : 0)
  }

  bottom(): number {
    return Math.max(this.nextY - this.grid.rowHeight / 2, this.lastBottom) + 16
  }

  placeAll() {
    const { roots, feeders, islands, ties, children } = this.tree
    const standsAlone = (id: string) => this.stands(id) === 'alone'
    const fed = new Set(feeders.map(f => f.id))
    for (const id of roots.filter(r => children.has(r))) this.placeRoot(id)
    const lonely = roots.filter(id => !children.has(id) && !fed.has(id))
    for (const id of [...feeders.map(f => f.id), ...lonely, ...islands.filter(standsAlone)]) this.placeBelow(id)
    for (const id of islands) if (!standsAlone(id)) this.place(id, 0, [])
    let lanes = 0
    const bars = new Map(this.bars.map(b => [b.id, b]))
    const places = { boxes: this.boxes, bars, centre: this.centre, loadX: this.grid.loadX, top: TOP }
    for (const lead of ties) this.leads.push(tieShape(lead, places, () => lanes++))
  }

  private stands(id: string) {
    const part = this.graph.parts.get(id)!
    return kindOf(part).stands?.(part, this.graph.landings) ?? 'inPath'
  }

  private barX(column: number): number {
    return SOURCE.x + SOURCE.width + this.grid.leadWidth * (column + 1) + BAR_WIDTH * column
  }

  private addRow(kind: Row['kind'], id: string, chain: string[]): number {
    const y = this.nextY
    this.nextY += this.grid.rowHeight
    this.rows.push({ kind, id, y, chain })
    return y
  }

  /** A source with all that hangs on it. */
  private placeRoot(id: string) {
    const { compact, rowHeight } = this.grid
    const firstY = this.nextY
    // What fills it stands under it: then it starts at the top of its rows, and everything of it is in sight.
    const high = compact || this.tree.feeders.some(f => f.under === id)
    if (high) this.highRoots.add(id)
    const middle = this.place(id, 0, [])
    const atTop = compact ? middle - 24 : firstY - 24
    // A source's box wants its own height even where its loads fill one low row.
    const top = Math.max(high ? atTop : middle - SOURCE.height / 2, this.lastBottom + BOX_GAP)
    this.addBox(id, top)
    this.nextY = Math.max(this.nextY, firstY + rowHeight, this.lastBottom - rowHeight / 2 + BOX_GAP)
  }

  /** A box under the others: what fills a battery, a source that feeds nothing, a generator. */
  private placeBelow(id: string) {
    const top = this.lastBottom + TIE_GAP
    this.addBox(id, top)
    this.centre.set(id, top + SOURCE.height / 2)
  }

  private addBox(id: string, y: number) {
    this.boxes.push({ id, x: SOURCE.x, y, width: SOURCE.width, height: SOURCE.height })
    this.lastBottom = y + SOURCE.height
  }

  /** Places a part and all after it; returns the y of its middle. */
  private place(id: string, column: number, chain: string[]): number {
    const part = this.graph.parts.get(id)!
    const rowTop = this.nextY
    // Room for the name over a bar that stands under another.
    if (isBar(part) && this.columnsTaken.has(column)) this.nextY += NAME_GAP
    if (isBar(part)) this.columnsTaken.add(column)
    const here = [...chain, id]
    const own = isLoad(part) ? this.addRow('load', id, here) : null
    const below = (this.tree.children.get(id) ?? []).map(edge => ({
      edge,
      y: this.place(edge.child, column + (isBar(part) ? 1 : 0), [...here, edge.lead.id]),
    }))
    const ys = below.map(b => b.y)
    if (isBar(part)) ys.push(...this.placeBar(part, column, here, below))
    const middle = own ?? this.middleOf(ys)
    this.centre.set(id, middle)
    const sourceY = Math.max(rowTop - 24, this.lastBottom + BOX_GAP) + SOURCE.height / 2
    below.forEach((child, i) => {
      const fromY = this.leavesAt(part, child.y, { middle, sourceY, nth: i - (below.length - 1) / 2 })
      this.leads.push(this.shapeOf(part, column, child, { index: i, y1: fromY }))
    })
    return middle
  }

  /**
   * In a long list the way in stands at the top of what it feeds, where one starts reading; in a short one in the
   * middle.
   */
  private middleOf(ys: readonly number[]): number {
    if (!ys.length) return this.nextY
    return this.grid.compact ? ys[0]! : (ys[0]! + ys.at(-1)!) / 2
  }

  /** y at which a lead leaves its part: at its port, or fanned out from a box. */
  private leavesAt(part: Part, childY: number, at: { middle: number; sourceY: number; nth: number }): number {
    if (isBar(part)) return childY
    if (this.highRoots.has(part.id) && !this.grid.compact) return at.sourceY + at.nth * FAN
    if (!gives(part)) return at.middle
    return (this.tree.children.get(part.id)?.length ?? 0) > 1 ? at.middle + at.nth * FAN : childY
  }

  private shapeOf(
    part: Part,
    column: number,
    { edge, y }: Placed,
    { index, y1 }: { index: number; y1: number },
  ): LeadShape {
    const fromBar = isBar(part) ? this.barX(column) + BAR_WIDTH : this.grid.loadX - 24
    const toBar = isBar(this.graph.parts.get(edge.child)!)
    return leadShape(edge.lead, {
      outward: edge.parentTerminal === edge.lead.from,
      x1: gives(part) ? SOURCE.x + SOURCE.width : fromBar,
      y1,
      x2: toBar ? this.barX(column + (isBar(part) ? 1 : 0)) : this.grid.loadX - 10,
      y2: y,
      index,
      fromSource: gives(part),
    })
  }

  /** A bar with its ports; one row more where it has a free port, or nothing behind it. @returns the y of that row */
  private placeBar(part: Part, column: number, here: string[], below: readonly Placed[]): number[] {
    const ratedA = (terminal: string) => this.graph.terminals.get(terminal)?.opener?.ratedA ?? null
    const ports = below.map(({ edge, y }) => ({
      terminal: edge.parentTerminal,
      y,
      ratedA: portFuse(this.graph, part, edge.parentTerminal),
      free: false,
    }))
    const own: number[] = []
    const fold = this.tree.folds.get(part.id)
    if (fold) {
      const y = this.addRow('folded', part.id, here)
      this.rows.at(-1)!.fold = fold
      own.push(y)
      ports.push({ terminal: part.id, y, ratedA: null, free: false })
    }
    const [free] = fold ? [] : freePortsOf(this.graph.plan, part)
    if (!fold && (free !== undefined || !below.length)) {
      const y = this.addRow(free === undefined ? 'end' : 'free', free ?? part.id, here)
      own.push(y)
      ports.push({ terminal: free ?? part.id, y, ratedA: free === undefined ? null : ratedA(free), free: true })
    }
    const top = Math.min(...ports.map(p => p.y)) - BAR_EDGE
    const bottom = Math.max(...ports.map(p => p.y)) + BAR_EDGE
    this.bars.push({ id: part.id, x: this.barX(column), y: top, width: BAR_WIDTH, height: bottom - top, ports })
    return own
  }
}

/** A port's fuse, shown on the bar; of a part whose ports are not listed nothing is shown there. */
function portFuse(graph: Graph, part: Part, terminal: string): number | null {
  return kindOf(part).ports ? (graph.terminals.get(terminal)?.opener?.ratedA ?? null) : null
}
