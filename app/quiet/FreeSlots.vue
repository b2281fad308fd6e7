<script setup lang="ts">
import { computed, ref } from 'vue'
import { BANDS } from '#core/catalog/bands'
import type { Comb } from '#core/noise/comb/comb'
import { clearSlots, isToldIn, linesInBand } from '#core/noise/comb/bands'
import { khz } from './khz'

/** Where in a band one can still work, and which lines fall into it. */
const props = defineProps<{ combs: readonly Comb[] }>()

const MODES = [
  { id: 2700, label: 'SSB, 2.7 kHz' },
  { id: 500, label: 'CW, 500 Hz' },
  { id: 3000, label: 'digital, 3 kHz' },
]
const mode = ref(2700)
const bandId = ref('20 m')
const band = computed(() => BANDS.find(b => b.id === bandId.value)!)
const slots = computed(() => clearSlots(props.combs, band.value, mode.value))
/** Combs whose spacing is not known well enough to say where their lines are in the chosen band. */
const untold = computed(() => props.combs.filter(comb => !isToldIn(comb, band.value)))
/** Every line in the chosen band, kHz, with its harmonic number where it is one. */
const bandLines = computed(() =>
  props.combs
    .filter(comb => isToldIn(comb, band.value))
    .map(comb => linesInBand(comb, band.value).map(l => nameOf(comb, l.hz))),
)
const nameOf = ({ fundamentalHz }: Comb, hz: number) =>
  fundamentalHz ? `${khz(hz)} (${Math.round(hz / fundamentalHz)})` : khz(hz)
</script>

<template>
  <article>
    <h3>Where one can still work</h3>
    <div class="line">
      <Select v-model="bandId" :options="BANDS.map(b => b.id)" size="small" aria-label="Band" /><Select
        v-model="mode"
        :options="MODES"
        option-label="label"
        option-value="id"
        size="small"
        aria-label="Mode" />
    </div>
    <ul>
      <li v-for="s in slots" :key="s.lowHz">
        {{ khz(s.lowHz) }} to {{ khz(s.highHz) }} kHz
        <span class="quiet">{{ khz(s.highHz - s.lowHz) }} kHz wide</span>
      </li>
    </ul>
    <p v-if="untold.length" class="wrong">
      It cannot be told: counted on to {{ bandId }}, the spacing of {{ khz(untold[0]!.spacingHz, 3) }} kHz is not known
      well enough. Measure the tones there.
    </p>
    <p v-else-if="!slots.length" class="wrong">No slot of this width is clear.</p>
    <p v-for="(l, k) in bandLines" :key="k" class="quiet">
      {{ combs.length > 1 ? `Comb ${k + 1}` : 'Lines' }} on {{ bandId }}: {{ l.slice(0, 12).join(', ') || 'none'
      }}{{ l.length > 12 ? ` and ${l.length - 12} more` : '' }}{{ l.length ? ' kHz' : '' }}
    </p>
  </article>
</template>

<style scoped>
h3 {
  font-size: 1.05rem;
  margin-bottom: 0.2rem;
}
.line {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  flex-wrap: wrap;
}
.wrong {
  color: var(--fail);
}
.quiet {
  color: var(--ink-3);
}
ul {
  margin: 0.4rem 0 0;
  padding-left: 1.1rem;
}
</style>
