import { jsPDF } from 'jspdf'
import { autoTable } from 'jspdf-autotable'
import type { NoiseCase } from '../noise/logbook'
import type { CaseReport } from '../noise/report'
import type { pathOnPaper } from '../picture/paper'
import { inLight } from '../picture/scene/palette'
import { SCENE_CSS } from '../picture/scene/style'
import type { Plan } from '../plan/schema'
import type { BuildSheet } from '../sheets/build'
import { laidOut, type Label, type LabelFormat } from '../sheets/labels'
import { stampWords } from '../sheets/state'
import { drawScene } from './scenePdf'

/** Sheets as PDF. The built-in typeface has no arrows or ohms: those are written out. */

const REPLACED: Record<string, string> = {
  '→': 'to',
  '−': '-',
  Ω: 'ohm',
  '☐': '',
  '≥': 'at least',
  '≤': 'at most',
  '…': '...',
  '–': '-',
  '’': "'",
  '₄': '4',
}
export const plain = (text: string) =>
  text.replace(/[→−Ω☐≥≤…₄–’]/g, c => REPLACED[c]!).replace(/[^\u0000-\u00ff]/g, '?')

type Row = (string | number)[]

interface Table {
  title: string
  head: string[]
  body: Row[]
  /** Of columns that are not left to their words, mm. */
  widthsMm?: Record<number, number>
}

/** Where something stands: a page, and how far down it, mm. */
interface Spot {
  page: number
  y: number
}

const SPACE_MM = 5

/** Puts a titled table at a spot, between two margins; gives back where it ends. An empty one is left out. */
function putTable(
  doc: jsPDF,
  { title, head, body, widthsMm = {} }: Table,
  at: Spot,
  margin: { left: number; right: number },
): Spot {
  if (!body.length) return at
  doc.setPage(at.page)
  autoTable(doc, {
    startY: at.y + SPACE_MM,
    head: [
      [{ content: title, colSpan: head.length, styles: { fontSize: 11, textColor: 20, fillColor: 255 } }],
      head.map(plain),
    ],
    body: body.map(r => r.map(c => plain(String(c)))),
    margin: { top: 13, bottom: 13, ...margin },
    theme: 'grid',
    styles: { fontSize: 7.5, cellPadding: 0.7, textColor: 20, lineColor: 190, lineWidth: 0.15 },
    headStyles: { fillColor: 235, textColor: 20 },
    columnStyles: Object.fromEntries(Object.entries(widthsMm).map(([k, cellWidth]) => [k, { cellWidth }])),
    rowPageBreak: 'avoid',
    showHead: 'everyPage',
  })
  const { finalY } = (doc as unknown as { lastAutoTable: { finalY: number } }).lastAutoTable
  return { page: doc.getCurrentPageInfo().pageNumber, y: finalY }
}

/** Puts titled tables under each other, and two beside each other. */
export class Tables {
  constructor(
    private readonly doc: jsPDF,
    private readonly margin: number,
    private at: Spot,
  ) {}

  put(title: string, head: string[], body: Row[], widthsMm: Record<number, number> = {}) {
    this.at = putTable(this.doc, { title, head, body, widthsMm }, this.at, { left: this.margin, right: this.margin })
  }

  beside(left: Table, right: Table) {
    const half = this.doc.internal.pageSize.getWidth() / 2
    const gap = SPACE_MM / 2
    const ends = [
      putTable(this.doc, left, this.at, { left: this.margin, right: half + gap }),
      putTable(this.doc, right, this.at, { left: half + gap, right: this.margin }),
    ]
    this.at = ends.reduce((a, b) => (b.page > a.page || (b.page === a.page && b.y > a.y) ? b : a))
  }
}

export function footed(doc: jsPDF, name: string, margin: number) {
  const pages = doc.getNumberOfPages()
  for (let p = 1; p <= pages; p++) {
    doc.setPage(p)
    doc
      .setFontSize(8)
      .setFont('helvetica', 'normal')
      .setTextColor(110)
      .text(
        `${plain(name)}, page ${p} of ${pages}. Local codes and a licensed electrician decide.`,
        margin,
        doc.internal.pageSize.getHeight() - 7,
        { maxWidth: doc.internal.pageSize.getWidth() - 2 * margin },
      )
  }
}

/** Its head: the name, which state of the plan it is, whether that may be built. @returns where the tables begin, mm */
function headOf(doc: jsPDF, sheet: BuildSheet, margin: number): number {
  const width = doc.internal.pageSize.getWidth() - 2 * margin
  let y = 18
  doc.setFontSize(16).setFont('helvetica', 'bold').text(plain(sheet.name), margin, y)
  y += 6
  const stamp = stampWords(sheet.stamp)
  doc
    .setFontSize(9)
    .setFont('helvetica', 'normal')
    .text(plain(`Build sheet${stamp && `, ${stamp}`}`), margin, y)
  y += 5
  const said = (line: string, font: 'normal' | 'bold' = 'normal') => {
    const lines = doc.setFont('helvetica', font).splitTextToSize(plain(line), width) as string[]
    doc.text(lines, margin, y)
    y += 4 * lines.length
  }
  if (sheet.notReady.length) said(`Not ready to build: ${sheet.notReady.join('; ')}.`, 'bold')
  for (const line of [...sheet.notes, ...sheet.cautions.map(c => `! ${c}`)]) said(line)
  if (sheet.assumed.length) said(`Not stated, and assumed: ${sheet.assumed.join('; ')}.`)
  return y
}

