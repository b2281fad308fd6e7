import type { NoiseCase } from '../../noise/logbook'
import type { CaseReport } from '../../noise/report'
import type { Plan } from '../../plan/schema'
import { footed, Tables } from './tables'
import { Printed, type LoadFace } from './typefaces'

/** The report of a noise case, A4 or letter. */
export async function casePdf(
  { plan, noiseCase, report }: { plan: Plan; noiseCase: NoiseCase; report: CaseReport },
  { paper = 'a4', loadFace }: { paper?: 'a4' | 'letter'; loadFace: LoadFace },
): Promise<Uint8Array> {
  const printed = await Printed.on({ unit: 'mm', format: paper }, [plan, noiseCase, report], loadFace)
  const { doc } = printed
  const margin = 13
  const width = doc.internal.pageSize.getWidth() - 2 * margin
  let y = 18
  const paragraph = (text: string, size = 9, weight: 'normal' | 'bold' = 'normal') => {
    const lines = doc.setFontSize(size).splitTextToSize(printed.set(text, weight), width) as string[]
    doc.text(lines, margin, y)
    y += lines.length * size * 0.42 + 1.5
  }
  paragraph(noiseCase.title, 16, 'bold')
  y += 1
  paragraph(
    `${plan.name}${noiseCase.complaint.bands.length ? `; heard on ${noiseCase.complaint.bands.join(', ')}` : ''}`,
  )
  if (noiseCase.complaint.words) paragraph(noiseCase.complaint.words)
  y += 1
  paragraph(report.headline, 11, 'bold')
  ;[...report.contradictions, ...report.cautions].forEach(c => paragraph(`! ${c}`))
  caseTables(printed, margin, y - 4, { noiseCase, report })
  footed(printed, noiseCase.title, margin)
  return printed.bytes()
}

/** What is believed and why, the log, the cures and the next test, from a height on. */
function caseTables(
  printed: Printed,
  margin: number,
  fromY: number,
  { noiseCase, report }: { noiseCase: NoiseCase; report: CaseReport },
) {
  const tables = new Tables(printed, margin, { page: printed.doc.getNumberOfPages(), y: fromY })
  tables.put(
    'What is believed',
    ['How strongly', 'Cause', 'When'],
    report.ranked.map(r => [r.percent, r.label, r.when]),
  )
  tables.put(
    'Why',
    ['', 'Finding', 'Tells of'],
    [...report.forIt.map(e => ['for', e.words, e.about]), ...report.against.map(e => ['against', e.words, e.about])],
  )
  tables.put(
    'Log',
    ['When', 'Finding', 'Who'],
    report.log.map(l => [
      l.at.slice(0, 16).replace('T', ' '),
      [l.words, l.note].filter(Boolean).join('. '),
      [l.who, l.allowedBy && `possible by ${l.allowedBy}`].filter(Boolean).join('; '),
    ]),
  )
  tables.put(
    'Cures',
    ['Cure', 'What it did', 'Side effects', 'Kept'],
    report.cures.map(c => [c.words, c.did, c.cure.sideEffects ?? '', c.cure.kept ? 'yes' : 'no']),
  )
  const next = report.next[0]
  if (next && report.state !== 'believed' && noiseCase.state === 'open')
    tables.put('Next test', ['Do', 'Watch'], [[next.do, next.watch]])
}
