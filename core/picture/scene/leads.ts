import type { ItemShape, LeadShape } from '../layout'
import { flowWords, leadWords } from '../words'
import type { LabelPlace } from './labels'
import { MARK_WORDS, markAt } from './marks'
import type { Drawing } from './drawing'
import { moved, shape, touched, words, type Act, type Shape } from './shape'

/** Half the width of a fuse on its lead, px. */
export const ITEM_HALF = 16
const END = { width: 5, height: 12 }

/** The copper of a lead with its words. */
export function leadShapes(drawing: Drawing, lead: LeadShape): Shape {
  return shape('g', classesOf(drawing, lead), { 'data-lead': lead.id }, [
    lineShapes(drawing, lead),
    markAt(drawing.worst.get(lead.id), ...markPlace(lead, drawing.labels.get(lead.id) ?? null)),
    ...saidOf(drawing, lead),
  ])
}

/** What is wired into a lead: over the copper of all, so that none runs through a figure. */
export const leadItems = (drawing: Drawing, lead: LeadShape): Shape[] =>
  lead.items.length
    ? [
        shape(
          'g',
          [...classesOf(drawing, lead), 'items'],
          { 'data-lead': lead.id },
          lead.items.map(item => itemShapes(drawing, lead, item)),
        ),
      ]
    : []

function classesOf({ short, selected, lit }: Drawing, lead: LeadShape) {
  const survives = short?.way.get(lead.id)
  return [
    'lead',
    short && !short.way.has(lead.id) && 'off',
    survives === true && 'hot',
    survives === false && 'burnt',
    lead.tie && 'tie',
    lead.open && 'open',
    selected === lead.id && 'selected',
    lit.has(lead.id) && 'lit',
  ]
}

/** Beside the words of its lead, over what is unprotected of it. */
function markPlace({ unprotected, labelX, y, tie }: LeadShape, label: LabelPlace | null): [number, number] {
  if (unprotected) return [(unprotected.x1 + unprotected.x2) / 2 - 9, y - (tie ? 16 : 34)]
  return label ? [label.x + (tie ? 92 : 88), label.first - 14] : [labelX, y - 27]
}

/** A lead's name, what it is made of, what flows in it and what is found of it, for those who hear it. */
function heardOf(drawing: Drawing, { id, open }: LeadShape, said: ReturnType<typeof leadWords>): string {
  const name = drawing.graph.leads.get(id)!.name ?? `lead ${id}`
  const mark = drawing.worst.get(id)
  const flows = open ? 'switched off' : flowOf(drawing, id)
  return [name, said.conductor, said.length, flows, mark && MARK_WORDS[mark]].filter(Boolean).join(', ')
}

/** The copper itself, from end to end. */
function lineShapes(drawing: Drawing, lead: LeadShape): Shape {
  const { graph, units, shown, labels } = drawing
  const { id, path, thickness, tie, y, unprotected } = lead
  const said = leadWords(graph.leads.get(id)!, units)
  const run = shown?.unprotected[id]
  const end = (x: number) => shape('rect', 'end', { x, y: y - END.height / 2, ...END })
  return touched(
    shape('g', '', {}, [
      // What stands beside it in words needs no title.
      !labels.get(id) && shape('title', '', {}, [`${said.conductor}, ${said.length}`]),
      shape('path', 'halo', { d: path, 'stroke-width': thickness + 9 }),
      shape('path', 'copper', { d: path, 'stroke-width': thickness }),
      shape('path', 'grab', { d: path }),
      ...(tie ? [] : [end(lead.x1 + 1), end(lead.x2 - 6)]),
      unprotected &&
        run &&
        shape('path', ['unprotected', run.bad && 'bad'], {
          d: `M${unprotected.x1} ${unprotected.y}H${unprotected.x2}`,
        }),
    ]),
    {
      label: heardOf(drawing, lead, said),
      tab: 0,
      press: { does: 'select', id },
      open: { does: 'edit', id },
      focus: { does: 'select', id },
    },
  )
}

function itemShapes({ short }: Drawing, lead: LeadShape, item: ItemShape): Shape {
  const opens = short?.opens.get(`${lead.id} ${item.id}`)
  const rated = item.kind === 'fuse' || item.kind === 'breaker'
  const form = { x: item.x - ITEM_HALF, y: item.y - 12 }
  const press: Act = rated
    ? { does: 'token', id: lead.id, what: 'rating', itemId: item.id, ...form }
    : { does: 'edit', id: lead.id }
  return touched(
    shape('g', ['item', item.kind], { transform: moved(item.x, item.y) }, [
      ...symbolOf(item),
      opens !== undefined && words('opens', [0, -17], opens, 'middle'),
    ]),
    { label: `${item.kind} ${item.label}`, tab: -1, press },
  )
}

function symbolOf({ kind, label }: ItemShape): Shape[] {
  if (kind === 'dropper') {
    const diode = shape('path', 'body', { d: 'M-9-7L7 0L-9 7ZM7-8V8' })
    return [diode, ...(label ? [words('small', [0, 20], label, 'middle')] : [])]
  }
  if (kind === 'switch') {
    const slide = shape('rect', 'body', { x: -15, y: -9, width: 30, height: 18, rx: 9 })
    return [slide, words('', [0, 4], label, 'middle')]
  }
  const box = { x: -ITEM_HALF, y: -11, width: 2 * ITEM_HALF, height: 22, rx: kind === 'breaker' ? 0 : 5 }
  return [shape('rect', 'body', box), words('', [0, 4.5], label, 'middle')]
}

/** "2.5 mm² · 3 m" and under it what flows. */
function saidOf(drawing: Drawing, lead: LeadShape): Shape[] {
  const { graph, units, labels } = drawing
  const { id } = lead
  const place = labels.get(id)
  if (!place) return []
  const { conductor, length } = leadWords(graph.leads.get(id)!, units)
  const token = (what: 'conductor' | 'length', text: string) =>
    touched(shape('tspan', 'token', {}, [text]), { tab: null, press: { does: 'token', id, what } })
  return [
    shape('text', 'name2', { x: place.x, y: place.first }, [
      token('conductor', conductor),
      ' · ',
      token('length', length),
    ]),
    words('small', [place.x, place.second], lead.open ? 'switched off' : flowOf(drawing, id)),
  ]
}

function flowOf({ point, shown }: Drawing, leadId: string): string {
  if (!point) {
    const most = shown?.leads[leadId]
    return most ? flowWords(most.amps, most.dropV) : ''
  }
  const lead = point.leads[leadId]
  return lead?.amps == null ? 'no solution' : flowWords(Math.abs(lead.amps), Math.abs(lead.dropV ?? 0))
}
