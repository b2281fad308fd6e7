import type { EventSheet } from '../../hours/sheet'
import { footed, Tables } from './tables'
import { Printed, type LoadFace } from './typefaces'

/** An event's sheet as PDF, ready to print. */
export async function eventPdf(
  sheet: EventSheet,
  { paper = 'a4', loadFace }: { paper?: 'a4' | 'letter'; loadFace: LoadFace },
): Promise<Uint8Array> {
  const printed = await Printed.on({ unit: 'mm', format: paper }, sheet, loadFace)
  const { doc } = printed
  const margin = 13
  const width = doc.internal.pageSize.getWidth() - 2 * margin
  let y = 18
  const said = (line: string, sizePt: number, font: 'normal' | 'bold' = 'normal') => {
    const lines = doc.setFontSize(sizePt).splitTextToSize(printed.set(line, font), width) as string[]
    doc.text(lines, margin, y)
    y += 0.45 * sizePt * lines.length + 0.5
  }
  said(sheet.name, 16, 'bold')
  said(sheet.when, 9)
  said(sheet.says, 11, 'bold')
  for (const note of [...sheet.notes, ...sheet.cautions.map(c => `! ${c}`)]) said(note, 9)
  const tables = new Tables(printed, margin, { page: 1, y: y - 3 })
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
  footed(printed, sheet.name, margin)
  return printed.bytes()
}
