<script setup lang="ts">
import { computed, ref } from 'vue'
import { CONNECTORS } from '#core/catalog/connectors'
import { mate } from '#core/connector/mate'
import type { ShelfItem } from '#core/shelf/item'
import { waysToJoin } from '#core/shelf/ways'
import { readQuantity } from '#core/units/quantity'
import { celsius, volts } from '#core/units/show'
import { counted } from '#core/units/words'
import PickOne from '../shell/PickOne.vue'
import { usePreferences } from '../stores/preferences'
import ShelfCard from './ShelfCard.vue'

/** Which adapters join two connectors: owned ones first. */
const props = defineProps<{ items: readonly ShelfItem[] }>()
const { chosen } = usePreferences()
const connectors = CONNECTORS.map(({ id, label }) => ({ id, label }))
const from = ref('accessory-12v')
const to = ref('inlet-4')
const current = ref('10 A')
const read = computed(() => readQuantity(current.value, 'current', chosen.units))
const mating = computed(() => mate({ connector: from.value }, { connector: to.value }))
const ways = computed(() => (read.value.ok ? waysToJoin(from.value, to.value, read.value.value, props.items) : []))
</script>

<template>
  <ShelfCard title="What joins these two?">
    <div class="rows">
      <label>A lead's end <PickOne v-model="from" label="A lead's end" is-many :options="connectors" /></label>
      <label>onto <PickOne v-model="to" label="onto" is-many :options="connectors" /></label>
      <label>at <InputText v-model="current" size="small" /></label>
    </div>
    <p v-if="!read.ok" class="wrong" role="alert">{{ read.wrong }}</p>
    <p v-else-if="mating.mates" class="good">They mate as they are.</p>
    <p v-else-if="!ways.length" class="wrong">No adapter of the catalogue joins them at this current.</p>
    <ol v-else class="ways">
      <li v-for="(way, i) in ways" :key="i">
        <b>{{ way.steps.map(s => s.words).join(', then ') }}</b>
        <span
          >{{ volts(way.dropV) }} lost · contacts {{ celsius(way.riseC) }} warmer ·
          {{ counted(way.failures, 'place') }} to fail<template v-if="way.money">
            · about {{ way.money }} to buy</template
          ></span
        >
      </li>
    </ol>
  </ShelfCard>
</template>

<style scoped>
.ways {
  margin: 0.7rem 0 0;
  padding-left: 1.2rem;
}
.ways li {
  margin: 0.4rem 0;
}
.ways b {
  display: block;
  font-weight: 600;
}
.ways span {
  color: var(--ink-3);
}
.good {
  color: var(--pass);
  margin-top: 0.6rem;
}
.wrong {
  color: var(--fail);
  margin-top: 0.6rem;
}
</style>
