<script setup lang="ts">
import { Chart, LinearScale, LineController, LineElement, PointElement, type Plugin } from 'chart.js'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import type { Staircase, Step } from '#core/circuit/staircase'
import { asGiven, fixed } from '#core/units/number'
import { afterDrawn } from '../shell/afterDrawn'

Chart.register(LineController, LineElement, PointElement, LinearScale)

/** Volts from source to load, one step for each place that takes some, named. */
const props = defineProps<{
  stairs: Staircase
  window: { minV: number; maxV: number }
  /** The load's limit that matters here. */
  limit: 'minV' | 'maxV'
  dark: boolean
}>()
const emit = defineEmits<{ place: [place: string] }>()

interface Tread {
  label: string
  place: string
  dropV: number
  volts: number
}

/** Steps too small to draw are put together with their neighbours, so that what matters stays readable. */
const SMALL_V = 0.025
function labelOf(small: readonly Step[]): string {
  if (small.length === 1) return shortLabel(small[0]!)
  if (small.every(s => s.kind === 'contact')) return `${small.length} contacts`
  const kinds = [...new Set(small.map(s => (s.kind === 'contact' ? 'contact' : s.label)))]
  return kinds.slice(0, 2).join(', ') + (kinds.length > 2 ? ' …' : '')
}
const treads = computed<Tread[]>(() => {
  const list: Tread[] = []
  let small: Step[] = []
  const flush = () => {
    if (!small.length) return
    const dropV = small.reduce((v, s) => v + s.dropV, 0)
    list.push({ label: labelOf(small), place: small[0]!.place, dropV, volts: small.at(-1)!.volts })
    small = []
  }
  for (const step of props.stairs.steps) {
    if (step.dropV < SMALL_V) small.push(step)
    else {
      flush()
      list.push({ label: shortLabel(step), place: step.place, dropV: step.dropV, volts: step.volts })
    }
  }
  flush()
  return list
})
const shortLabel = (step: Step) =>
  step.kind === 'contact' ? step.label.replace(/, \d+ A$/, '') : step.label.replace(', port ', ' ')

const canvas = ref<HTMLCanvasElement>()
let chart: Chart | undefined
const css = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim()

const labels: Plugin<'line'> = {
  id: 'labels',
  afterDatasetsDraw(drawn) {
    const { ctx, scales, chartArea } = drawn
    const x = scales.x!
    const y = scales.y!
    ctx.save()
    const limitV = props.window[props.limit]
    const limitY = y.getPixelForValue(limitV)
    if (limitY >= chartArea.top && limitY <= chartArea.bottom) {
      ctx.globalAlpha = 0.12
      ctx.fillStyle = css('--fail')
      if (props.limit === 'minV') ctx.fillRect(chartArea.left, limitY, chartArea.width, chartArea.bottom - limitY)
      else ctx.fillRect(chartArea.left, chartArea.top, chartArea.width, limitY - chartArea.top)
      ctx.globalAlpha = 1
      ctx.setLineDash([5, 4])
      ctx.strokeStyle = css('--fail')
      ctx.beginPath()
      ctx.moveTo(chartArea.left, limitY)
      ctx.lineTo(chartArea.right, limitY)
      ctx.stroke()
      ctx.fillStyle = css('--fail')
      ctx.font = '600 11.5px "Archivo Variable"'
      // Where the stairs are far from the limit: a minimum at the left, a maximum at the right.
      ctx.textAlign = props.limit === 'minV' ? 'left' : 'right'
      ctx.fillText(
        props.limit === 'minV' ? `needs ${asGiven(limitV)} V` : `limit ${asGiven(limitV)} V`,
        props.limit === 'minV' ? chartArea.left + 6 : chartArea.right - 4,
        limitY - 5,
      )
    }
    ctx.textAlign = 'left'
    const width = x.getPixelForValue(1) - x.getPixelForValue(0)
    // Where the treads are narrow only the ones that matter are named.
    const least = width < 70 ? ([...treads.value].map(t => t.dropV).sort((a, b) => b - a)[2] ?? 0) : 0
    treads.value.forEach((tread, i) => {
      if (tread.dropV < least) return
      const left = x.getPixelForValue(i + 1) + 5
      const treadY = y.getPixelForValue(tread.volts)
      const top = treadY + 30 < chartArea.bottom ? treadY + 14 : treadY - 20
      ctx.font = '650 11.5px "Archivo Variable"'
      ctx.fillStyle = css('--copper')
      ctx.fillText(`−${fixed(tread.dropV, 2)} V`, left, top)
      ctx.font = '400 11.5px "Archivo Variable"'
      ctx.fillStyle = css('--ink')
      ctx.fillText(clipped(ctx, tread.label, Math.max(width, 62) - 8), left, top + 13)
    })
    ctx.fillStyle = css('--ink-3')
    ctx.font = '400 11.5px "Archivo Variable"'
    ctx.fillText(
      clipped(ctx, 'at rest', width - 6),
      x.getPixelForValue(0) + 4,
      y.getPixelForValue(props.stairs.emfV) - 7,
    )
    ctx.restore()
  },
}

