<script setup lang="ts">
import { computed } from 'vue'
import type { Arrival } from '#core/verdict/verdict'
import { axisX, type Axis } from '#core/picture/layout'

/** A load's supply window, and on it the span of voltages that arrive; inside an SVG. */
const props = defineProps<{
  axis: Axis
  y: number
  window: { minV: number; maxV: number }
  arrival: Arrival | null
  /** Voltage in the chosen condition, where one is chosen. */
  now?: number | null
  low: 'fail' | 'caution' | null
  high: 'fail' | 'caution' | null
  compact?: boolean
}>()

const half = computed(() => (props.compact ? 11 : 14))
const x = (volts: number) => axisX(props.axis, volts)
const span = computed(() => props.arrival && { low: x(props.arrival.low.value), high: x(props.arrival.high.value) })
const labels = computed(() => {
  if (!props.arrival || !span.value) return []
  const { low, high } = props.arrival
  // Close together they would run into each other: one label each side of the bar's middle.
  const gap = Math.max(0, 44 - (span.value.high - span.value.low)) / 2
  return [
    { key: 'low', x: span.value.low - gap, text: low.value.toFixed(2), tone: props.low },
    ...(high.value - low.value > 0.005
      ? [{ key: 'high', x: span.value.high + gap, text: high.value.toFixed(2), tone: props.high }]
      : []),
  ]
})
</script>

<template>
  <g>
    <rect
      class="window"
      :x="x(window.minV)"
      :y="y - half"
      :width="Math.max(1, x(window.maxV) - x(window.minV))"
      :height="2 * half" />
    <path
      class="edge"
      :d="`M${x(window.minV)} ${y - half - 2}V${y + half + 2}M${x(window.maxV)} ${y - half - 2}V${y + half + 2}`" />
    <template v-if="arrival && span">
      <line
        class="span"
        :class="{ faint: now != null }"
        :x1="span.low"
        :x2="Math.max(span.high, span.low + 0.1)"
        :y1="y"
        :y2="y" />
      <line
        v-if="low"
        class="out"
        :class="low"
        :x1="span.low"
        :x2="Math.max(span.low + 0.1, Math.min(x(window.minV), span.high))"
        :y1="y"
        :y2="y" />
      <line
        v-if="high"
        class="out"
        :class="high"
        :x1="Math.max(x(window.maxV), span.low)"
        :x2="Math.max(span.high, x(window.maxV) + 0.1)"
        :y1="y"
        :y2="y" />
      <circle v-if="low" :class="low" class="tip" :cx="span.low" :cy="y" r="5.5" />
      <circle v-if="high" :class="high" class="tip" :cx="span.high" :cy="y" r="5.5" />
      <circle v-if="now != null" class="now" :cx="x(now)" :cy="y" r="5.5" />
      <text
        v-for="label in labels"
        :key="label.key"
        :x="label.x"
        :y="y + half + (compact ? 9 : 13)"
        text-anchor="middle"
        :class="['volts', label.tone]"
        >{{ label.text }}</text
      >
    </template>
    <text v-else :x="x((window.minV + window.maxV) / 2)" :y="y + 4" text-anchor="middle" class="volts fail"
      >nothing arrives</text
    >
  </g>
</template>

<style scoped>
.window {
  fill: var(--window);
}
.edge {
  stroke: var(--window-edge);
  stroke-width: 2;
}
.span {
  stroke: var(--ink);
  stroke-width: 8;
  stroke-linecap: round;
}
.span.faint {
  stroke: var(--ink-3);
  opacity: 0.55;
}
.out {
  stroke-width: 8;
  stroke-linecap: butt;
}
.out.fail,
.tip.fail {
  stroke: var(--fail);
  fill: var(--fail);
}
.out.caution,
.tip.caution {
  stroke: var(--caution);
  fill: var(--caution);
}
.tip {
  stroke: none !important;
}
.now {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 3;
}
.volts {
  font-size: 11.5px;
  fill: var(--ink-2);
}
.volts.fail {
  fill: var(--fail);
  font-weight: 700;
}
.volts.caution {
  fill: var(--caution);
  font-weight: 700;
}
</style>
