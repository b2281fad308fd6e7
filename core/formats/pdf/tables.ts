import { autoTable } from 'jspdf-autotable'
import type { Printed } from './typefaces'

/** Titled tables on paper, one under the other or side by side. */

export type Row = (string | number)[]

export interface Table {
  title: string
  head: string[]
  body: Row[]
  /** Of columns that are not left to their words, mm. */
  widthsMm?: Record<number, number>
}

/** Where something stands: a page, and how far down it, mm. */
export interface Spot {
  page: number
  y: number
}

export const SPACE_MM = 5

/** Puts a titled table at a spot, between two margins; gives back where it ends. An empty one is left out. */
function putTable(
  printed: Printed,
  { title, head, body, widthsMm = {} }: Table,
  at: Spot,
  margin: { left: number; right: number },
): Spot {
  if (!body.length) return at
  const { doc } = printed
  doc.setPage(at.page)
  autoTable(doc, {
    startY: at.y + SPACE_MM,
    head: [
      [{ content: title, colSpan: head.length, styles: { fontSize: 11, textColor: 20, fillColor: 255 } }],
      head.map(h => printed.cell(h)),
    ],
    body: body.map(r => r.map(c => printed.cell(c))),
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
    private readonly printed: Printed,
    private readonly margin: number,
    private at: Spot,
  ) {}

  put(title: string, head: string[], body: Row[], widthsMm: Record<number, number> = {}) {
    this.at = putTable(this.printed, { title, head, body, widthsMm }, this.at, {
      left: this.margin,
      right: this.margin,
    })
  }

  beside(left: Table, right: Table) {
    const half = this.printed.doc.internal.pageSize.getWidth() / 2
    const gap = SPACE_MM / 2
    const ends = [
      putTable(this.printed, left, this.at, { left: this.margin, right: half + gap }),
      putTable(this.printed, right, this.at, { left: half + gap, right: this.margin }),
    ]
    this.at = ends.reduce((a, b) => (b.page > a.page || (b.page === a.page && b.y > a.y) ? b : a))
  }
}

export function footed(printed: Printed, name: string, margin: number) {
  const { doc } = printed
  const pages = doc.getNumberOfPages()
  for (let p = 1; p <= pages; p++) {
    doc.setPage(p)
    const line = printed.set(`${name}, page ${p} of ${pages}. Local codes and a licensed electrician decide.`)
    doc
      .setFontSize(8)
      .setTextColor(110)
      .text(line, margin, doc.internal.pageSize.getHeight() - 7, {
        maxWidth: doc.internal.pageSize.getWidth() - 2 * margin,
      })
  }
}
