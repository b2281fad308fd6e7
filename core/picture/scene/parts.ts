import { SEVERITIES } from '../../checks/check'
import { isLoad, needs } from '../../kinds/index'
import { nameOf, partById, partIdOf } from '../../plan/find'
import { cautionsAt } from '../../sheets/cautions'
import { fixed } from '../../units/number'
import { counted } from '../../units/words'
import type { Bar, Box, PathLayout, Row } from '../layout'
import { boxLines, ownLine, shortened } from '../words'
import { arrivalHeard, arrivalShapes, tonesOf } from './arrival'
import { BAR_LETTERS, UNDER_BAR } from './labels'
import { MARK_WORDS, markAt } from './marks'
import { rowBand, type Drawing } from './drawing'
import { moved, shape, touched, words, type Acts, type Shape } from './shape'

/** Letters that fit a source's box: its name, its name beside a mark, its other lines. */
const LETTERS = { name: 19, nameByMark: 15, line: 24, load: 18, loadByMind: 13, loadLine: 16 }

/** Letters of a fold's names: over the load's column and the axis. */
const FOLDED_LETTERS = 44

const ofPart = (id: string, label: string): Acts => ({
  label,
  tab: 0,
  press: { does: 'select', id },
  open: { does: 'edit', id },
  focus: { does: 'select', id },
})

const classesOf = (kind: string, id: string, { selected, lit }: Drawing) => [
  kind,
  selected === id && 'selected',
  lit.has(id) && 'lit',
]

/** Words cut to what fits; pointed at, they say the whole. */
const wholeOnHover = (classes: string, at: Shape['at'], text: string, most: number): Shape => {
  const cut = shortened(text, most)
  return shape('text', classes, at, [cut !== text && shape('title', '', {}, [text]), cut])
}

/** A source, or what fills a battery. */
export function boxShapes(drawing: Drawing, { id, x, y, width, height }: Box): Shape {
  const part = drawing.graph.parts.get(id)!
  const name = nameOf(part)
  const mark = drawing.worst.get(id)
  return touched(
    shape('g', classesOf('box', id, drawing), { 'data-part': id }, [
      shape('rect', '', { x, y, width, height, rx: 8 }),
      wholeOnHover('name', { x: x + 12, y: y + 21 }, name, mark ? LETTERS.nameByMark : LETTERS.name),
      ...boxLines(drawing.plan, part).map((line, i) =>
        words('small', [x + 12, y + 37 + 14 * i], shortened(line, LETTERS.line)),
      ),
      words('figure', [x + 12, y + height - 9], sourceVolts(drawing, id)),
      mindAt(drawing, id, [x + width - 10, y + height - 9], 'end'),
      markAt(mark, x + width - 24, y + 6),
    ]),
    ofPart(id, heardOf(drawing, id, sourceVolts(drawing, id))),
  )
}

/** "mind" where a part can hurt somebody; pointed at, it says how. */
function mindAt(
  { plan, onPaper }: Drawing,
  id: string,
  [x, y]: [number, number],
  anchor: 'end' | 'start',
): Shape | null {
  const lines = onPaper ? [] : cautionsAt(plan, partById(plan, id)!)
  if (!lines.length) return null
  return shape('text', 'mind', { x, y, 'text-anchor': anchor }, [shape('title', '', {}, [lines.join('\n')]), 'mind'])
}

function sourceVolts({ point, shown }: Drawing, id: string): string {
  if (point) {
    const volts = point.parts[id]?.volts
    return volts == null ? '' : `${fixed(Number(volts), 2)} V`
  }
  const span = shown?.sources[id]
  if (!span) return ''
  const [low, high] = [fixed(span.low.value, 1), fixed(span.high.value, 1)]
  return low === high ? `${low} V` : `${low}–${high} V`
}