function clipped(ctx: CanvasRenderingContext2D, text: string, width: number): string {
  if (ctx.measureText(text).width <= width) return text
  let cut = text
  while (cut.length > 3 && ctx.measureText(`${cut}…`).width > width) cut = cut.slice(0, -1)
  return `${cut.trimEnd()}…`
}

function draw() {
  if (!canvas.value) return
  chart?.destroy()
  const points = [
    { x: 0, y: props.stairs.emfV },
    { x: 1, y: props.stairs.emfV },
  ]
  treads.value.forEach((t, i) => points.push({ x: i + 1, y: t.volts }, { x: i + 2, y: t.volts }))
  const lowest = Math.min(...points.map(p => p.y), props.limit === 'minV' ? props.window.minV : Infinity)
  const highest = Math.max(props.stairs.emfV, props.limit === 'maxV' ? props.window.maxV : -Infinity)
  const pad = Math.max(0.08, (highest - lowest) * 0.18)
  chart = new Chart(canvas.value, {
    type: 'line',
    data: { datasets: [{ data: points, borderColor: css('--copper'), borderWidth: 3, pointRadius: 0, tension: 0 }] },
    options: {
      animation: false,
      responsive: true,
      maintainAspectRatio: false,
      parsing: false,
      normalized: true,
      events: ['click'],
      onClick: event => {
        const at = Math.floor(chart!.scales.x!.getValueForPixel(event.x ?? 0) ?? 0) - 1
        const tread = treads.value[at]
        if (tread) emit('place', tread.place)
      },
      scales: {
        x: { type: 'linear', min: 0, max: treads.value.length + 1, display: false },
        y: {
          min: lowest - pad * 1.5,
          max: highest + pad * 0.7,
          ticks: {
            color: css('--ink-3'),
            font: { family: 'Archivo Variable', size: 11 },
            maxTicksLimit: 6,
            callback: v => fixed(Number(v), highest - lowest > 0.8 ? 1 : 2),
          },
          grid: { color: css('--line') },
          border: { display: false },
        },
      },
    },
    plugins: [labels],
  })
}

let letGo = () => {}
/** The path is looked at first, and does not wait for its stairs. */
function drawNext() {
  letGo()
  letGo = afterDrawn(draw)
}
onMounted(() => document.fonts.ready.then(draw))
watch(() => [props.stairs, props.window, props.limit, props.dark], drawNext)
onBeforeUnmount(() => {
  letGo()
  chart?.destroy()
})
const spoken = computed(() => treads.value.map(t => `${fixed(t.dropV, 2)} volts in ${t.label}`).join('; '))
</script>

<template>
  <div class="staircase">
    <canvas ref="canvas" role="img" :aria-label="`From ${fixed(stairs.emfV, 2)} volts: ${spoken}`" />
  </div>
</template>

<style scoped>
.staircase {
  position: relative;
  height: 100%;
  min-height: 150px;
}
</style>
