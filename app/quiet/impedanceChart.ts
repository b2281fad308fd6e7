import {
  Chart,
  LinearScale,
  LineController,
  LineElement,
  LogarithmicScale,
  PointElement,
  Tooltip,
  type ChartOptions,
} from 'chart.js'
import { impedance, type Choke } from '#core/noise/choke/choke'
import { magnitude } from '#core/noise/choke/complex'
import { fixed, significant } from '#core/units/number'

/** A choke's impedance over frequency; loaded where it is shown, with the chart library. */

Chart.register(LineController, LineElement, PointElement, LinearScale, LogarithmicScale, Tooltip)

const LOW_HZ = 0.5e6
const DECADES = Math.log10(120)
const POINTS = 121
/** Figures that a logarithmic axis has room for. */
const SHOWN_MHZ = [0.5, 1, 2, 5, 10, 20, 50]
const POWER_OF_TEN = /^1(0)+$/

const css = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim()

type Point = { x: number; y: number }
type Impedance = ReturnType<typeof impedance>

export function drawImpedance(canvas: HTMLCanvasElement, choke: Choke): Chart {
  const hertz = Array.from({ length: POINTS }, (_, i) => LOW_HZ * 10 ** ((i / (POINTS - 1)) * DECADES))
  const of = (ohm: (z: Impedance) => number): Point[] =>
    hertz.map(hz => ({ x: hz / 1e6, y: Math.max(1, ohm(impedance(choke, hz))) }))
  const line = (label: string, colour: string, data: Point[], borderDash: number[] = []) => ({
    label,
    data,
    borderColor: css(colour),
    borderWidth: label === '|Z|' ? 2.5 : 1.5,
    borderDash,
    pointRadius: 0,
  })
  const resistance = of(z => z.re)
  const reactance = of(z => Math.abs(z.im))
  return new Chart(canvas, {
    type: 'line',
    data: {
      datasets: [
        line('|Z|', '--ink', of(magnitude)),
        line('resistance', '--copper', resistance),
        line('reactance', '--note', reactance, [5, 4]),
      ],
    },
    options: options(),
  })
}

function options(): ChartOptions<'line'> {
  const quiet = css('--ink-3')
  const axis = (text: string) => ({ title: { display: true, text, color: quiet }, grid: { color: css('--line') } })
  return {
    animation: false,
    responsive: true,
    maintainAspectRatio: false,
    interaction: { mode: 'index', intersect: false },
    plugins: {
      legend: { display: false },
      tooltip: {
        callbacks: {
          title: items => `${significant(Number(items[0]!.parsed.x), 3)} MHz`,
          label: item => `${item.dataset.label}: ${fixed(Number(item.parsed.y), 0)} Ω`,
        },
      },
    },
    scales: {
      x: {
        ...axis('MHz'),
        type: 'logarithmic',
        min: 0.5,
        max: 60,
        ticks: {
          color: quiet,
          maxRotation: 0,
          autoSkip: false,
          callback: v => (SHOWN_MHZ.includes(Number(v)) ? String(v) : ''),
        },
      },
      y: {
        ...axis('Ω'),
        type: 'logarithmic',
        min: 10,
        ticks: {
          color: quiet,
          callback: v => (POWER_OF_TEN.test(String(v)) ? Number(v).toLocaleString('en') : ''),
        },
      },
    },
  }
}
