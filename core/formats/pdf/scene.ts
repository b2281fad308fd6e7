import type { Shape } from '../../picture/scene/shape'
import type { Printed } from './typefaces'

/**
 * A drawn scene put into a PDF: shapes, with their looks out of the scene's own style sheet. What that style sheet and
 * the scenes use is understood, and nothing else: classes, elements, descendants, children, the first child; paths of
 * M, L, H, V, C and Z; groups that are moved.
 */

/** Where a scene goes: its left upper corner, mm, and millimetres a pixel. */
export interface Frame {
  xMm: number
  yMm: number
  mmPerPx: number
}

type Looks = Record<string, string>
interface Rule {
  steps: { is: Compound; child: boolean }[]
  looks: Looks
  weight: number
}
interface Compound {
  el: string | null
  classes: string[]
  first: boolean
}
interface Element {
  el: string
  classes: string[]
  first: boolean
}

/** Draws a scene whose style sheet has its colours written out. */
export function drawScene(printed: Printed, scene: Shape, css: string, frame: Frame) {
  const rules = rulesOf(css)
  drawShape({ printed, doc: printed.doc, rules, frame }, scene, { above: [], looks: {}, x: 0, y: 0, first: true })
}

interface Drawing {
  printed: Printed
  doc: Printed['doc']
  rules: readonly Rule[]
  frame: Frame
}
interface Place {
  above: readonly Element[]
  /** Looks that are handed down. */
  looks: Looks
  x: number
  y: number
  first: boolean
}

const HANDED_DOWN = ['fill', 'stroke', 'stroke-width', 'stroke-dasharray', 'font-size', 'font-weight', 'text-anchor']

function drawShape(drawing: Drawing, shape: Shape, place: Place) {
  const { el } = shape
  if (el === 'title') return
  const own: Element = { el, classes: shape.class.split(' ').filter(Boolean), first: place.first }
  const above = [...place.above, own]
  const attributes = Object.fromEntries(Object.entries(shape.at).map(([k, v]) => [k, String(v)]))
  const looks: Looks = { ...place.looks, ...attributes, ...styled(drawing.rules, above) }
  const [, dx = '0', dy = '0'] = /translate\(([-\d.]+)[ ,]([-\d.]+)\)/.exec(attributes.transform ?? '') ?? []
  const [x, y] = [place.x + Number(dx), place.y + Number(dy)]
  const opacity = Number(looks.opacity ?? 1)
  if (opacity < 1) drawing.doc.saveGraphicsState().setGState(drawing.doc.GState({ opacity, 'stroke-opacity': opacity }))
  if (el === 'text') drawText(drawing, shape, looks, [x, y])
  else if (el !== 'g' && el !== 'svg') drawOutline(drawing, shape, looks, [x, y])
  const handed = Object.fromEntries(Object.entries(looks).filter(([name]) => HANDED_DOWN.includes(name)))
  let first = true
  for (const held of el === 'text' ? [] : shape.holds) {
    if (typeof held === 'string') continue
    drawShape(drawing, held, { above, looks: handed, x, y, first })
    first = false
  }
  if (opacity < 1) drawing.doc.restoreGraphicsState()
}

const isSeen = (colour: string | undefined): colour is string => !!colour && !['none', 'transparent'].includes(colour)

/** Fills and strokes, as the looks say. */
function drawOutline({ doc, frame }: Drawing, { el, at }: Shape, looks: Looks, [dx, dy]: [number, number]) {
  const { mmPerPx } = frame
  const n = (name: string) => Number(at[name] ?? 0)
  const X = (px: number) => frame.xMm + (px + dx) * mmPerPx
  const Y = (px: number) => frame.yMm + (px + dy) * mmPerPx
  // What nothing colours is black, as in SVG.
  const fill = el === 'line' ? undefined : (looks.fill ?? '#000000')
  const way = `${isSeen(fill) ? 'F' : ''}${isSeen(looks.stroke) ? 'D' : ''}`
  if (!way) return
  if (isSeen(fill)) doc.setFillColor(fill)
  if (isSeen(looks.stroke)) {
    doc.setDrawColor(looks.stroke).setLineWidth(Number(looks['stroke-width'] ?? 1) * mmPerPx)
    doc.setLineDashPattern(dashes(looks['stroke-dasharray'], mmPerPx), 0)
    doc.setLineCap(looks['stroke-linecap'] === 'round' ? 'round' : 'butt')
  }
  if (el === 'rect') {
    const [w, h] = [n('width') * mmPerPx, n('height') * mmPerPx]
    const r = Math.min(n('rx') * mmPerPx, w / 2, h / 2)
    doc.roundedRect(X(n('x')), Y(n('y')), w, h, r, r, way)
  } else if (el === 'circle') doc.circle(X(n('cx')), Y(n('cy')), n('r') * mmPerPx, way)
  else if (el === 'line') doc.line(X(n('x1')), Y(n('y1')), X(n('x2')), Y(n('y2')))
  else if (el === 'path') {
    for (const { op, to } of stepsOf(String(at.d))) {
      const mm = to.map((v, i) => (i % 2 ? Y(v) : X(v)))
      if (op === 'M') doc.moveTo(mm[0]!, mm[1]!)
      else if (op === 'L') doc.lineTo(mm[0]!, mm[1]!)
      else if (op === 'C') doc.curveTo(mm[0]!, mm[1]!, mm[2]!, mm[3]!, mm[4]!, mm[5]!)
      else doc.close()
    }
    if (way === 'FD') doc.fillStroke()
    else if (way === 'F') doc.fill()
    else doc.stroke()
  }
}

