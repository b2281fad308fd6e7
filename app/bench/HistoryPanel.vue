<script setup lang="ts">
import type { Log } from '#core/log/log'
import type { Plan } from '#core/plan/schema'
import SeverityMark from '../findings/SeverityMark.vue'
import { plain, useBench } from './useBench'

/** The station's years on one page: what was done, read, set and suspected, the last day first. */
defineOptions({ inheritAttrs: false })
const props = defineProps<{ plan: Plan; log: Log }>()
const { answer, problem } = useBench(
  () => [props.plan, props.log] as const,
  client => client.call('history', plain(props.plan), plain(props.log)),
)
const print = () => window.print()
</script>

<template>
  <p v-if="problem" role="alert" class="bad">{{ problem }}</p>
  <section v-if="answer" data-testid="history">
    <header>
      <h2>{{ plan.name }}</h2>
      <Button v-if="answer.length" label="Print" size="small" severity="secondary" class="print" @click="print" />
    </header>
    <p v-if="!answer.length">
      Nothing has happened yet that is kept: steps done, readings, settings, symptoms and what is done to batteries
      stand here by their day.
    </p>
    <div v-for="d in answer" :key="d.day" class="day">
      <time :datetime="d.day">{{ d.day }}</time>
      <ul>
        <li v-for="(h, i) in d.happened" :key="i" :class="{ bad: h.isBad }">
          <SeverityMark v-if="h.isBad" severity="caution" :size="15" />
          {{ h.words }}<span v-if="h.who.length" class="who">, from {{ h.who.join(' and ') }}</span>
        </li>
      </ul>
    </div>
  </section>
</template>

<style scoped>
header {
  display: flex;
  justify-content: space-between;
  align-items: center;
  max-width: 50rem;
}
h2 {
  font-size: 1.15rem;
}
.day {
  display: grid;
  grid-template-columns: 7rem 1fr;
  padding: 0.45rem 0;
  border-bottom: 1px solid var(--line);
  max-width: 50rem;
  break-inside: avoid;
}
time {
  font-variant-numeric: tabular-nums;
  color: var(--ink-2);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
}
li .who {
  color: var(--ink-2);
  font-weight: 400;
}
li.bad {
  font-weight: 600;
}
li :deep(svg) {
  vertical-align: -2px;
}
@media print {
  .print {
    display: none;
  }
}
@media (max-width: 760px) {
  .day {
    grid-template-columns: 1fr;
  }
}
</style>
