<script setup lang="ts">
import { computed, ref } from 'vue'
import { compile } from '#core/circuit/network'
import { storesOf } from '#core/hours/standing'
import { packFigures, rivalOf, rivalWords, worthOf, type PackFigures } from '#core/hours/worth'
import { nameOf } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import { fixed } from '#core/units/number'
import CellInput from './CellInput.vue'
import { readFigure, readPercent, showPercent } from './entries'

/** What packs cost by what one gets of them; and another maker's beside them. */
const props = defineProps<{ plan: Plan }>()
const cyclesAYear = ref(50)
const packs = computed(() =>
  storesOf(compile(props.plan)).map(store => ({
    id: store.part.id,
    name: nameOf(store.part),
    figures: packFigures(store),
  })),
)
const HALF = 0.5
const rival = ref<{ cost: number | null; lifeShare: number; holdsShare: number }>({
  cost: null,
  lifeShare: HALF,
  holdsShare: 1,
})
const other = computed(() => {
  const [first] = packs.value
  const { cost, ...shares } = rival.value
  return first && cost !== null ? rivalOf(first.figures, { cost, ...shares }) : null
})
const rows = computed(() =>
  [
    ...packs.value,
    ...(other.value
      ? [{ id: 'other', name: 'The other', figures: { ...other.value, assumed: [] } as PackFigures }]
      : []),
  ].map(r => ({ ...r, worth: worthOf(r.figures, cyclesAYear.value) })),
)
const verdict = computed(() => {
  const own = rows.value[0]
  const its = rows.value.find(r => r.id === 'other')
  return own && its ? rivalWords(own.worth, its.worth) : ''
})
const assumed = computed(() => [...new Set(packs.value.flatMap(p => p.figures.assumed))])
</script>

<template>
  <p v-if="!packs.length">The plan has nothing that runs out.</p>
  <template v-else>
    <div class="asks">
      <CellInput
        label="emptied and filled, times a year"
        :shown="`${cyclesAYear}`"
        :read="readFigure('', 0, 5000)"
        right="0 to 5000"
        @change="v => (cyclesAYear = v ?? 50)" />
      <CellInput
        label="another pack costs"
        :shown="rival.cost === null ? '' : `${rival.cost}`"
        :read="readFigure('', 0.01, 1e7)"
        right="a sum of money"
        @change="v => (rival.cost = v)" />
      <CellInput
        label="holds, of this one"
        :shown="showPercent(rival.holdsShare)"
        :read="readPercent"
        right="a percentage"
        @change="v => (rival.holdsShare = v ?? 1)" />
      <CellInput
        label="lasts, of this one"
        :shown="showPercent(rival.lifeShare)"
        :read="readPercent"
        right="a percentage"
        @change="v => (rival.lifeShare = v ?? HALF)" />
    </div>
    <table data-testid="worth">
      <thead>
        <tr>
          <th>Pack</th>
          <th class="n">Usable</th>
          <th class="n">Costs</th>
          <th class="n">A usable Wh</th>
          <th class="n">Wh a kg</th>
          <th class="n">Lasts</th>
          <th class="n">A year</th>
          <th class="n">A kWh, all its life</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.id">
          <td>
            <b>{{ r.name }}</b>
          </td>
          <td data-label="Usable" class="n">
            {{ Math.round(r.figures.usableWh) }} of {{ Math.round(r.figures.wh) }} Wh
          </td>
          <td data-label="Costs" class="n">{{ Math.round(r.figures.cost) }}</td>
          <td data-label="A usable Wh" class="n">{{ fixed(r.worth.perUsableWh, 2) }}</td>
          <td data-label="Wh a kg" class="n">{{ Math.round(r.worth.usableWhPerKg) }}</td>
          <td data-label="Lasts" class="n">{{ fixed(r.worth.lifeYears, 1) }} years, by {{ r.worth.wornBy }}</td>
          <td data-label="A year" class="n">{{ Math.round(r.worth.perYear) }}</td>
          <td data-label="A kWh, all its life" class="n">
            {{ Number.isFinite(r.worth.perKWhOfLife) ? fixed(r.worth.perKWhOfLife, 2) : 'never used' }}
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="verdict" class="verdict">{{ verdict }}</p>
    <p v-if="assumed.length" class="quiet">
      Not said by a pack, and taken as typical of its class: {{ assumed.join(', ') }}. Say them in the form of the pack.
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
.verdict {
  font-weight: 600;
}
.quiet {
  color: var(--ink-3);
}
</style>