/** The path beside or under the head, as wide as the page or as high as is left of it. @returns where it ends */
function putPath(doc: jsPDF, path: PathPicture, y: number, margin: number): Spot {
  const page = doc.internal.pageSize
  const wide = (page.getWidth() - 2 * margin) / path.width
  const left = page.getHeight() - y - margin
  // One that takes most of the page has all that is left of it.
  const isTall = path.height * wide > MOST_OF_PAGE * page.getHeight()
  const mmPerPx = isTall ? Math.min(wide, left / path.height) : wide
  drawScene(doc, path.picture, inLight(SCENE_CSS), { xMm: margin, yMm: y, mmPerPx, plain })
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
export function buildSheetPdf(
  sheet: BuildSheet,
  { paper = 'a4', path }: { paper?: 'a4' | 'letter'; path?: PathPicture } = {},
): Uint8Array {
  const doc = new jsPDF({ unit: 'mm', format: paper })
  const margin = 13
  const y = headOf(doc, sheet, margin)
  const tables = new Tables(doc, margin, path ? putPath(doc, path, y, margin) : { page: 1, y })
  tables.put(
    'Cut list',
    ['Lead', 'Conductor', 'Runs, m', 'Cut each, m', 'Ends', 'In it', 'done'],
    sheet.cutList.map(r => [
      [`${r.name}: ${r.from} to ${r.to}`, r.note].filter(Boolean).join('\n'),
      `${r.conductor}${r.insulationC ? `, ${r.insulationC} °C` : ''}, ${r.conductors.map(c => c.colour).join(' + ')}`,
      r.lengthM.toFixed(2),
      r.cutM.toFixed(2),
      r.ends.map(e => `${e.at}: ${e.connector}, ${e.method}`).join('\n'),
      r.inline.map(i => `${i.what}, ${i.atM} m from ${i.from}, ${i.leg}`).join('\n'),
      '',
    ]),
    CUT_WIDTHS_MM,
  )
  const buy = sheet.shopping.filter(r => r.buy > 0)
  tables.beside(
    {
      title: 'Parts',
      head: ['Count', 'What', 'Note', 'have'],
      body: sheet.parts.map(r => [r.unit === 'm' ? `${r.count} m` : r.count, r.what, r.note, '']),
    },
    {
      title: 'To buy',
      head: ['Buy', 'What', 'Needs', 'Has'],
      body: buy.map(r => [r.unit === 'm' ? `${r.buy} m` : r.buy, r.what, r.needs, r.has]),
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
  footed(doc, sheet.name, margin)
  return new Uint8Array(doc.output('arraybuffer'))
}

const POINTS_PER_MM = 72 / 25.4

/** Labels: one page a label for tape, or A4 sheets of stickers. */
export function labelsPdf(labels: readonly Label[], format: LabelFormat): Uint8Array {
  const { widthMm: w, heightMm: h, columns, rows, marginMm: m } = format
  const tape = rows === Infinity
  const doc = tape
    ? new jsPDF({ unit: 'mm', format: [w, h], orientation: 'landscape' })
    : new jsPDF({ unit: 'mm', format: 'a4' })
  const perPage = tape ? 1 : columns * rows
  labels.forEach((label, i) => {
    if (i && i % perPage === 0) doc.addPage()
    const k = i % perPage
    const [x, y] = tape ? [0, 0] : [m + (k % columns) * w, m + Math.floor(k / columns) * h]
    doc.setDrawColor(160).setLineWidth(0.1)
    if (label.warns) doc.setFillColor('#000000').rect(x, y, w, h, 'F')
    else if (!tape) doc.rect(x, y, w, h)
    if (label.warns) doc.setTextColor(255)
    else doc.setTextColor(0)
    const widthOf = (text: string, isBold: boolean) => {
      doc.setFont('helvetica', isBold ? 'bold' : 'normal').setFontSize(POINTS_PER_MM)
      return doc.getTextWidth(text)
    }
    const printable: Label = { ...label, lines: [plain(label.lines[0]), plain(label.lines[1])] }
    for (const l of laidOut(printable, format, widthOf)) {
      doc.setFont('helvetica', l.isBold ? 'bold' : 'normal').setFontSize(l.sizeMm * POINTS_PER_MM)
      doc.text(l.text, x + l.fromLeftMm, y + l.fromTopMm)
    }
  })
  return new Uint8Array(doc.output('arraybuffer'))
}

/** The report of a noise case, A4 or letter. */
export function casePdf(
  plan: Plan,
  noiseCase: NoiseCase,
  report: CaseReport,
  paper: 'a4' | 'letter' = 'a4',
): Uint8Array {
  const doc = new jsPDF({ unit: 'mm', format: paper })
  const margin = 13
  const width = doc.internal.pageSize.getWidth() - 2 * margin
  let y = 18
  const paragraph = (text: string, size = 9, weight: 'normal' | 'bold' = 'normal') => {
    doc.setFontSize(size).setFont('helvetica', weight)
    const lines = doc.splitTextToSize(plain(text), width) as string[]
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
  caseTables(doc, margin, y - 4, { noiseCase, report })
  footed(doc, noiseCase.title, margin)
  return new Uint8Array(doc.output('arraybuffer'))
}

/** What is believed and why, the log, the cures and the next test, from a height on. */
function caseTables(
  doc: jsPDF,
  margin: number,
  fromY: number,
  { noiseCase, report }: { noiseCase: NoiseCase; report: CaseReport },
) {
  const tables = new Tables(doc, margin, { page: doc.getNumberOfPages(), y: fromY })
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
