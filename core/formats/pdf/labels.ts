import { laidOut, type Label, type LabelFormat } from '../../sheets/labels'
import { Printed, type LoadFace } from './typefaces'

const POINTS_PER_MM = 72 / 25.4

/** Labels: one page a label for tape, or A4 sheets of stickers. */
export async function labelsPdf(
  labels: readonly Label[],
  format: LabelFormat,
  loadFace: LoadFace,
): Promise<Uint8Array> {
  const { widthMm: w, heightMm: h, columns, rows, marginMm: m } = format
  const tape = rows === Infinity
  const paper = tape ? { format: [w, h], orientation: 'landscape' as const } : { format: 'a4' }
  const printed = await Printed.on({ unit: 'mm', ...paper }, labels, loadFace)
  const { doc } = printed
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
      const printable = printed.set(text, isBold ? 'bold' : 'normal')
      return doc.setFontSize(POINTS_PER_MM).getTextWidth(printable)
    }
    for (const l of laidOut(label, format, widthOf)) {
      const text = printed.set(l.text, l.isBold ? 'bold' : 'normal')
      doc.setFontSize(l.sizeMm * POINTS_PER_MM).text(text, x + l.fromLeftMm, y + l.fromTopMm)
    }
  })
  return printed.bytes()
}
