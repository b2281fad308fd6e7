<script setup lang="ts">
import type { Suspect } from '#core/noise/suspect'
import { rowWords, type Survey, type SurveyRow } from '#core/noise/survey/survey'

/** A survey as a sheet: a row a state, a column a band, the cell to be read marked. */
defineProps<{ survey: Survey; devices: Suspect[]; cell: { row: string; column: string } | undefined }>()
const emit = defineEmits<{ choose: [row: string, column: string]; state: [row: SurveyRow]; add: [] }>()

const clock = (at: string) => new Date(at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' })
/** When, by whom and by whose leave a state was listened to. */
const heardWords = (r: SurveyRow) =>
  [r.at && clock(r.at), r.who, r.allowedBy && `by ${r.allowedBy}`].filter(Boolean).join(' · ')
</script>

<template>
  <div class="sheet">
    <table tabindex="0" role="grid" :aria-label="survey.name">
      <thead>
        <tr>
          <th />
          <th v-for="c in survey.columns" :key="c.id">{{ c.id }}</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in survey.rows" :key="r.id" :class="{ on: r.id === cell?.row }">
          <th>
            <button class="plain state" @click="emit('state', r)">
              {{ rowWords(r, devices) }}<small>{{ heardWords(r) }}</small>
            </button>
          </th>
          <td v-for="c in survey.columns" :key="c.id">
            <button
              class="cell"
              :class="{ on: cell?.row === r.id && cell?.column === c.id }"
              :aria-label="`${rowWords(r, devices)}, ${c.id}`"
              tabindex="-1"
              @click="emit('choose', r.id, c.id)">
              {{ survey.readings[r.id]?.[c.id] ?? '' }}
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p class="how">
      <button class="plain" @click="emit('add')">Add a state</button
      ><span
        ><kbd>0</kbd>–<kbd>9</kbd> S-units and on to the next, <kbd>+</kbd> ten over nine, <kbd>.</kbd> half a unit,
        <kbd>⌫</kbd> back</span
      >
    </p>
  </div>
</template>

<style scoped>
.sheet {
  outline-offset: 4px;
  overflow-x: auto;
  margin-bottom: 1.4rem;
}
table {
  border-collapse: separate;
  border-spacing: 0 3px;
}
thead th {
  font-weight: 600;
  color: var(--ink-2);
  padding: 0 0.3rem 0.2rem;
  text-align: center;
}
tbody th {
  text-align: left;
  font-weight: 500;
  min-width: 17rem;
  padding-right: 0.8rem;
}
.state {
  text-align: left;
  color: var(--ink);
  line-height: 1.25;
  width: 100%;
}
.state small {
  display: block;
  color: var(--ink-3);
}
td {
  width: 6.5rem;
  padding: 0 2px;
}
.cell {
  width: 100%;
  min-width: 4.4rem;
  height: 2.9rem;
  border: 1px solid var(--line-2);
  border-radius: 7px;
  background: var(--sheet);
  font-size: 1.15rem;
  cursor: pointer;
}
.cell.on {
  border: 2px solid var(--copper);
  background: var(--lit);
}
tr.on th .state {
  font-weight: 650;
}
.how {
  display: flex;
  gap: 1.6rem;
  align-items: center;
  flex-wrap: wrap;
  color: var(--ink-3);
  margin-top: 0.3rem;
}
@media (max-width: 760px) {
  .how span {
    display: none;
  }
  tbody th {
    min-width: 9.5rem;
  }
}
</style>
