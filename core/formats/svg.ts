import type { Plan } from '../plan/schema'
import { pathOnPaper, type PaperOptions } from '../picture/paper'
import { inLight } from '../picture/scene/palette'
import type { Shape } from '../picture/scene/shape'
import { SCENE_CSS } from '../picture/scene/style'
import type { Shown } from '../picture/shown'
import { laidOut, type Label, type LabelFormat } from '../sheets/labels'
import { printable } from '../units/inert'
import type { Verdict } from '../verdict/verdict'

const escape = (text: string) =>
  printable(text).replace(/[&<>"]/g, c => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!)
const n = (value: number) => String(Number(value.toFixed(1)))

/** Numbers inside paths and places too are kept to a tenth of a pixel. */
const value = (v: string | number) =>
  typeof v === 'number' ? n(v) : escape(v.replace(/-?\d+\.\d{2,}/g, d => n(Number(d))))

function written(s: Shape | string): string {
  if (typeof s === 'string') return escape(s)
  const attributes = Object.entries({ ...(s.class && { class: s.class }), ...s.at })
    .map(([name, v]) => ` ${name}="${value(v)}"`)
    .join('')
  if (!s.holds.length) return `<${s.el}${attributes}/>`
  return `<${s.el}${attributes}>${s.holds.map(written).join('')}</${s.el}>`
}

/** The path as a picture by itself, px, in the light theme's colours: the same drawing as the page's. */
export function pathSvg(plan: Plan, verdict: Verdict, shown: Shown, options: PaperOptions = {}): string {
  return svgOf(pathOnPaper(plan, verdict, shown, options).picture)
}

/** A picture as a file by itself, its looks within it. */
export function svgOf(picture: Shape): string {
  const lined: Shape = { ...picture, holds: picture.holds.flatMap((s, k) => (k < 2 ? [s] : ['\n', s])) }
  return written(lined).replace('>', `>\n<style>${inLight(SCENE_CSS)}</style>\n`) + '\n'
}

/** Labels in millimetres: a strip for tape, or a sheet of stickers. */
/** Width of a letter for its height, in the middle of a text of Helvetica's make. */
const LETTER_WIDTH = 0.56

export function labelsSvg(labels: readonly Label[], format: LabelFormat): string {
  const { widthMm: w, heightMm: h, columns, marginMm: m } = format
  const rows = Math.ceil(labels.length / columns)
  const [width, height] = [2 * m + columns * w, 2 * m + rows * h].map(v => Number(v.toFixed(2)))
  const body = labels.map((label, i) => {
    const [x, y] = [m + (i % columns) * w, m + Math.floor(i / columns) * h]
    return (
      `<g transform="translate(${n(x)} ${n(y)})"><rect x="0.1" y="0.1" width="${n(w - 0.2)}" ` +
      `height="${n(h - 0.2)}" rx="0.8" fill="${label.warns ? '#000' : 'none'}" stroke="#999" ` +
      'stroke-width="0.15"/>' +
      laidOut(label, format, text => LETTER_WIDTH * text.length)
        .map(
          l =>
            `<text x="${n(l.fromLeftMm)}" y="${l.fromTopMm.toFixed(2)}" ` +
            `font-size="${l.sizeMm.toFixed(2)}" font-weight="${l.isBold ? 700 : 400}" ` +
            `fill="${label.warns ? '#fff' : '#000'}">${escape(l.text)}</text>`,
        )
        .join('') +
      '</g>'
    )
  })
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}mm" height="${height}mm" viewBox="0 0 ${width} ` +
    `${height}" font-family="Helvetica, Arial, sans-serif">\n${body.join('\n')}\n</svg>\n`
  )
}
