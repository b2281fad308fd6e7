<script setup lang="ts">
import type { CaseReport } from '#core/noise/report'

/** What is believed and how strongly: one bar a cause, the best in full ink. */
const props = defineProps<{ ranked: CaseReport['ranked'] }>()
/** When it is there is said once a device, not at each of its ways. */
const isSaid = (i: number) => props.ranked.findIndex(r => r.when === props.ranked[i]!.when) < i
</script>

<template>
  <ol class="bars" aria-label="What is believed">
    <li v-for="(r, i) in ranked" :key="r.label" :class="{ best: i === 0 }">
      <span class="label"
        >{{ r.label }}<small v-if="r.when && !isSaid(i)">{{ r.when }}</small></span
      >
      <span class="track"><i :style="{ width: `${Math.max(0.5, 100 * r.pair.probability)}%` }" /></span>
      <b>{{ r.percent }}</b>
    </li>
  </ol>
</template>

<style scoped>
.bars {
  list-style: none;
  padding: 0;
  margin: 0.7rem 0 0;
  display: grid;
  gap: 0.3rem;
}
li {
  display: grid;
  grid-template-columns: minmax(0, 21rem) minmax(4rem, 1fr) 4.6rem;
  gap: 0.9rem;
  align-items: center;
  color: var(--ink-2);
}
.best {
  color: var(--ink);
  font-weight: 600;
}
small {
  display: block;
  color: var(--ink-3);
  font-weight: 400;
  font-size: 0.85em;
  line-height: 1.25;
}
.track {
  height: 12px;
  background: var(--choice);
  border-radius: 3px;
  overflow: hidden;
}
.track i {
  display: block;
  height: 100%;
  background: var(--line-2);
  border-radius: 3px;
  transition: width 0.25s;
}
.best .track i {
  background: var(--copper);
}
b {
  font-weight: inherit;
  text-align: right;
  font-variant-numeric: tabular-nums;
  white-space: nowrap;
}
@media (max-width: 760px) {
  li {
    grid-template-columns: minmax(0, 1fr) 4.6rem;
  }
  .track {
    grid-column: 1 / -1;
    grid-row: 2;
    height: 8px;
  }
}
</style>
