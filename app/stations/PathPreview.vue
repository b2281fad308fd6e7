<script setup lang="ts">
import { computed, ref } from 'vue'
import { layoutPath } from '#core/picture/layout'
import type { Plan } from '#core/plan/schema'
import PathView from '../path/PathView.vue'
import { useElementSize } from '../path/useElementSize'
import { usePreferences } from '../stores/preferences'
import type { Judged } from '../workers/answers'

/** The path of a plan that is only looked at: where it is wider than its pane it is shown smaller. */
const props = defineProps<{ plan: Plan | null; judged: Judged | null }>()
const { chosen } = usePreferences()
const pane = ref<HTMLElement>()
const { width } = useElementSize(pane)
const layout = computed(() => {
  if (!props.plan || width.value <= 0) return null
  return layoutPath(props.plan, props.judged?.verdict.arrivals ?? {}, width.value)
})
</script>

<template>
  <div ref="pane" class="pane" role="img" :aria-label="`The path of ${plan?.name ?? 'no plan yet'}, in small`">
    <div v-if="layout && plan" inert :style="{ zoom: Math.min(1, width / layout.width) }">
      <PathView
        :layout="layout"
        :plan="plan"
        :judged="judged"
        :point="null"
        :selected="null"
        :shown-load="null"
        :lit="new Set()"
        :units="chosen.units" />
    </div>
  </div>
</template>

<style scoped>
.pane {
  overflow: auto;
}
</style>
