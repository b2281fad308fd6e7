<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Comb } from '#core/noise/comb/comb'
import { readQuantity } from '#core/units/quantity'
import { asGiven, fixed } from '#core/units/number'
import { khz } from './khz'

/**
 * The spacing of the strongest comb as time goes on, and against the current that somebody reads off a meter: a
 * converter whose frequency goes with its load gives itself away.
 */
const props = defineProps<{ comb: Comb | undefined; seconds: number }>()

interface Point {
  seconds: number
  hz: number
  amps?: number
}
/** An hour of one every two seconds. */
const MOST = 1800
const track = ref<Point[]>([])
watch(
  () => props.comb,
  comb => {
    if (!comb) return
    track.value = [...track.value.slice(1 - MOST), { seconds: props.seconds, hz: comb.spacingHz }]
  },
)

const amps = ref('')
const refused = ref('')
function mark() {
  const read = readQuantity(amps.value, 'current')
  refused.value = read.ok ? '' : read.wrong
  const now = track.value.at(-1)
  if (!read.ok || !now) return
  track.value = [...track.value.slice(0, -1), { ...now, amps: read.value }]
  amps.value = ''
}
const marks = computed(() => track.value.filter(p => p.amps !== undefined))

const WIDTH = 600
const HEIGHT = 70
/** Less than this is the error of a spacing, Hz. */
const LEAST_SPAN_HZ = 2
function placed(points: readonly Point[], of: (p: Point) => number) {
  const [xs, ys] = [points.map(of), points.map(p => p.hz)]
  const [x0, x1] = [Math.min(...xs), Math.max(...xs)]
  const middle = (Math.min(...ys) + Math.max(...ys)) / 2
  const span = Math.max(LEAST_SPAN_HZ, Math.max(...ys) - Math.min(...ys))
  return points.map(p => ({
    x: 8 + ((WIDTH - 16) * (of(p) - x0)) / Math.max(1e-9, x1 - x0),
    y: HEIGHT / 2 - ((HEIGHT - 16) * (p.hz - middle)) / span,
    ...p,
  }))
}
const overTime = computed(() => placed(track.value, p => p.seconds))
const overAmps = computed(() =>
  placed(
    marks.value.toSorted((a, b) => a.amps! - b.amps!),
    p => p.amps!,
  ),
)
const ampsSpan = computed(() => `${asGiven(overAmps.value[0]!.amps!)} to ${asGiven(overAmps.value.at(-1)!.amps!)} A`)
const line = (points: readonly { x: number; y: number }[]) => points.map(p => `${p.x},${p.y}`).join(' ')
const moved = computed(() => {
  const hz = track.value.map(p => p.hz)
  return hz.length ? Math.max(...hz) - Math.min(...hz) : 0
})
</script>

<template>
  <section v-if="track.length > 1" class="track" aria-label="Its frequency">
    <p>
      <b>{{ khz(track.at(-1)!.hz, 3) }} kHz</b>{{ ' ' }}
      <span class="quiet">moved over {{ fixed(moved, 1) }} Hz in {{ Math.round(seconds - track[0]!.seconds) }} s</span>
    </p>
    <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" aria-label="Spacing as time goes on">
      <polyline :points="line(overTime)" />
      <circle v-for="p in overTime.filter(p => p.amps !== undefined)" :key="p.seconds" :cx="p.x" :cy="p.y" r="4" />
    </svg>
    <p class="line">
      <label
        >now at
        <InputText
          v-model="amps"
          size="small"
          placeholder="4.5 A"
          aria-label="Current read now"
          @keydown.enter.prevent="mark" /></label
      ><button class="plain" :disabled="!amps.trim()" @click="mark">Mark the current</button>
      <em v-if="refused" role="alert">{{ refused }}</em>
    </p>
    <table v-if="marks.length">
      <tbody>
        <tr v-for="m in marks" :key="m.seconds">
          <td>{{ asGiven(m.amps!) }} A</td>
          <td>{{ khz(m.hz, 3) }} kHz</td>
        </tr>
      </tbody>
    </table>
    <svg v-if="marks.length > 1" :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" aria-label="Spacing against current">
      <polyline :points="line(overAmps)" />
      <circle v-for="p in overAmps" :key="p.seconds" :cx="p.x" :cy="p.y" r="4" />
    </svg>
    <p v-if="marks.length > 1" class="quiet">against the current, {{ ampsSpan }}</p>
  </section>
</template>

<style scoped>
.track {
  margin-top: 0.8rem;
}
svg {
  width: 100%;
  max-width: 37rem;
  border-bottom: 1px solid var(--line-2);
}
polyline {
  fill: none;
  stroke: var(--copper);
  stroke-width: 1.5;
}
circle {
  fill: var(--copper);
}
.line {
  display: flex;
  gap: 0.6rem;
  align-items: center;
  flex-wrap: wrap;
  color: var(--ink-2);
}
.line :deep(input) {
  width: 6rem;
}
table {
  font-variant-numeric: tabular-nums;
}
td {
  padding-right: 1.2rem;
}
.quiet {
  color: var(--ink-3);
}
em {
  font-style: normal;
  color: var(--fail);
}
</style>
