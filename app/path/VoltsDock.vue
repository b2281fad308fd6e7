<script setup lang="ts">
import { conditionWords } from '#core/circuit/conditions'
import { needs, type LoadPart } from '#core/kinds/index'
import { nameOf } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import type { useStairs } from './useStairs'
import { later } from '../shell/later'

/** Where the volts go on the way to one load, in the condition that is shown. */
type Stairs = ReturnType<typeof useStairs>
defineProps<{
  plan: Plan
  load: LoadPart | null
  condition: Stairs['shownCondition']['value']
  stairs: Stairs['stairs']['value']
  limit: Stairs['limit']['value']
  arrives: Stairs['arrives']['value']
  isJudged: boolean
  dark: boolean
}>()
const emit = defineEmits<{ place: [id: string] }>()
// What the first picture does not need comes after it.
const StaircaseChart = later(() => import('./StaircaseChart.vue'))
</script>

<template>
  <section class="dock" aria-label="Where the volts go">
    <header v-if="load">
      <h2>
        Where the volts go: {{ nameOf(load)
        }}<template v-if="condition">, {{ conditionWords(plan, condition) }}</template>
      </h2>
      <b v-if="arrives" :class="{ bad: arrives.bad }">{{ arrives.words }}</b>
    </header>
    <StaircaseChart
      v-if="stairs && load"
      :stairs="stairs"
      :window="needs(load)"
      :limit="limit"
      :dark="dark"
      @place="place => emit('place', place)" />
    <p v-else-if="load" class="quiet">
      {{ isJudged ? 'No voltage arrives in this condition.' : 'Not worked out.' }}
    </p>
  </section>
</template>

<style scoped>
.dock {
  height: 245px;
  flex: none;
  border-top: 1px solid var(--line-2);
  padding: 0.5rem 1rem 0.4rem;
  display: flex;
  flex-direction: column;
  background: var(--paper);
}
header {
  display: flex;
  justify-content: space-between;
  gap: 1rem;
}
h2 {
  font-size: 0.98rem;
}
b {
  color: var(--pass);
  white-space: nowrap;
}
b.bad {
  color: var(--fail);
}
.staircase {
  flex: 1;
  min-height: 0;
}
.quiet {
  color: var(--ink-3);
  padding: 1.5rem;
}
</style>
