import type { Arrival, Finding } from '../../verdict/verdict'
import { axisX, type Axis } from '../axis'
import { shape, words, type Shape } from './shape'
import { fixed } from '../../units/number'

export type Tone = 'fail' | 'caution' | null

export interface ArrivalShown {
  axis: Axis
  /** Middle of the bar, px. */
  y: number
  /** The load's supply window. */
  window: { minV: number; maxV: number }
  /** What arrives over all conditions; null where nothing does. */
  arrival: Arrival | null
  /** Voltage in the chosen condition, where one is chosen. */
  nowV: number | null
  low: Tone
  high: Tone
  compact: boolean
}

/** How bad what arrives at a load is at its lower and at its upper end. */
export function tonesOf(findings: readonly Finding[], loadId: string): { low: Tone; high: Tone } {
  const { under, over } = arrivalsFound(findings)
  return { low: under.get(loadId) ?? null, high: over.get(loadId) ?? null }
}

interface Tones {
  under: ReadonlyMap<string, Tone>
  over: ReadonlyMap<string, Tone>
}
/** Of each verdict's findings, once for all rows of its picture. */
const FOUND = new WeakMap<readonly Finding[], Tones>()

function arrivalsFound(findings: readonly Finding[]): Tones {
  const known = FOUND.get(findings)
  if (known) return known
  const of = (check: string) => {
    const found = findings.filter(f => f.check === check).reverse()
    return new Map(found.map(f => [f.place, f.severity === 'caution' ? 'caution' : 'fail'] as const))
  }
  const tones = { under: of('arrival-under'), over: of('arrival-over') }
  FOUND.set(findings, tones)
  return tones
}

/** What stands where no voltage does, and half its width, px: it stays on the axis. */
const NONE = 'nothing arrives'
const NONE_HALF = 52

/** What arrives at a load, for those who hear it. */
export const arrivalHeard = (arrival: Arrival | null): string =>
  arrival ? `${fixed(arrival.low.value, 2)} to ${fixed(arrival.high.value, 2)} V` : NONE

/** Two labels closer together than this run into each other, px. */
const LABEL_WIDTH = 44

/** A load's supply window, and on it the span of voltages that arrive. */
export function arrivalShapes(shown: ArrivalShown): Shape {
  const { axis, y, window, arrival, compact } = shown
  const half = compact ? 11 : 14
  const x = (volts: number) => axisX(axis, volts)
  const [left, right] = [x(window.minV), x(window.maxV)]
  const [top, bottom] = [y - half - 2, y + half + 2]
  return shape('g', 'arrival', {}, [
    shape('rect', 'window', { x: left, y: y - half, width: Math.max(1, right - left), height: 2 * half }),
    shape('path', 'edge', { d: `M${left} ${top}V${bottom}M${right} ${top}V${bottom}` }),
    ...(arrival
      ? spanShapes(shown, arrival, y + half + (compact ? 9 : 13))
      : [
          words(
            'volts fail',
            [Math.max(axis.x + NONE_HALF, x((window.minV + window.maxV) / 2)), y + 4],
            NONE,
            'middle',
          ),
        ]),
  ])
}

function spanShapes(shown: ArrivalShown, arrival: Arrival, labelY: number): (Shape | null)[] {
  const { axis, y, window, nowV, low, high } = shown
  const x = (volts: number) => axisX(axis, volts)
  const [from, to] = [x(arrival.low.value), x(arrival.high.value)]
  const bar = (classes: (string | false | null)[], x1: number, x2: number) =>
    shape('line', classes, { x1, x2, y1: y, y2: y })
  const dot = (classes: string[], cx: number) => shape('circle', classes, { cx, cy: y, r: 5.5 })
  return [
    bar(['span', nowV !== null && 'faint'], from, Math.max(to, from + 0.1)),
    low && bar(['out', low], from, Math.max(from + 0.1, Math.min(x(window.minV), to))),
    high && bar(['out', high], Math.max(x(window.maxV), from), Math.max(to, x(window.maxV) + 0.1)),
    low && dot(['tip', low], from),
    high && dot(['tip', high], to),
    nowV === null ? null : dot(['now'], x(nowV)),
    ...labelShapes(arrival, { from, to, y: labelY, low, high }),
  ]
}

/** Close together they would run into each other: then one stands each side of the bar's middle. */
function labelShapes(
  arrival: Arrival,
  { from, to, y, low, high }: { from: number; to: number; y: number; low: Tone; high: Tone },
): Shape[] {
  const gap = Math.max(0, LABEL_WIDTH - (to - from)) / 2
  const label = (at: number, volts: number, tone: Tone) => words(['volts', tone], [at, y], fixed(volts, 2), 'middle')
  const lower = label(from - gap, arrival.low.value, low)
  if (arrival.high.value - arrival.low.value <= 0.005) return [lower]
  return [lower, label(to + gap, arrival.high.value, high)]
}
