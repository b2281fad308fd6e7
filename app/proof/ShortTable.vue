<script setup lang="ts">
import type { Plan } from '#core/plan/schema'
import type { Short } from '#core/short/study'
import { currentWords, firstWords, isBad, OUTCOME_WORDS, outcomeOf, placeWords } from '#core/short/words'
import { seconds } from '#core/units/show'

/** Every point of the path with what a dead short there comes to, in the order given. */
defineProps<{ plan: Plan; shorts: readonly Short[]; chosen: Short | null }>()
const emit = defineEmits<{ choose: [short: Short] }>()
</script>

<template>
  <table>
    <thead>
      <tr>
        <th>Dead short at</th>
        <th class="n">Current</th>
        <th>Opens first</th>
        <th class="n">Fastest</th>
        <th class="n">Slowest</th>
        <th>Alone?</th>
        <th>Outcome</th>
      </tr>
    </thead>
    <tbody>
      <tr
        v-for="s in shorts"
        :key="`${s.kind} ${s.at} ${s.lead}`"
        :class="{ on: s === chosen, bad: isBad(s) }"
        tabindex="0"
        @click="emit('choose', s)"
        @keydown.enter="emit('choose', s)">
        <td>{{ placeWords(plan, s) }}</td>
        <td class="n">{{ currentWords(s) }}</td>
        <td>
          {{ firstWords(plan, s) }}
        </td>
        <td class="n">{{ s.opens[0] ? seconds(s.opens[0].fastestS) : '' }}</td>
        <td class="n">{{ s.opens[0] ? seconds(s.opens[0].slowestS) : '' }}</td>
        <td>{{ s.selective === null ? '' : s.selective ? 'yes' : 'may take more along' }}</td>
        <td>
          <b>{{ OUTCOME_WORDS[outcomeOf(s)] }}</b>
        </td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  border-collapse: collapse;
  width: 100%;
}
th {
  position: sticky;
  top: 0;
  background: var(--paper);
  text-align: left;
  font-weight: 600;
  font-size: 0.86rem;
  color: var(--ink-3);
  padding: 0.45rem 0.6rem;
  border-bottom: 1.5px solid var(--ink);
}
td {
  padding: 0.32rem 0.6rem;
  border-bottom: 1px solid var(--line);
}
tbody tr {
  cursor: pointer;
}
tbody tr:hover {
  background: var(--choice);
}
tr.on {
  background: var(--lit);
}
tr.bad b {
  color: var(--danger);
}
td b {
  font-weight: 600;
}
.n {
  text-align: right;
  white-space: nowrap;
}
@media (max-width: 760px) {
  table {
    min-width: 40rem;
  }
}
</style>
