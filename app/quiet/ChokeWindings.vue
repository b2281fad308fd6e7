<script setup lang="ts">
import { computed, ref } from 'vue'
import { FERRITES, RINGS } from '#core/catalog/noise'
import type { Band } from '#core/catalog/bands'
import { windingsFor, type Winding } from '#core/noise/choke/choke'
import { NEVER, UNPLUGGED } from '#core/noise/words'
import { fixed } from '#core/units/number'
import { decibels } from '#core/units/show'
import { counted } from '#core/units/words'

/** The other way round: what it takes for so many dB on a band. */
const props = defineProps<{ band: Band; cableMm: number; loopOhm: number }>()
const emit = defineEmits<{ wind: [winding: Winding] }>()

const wantedDb = ref(20)
const ways = computed(() =>
  windingsFor(
    { lowHz: props.band.lowMHz * 1e6, highHz: props.band.highMHz * 1e6 },
    wantedDb.value || 20,
    props.cableMm || 1,
    Math.max(1, props.loopOhm || 1),
  ).slice(0, 6),
)
const ringOf = (w: Winding) => RINGS.find(r => r.id === w.ring)!
const words = (w: Winding) =>
  `${counted(w.turns, 'turn')} on ${w.cores} × ${ringOf(w).label}, ${FERRITES.find(f => f.id === w.material)!.label}`
/** Cable in the winding, with a hand's breadth at each end, m. */
const moreCableM = (w: Winding) => (w.turns * 2 * (ringOf(w).heightMm * w.cores + 30)) / 1000 + 0.3
</script>

<template>
  <section>
    <h2>
      What it takes for <InputNumber v-model="wantedDb" :min="3" :max="60" size="small" aria-label="dB wanted" /> dB on
      {{ band.id }}
    </h2>
    <ol>
      <li v-for="w in ways" :key="w.material + w.ring + w.cores">
        <button class="plain" @click="emit('wind', w)">{{ words(w) }}</button><span
          >{{ decibels(w.lossDb) }}, {{ fixed(w.ohm, 0) }} Ω</span
        >
      </li>
    </ol>
    <p v-if="!ways.length" class="wrong">
      Nothing of the catalogue does it with this cable: split it over two places, or a thinner cable.
    </p>
    <p v-if="ways.length" class="quiet">
      To buy for the first: {{ counted(ways[0]!.cores, 'core') }}; about {{ fixed(moreCableM(ways[0]!), 1) }} m more
      cable for the turns.
    </p>
    <p class="quiet">All conductors of the cable together through every core. {{ NEVER }} {{ UNPLUGGED }}</p>
  </section>
</template>

<style scoped>
.wrong {
  color: var(--fail);
}
.quiet {
  color: var(--ink-3);
  margin-top: 0.8rem;
}
h2 {
  font-size: 1.02rem;
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
  align-items: center;
}
h2 :deep(input) {
  width: 3.4rem;
}
ol {
  padding-left: 1.1rem;
  margin: 0.5rem 0 0;
}
li {
  margin: 0.3rem 0;
}
li .plain {
  vertical-align: top;
  padding: 0.1rem 0.2rem;
  text-align: left;
  color: var(--ink);
}
li span {
  display: block;
  color: var(--ink-3);
  padding-left: 0.2rem;
}
</style>
