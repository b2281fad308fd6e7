import { conductorName } from '../conductor/resistance'
import { isDevice } from '../graph/device'
import { graphOf } from '../graph/graph'
import { kindOf } from '../kinds/index'
import { nameOf, partById, partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import { asGiven, figure } from '../units/number'
import { packLinks } from './packLinks'

/** One label: two lines, as long as their words are. `warns` stands out: white on black, or in a thick frame. */
export interface Label {
  id: string
  kind: 'lead' | 'port' | 'fuse' | 'breaker'
  lines: [string, string]
  warns: boolean
}

/** A strip for a label printer's tape, or a sheet of stickers. Millimetres. */
export interface LabelFormat {
  id: 'tape' | 'sheet'
  widthMm: number
  heightMm: number
  columns: number
  rows: number
  gapMm: number
  marginMm: number
  textMm: number
}

export const LABEL_FORMATS: readonly LabelFormat[] = [
  { id: 'tape', widthMm: 40, heightMm: 12, columns: 1, rows: Infinity, gapMm: 0, marginMm: 0, textMm: 3.4 },
  { id: 'sheet', widthMm: 48.5, heightMm: 25.4, columns: 4, rows: 11, gapMm: 0, marginMm: 8, textMm: 4.2 },
]

/** Labels for both ends of every lead, every port, every fuse and breaker. */
export function labelsOf(plan: Plan): Label[] {
  const labels = [
    ...plan.leads.flatMap(l => leadLabels(plan, l)),
    ...portLabels(plan),
    ...plan.leads.flatMap(itemLabels),
    ...linkLabels(plan),
  ]
  const times = new Map<string, number>()
  for (const { lines } of labels) times.set(lines.join(), (times.get(lines.join()) ?? 0) + 1)
  // Two leads of one name to one place, or two ports of two blocks, are told apart by their ids.
  return labels.map(l =>
    times.get(l.lines.join())! > 1 ? { ...l, lines: [l.lines[0], `${l.lines[1]} (${l.id})`] } : l,
  )
}

/** A line of words on a label, mm: how high its letters are, and where its foot stands from the upper left corner. */
export interface LaidLine {
  text: string
  isBold: boolean
  sizeMm: number
  fromLeftMm: number
  fromTopMm: number
}

const EDGE_MM = 1.5
/** Letters go no smaller than this before the words are broken into more lines, mm. */
const LEAST_TEXT_MM = 2.1
const LINE_SPACING = 1.12

/**
 * All words of a label, as large as they fit: smaller first, then broken between words.
 * @param widthOf width of words whose letters are 1 mm high, mm
 */
export function laidOut(
  label: Label,
  format: LabelFormat,
  widthOf: (text: string, isBold: boolean) => number,
): LaidLine[] {
  const [wide, high] = [format.widthMm - 2 * EDGE_MM, format.heightMm - 0.8 * EDGE_MM]
  for (let size = format.textMm; ; size *= 0.94) {
    const fits = (text: string, isBold: boolean) => widthOf(text, isBold) * size <= wide
    const isSmall = size <= LEAST_TEXT_MM
    const lines = label.lines.flatMap((text, k) => {
      const isBold = k === 0
      const parts = isSmall ? broken(text, t => fits(t, isBold)) : [text]
      return parts.map(t => ({ text: t, isBold }))
    })
    const room = lines.length * size * LINE_SPACING <= high
    if (!(room && lines.every(l => fits(l.text, l.isBold))) && size > 0.5) continue
    const top = (format.heightMm - lines.length * size * LINE_SPACING) / 2
    return lines.map((l, k) => ({
      ...l,
      sizeMm: size,
      fromLeftMm: EDGE_MM,
      fromTopMm: top + (k + 0.8) * size * LINE_SPACING,
    }))
  }
}

/** Words in as many lines as they need; a word that is too long by itself stays whole. */
function broken(text: string, fits: (line: string) => boolean): string[] {
  const lines: string[] = []
  for (const word of text.split(' ')) {
    const longer = lines.length ? `${lines.at(-1)} ${word}` : word
    if (lines.length && fits(longer)) lines[lines.length - 1] = longer
    else lines.push(word)
  }
  return lines
}

function terminalWords(plan: Plan, t: string): string {
  const part = partById(plan, partIdOf(t))!
  const port = t.slice(part.id.length + 1)
  return port ? `${nameOf(part)} ${port}` : nameOf(part)
}

function leadLabels(plan: Plan, lead: Lead): Label[] {
  const warns = (lead.inline ?? []).some(i => i.kind === 'dropper')
  const conductor = `${conductorName(lead.conductor)}, ${figure(lead.lengthM, 2)} m`
  return (['from', 'to'] as const).map(end => {
    const far = terminalWords(plan, lead[end === 'from' ? 'to' : 'from'])
    const lines: Label['lines'] = [`${nameOf(lead)} → ${far}`, warns ? 'HOLDS A DIODE' : conductor]
    return { id: `${lead.id} ${end}`, kind: 'lead', warns, lines }
  })
}

function portLabels(plan: Plan): Label[] {
  const graph = graphOf(plan)
  return plan.parts.flatMap(part => {
    const { ports } = kindOf(part)
    if (!ports?.distributes) return []
    const ids = graph.terminalsOf(part.id).map(t => ({ ...t, port: t.id.slice(part.id.length + 1) }))
    return ids
      .filter(t => !ports.reserved.includes(t.port))
      .map(({ id, port, opener }): Label => {
        const lead = graph.leadsAt(id)[0]
        const far = lead && (lead.from === id ? lead.to : lead.from)
        const fused = opener ? `: ${asGiven(opener.ratedA)} A` : ''
        return {
          id,
          kind: 'port',
          warns: false,
          lines: [port + fused, far ? terminalWords(plan, far) : 'free'],
        }
      })
  })
}

function linkLabels(plan: Plan): Label[] {
  return packLinks(plan).flatMap(link =>
    (['from', 'to'] as const).map((end): Label => ({
      id: `${link.id} ${end}`,
      kind: 'lead',
      warns: false,
      lines: [`${link.name} → ${link[end === 'from' ? 'to' : 'from']}`, conductorName(link.conductor)],
    })),
  )
}

function itemLabels(lead: Lead): Label[] {
  return (lead.inline ?? []).filter(isDevice).map(item => ({
    id: `${lead.id} ${item.id}`,
    kind: item.kind,
    warns: Boolean(item.note),
    lines: [
      `${asGiven(item.ratedA)} A ${item.kind === 'fuse' ? (item.type ?? 'blade') : 'breaker'}`,
      item.note ?? nameOf(lead),
    ],
  }))
}