/** A block or joint, with its ports. */
export function barShapes(drawing: Drawing, bar: Bar): Shape {
  const { id, x, y, width, height } = bar
  const part = drawing.graph.parts.get(id)!
  const middle = x + width / 2
  const line = ownLine(part)
  const own = touched(
    shape('g', '', {}, [
      shape('rect', '', { x, y, width, height, rx: 7 }),
      wholeOnHover('name2', { x: middle, y: y - 7, 'text-anchor': 'middle' }, nameOf(part), BAR_LETTERS),
      line && words('small', [x - UNDER_BAR, y + height + 14], line),
      mindAt(drawing, id, [x - UNDER_BAR, y + height + (line ? 28 : 14)], 'start'),
      markAt(drawing.worst.get(id), x + 6, y - 38),
    ]),
    ofPart(id, heardOf(drawing, id)),
  )
  const ports = bar.ports.map(port => portShape(drawing, bar, port))
  return shape('g', classesOf('bar', id, drawing), { 'data-part': id }, [own, ...ports])
}

const portLabel = (terminal: string) => terminal.split('.')[1] ?? terminal

function portShape(drawing: Drawing, bar: Bar, { terminal, y, ratedA, free }: Bar['ports'][number]): Shape {
  const { short, lit, worst, onPaper } = drawing
  const opens = short?.opens.get(`${terminal} `)
  const boxed = ratedA !== null || free
  return touched(
    shape('g', ['port', free && 'free', lit.has(terminal) && 'lit'], { transform: moved(bar.x + bar.width / 2, y) }, [
      boxed ? shape('rect', '', { x: -13, y: -11, width: 26, height: 22, rx: 5 }) : shape('circle', 'dot', { r: 4 }),
      free && !onPaper && words('plus', [0, 5], '+', 'middle'),
      !free && ratedA !== null && words('', [0, 4.5], String(ratedA), 'middle'),
      opens !== undefined && words('opens', [-19, 4.5], opens, 'end'),
      markAt(worst.get(terminal), -38, -9),
    ]),
    {
      label: `port ${portLabel(terminal)}${free ? ', free: add a load' : ''}`,
      tab: free ? 0 : -1,
      press: free ? { does: 'add', id: terminal } : { does: 'edit', id: bar.id },
    },
  )
}

/** A load with what arrives at it, or a free port that invites one. */
export function rowShapes(drawing: Drawing, row: Row): Shape {
  const { layout } = drawing
  const y = row.y + layout.rowHeight / 2
  const rule = shape('line', 'rule', { x1: layout.loadX - 6, x2: layout.width - 8, y1: y, y2: y })
  const shown = { load: loadShape, free: freeShape, folded: foldedShape, end: () => null }[row.kind](drawing, row)
  return shape('g', classesOf('row', row.id, drawing), { 'data-part': row.id }, [rule, shown])
}

/** A part's name, its volts and what is found of it, for those who hear it. @param volts empty where it has none */
function heardOf({ graph, verdict, worst }: Drawing, id: string, volts = ''): string {
  const found = verdict && MARK_WORDS[worst.get(id) ?? 'passed']
  return [nameOf(graph.parts.get(id)!), volts, found].filter(Boolean).join(', ')
}

/** Of a load: in the chosen condition, and over all of them. */
function voltsHeard({ verdict, point }: Drawing, id: string): string {
  if (!verdict) return ''
  const nowV = point?.nodes[id]?.volts
  const span = arrivalHeard(verdict.arrivals[id] ?? null)
  return nowV == null ? span : `${fixed(Number(nowV), 2)} V, over all states ${span}`
}

