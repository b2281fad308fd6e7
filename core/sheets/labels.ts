import { conductorName } from '../conductor/resistance'
import { nameOf, partById, partIdOf } from '../plan/find'
import type { Plan } from '../plan/schema'

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

const most = (text: string, n: number) => (text.length > n ? `${text.slice(0, n - 1)}…` : text)

/** Labels for both ends of every lead, every port, every fuse and breaker. */
export function labelsOf(plan: Plan): Label[] {
  const terminal = (t: string) => {
    const part = partById(plan, partIdOf(t))!
    const port = t.slice(part.id.length + 1)
    return port ? `${nameOf(part)} ${port}` : nameOf(part)
  }
  const leads = plan.leads.flatMap((lead): Label[] => {
    const diode = lead.inline?.some(i => i.kind === 'dropper')
    return (['from', 'to'] as const).map(end => ({
      id: `${lead.id} ${end}`,
      kind: 'lead',
      warns: Boolean(diode),
      lines: [
        most(`${lead.name ?? lead.id} → ${terminal(lead[end === 'from' ? 'to' : 'from'])}`, 30),
        diode ? 'HOLDS A DIODE' : most(`${conductorName(lead.conductor)}, ${Number(lead.lengthM.toFixed(2))} m`, 30),
      ],
    }))
  })
  const items = plan.leads.flatMap(lead =>
    (lead.inline ?? []).flatMap((item): Label[] =>
      item.kind === 'fuse' || item.kind === 'breaker'
        ? [
            {
              id: `${lead.id} ${item.id}`,
              kind: item.kind,
              warns: Boolean(item.note),
              lines: [
                `${item.ratedA} A ${item.kind === 'fuse' ? (item.type ?? 'blade') : 'breaker'}`,
                most(item.note ?? lead.name ?? lead.id, 30),
              ],
            },
          ]
        : [],
    ),
  )
  const ports = plan.parts.flatMap(part =>
    part.kind === 'block'
      ? part.ports.map((port): Label => {
          const lead = plan.leads.find(l => [l.from, l.to].includes(`${part.id}.${port.id}`))
          const far = lead && (partIdOf(lead.from) === part.id ? lead.to : lead.from)
          return {
            id: `${part.id}.${port.id}`,
            kind: 'port',
            warns: false,
            lines: [
              most(`${port.id}${port.fuse ? `: ${port.fuse.ratedA} A` : ''}`, 30),
              far ? most(terminal(far), 30) : 'free',
            ],
          }
        })
      : [],
  )
  return [...leads, ...ports, ...items]
}
