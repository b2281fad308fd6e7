import type { pathOnPaper } from '../../picture/paper'
import { inLight } from '../../picture/scene/palette'
import { SCENE_CSS } from '../../picture/scene/style'
import type { BuildSheet } from '../../sheets/build'
import { stampWords } from '../../sheets/state'
import { drawScene } from './scene'
import { footed, SPACE_MM, Tables, type Spot } from './tables'
import { Printed, type LoadFace } from './typefaces'
import { asGiven } from '../../units/number'

/** Its head: the name, which state of the plan it is, whether that may be built. @returns where the tables begin, mm */
function headOf(printed: Printed, sheet: BuildSheet, margin: number): number {
  const { doc } = printed
  const width = doc.internal.pageSize.getWidth() - 2 * margin
  let y = 18
  doc.setFontSize(16).text(printed.set(sheet.name, 'bold'), margin, y)
  y += 6
  const stamp = stampWords(sheet.stamp)
  doc.setFontSize(9).text(printed.set(`Build sheet${stamp && `, ${stamp}`}`), margin, y)
  y += 5
  const said = (line: string, font: 'normal' | 'bold' = 'normal') => {
    const lines = doc.splitTextToSize(printed.set(line, font), width) as string[]
    doc.text(lines, margin, y)
    y += 4 * lines.length
  }
  if (sheet.notReady.length) said(`Not ready to build: ${sheet.notReady.join('; ')}.`, 'bold')
  for (const line of [...sheet.notes, ...sheet.cautions.map(c => `! ${c}`)]) said(line)
  if (sheet.assumed.length) said(`Not stated, and assumed: ${sheet.assumed.join('; ')}.`)
  return y
}

/** The path beside or under the head, as wide as the page or as high as is left of it. @returns where it ends */
function putPath(printed: Printed, path: PathPicture, y: number, margin: number): Spot {
  const { doc } = printed
  const page = doc.internal.pageSize
  const wide = (page.getWidth() - 2 * margin) / path.width
  const left = page.getHeight() - y - margin
  // One that takes most of the page has all that is left of it.
  const isTall = path.height * wide > MOST_OF_PAGE * page.getHeight()
  const mmPerPx = isTall ? Math.min(wide, left / path.height) : wide
  drawScene(printed, path.picture, inLight(SCENE_CSS), { xMm: margin, yMm: y, mmPerPx })
  doc.setLineDashPattern([], 0).setTextColor(0)
  if (!isTall) return { page: 1, y: y + path.height * mmPerPx - SPACE_MM / 2 }
  doc.addPage()
  return { page: 2, y: margin - SPACE_MM }
}
/** A path higher than this share of the page stands on the first page alone. */
const MOST_OF_PAGE = 0.5

type PathPicture = ReturnType<typeof pathOnPaper>

/** Its ends are long: one line each, where they fit. */
const CUT_WIDTHS_MM = { 2: 13, 3: 17, 4: 68, 6: 10 }

/** The build sheet, A4 or letter, ready to print; with the path drawn on its first page. */
export async function buildSheetPdf(
  sheet: BuildSheet,
  { paper = 'a4', path, loadFace }: { paper?: 'a4' | 'letter'; path?: PathPicture; loadFace: LoadFace },
): Promise<Uint8Array> {
  const printed = await Printed.on({ unit: 'mm', format: paper }, [sheet, path], loadFace)
  const margin = 13
  const y = headOf(printed, sheet, margin)
  const tables = new Tables(printed, margin, path ? putPath(printed, path, y, margin) : { page: 1, y })
  tables.put(
    'Cut list',
    ['Lead', 'Conductor', 'Runs, m', 'Cut each, m', 'Ends', 'In it', 'done'],
    sheet.cutList.map(r => [
      [`${r.name}: ${r.from} to ${r.to}`, r.note].filter(Boolean).join('\n'),
      [r.conductor, r.insulationC && `${asGiven(r.insulationC)} °C`, r.conductors.map(c => c.colour).join(' + ')]
        .filter(Boolean)
        .join(', '),
      r.lengthM.toFixed(2),
      r.cutM.toFixed(2),
      r.ends.map(e => `${e.at}: ${e.connector}, ${e.method}`).join('\n'),
      r.inline.map(i => `${i.what}, ${asGiven(i.atM)} m from ${i.from}, ${i.leg}`).join('\n'),
      '',
    ]),
    CUT_WIDTHS_MM,
  )
  const buy = sheet.shopping.filter(r => r.buy > 0)
  tables.beside(
    {
      title: 'Parts',
      head: ['Count', 'What', 'Note', 'have'],
      body: sheet.parts.map(r => [r.unit === 'm' ? `${asGiven(r.count)} m` : r.count, r.what, r.note, '']),
    },
    {
      title: 'To buy',
      head: ['Buy', 'What', 'Needs', 'Has'],
      body: buy.map(r => [r.unit === 'm' ? `${asGiven(r.buy)} m` : r.buy, r.what, r.needs, r.has]),
    },
  )
  tables.put(
    'Connect in this order',
    ['', 'Do', 'Check before'],
    sheet.hookUp.connect.map((s, i) => [i + 1, s.does + (s.caution ? ` ${s.caution}` : ''), s.before]),
  )
  tables.put(
    'Take down',
    ['', 'Do'],
    sheet.hookUp.takeDown.map((s, i) => [i + 1, s]),
  )
  tables.put(
    'What each point should read, V',
    ['Point', ...sheet.test.conditions.map(c => c.words), 'measured'],
    sheet.test.rows.map(r => [r.words, ...r.volts.map(v => (v === null ? 'none' : v.toFixed(2))), '']),
  )
  footed(printed, sheet.name, margin)
  return printed.bytes()
}