const dashes = (said: string | undefined, mmPerPx: number) =>
  said && said !== 'none' ? said.split(/[ ,]+/).map(v => Number(v) * mmPerPx) : []

/** A path in whole steps: moved, straight, curved, closed; px. */
function stepsOf(d: string): { op: 'M' | 'L' | 'C' | 'Z'; to: number[] }[] {
  let [x, y] = [0, 0]
  const steps: { op: 'M' | 'L' | 'C' | 'Z'; to: number[] }[] = []
  for (const [, op, rest] of d.matchAll(/([MLHVCZ])([^MLHVCZ]*)/g)) {
    const v = (rest!.match(/-?\d*\.?\d+(?:e-?\d+)?/g) ?? []).map(Number)
    if (op === 'Z') steps.push({ op, to: [] })
    else if (op === 'C') {
      steps.push({ op, to: v })
      ;[x, y] = v.slice(-2) as [number, number]
    } else {
      if (op === 'H') x = v[0]!
      else if (op === 'V') y = v[0]!
      else [x, y] = v as [number, number]
      steps.push({ op: op === 'M' ? 'M' : 'L', to: [x, y] })
    }
  }
  return steps
}

function drawText({ printed, doc, frame }: Drawing, shape: Shape, looks: Looks, [dx, dy]: [number, number]) {
  const said = (held: Shape | string): string => {
    if (typeof held === 'string') return held
    return held.el === 'title' ? '' : held.holds.map(said).join('')
  }
  const px = Number.parseFloat(looks['font-size'] ?? '13')
  const isBold = Number(looks['font-weight'] ?? 400) >= 600
  const text = printed.set(shape.holds.map(said).join(''), isBold ? 'bold' : 'normal')
  doc.setFontSize(px * frame.mmPerPx * POINTS_PER_MM * NARROWER)
  doc.setTextColor(looks.fill ?? '#000000')
  const align = { middle: 'center', end: 'right' }[looks['text-anchor'] ?? ''] as 'center' | 'right' | undefined
  const at = (name: 'x' | 'y') => Number(shape.at[name] ?? 0)
  const [x, y] = [frame.xMm + (at('x') + dx) * frame.mmPerPx, frame.yMm + (at('y') + dy) * frame.mmPerPx]
  doc.text(text, x, y, align && { align })
}

const POINTS_PER_MM = 72 / 25.4
/** The built-in typeface runs a little wider than the screen's. */
const NARROWER = 0.94

/** The looks of the last of a chain of elements. */
function styled(rules: readonly Rule[], above: readonly Element[]): Looks {
  const fitting = rules.filter(r => fits(r.steps, above))
  return Object.assign({}, ...fitting.sort((a, b) => a.weight - b.weight).map(r => r.looks)) as Looks
}

function fits(steps: Rule['steps'], above: readonly Element[]): boolean {
  const last = steps.at(-1)!
  const own = above.at(-1)
  if (!own || !isOf(last.is, own)) return false
  if (steps.length === 1) return true
  const before = steps.slice(0, -1)
  if (last.child) return fits(before, above.slice(0, -1))
  return above.slice(0, -1).some((_, i) => fits(before, above.slice(0, i + 1)))
}

const isOf = ({ el, classes, first }: Compound, own: Element) =>
  (el === null || el === own.el) && classes.every(c => own.classes.includes(c)) && (!first || own.first)

function rulesOf(css: string): Rule[] {
  return [...css.matchAll(/([^{}]+)\{([^}]*)\}/g)].flatMap(([, selectors, body]) => {
    const looks = Object.fromEntries(
      body!
        .split(';')
        .map(line => line.split(':').map(s => s.trim()))
        .filter(([name, value]) => name && value),
    ) as Looks
    return selectors!.split(',').map(selector => ruleOf(selector.trim(), looks))
  })
}

function ruleOf(selector: string, looks: Looks): Rule {
  const steps: Rule['steps'] = []
  let child = false
  for (const token of selector.split(/\s+/)) {
    if (token === '>') {
      child = true
      continue
    }
    const el = /^[a-z]+/.exec(token)?.[0] ?? null
    const classes = [...token.matchAll(/\.([\w-]+)/g)].map(m => m[1]!)
    steps.push({ is: { el, classes, first: token.includes(':first-child') }, child })
    child = false
  }
  const weight = steps.reduce(
    (sum, { is }) => sum + 100 * (is.classes.length + Number(is.first)) + Number(is.el !== null),
    0,
  )
  return { steps, looks, weight }
}