function loadShape(drawing: Drawing, { id, y }: Row): Shape {
  const { graph, layout, verdict, worst } = drawing
  const part = graph.parts.get(id)!
  const [first, second] = layout.compact ? [-2, 12] : [-1, 15]
  const mind = mindAt(drawing, id, [layout.axis.x - 2, y + first!], 'end')
  const nameLetters = mind ? LETTERS.loadByMind : LETTERS.load
  return touched(
    shape('g', '', {}, [
      shape('rect', 'hit', rowBand(layout, y)),
      wholeOnHover('name', { x: layout.loadX + 4, y: y + first! }, nameOf(part), nameLetters),
      wholeOnHover('small', { x: layout.loadX + 4, y: y + second! }, ownLine(part), LETTERS.loadLine),
      mind,
      verdict &&
        isLoad(part) &&
        arrivalShapes({
          axis: layout.axis,
          y: y - 4,
          window: needs(part),
          arrival: verdict.arrivals[id] ?? null,
          nowV: drawing.point?.nodes[id]?.volts ?? null,
          ...tonesOf(verdict.findings, id),
          compact: layout.compact,
        }),
      verdict && markAt(worst.get(id) ?? 'passed', layout.markX, y - 13),
    ]),
    ofPart(id, heardOf(drawing, id, voltsHeard(drawing, id))),
  )
}

function freeShape({ layout, onPaper }: Drawing, { id, y, chain }: Row): Shape | null {
  if (onPaper) return null
  const bar = layout.bars.find(b => b.id === chain.at(-1))
  const x = (bar ? bar.x + bar.width : layout.loadX) + 10
  const invitation = `free port ${portLabel(id)}: press A to add a load here`
  return touched(shape('text', 'small', { x, y: y + 4 }, [invitation]), { tab: null, press: { does: 'add', id } })
}

/** What hangs on a folded block: how much, and the worst that is found of it. */
function foldedShape({ layout, graph, worst, verdict }: Drawing, { id, y, fold }: Row): Shape | null {
  if (!fold) return null
  const names = fold.loads.map(load => nameOf(graph.parts.get(load)!))
  const found = [...worst].filter(([place]) => fold.hides.has(place) || fold.hides.has(partIdOf(place)))
  const severity = SEVERITIES.find(s => found.some(([, f]) => f === s)) ?? 'passed'
  const count = counted(fold.loads.length, 'load')
  const x = layout.loadX + 4
  return touched(
    shape('g', '', {}, [
      shape('title', '', {}, [names.join(', ')]),
      shape('rect', 'hit', rowBand(layout, y)),
      words('name', [x, y - 1], `${count}, folded`),
      words('small', [x, y + 14], shortened(names.join(', '), FOLDED_LETTERS)),
      verdict && markAt(severity, layout.markX, y - 13),
    ]),
    { label: `${count} folded, ${MARK_WORDS[severity]}: unfold`, tab: 0, press: { does: 'unfold', id } },
  )
}

/** The bolt at a shown short. */
export function boltShape({ short, layout }: Drawing): Shape[] {
  const place = short && boltPlace(short, layout)
  if (!place) return []
  return [
    shape('g', 'bolt', { transform: moved(...place), role: 'img', 'aria-label': 'short circuit here' }, [
      shape('circle', '', { r: 13 }),
      shape('path', '', { d: 'M2-9L-5 1.5H-0.5L-2 9L5-1.5H0.5Z' }),
    ]),
  ]
}

function boltPlace(short: { at: string; lead: string | null }, layout: PathLayout): [number, number] | null {
  const { rows, bars, boxes, leads, loadX } = layout
  const id = partIdOf(short.at)
  const lead = leads.find(l => l.id === short.lead)
  const row = rows.find(r => r.kind === 'load' && r.id === id)
  if (row) return [loadX - 8, row.y]
  for (const bar of bars) {
    const port = bar.ports.find(p => p.terminal === short.at)
    if (port) return [bar.x + bar.width + 4, port.y]
  }
  const box = boxes.find(b => b.id === id)
  if (box) return [box.x + box.width - 4, box.y + box.height / 2]
  const bar = bars.find(b => b.id === id)
  if (bar) return [bar.x - 4, lead?.y ?? bar.y + bar.height / 2]
  return lead ? [lead.x2, lead.y] : null
}
