<script setup lang="ts">
import { nextTick, ref, watch } from 'vue'
import { linesInBand } from '#core/noise/comb'
import { usePreferences } from '../stores/preferences'
import { heat } from './heat'
import type { Listened } from '../workers/listen'

/** Spectrum over waterfall, the found lines over both; for typed tones a stroke each. */
const props = defineProps<{ heard: Listened }>()
const khz = (hz: number, digits: number) => (hz / 1000).toFixed(digits)

const canvas = ref<HTMLCanvasElement>()
const css = (name: string) => getComputedStyle(document.documentElement).getPropertyValue(name).trim()
const { chosen } = usePreferences()
watch(
  [() => props.heard, canvas, () => chosen.theme],
  async () => {
    await nextTick()
    const el = canvas.value
    const h = props.heard
    if (!el) return
    const ratio = window.devicePixelRatio || 1
    const [width, height] = [el.clientWidth, el.clientHeight]
    el.width = width * ratio
    el.height = height * ratio
    const ctx = el.getContext('2d')!
    ctx.scale(ratio, ratio)
    ctx.clearRect(0, 0, width, height)
    const span = h.highHz - h.lowHz || 1
    const margin = span * (h.columns.length ? 0 : 0.06)
    const x = (hz: number) => ((hz - h.lowHz + margin) / (span + 2 * margin)) * width
    const fallTop = h.rows.length ? height * 0.5 : height - 22
    if (h.rows.length) {
      const image = ctx.createImageData(h.rows[0]!.length, h.rows.length)
      h.rows.forEach((row, r) => row.forEach((v, c) => image.data.set(heat(v), 4 * (r * row.length + c))))
      const off = document.createElement('canvas')
      off.width = image.width
      off.height = image.height
      off.getContext('2d')!.putImageData(image, 0, 0)
      ctx.drawImage(off, 0, fallTop, width, height - fallTop - 20)
    }
    if (h.columns.length) {
      const levels = [...h.columns].sort((a, b) => a - b)
      const low = levels[Math.floor(levels.length * 0.05)]! - 3
      const high = levels.at(-1)! + 4
      ctx.strokeStyle = css('--ink')
      ctx.lineWidth = 1
      ctx.beginPath()
      h.columns.forEach((db, c) =>
        ctx.lineTo((c / h.columns.length) * width, fallTop - 6 - ((db - low) / (high - low)) * (fallTop - 22)),
      )
      ctx.stroke()
    } else {
      ctx.strokeStyle = css('--ink')
      ctx.lineWidth = 2
      for (const hz of h.tonesHz) {
        ctx.beginPath()
        ctx.moveTo(x(hz), fallTop - 4)
        ctx.lineTo(x(hz), fallTop * 0.42)
        ctx.stroke()
      }
    }
    const colours = ['--fail', '--note', '--caution', '--pass']
    ctx.font = '11.5px "Archivo Variable", sans-serif'
    h.combs.forEach((comb, k) => {
      ctx.strokeStyle = ctx.fillStyle = css(colours[k % colours.length]!)
      ctx.setLineDash([3, 3])
      for (const hz of linesInBand(comb, { lowMHz: (h.lowHz - margin) / 1e6, highMHz: (h.highHz + margin) / 1e6 })) {
        ctx.beginPath()
        ctx.moveTo(x(hz), 16 + 12 * k)
        ctx.lineTo(x(hz), height - 22)
        ctx.stroke()
      }
      ctx.setLineDash([])
      ctx.fillText(`comb ${k + 1}`, 4, 12 + 12 * k)
    })
    ctx.fillStyle = css('--ink-3')
    // As many figures as have room beside each other.
    const ticks = Math.max(2, Math.min(6, Math.floor(width / 120)))
    for (let t = 0; t <= ticks; t++) {
      const hz = h.lowHz - margin + ((span + 2 * margin) * t) / ticks
      ctx.textAlign = t === 0 ? 'left' : t === ticks ? 'right' : 'center'
      ctx.fillText(`${khz(hz, span > 5e5 ? 0 : 1)} kHz`, x(hz), height - 5)
    }
  },
  { flush: 'post' },
)
</script>

<template>
  <canvas ref="canvas" role="img" :aria-label="`spectrum with ${heard.combs.length} combs`" />
</template>

<style scoped>
canvas {
  width: 100%;
  height: 300px;
  display: block;
  border: 1px solid var(--line-2);
  border-radius: 8px;
  margin: 0.6rem 0 0.9rem;
  background: var(--sheet);
}
@media (max-width: 760px) {
  canvas {
    height: 220px;
  }
}
</style>
