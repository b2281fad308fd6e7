import { conductorName } from '../conductor/resistance'
import { isDevice } from '../graph/device'
import { graphOf } from '../graph/graph'
import { kindOf } from '../kinds/index'
import { nameOf, partById, partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import { figure } from '../units/number'

/** One label: two short lines. `warns` is printed reversed. */
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
  return [...plan.leads.flatMap(l => leadLabels(plan, l)), ...portLabels(plan), ...plan.leads.flatMap(itemLabels)]
}

const LINE = 30
const line = (text: string) => (text.length > LINE ? `${text.slice(0, LINE - 1)}…` : text)

function terminalWords(plan: Plan, t: string): string {
  const part = partById(plan, partIdOf(t))!
  const port = t.slice(part.id.length + 1)
  return port ? `${nameOf(part)} ${port}` : nameOf(part)
}

function leadLabels(plan: Plan, lead: Lead): Label[] {
  const warns = (lead.inline ?? []).some(i => i.kind === 'dropper')
  const conductor = line(`${conductorName(lead.conductor)}, ${figure(lead.lengthM, 2)} m`)
  return (['from', 'to'] as const).map(end => {
    const far = terminalWords(plan, lead[end === 'from' ? 'to' : 'from'])
    const lines: Label['lines'] = [line(`${nameOf(lead)} → ${far}`), warns ? 'HOLDS A DIODE' : conductor]
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
        const fused = opener ? `: ${opener.ratedA} A` : ''
        return {
          id,
          kind: 'port',
          warns: false,
          lines: [line(port + fused), far ? line(terminalWords(plan, far)) : 'free'],
        }
      })
  })
}

function itemLabels(lead: Lead): Label[] {
  return (lead.inline ?? []).filter(isDevice).map(item => ({
    id: `${lead.id} ${item.id}`,
    kind: item.kind,
    warns: Boolean(item.note),
    lines: [
      `${item.ratedA} A ${item.kind === 'fuse' ? (item.type ?? 'blade') : 'breaker'}`,
      line(item.note ?? nameOf(lead)),
    ],
  }))
}
