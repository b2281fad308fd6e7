<script setup lang="ts">
import { onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { courseChart, type Drawn } from './courseChart'

/** One chart on the event's time axis, with its legend in words. */
const props = defineProps<{ title: string; drawn: Drawn; height: number; dark: boolean }>()

const canvas = ref<HTMLCanvasElement>()
let chart: ReturnType<typeof courseChart> | undefined
function make() {
  chart?.end()
  if (canvas.value) chart = courseChart(canvas.value, props.drawn)
}
onMounted(make)
onBeforeUnmount(() => chart?.end())
watch(
  () => props.drawn,
  drawn => chart?.show(drawn),
)
// Another theme has other colours, another length other ticks.
watch(() => [props.dark, props.drawn.hours], make)
</script>

<template>
  <figure>
    <figcaption>
      <b>{{ title }}</b>
      <span v-for="l in drawn.lines.filter(x => !x.band && x.label)" :key="l.label">
        <i :style="{ borderColor: `var(${l.colour})`, borderStyle: l.dashed ? 'dashed' : 'solid' }" />{{ l.label }}
      </span>
    </figcaption>
    <div :style="{ height: `${height}px` }"><canvas ref="canvas" role="img" :aria-label="title" /></div>
  </figure>
</template>

<style scoped>
figure {
  margin: 0 0 0.5rem;
}
figcaption {
  display: flex;
  gap: 0.9rem;
  flex-wrap: wrap;
  color: var(--ink-2);
  font-size: 0.9rem;
}
i {
  display: inline-block;
  width: 1.1rem;
  border-top: 2px solid;
  vertical-align: middle;
  margin-right: 0.3rem;
}
div {
  position: relative;
}
</style>
