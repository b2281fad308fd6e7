<script setup lang="ts">
import { computed, shallowRef, ref } from 'vue'
import { tryPatch } from '#core/edit/patch'
import type { HoursEvent } from '#core/hours/event'
import { changedInTurn } from '#core/hours/turns'
import { clockWords } from '#core/hours/schedule'
import type { Least, PackSet } from '#core/hours/sets'
import { setWords } from '#core/hours/tellLasting'
import type { Plan } from '#core/plan/schema'
import { percent } from '#core/units/show'
import { fixed } from '#core/units/number'
import type { SetsAnswer } from '../workers/hoursAnswers'
import AtWork from './AtWork.vue'
import CellInput from './CellInput.vue'
import { readFigure, showFigure } from './entries'
import { useLasting } from './useLasting'

/** The lightest, cheapest or smallest set of packs and panels that lasts the event. */
const props = defineProps<{ plan: Plan; event: HoursEvent }>()
const emit = defineEmits<{ plan: [next: Plan, label: string]; event: [next: HoursEvent, label: string] }>()
const { ask, stop, progress, problem } = useLasting()

const LEAST: { id: Least; label: string }[] = [
  { id: 'massG', label: 'lightest' },
  { id: 'cost', label: 'cheapest' },
  { id: 'litres', label: 'smallest' },
]
const least = ref<Least>('massG')
const odds = ref(90)
const mostWh = ref<number | null>(null)
const budget = ref<number | null>(null)
const refillH = ref<number | null>(null)
const box = ref<[number, number, number] | null>(null)
const readBox = (text: string) => {
  if (!text) return null
  const sides = text.split(/[x×]/i).map(s => Number(s.replace(/mm/i, '').trim()))
  return sides.length === 3 && sides.every(s => s > 0) ? sides : undefined
}
const RUNS = 100
const got = shallowRef<SetsAnswer | null>(null)
const nothing = ref(false)
async function work() {
  got.value = null
  nothing.value = false
  const wish = {
    least: least.value,
    odds: odds.value / 100,
    runs: RUNS,
    seed: 1,
    ...(mostWh.value && { mostWhAPack: mostWh.value }),
    ...(budget.value && { mostCost: budget.value }),
    ...(refillH.value && { refillH: refillH.value }),
    ...(box.value && { boxMm: box.value }),
  }
  const sets = await ask('sets', props.plan, props.event, wish)
  got.value = sets
  nothing.value = !sets && !problem.value
}
const turns = computed(() => {
  const t = got.value?.turns
  if (!t) return ''
  if (t.packs === 1) return "The plan's own pack lasts by itself in the weather that is said."
  const when = t.atH.map(h => clockWords(props.event, h)).join(', ')
  return `Packs like the plan's, changed in turn: ${t.packs}, at ${when}.`
})
function take(set: PackSet) {
  const next = tryPatch(props.plan, set.patch)
  if (next) emit('plan', next, setWords(set))
  if (next && (set.changedAtH.length || set.refillH))
    emit('event', changedInTurn(props.event, got.value!.part, set), setWords(set))
}
</script>

<template>
  <div class="asks">
    <label class="least"
      >The
      <Select
        v-model="least"
        :options="LEAST"
        option-label="label"
        option-value="id"
        size="small"
        aria-label="The least of what" />
      set that lasts
    </label>
    <CellInput
      label="in so many of 100 weathers"
      :shown="`${odds}`"
      :read="readFigure('', 1, 100)"
      right="1 to 100"
      @change="v => (odds = v ?? 90)" />
    <CellInput
      label="one pack at most"
      :shown="showFigure(mostWh ?? undefined, 'Wh')"
      :read="readFigure('Wh', 1, 100000)"
      right="watt-hours"
      @change="v => (mostWh = v)" />
    <CellInput
      label="all in a box"
      :shown="box ? `${box.join('×')} mm` : ''"
      :read="readBox"
      right="three sides as 300×200×150 mm"
      @change="v => (box = v as never)" />
    <CellInput
      label="for at most"
      :shown="showFigure(budget ?? undefined)"
      :read="readFigure('', 1, 1e7)"
      right="a sum of money"
      @change="v => (budget = v)" />
    <Button label="Find it" size="small" :disabled="progress !== null" @click="work" />
  </div>
  <AtWork :progress="progress" :problem="problem" words="Trying packs and panels" @stop="stop" />
  <p v-if="nothing">
    Nothing in the plan runs out and comes in other sizes, as a battery, bank or power station does that says what it
    holds.
  </p>
  <template v-if="got">
    <p v-if="got.none" class="none" role="status">No set lasts: {{ got.none }}.</p>
    <table v-else data-testid="sets">
      <thead>
        <tr>
          <th>Set</th>
          <th class="n">Weighs</th>
          <th class="n">About</th>
          <th class="n">Packs take</th>
          <th class="n">Nothing fails in</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="(s, i) in got.sets" :key="setWords(s)" :class="{ best: i === 0 }">
          <td>
            <b>{{ setWords(s) }}</b>
          </td>
          <td data-label="Weighs" class="n">{{ fixed(s.massG / 1000, 1) }} kg</td>
          <td data-label="About" class="n">{{ Math.round(s.cost) }}</td>
          <td data-label="Packs take" class="n">{{ fixed(s.litres, 1) }} l</td>
          <td data-label="Nothing fails in" class="n">{{ percent(s.onAir) }}</td>
          <td><button class="plain" :aria-label="`Take: ${setWords(s)}`" @click="take(s)">Into the plan</button></td>
        </tr>
        <tr>
          <td class="quiet">as planned</td>
          <td data-label="Weighs" class="n quiet">{{ fixed(got.asPlanned.massG / 1000, 1) }} kg</td>
          <td data-label="About" class="n quiet">{{ Math.round(got.asPlanned.cost) }}</td>
          <td data-label="Packs take" class="n quiet">{{ fixed(got.asPlanned.litres, 1) }} l</td>
          <td />
          <td />
        </tr>
      </tbody>
    </table>
    <p v-if="turns">{{ turns }}</p>
    <p v-if="got.hourG !== null">
      {{
        got.hourG < 1
          ? 'One more hour at the end costs nothing in pack: the sun is up by then, or something is left.'
          : `One more hour at the end costs ${Math.round(got.hourG)} g of pack.`
      }}
    </p>
    <p v-if="got.assumed.length" class="quiet">Assumed, as is typical of its class: {{ got.assumed.join(', ') }}.</p>
    <p class="quiet">
      Packs in turn are full when they come, and filled meanwhile only where a charger beside is said. A box is judged
      by the sides of a pack where the plan says them, else by its volume: measure. What may travel in a cabin the
      airline decides, usually 100 Wh each.
    </p>
  </template>
</template>

<style scoped src="../build/tables.css"></style>
<style scoped>
.asks {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem 1rem;
  align-items: end;
  margin-bottom: 0.7rem;
}
.least {
  display: flex;
  gap: 0.5rem;
  align-items: center;
}
tr.best td {
  background: var(--lit);
}
.quiet {
  color: var(--ink-3);
}
.none {
  color: var(--fail);
}
td {
  vertical-align: middle;
}
</style>
