<script setup lang="ts">
import { computed, onMounted, shallowRef } from 'vue'
import { removeVariant } from '#core/edit/variants'
import type { WayFigures } from '#core/mend/ways'
import { SEVERITIES, type Severity } from '#core/checks/check'
import { volts, watts } from '#core/units/show'
import { figure } from '#core/units/number'
import SeverityMark from '../findings/SeverityMark.vue'
import { useStation } from '../stores/station'
import Dialog from '../shell/focusedDialog'

/** The ways of the station side by side: what arrives, what is found, watts, weight and cost. */
const emit = defineEmits<{ open: [id: string]; close: [] }>()
const station = useStation()
const ways = shallowRef<WayFigures[]>([])
const problem = shallowRef('')
async function look() {
  try {
    ways.value = await station.core.call('ways', JSON.parse(JSON.stringify(station.whole)))
  } catch (error) {
    problem.value = (error as Error).message
  }
}
onMounted(look)

const PLAN = 'as-planned'
/** Loads of any way, by name, in the order in which they come. */
const loads = computed(() => [...new Map(ways.value.flatMap(w => w.loads.map(l => [l.id, l.name] as const))).entries()])
const arrives = (way: WayFigures, id: string) => {
  const load = way.loads.find(l => l.id === id)
  if (!load) return { words: '–', bad: false }
  if (load.lowV === null || load.highV === null) return { words: 'nothing arrives', bad: true }
  return {
    words: `${volts(load.lowV)} to ${volts(load.highV)}`,
    bad: load.lowV < load.minV || load.highV > load.maxV,
  }
}
const found = (way: WayFigures) => SEVERITIES.filter(s => way.counts[s]).map(s => ({ severity: s, n: way.counts[s] }))
const worst = (way: WayFigures): Severity | 'passed' => SEVERITIES.find(s => way.counts[s]) ?? 'passed'
async function remove(id: string) {
  station.editWhole(removeVariant(station.whole!, id), `way ${id} out`)
  await look()
}
</script>

<template>
  <Dialog
    visible
    modal
    header="Ways of this station"
    :style="{ minWidth: 'min(30rem, 96vw)', maxWidth: '96vw' }"
    :draggable="false"
    @update:visible="emit('close')">
    <p v-if="problem" role="alert">{{ problem }}</p>
    <div v-if="ways.length" class="scroll" tabindex="0" role="region" aria-label="Ways side by side">
      <table>
        <thead>
          <tr>
            <td />
            <th v-for="w in ways" :key="w.name" scope="col">{{ w.name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">Found</th>
            <td v-for="w in ways" :key="w.name" :title="w.worst">
              <span v-if="worst(w) === 'passed'" class="mark"
                ><SeverityMark severity="passed" :size="17" /> nothing</span
              >
              <span v-for="f in found(w)" :key="f.severity" class="mark"
                ><SeverityMark :severity="f.severity" :size="17" /> {{ f.n }}</span
              >
            </td>
          </tr>
          <tr v-for="[id, name] in loads" :key="id">
            <th scope="row">{{ name }}</th>
            <td v-for="w in ways" :key="w.name" :class="{ bad: arrives(w, id).bad }">{{ arrives(w, id).words }}</td>
          </tr>
          <tr>
            <th scope="row">Given at most</th>
            <td v-for="w in ways" :key="w.name">{{ watts(w.mostW) }}</td>
          </tr>
          <tr>
            <th scope="row">Weight, as far as said</th>
            <td v-for="w in ways" :key="w.name">{{ figure(w.grams / 1000, 2) }} kg</td>
          </tr>
          <tr>
            <th scope="row">Cost, said or typical</th>
            <td v-for="w in ways" :key="w.name">{{ figure(w.cost, 0) }}</td>
          </tr>
          <tr>
            <td />
            <td v-for="w in ways" :key="w.name">
              <button class="plain" @click="emit('open', w.id ?? PLAN)">Open</button>
              <button v-if="w.id" class="plain" :aria-label="`Take ${w.name} out`" @click="remove(w.id)">
                Take out
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-else-if="!problem">Judging every way…</p>
  </Dialog>
</template>

<style scoped>
.scroll {
  overflow-x: auto;
}
table {
  width: 100%;
  border-collapse: collapse;
  font-variant-numeric: tabular-nums;
}
th {
  text-align: left;
}
tbody th {
  font-weight: 500;
  color: var(--ink-2);
}
td,
th {
  padding: 0.35rem 1.4rem 0.35rem 0;
  border-bottom: 1px solid var(--line);
  white-space: nowrap;
}
.mark {
  display: inline-flex;
  gap: 0.3rem;
  align-items: center;
  margin-right: 0.7rem;
}
/* A button's words stand under the figures. */
.plain {
  margin-left: -0.5rem;
}
@media (max-width: 760px) {
  td,
  th {
    padding-right: 0.8rem;
  }
  th[scope='row'] {
    white-space: normal;
  }
}
.bad {
  color: var(--fail);
  font-weight: 650;
}
</style>
