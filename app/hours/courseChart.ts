import {
  Chart,
  Filler,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  type ChartDataset,
  type Plugin,
} from 'chart.js'

Chart.register(LineController, LineElement, PointElement, LinearScale, Filler)

/** Left of every drawing on the time axis there is room for figures, px; the lanes keep to it too. */
export const GUTTER = 52
export const RIGHT = 10

export type Point = { x: number; y: number }

export interface Line {
  label: string
  points: readonly Point[]
  colour: string
  dashed?: boolean
  filled?: boolean
  thin?: boolean
  /** Filled down to the line before it. */
  band?: boolean
}

export interface Drawn {
  lines: readonly Line[]
  hours: number
  /** Words of an hour on the axis; unsaid: no words. */
  tick?: (h: number) => string
  least?: number
  most?: number
  unit: string
  /** Hours at which something fails. */
  fails: readonly number[]
}

const css = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim()

/** A quarter of a day, or a whole one where the event is long. */
export function stepOf(hours: number): number {
  return [1, 2, 3, 6, 12, 24, 48, 168, 720].find(s => hours / s <= 12) ?? 2160
}

function datasetOf({ label, points, colour, dashed, filled, thin, band }: Line): ChartDataset<'line', Point[]> {
  return {
    label,
    data: [...points],
    borderColor: css(colour),
    backgroundColor: `${css(colour)}33`,
    borderWidth: thin ? 1 : 2,
    pointRadius: 0,
    ...(dashed && { borderDash: [5, 4] }),
    ...(band ? { fill: '-1' } : filled && { fill: 'origin' }),
  }
}

const failMarks = (fails: () => readonly number[]): Plugin<'line'> => ({
  id: 'fails',
  afterDatasetsDraw({ ctx, scales, chartArea }) {
    ctx.save()
    ctx.strokeStyle = css('--fail')
    ctx.setLineDash([3, 3])
    for (const h of fails()) {
      const x = scales.x!.getPixelForValue(h)
      ctx.beginPath()
      ctx.moveTo(x, chartArea.top)
      ctx.lineTo(x, chartArea.bottom)
      ctx.stroke()
    }
    ctx.restore()
  },
})

/** Lines over the hours of an event, on an axis that all drawings of it share. */
export function courseChart(
  canvas: HTMLCanvasElement,
  drawn: Drawn,
): { show: (drawn: Drawn) => void; end: () => void } {
  let now = drawn
  const ink = () => ({ color: css('--ink-3'), font: { family: 'Archivo Variable, sans-serif', size: 11 } })
  const chart = new Chart<'line', Point[]>(canvas, {
    type: 'line',
    data: { datasets: drawn.lines.map(datasetOf) },
    options: {
      animation: false,
      responsive: true,
      maintainAspectRatio: false,
      parsing: false,
      normalized: true,
      layout: { padding: { right: RIGHT, top: 6 } },
      scales: {
        x: {
          type: 'linear',
          min: 0,
          max: drawn.hours,
          ticks: {
            ...ink(),
            stepSize: stepOf(drawn.hours),
            maxRotation: 0,
            align: 'inner',
            // The first and the last stand within the chart, half a label nearer to the next.
            autoSkipPadding: 28,
            callback: h => now.tick?.(Number(h)) ?? '',
            display: drawn.tick !== undefined,
          },
          grid: { color: css('--line') },
        },
        y: {
          ...(drawn.least !== undefined && { min: drawn.least }),
          ...(drawn.most !== undefined && { max: drawn.most }),
          ticks: { ...ink(), maxTicksLimit: 5, callback: v => `${v}${now.unit}` },
          grid: { color: css('--line') },
          afterFit: axis => {
            axis.width = GUTTER
          },
        },
      },
    },
    plugins: [failMarks(() => now.fails)],
  })
  return {
    show(next) {
      now = next
      chart.data.datasets = next.lines.map(datasetOf)
      const x = chart.options.scales!.x!
      x.max = next.hours
      const y = chart.options.scales!.y!
      if (next.least !== undefined) y.min = next.least
      if (next.most !== undefined) y.max = next.most
      chart.update('none')
    },
    end: () => chart.destroy(),
  }
}
