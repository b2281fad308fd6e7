<script setup lang="ts">
import { computed } from 'vue'
import type { MendWay } from '#core/mend/mend'
import { fixed } from '#core/units/number'
import { volts } from '#core/units/show'
import { counted } from '#core/units/words'
import SeverityMark from '../findings/SeverityMark.vue'

/** One whole way: what it changes, what arrives then, what it weighs and costs, what has to be got, what remains. */
const props = defineProps<{ way: MendWay; /** Steps that every way takes. */ shared: ReadonlySet<string> }>()
const emit = defineEmits<{ take: [] }>()

const signed = (value: number, digits = 0) =>
  Math.abs(value) < 0.5 * 10 ** -digits ? '±0' : `${value < 0 ? '−' : '+'}${fixed(Math.abs(value), digits)}`
const weight = computed(() => {
  const grams = props.way.gramsMore
  return Math.abs(grams) < 1000 ? `${signed(grams)} g` : `${signed(grams / 1000, 2)} kg`
})
const buy = computed(() => props.way.buy.filter(r => r.buy > 0))
const amount = (row: MendWay['buy'][number]) =>
  row.unit === 'm' ? `${fixed(row.buy, 1)} m of ${row.what}` : `${fixed(row.buy, 0)} × ${row.what}`
const arrivals = computed(() => Object.values(props.way.arrivals).filter(a => a !== null))
</script>

<template>
  <article class="way">
    <h3>{{ way.title }}</h3>
    <p class="sums">
      <b>{{ weight }}</b>
      <b>about {{ signed(way.costMore) }} in money</b>
      <b v-for="s in way.signal" :key="s.name">{{ signed(s.dB, 1) }} dB from {{ s.name }}</b>
    </p>
    <ol>
      <li v-for="step in way.steps" :key="step.label">
        <component :is="shared.has(step.label) ? 'span' : 'b'">{{ step.label }}</component><span
          v-if="step.cost"
          class="quiet">
          · {{ step.cost }}</span
        >
      </li>
    </ol>
    <table v-if="arrivals.length">
      <caption>
        Then arrives
      </caption>
      <tbody>
        <tr v-for="a in arrivals" :key="a.name">
          <th scope="row">{{ a.name }}</th>
          <td>{{ fixed(a.lowV, 2) }}–{{ volts(a.highV) }}</td>
        </tr>
      </tbody>
    </table>
    <details v-if="buy.length">
      <summary>{{ counted(buy.length, 'thing') }} to get</summary>
      <ul>
        <li v-for="row in buy" :key="row.what">{{ amount(row) }}</li>
      </ul>
    </details>
    <ul v-if="way.remains.length" class="remains">
      <li v-for="r in way.remains" :key="r.title + r.message" :title="r.message">
        <SeverityMark :severity="r.severity" /> {{ r.title }}
      </li>
    </ul>
    <p v-else class="calm">Nothing is left to mend.</p>
    <Button class="take" label="Take this way" @click="emit('take')" />
  </article>
</template>

<style scoped>
.way {
  display: flex;
  flex-direction: column;
  border: 1px solid var(--line-2);
  border-radius: 8px;
  padding: 0.8rem 1rem;
  min-width: 0;
}
h3 {
  font-size: 1.02rem;
  margin: 0;
}
.sums {
  display: flex;
  flex-wrap: wrap;
  gap: 0.1rem 0.9rem;
  margin: 0.35rem 0 0.5rem;
}
ol {
  margin: 0 0 0.7rem;
  padding-left: 1.2rem;
}
li {
  margin-bottom: 0.2rem;
}
table {
  border-collapse: collapse;
  width: 100%;
  margin-bottom: 0.6rem;
}
caption {
  text-align: left;
  color: var(--ink-3);
  font-size: 0.86rem;
}
th {
  text-align: left;
  font-weight: 400;
}
td {
  text-align: right;
  white-space: nowrap;
}
th,
td {
  padding: 0.12rem 0;
  border-bottom: 1px solid var(--line);
}
details {
  margin-bottom: 0.6rem;
}
details ul {
  margin: 0.2rem 0 0;
  padding-left: 1.1rem;
}
.remains {
  list-style: none;
  padding: 0;
  margin: 0 0 0.6rem;
}
.calm {
  color: var(--pass);
  margin: 0 0 0.6rem;
}
.quiet {
  color: var(--ink-3);
}
.take {
  margin-top: auto;
  align-self: flex-start;
}
</style>
