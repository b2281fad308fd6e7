<script setup lang="ts">
import { nextTick, ref, watch } from 'vue'
import { usePreferences } from '../stores/preferences'
import type { Listened } from '../workers/listen'
import { drawComb } from './combDrawing'

const props = defineProps<{ heard: Listened }>()

const canvas = ref<HTMLCanvasElement>()
const { chosen } = usePreferences()
watch(
  [() => props.heard, canvas, () => chosen.theme],
  async () => {
    await nextTick()
    if (canvas.value) drawComb(canvas.value, props.heard)
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
