import { SEVERITIES, type Severity } from '../../checks/check'
import { graphOf } from '../../graph/graph'
import type { Plan } from '../../plan/schema'
import type { Verdict } from '../../verdict/verdict'
import { axisX } from '../axis'
import type { PathLayout, Row } from '../layout'
import { HEAD_HEIGHT, rowBand, type Drawing, type SceneOptions } from './drawing'
import { labelPlaces } from './labels'
import { leadItems, leadShapes } from './leads'
import { barShapes, boltShape, boxShapes, rowShapes } from './parts'
import { shape, words, type Shape } from './shape'

export interface Scene {
  /** The axis' figures, which stay in sight while the rows scroll under them. */
  head: Shape[]
  body: Shape[]
  /** What arrives at each load, from {@link arrivalsX} on: it stays in sight while a wide path scrolls under it. */
  arrivals: Shape[]
}

/** Where what arrives begins, px. */
export const arrivalsX = ({ loadX }: PathLayout) => loadX - 7

/** The whole path as shapes: one drawing for the page and for exported pictures. */
export function pathScene(plan: Plan, layout: PathLayout, options: SceneOptions): Scene {
  const drawing: Drawing = {
    point: null,
    selected: null,
    shownLoad: null,
    lit: new Set(),
    short: null,
    onPaper: false,
    ...options,
    plan,
    layout,
    graph: graphOf(plan),
    worst: worstByPlace(options.verdict),
    labels: new Map(),
  }
  drawing.labels = labelPlaces(drawing)
  return {
    head: headShapes(drawing),
    body: [
      ...layout.leads.map(lead => leadShapes(drawing, lead)),
      ...layout.leads.flatMap(lead => leadItems(drawing, lead)),
      ...layout.boxes.map(box => boxShapes(drawing, box)),
      ...layout.bars.map(bar => barShapes(drawing, bar)),
      ...layout.rows.filter(row => !arrives(row)).map(row => rowShapes(drawing, row)),
      ...boltShape(drawing),
    ],
    arrivals: [
      axisShape(drawing),
      ...chosenShapes(drawing),
      ...layout.rows.filter(arrives).map(row => rowShapes(drawing, row)),
    ],
  }
}

/**
 * Works out ahead where all of a scene stands: it hangs on the plan, and hardly on the verdict, which is not there yet.
 * @param verdict of the plan before
 */
export function prepareScene(
  plan: Plan,
  layout: PathLayout,
  { units, verdict }: Pick<SceneOptions, 'units' | 'verdict'>,
) {
  labelPlaces({ layout, graph: graphOf(plan), units, worst: worstByPlace(verdict) })
}

const arrives = ({ kind }: Row) => kind === 'load' || kind === 'folded'

function worstByPlace(verdict: Verdict | null): Map<string, Severity> {
  const worst = new Map<string, Severity>()
  for (const { place, severity } of verdict?.findings ?? []) {
    const was = worst.get(place)
    if (!was || SEVERITIES.indexOf(severity) < SEVERITIES.indexOf(was)) worst.set(place, severity)
  }
  return worst
}

function headShapes({ layout }: Drawing): Shape[] {
  const { axis } = layout
  return [
    shape('rect', 'ground', { width: layout.width, height: HEAD_HEIGHT }),
    words('small', [axis.x + 8, 15], 'what arrives, volts'),
    ...axis.ticks.map(tick => words('small', [axisX(axis, tick), 33], String(tick), 'middle')),
  ]
}

function axisShape({ layout }: Drawing): Shape {
  const line = (tick: number) => {
    const x = axisX(layout.axis, tick)
    return shape('line', '', { x1: x, x2: x, y1: HEAD_HEIGHT, y2: layout.height - 8 })
  }
  return shape('g', 'axis', {}, layout.axis.ticks.map(line))
}

function chosenShapes({ layout, shownLoad }: Drawing): Shape[] {
  const row = layout.rows.find(r => r.kind === 'load' && r.id === shownLoad)
  return row ? [shape('rect', 'chosen', rowBand(layout, row.y))] : []
}
