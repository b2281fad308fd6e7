<script setup lang="ts">
import { computed, ref } from 'vue'
import { stretchesOf } from '#core/hours/schedule'
import { MODES } from '#core/hours/modes'
import type { HoursEvent } from '#core/hours/event'
import { partName } from '#core/plan/names'
import type { Plan } from '#core/plan/schema'
import { GUTTER, RIGHT } from './courseChart'
import { useElementSize } from '../path/useElementSize'
import { asGiven } from '#core/units/number'

/**
 * Who does what when, on the same time axis as the charts under it. An end is dragged to another hour; what goes on
 * every day moves on every day.
 */
const props = defineProps<{ plan: Plan; event: HoursEvent }>()
const emit = defineEmits<{ change: [next: HoursEvent, label: string] }>()

const box = ref<HTMLElement>()
const { width } = useElementSize(box)
const LANE = 24
const xOf = (h: number) => GUTTER + ((width.value - GUTTER - RIGHT) * h) / props.event.hours
const hOf = (x: number) => ((x - GUTTER) / (width.value - GUTTER - RIGHT)) * props.event.hours

type List = 'activities' | 'loads' | 'supplied'
interface Lane {
  list: List
  index: number
  words: string
  tone: string
  bars: { fromH: number; toH: number }[]
}
const lanes = computed<Lane[]>(() => {
  const { plan, event } = props
  const name = (id: string) => partName(plan, id)
  const lane = (list: List, tone: string) => (entry: { from?: never }, index: number) => ({
    list,
    index,
    tone,
    words: wordsOf(list, entry, name),
    bars: stretchesOf(event, entry),
  })
  return [
    ...(event.activities ?? []).map((e, i) => lane('activities', 'transmit')(e as never, i)),
    ...(event.loads ?? []).map((e, i) => lane('loads', 'load')(e as never, i)),
    ...(event.supplied ?? []).map((e, i) => lane('supplied', 'supplied')(e as never, i)),
  ]
})
function wordsOf(list: List, entry: object, name: (id: string) => string): string {
  if (list === 'supplied') return `${(entry as { parts: string[] }).parts.map(name).join(', ')} on`
  if (list === 'loads') return name((entry as { part: string }).part)
  const { who, part, mode, powerW } = entry as NonNullable<HoursEvent['activities']>[number]
  return [who, name(part), MODES[mode].label, powerW && `${asGiven(powerW)} W`].filter(Boolean).join(' · ')
}

// Dragging an end.
const held = ref<{ list: List; index: number; end: 'from' | 'to'; offsetH: number } | null>(null)
function take(pointer: PointerEvent, lane: Lane, bar: Lane['bars'][number], end: 'from' | 'to') {
  const startH = bar[end === 'from' ? 'fromH' : 'toH']
  held.value = { list: lane.list, index: lane.index, end, offsetH: startH - hOf(pointer.offsetX) }
  ;(pointer.currentTarget as Element).setPointerCapture(pointer.pointerId)
}
function drag(pointer: PointerEvent) {
  const now = held.value
  if (!now || !box.value) return
  const x = pointer.clientX - box.value.getBoundingClientRect().left
  const h = Math.max(0, Math.min(props.event.hours, Math.round((hOf(x) + now.offsetH) * 4) / 4))
  const next = moved(props.event, now, h)
  if (next) emit('change', next, 'dragged times')
}
/** The event with one end elsewhere; null where it would come to nothing. */
function moved(event: HoursEvent, { list, index, end }: NonNullable<typeof held.value>, h: number): HoursEvent | null {
  const entries = [...(event[list] as { from?: unknown; to?: unknown }[])]
  const daily = typeof entries[index]![end] === 'string' && !(entries[index]![end] as string).includes('T')
  const clock = new Date(Date.parse(`${event.start}:00Z`) + h * 3600e3).toISOString()
  entries[index] = { ...entries[index], [end]: daily ? clock.slice(11, 16) : clock.slice(0, 16) }
  const next = { ...event, [list]: entries } as HoursEvent
  const bars = stretchesOf(next, entries[index] as never)
  return bars.length && bars.every(b => b.toH - b.fromH >= 0.25 || b.toH === event.hours || b.fromH === 0) ? next : null
}
</script>

<template>
  <div ref="box" class="lanes" data-testid="lanes">
    <svg v-if="width" :width="width" :height="lanes.length * LANE + 4" @pointermove="drag" @pointerup="held = null">
      <g v-for="(lane, i) in lanes" :key="`${lane.list}${lane.index}`" :class="lane.tone">
        <line :x1="GUTTER" :x2="width - RIGHT" :y1="i * LANE + 22" :y2="i * LANE + 22" />
        <g v-for="(bar, k) in lane.bars" :key="k">
          <rect
            class="bar"
            :x="xOf(bar.fromH)"
            :y="i * LANE + 5"
            :width="xOf(bar.toH) - xOf(bar.fromH)"
            height="16"
            rx="3">
            <title>{{ lane.words }}</title>
          </rect>
          <rect
            v-for="end in ['from', 'to'] as const"
            :key="end"
            class="end"
            :x="(end === 'from' ? xOf(bar.fromH) : xOf(bar.toH)) - 5"
            :y="i * LANE + 3"
            width="10"
            height="20"
            @pointerdown.prevent="e => take(e, lane, bar, end)" />
        </g>
        <text :x="xOf(lane.bars[0]?.fromH ?? 0) + 6" :y="i * LANE + 17">{{ lane.words }}</text>
      </g>
    </svg>
  </div>
</template>

<style scoped>
.lanes {
  overflow: hidden;
}
svg {
  display: block;
  touch-action: pan-y;
}
line {
  stroke: var(--line);
}
.bar {
  stroke: none;
}
.transmit .bar {
  fill: var(--copper-faint);
}
.load .bar {
  fill: var(--line-2);
}
.supplied .bar {
  fill: var(--window);
}
text {
  font-size: 12px;
  fill: var(--ink);
  pointer-events: none;
}
.end {
  fill: transparent;
  cursor: ew-resize;
}
.end:hover {
  fill: var(--ink-3);
  opacity: 0.4;
}
</style>
