import { linesInBand } from '#core/noise/comb/bands'
import type { Listened } from '../workers/listen'
import { heat } from './heat'
import { fixed } from '#core/units/number'

/** Spectrum over waterfall, the found lines over both; for typed tones a stroke each. On a canvas, px of the page. */

const COLOURS = ['--fail', '--note', '--caution', '--pass']
/** Under the picture: the figures of its axis. */
const FOOT = 22
/** Least room for a figure of the axis. */
const FIGURE_WIDTH = 120

const css = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim()

interface Field {
  ctx: CanvasRenderingContext2D
  heard: Listened
  width: number
  height: number
  /** Frequencies at the two edges. */
  lowHz: number
  highHz: number
  /** Where the waterfall begins. */
  fallTop: number
  x: (hz: number) => number
}

export function drawComb(canvas: HTMLCanvasElement, heard: Listened) {
  const field = fieldOf(canvas, heard)
  if (heard.rows.length) drawFall(field)
  if (heard.columns.length) drawSpectrum(field)
  else drawTones(field)
  heard.combs.forEach((_, k) => drawLines(field, k))
  drawAxis(field)
}

function fieldOf(canvas: HTMLCanvasElement, heard: Listened): Field {
  const ratio = window.devicePixelRatio || 1
  const [width, height] = [canvas.clientWidth, canvas.clientHeight]
  canvas.width = width * ratio
  canvas.height = height * ratio
  const ctx = canvas.getContext('2d')!
  ctx.scale(ratio, ratio)
  ctx.clearRect(0, 0, width, height)
  ctx.font = '11.5px "Archivo Variable", sans-serif'
  const span = heard.highHz - heard.lowHz || 1
  const margin = span * (heard.columns.length ? 0 : 0.06)
  const lowHz = heard.lowHz - margin
  return {
    ctx,
    heard,
    width,
    height,
    lowHz,
    highHz: heard.highHz + margin,
    fallTop: heard.rows.length ? height * 0.5 : height - FOOT,
    x: hz => ((hz - lowHz) / (span + 2 * margin)) * width,
  }
}

function drawFall({ ctx, heard: { rows }, width, height, fallTop }: Field) {
  const image = ctx.createImageData(rows[0]!.length, rows.length)
  rows.forEach((row, r) => row.forEach((v, c) => image.data.set(heat(v), 4 * (r * row.length + c))))
  const off = document.createElement('canvas')
  off.width = image.width
  off.height = image.height
  off.getContext('2d')!.putImageData(image, 0, 0)
  ctx.drawImage(off, 0, fallTop, width, height - fallTop - 20)
}

function drawSpectrum({ ctx, heard: { columns }, width, fallTop }: Field) {
  const levels = [...columns].sort((a, b) => a - b)
  const low = levels[Math.floor(levels.length * 0.05)]! - 3
  const high = levels.at(-1)! + 4
  const y = (db: number) => fallTop - 6 - ((db - low) / (high - low)) * (fallTop - FOOT)
  ctx.strokeStyle = css('--ink')
  ctx.lineWidth = 1
  ctx.beginPath()
  columns.forEach((db, c) => ctx.lineTo((c / columns.length) * width, y(db)))
  ctx.stroke()
}

function drawTones({ ctx, heard: { tonesHz }, fallTop, x }: Field) {
  ctx.strokeStyle = css('--ink')
  ctx.lineWidth = 2
  for (const hz of tonesHz) upright(ctx, x(hz), fallTop - 4, fallTop * 0.42)
}

function drawLines({ ctx, heard, height, lowHz, highHz, x }: Field, k: number) {
  ctx.strokeStyle = ctx.fillStyle = css(COLOURS[k % COLOURS.length]!)
  ctx.setLineDash([3, 3])
  const band = { lowMHz: lowHz / 1e6, highMHz: highHz / 1e6 }
  for (const { hz } of linesInBand(heard.combs[k]!, band)) upright(ctx, x(hz), 16 + 12 * k, height - FOOT)
  ctx.setLineDash([])
  ctx.fillText(`comb ${k + 1}`, 4, 12 + 12 * k)
}

/** As many figures as have room beside each other. */
function drawAxis({ ctx, width, height, lowHz, highHz, heard, x }: Field) {
  const digits = heard.highHz - heard.lowHz > 5e5 ? 0 : 1
  const ticks = Math.max(2, Math.min(6, Math.floor(width / FIGURE_WIDTH)))
  const align = (t: number) => ({ 0: 'left', [ticks]: 'right' })[t] ?? 'center'
  ctx.fillStyle = css('--ink-3')
  for (let t = 0; t <= ticks; t++) {
    const hz = lowHz + ((highHz - lowHz) * t) / ticks
    ctx.textAlign = align(t) as CanvasTextAlign
    ctx.fillText(`${fixed(hz / 1000, digits)} kHz`, x(hz), height - 5)
  }
}

function upright(ctx: CanvasRenderingContext2D, x: number, from: number, to: number) {
  ctx.beginPath()
  ctx.moveTo(x, from)
  ctx.lineTo(x, to)
  ctx.stroke()
}
