import type { Plan } from '../plan/schema'
import { nameOf } from '../plan/find'
import { needs, isLoad } from '../kinds/index'
import { axisX, layoutPath, type LeadShape, type PathLayout } from '../picture/layout'
import { boxLines, flowWords, leadWords, ownLine, shortened } from '../picture/words'
import type { Label, LabelFormat } from '../sheets/labels'
import type { Verdict } from '../verdict/verdict'
import { METRIC } from '../units/quantity'

const escape = (text: string) =>
  text.replace(/[&<>"]/g, c => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!)

/** Colours of the light theme: a picture is printed. */
const INK = '#1f262b'
const QUIET = '#5b666d'
const COPPER = '#a8501c'
const PASS = '#d7e6dc'
const BAD = '#a6321b'

const text = (x: number, y: number, words: string, more = '') =>
  `<text x="${n(x)}" y="${n(y)}" ${more}>${escape(words)}</text>`
const n = (value: number) => String(Number(value.toFixed(1)))

/** The path as a picture by itself, px, with what arrives at every load over all conditions. */
const FOOT = 'Drawn by Wireman; local codes and a licensed electrician decide.'

export function pathSvg(
  plan: Plan,
  verdict: Verdict,
  amps: Record<string, { amps: number; dropV: number }>,
  widthPx = 1000,
): string {
  const layout = layoutPath(plan, verdict.arrivals, widthPx)
  const parts = new Map(plan.parts.map(p => [p.id, p]))
  const leads = new Map(plan.leads.map(l => [l.id, l]))
  const body = [
    ...layout.axis.ticks.map(
      v =>
        `<line x1="${n(axisX(layout.axis, v))}" x2="${n(axisX(layout.axis, v))}" y1="40" ` +
        `y2="${n(layout.height - 8)}" stroke="#c9c5b8" stroke-dasharray="1 ` +
        `5"/>${text(axisX(layout.axis, v), 33, String(v), `text-anchor="middle" class="s"`)}`,
    ),
    text(layout.axis.x + 8, 15, 'what arrives, volts', 'class="s"'),
    ...layout.leads.flatMap(shape =>
      leadPicture(shape, leadWords(leads.get(shape.id)!, METRIC), amps[shape.id], layout.compact),
    ),
    ...layout.boxes.flatMap(box => {
      const part = parts.get(box.id)!
      return [
        `<rect x="${n(box.x)}" y="${n(box.y)}" width="${box.width}" height="${box.height}" rx="8" class="b"/>`,
        text(box.x + 12, box.y + 21, shortened(nameOf(part), 19), 'class="n"'),
        ...boxLines(part).map((line, i) => text(box.x + 12, box.y + 37 + 14 * i, shortened(line, 24), 'class="s"')),
      ]
    }),
    ...layout.bars.flatMap(bar => {
      const part = parts.get(bar.id)!
      return [
        `<rect x="${n(bar.x)}" y="${n(bar.y)}" width="${bar.width}" height="${n(bar.height)}" rx="7" class="b"/>`,
        text(bar.x + bar.width / 2, bar.y - 7, nameOf(part), 'text-anchor="middle"'),
        text(bar.x + bar.width / 2, bar.y + bar.height + 14, ownLine(part), 'text-anchor="middle" class="s"'),
        ...bar.ports.flatMap(p =>
          p.ratedA === null
            ? []
            : [
                `<rect x="${n(bar.x + bar.width / 2 - 13)}" y="${n(p.y - 11)}" width="26" height="22" rx="5" ` +
                  'class="b"/>',
                text(bar.x + bar.width / 2, p.y + 4.5, String(p.ratedA), 'text-anchor="middle" class="n"'),
              ],
        ),
      ]
    }),
    ...layout.rows.flatMap(row => {
      const part = parts.get(row.id)
      if (row.kind !== 'load' || !part || !isLoad(part)) return []
      return [
        text(layout.loadX + 4, row.y - 1, nameOf(part), 'class="n"'),
        text(layout.loadX + 4, row.y + 14, ownLine(part), 'class="s"'),
        ...arrival(layout, row.y, needs(part), verdict.arrivals[row.id] ?? null),
      ]
    }),
  ]
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${n(layout.width)}" height="${n(layout.height + 24)}" viewBox="0 0 ${n(layout.width)} ${n(layout.height + 24)}" font-family="Archivo, Helvetica, Arial, sans-serif" font-size="12" fill="${INK}">
<style>.n{font-weight:650}.s{font-size:11px;fill:${QUIET}}.b{fill:#fff;stroke:${INK};stroke-width:1.5}</style>
<title>${escape(plan.name)}</title><rect width="100%" height="100%" fill="#fff"/>
${body.join('\n')}
${text(14, layout.height + 14, `${plan.name}. ${FOOT}`, 'class="s"')}
</svg>
`
}

function leadPicture(
  shape: LeadShape,
  words: { conductor: string; length: string },
  flow: { amps: number; dropV: number } | undefined,
  compact: boolean,
): string[] {
  const items = shape.items.map(item =>
    item.kind === 'dropper'
      ? `<path d="M-9-7L7 0L-9 7ZM7-8V8" fill="${INK}" stroke="${INK}" transform="translate(${n(item.x)} ` +
        `${n(item.y)})"/>`
      : `<g transform="translate(${n(item.x)} ${n(item.y)})"><rect x="-16" y="-11" width="32" height="22" ` +
        `rx="${item.kind === 'breaker' ? 0 : 5}" class="b"/><text y="4.5" text-anchor="middle" ` +
        `class="n">${escape(item.label)}</text></g>`,
  )
  const y = shape.tie ? shape.y - 2 : shape.y + (shape.labelBelow ? 24 : -9)
  const flows = flow ? flowWords(flow.amps, flow.dropV) : ''
  const below = compact ? 15 : 18
  const y2 = shape.tie ? shape.y + 13 : shape.y + (shape.labelBelow ? 39 : below)
  return [
    `<path d="${shape.path}" fill="none" stroke="${COPPER}" ` +
      `stroke-width="${n(shape.thickness)}"${shape.open ? ' stroke-dasharray="7 5"' : ''}/>`,
    ...items,
    text(shape.labelX, y, `${words.conductor} · ${words.length}`),
    text(shape.labelX, y2, shape.open ? 'switched off' : flows, 'class="s"'),
  ]
}

function arrival(
  layout: PathLayout,
  y: number,
  window: { minV: number; maxV: number },
  span: Verdict['arrivals'][string] | null,
): string[] {
  const x = (v: number) => axisX(layout.axis, v)
  const bar =
    `<rect x="${n(x(window.minV))}" y="${n(y - 18)}" width="${n(x(window.maxV) - x(window.minV))}" height="28" ` +
    `fill="${PASS}"/>`
  if (!span) return [bar]
  const [low, high] = [span.low.value, span.high.value]
  const bad = low < window.minV || high > window.maxV
  return [
    bar,
    `<line x1="${n(x(low))}" x2="${n(x(high))}" y1="${n(y - 4)}" y2="${n(y - 4)}" stroke="${bad ? BAD : INK}" ` +
      'stroke-width="7" stroke-linecap="round"/>',
    text(x(low), y + 23, low.toFixed(2), `text-anchor="middle" class="s"${low < window.minV ? ` fill="${BAD}"` : ''}`),
    text(x(high), y + 23, high.toFixed(2), 'text-anchor="middle" class="s"'),
  ]
}

/** Labels in millimetres: a strip for tape, or a sheet of stickers. */
export function labelsSvg(labels: readonly Label[], format: LabelFormat): string {
  const { widthMm: w, heightMm: h, columns, marginMm: m, textMm } = format
  const rows = Math.ceil(labels.length / columns)
  const [width, height] = [2 * m + columns * w, 2 * m + rows * h].map(v => Number(v.toFixed(2)))
  const body = labels.map((label, i) => {
    const [x, y] = [m + (i % columns) * w, m + Math.floor(i / columns) * h]
    const size = label.lines.map(line => Math.min(textMm, (w - 3) / (0.56 * Math.max(1, line.length))))
    return (
      `<g transform="translate(${n(x)} ${n(y)})"><rect x="0.1" y="0.1" width="${n(w - 0.2)}" ` +
      `height="${n(h - 0.2)}" rx="0.8" fill="${label.warns ? '#000' : 'none'}" stroke="#999" ` +
      'stroke-width="0.15"/>' +
      label.lines
        .map(
          (line, k) =>
            `<text x="1.5" y="${(h / 2 + (k ? textMm * 1.05 : -textMm * 0.25)).toFixed(2)}" ` +
            `font-size="${size[k]!.toFixed(2)}" font-weight="${k ? 400 : 700}" ` +
            `fill="${label.warns ? '#fff' : '#000'}">${escape(line)}</text>`,
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
