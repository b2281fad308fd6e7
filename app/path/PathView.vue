<script setup lang="ts">
import { computed } from 'vue'
import type { NamedPoint } from '#core/circuit/point'
import type { PathLayout } from '#core/picture/layout'
import { HEAD_HEIGHT, type ShownShort } from '#core/picture/scene/drawing'
import { pathScene } from '#core/picture/scene/scene'
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

const scene = computed(() => {
  const { plan, judged, layout, ...showing } = props
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
  <!-- The axis stays in sight while the rows scroll under it. -->
  <svg class="path axis-head" :width="layout.width" :height="HEAD_HEIGHT" aria-hidden="true">
    <ShapeView :shapes="scene.head" />
  </svg>
  <svg
    class="path body"
    :width="layout.width"
    :height="layout.height"
    :viewBox="`0 0 ${layout.width} ${layout.height}`"
    role="group"
    aria-label="The path from sources to loads">
    <ShapeView :shapes="scene.body" @act="tell" />
  </svg>
</template>

<style scoped>
.axis-head {
  position: sticky;
  top: 0;
  z-index: 2;
  pointer-events: none;
}
.body {
  margin-top: -40px;
}
</style>
