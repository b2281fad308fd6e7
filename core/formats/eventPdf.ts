import { jsPDF } from 'jspdf'
import type { EventSheet } from '../hours/sheet'
import { footed, plain, Tables } from './pdf'

/** An event's sheet as PDF, ready to print. */
export function eventPdf(sheet: EventSheet, { paper = 'a4' }: { paper?: 'a4' | 'letter' } = {}): Uint8Array {
  const doc = new jsPDF({ unit: 'mm', format: paper })
  const margin = 13
  const width = doc.internal.pageSize.getWidth() - 2 * margin
  let y = 18
  const said = (line: string, sizePt: number, font: 'normal' | 'bold' = 'normal') => {
    doc.setFontSize(sizePt).setFont('helvetica', font)
    const lines = doc.splitTextToSize(plain(line), width) as string[]
    doc.text(lines, margin, y)
    y += 0.45 * sizePt * lines.length + 0.5
  }
  said(sheet.name, 16, 'bold')
  said(sheet.when, 9)
  said(sheet.says, 11, 'bold')
  for (const note of [...sheet.notes, ...sheet.cautions.map(c => `! ${c}`)]) said(note, 9)
  const tables = new Tables(doc, margin, { page: 1, y: y - 3 })
  tables.put(
    'Who does what',
    ['Who', 'What', 'When'],
    sheet.schedule.map(r => [r.who, r.what, r.when]),
    { 0: 30, 1: 70 },
  )
  tables.put(
    'By the clock',
    ['', ...sheet.columns, 'read'],
    sheet.moments.map(m => [m.at, ...m.figures, '']),
  )
  tables.put(
    'What fails',
    ['From when to when'],
    sheet.failures.map(f => [f]),
  )
  footed(doc, sheet.name, margin)
  return new Uint8Array(doc.output('arraybuffer'))
}
