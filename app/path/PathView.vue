<script setup lang="ts">
import { computed } from 'vue'
import type { NamedPoint } from '#core/circuit/point'
import type { PathLayout } from '#core/picture/layout'
import { HEAD_HEIGHT, type ShownShort } from '#core/picture/scene/drawing'
import { arrivalsX, pathScene } from '#core/picture/scene/scene'
import type { Act } from '#core/picture/scene/shape'
import type { Plan } from '#core/plan/schema'
import type { Units } from '#core/units/quantity'
import type { Judged } from '../workers/answers'
import ShapeView from './ShapeView'

/** The path on the page: the scene of a plan, and what is pressed on it. */
const props = defineProps<{
  plan: Plan
  judged: Judged | null
  point: NamedPoint | null
  layout: PathLayout
  /** Of the pane that it scrolls in, where what arrives is to stay in sight. */
  paneWidth?: number
  selected: string | null
  /** Load whose staircase is open. */
  shownLoad: string | null
  lit: ReadonlySet<string>
  short?: ShownShort | null
  units: Units
}>()

const emit = defineEmits<{
  select: [id: string]
  edit: [id: string]
  token: [target: { id: string; what: 'conductor' | 'length' | 'rating'; itemId?: string; x: number; y: number }]
  add: [terminal: string]
  unfold: [id: string]
}>()

/** The whole is wider than its pane. */
const isWide = computed(() => props.layout.width > (props.paneWidth ?? Infinity))
/** The part of the picture from some way across to its right edge. */
const from = (x: number, height = props.layout.height) => {
  const width = props.layout.width - x
  return { width, height, viewBox: `${x} 0 ${width} ${height}` }
}

const scene = computed(() => {
  const { plan, judged, layout, paneWidth: _width, ...showing } = props
  return pathScene(plan, layout, { ...showing, verdict: judged?.verdict ?? null, shown: judged })
})

function tell(act: Act) {
  if (act.does === 'token') emit('token', { ...act, x: act.x ?? 0, y: act.y ?? 0 })
  else if (act.does === 'select') emit('select', act.id)
  else if (act.does === 'edit') emit('edit', act.id)
  else if (act.does === 'unfold') emit('unfold', act.id)
  else emit('add', act.id)
}
</script>

<template>
  <!-- The axis stays in sight while a tall path scrolls under it, what arrives while a wide one does. -->
  <div class="layers" :style="{ width: `${layout.width}px` }" role="group" aria-label="The path from sources to loads">
    <svg class="path body" v-bind="from(0)"><ShapeView :shapes="scene.body" @act="tell" /></svg>
    <svg class="path arrivals" :class="{ over: isWide }" v-bind="from(arrivalsX(layout))">
      <ShapeView :shapes="scene.arrivals" @act="tell" />
    </svg>
    <svg
      v-for="x in isWide ? [0, arrivalsX(layout)] : [0]"
      :key="x"
      class="path axis-head"
      v-bind="from(x, HEAD_HEIGHT)"
      aria-hidden="true">
      <ShapeView :shapes="scene.head" />
    </svg>
  </div>
</template>

<style scoped>
.layers {
  display: grid;
  justify-items: end;
  align-items: start;
}
.layers > * {
  grid-area: 1 / 1;
}
.axis-head {
  position: sticky;
  top: 0;
  right: 0;
  z-index: 2;
  pointer-events: none;
}
.over {
  position: sticky;
  right: 0;
  z-index: 1;
  background: var(--paper);
  box-shadow:
    -1px 0 0 var(--line-2),
    -9px 0 9px -6px rgb(0 0 0 / 16%);
}
</style>
