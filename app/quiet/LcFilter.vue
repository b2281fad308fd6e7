<script setup lang="ts">
import { computed, ref } from 'vue'
import { filterWarning, lcFilter } from '#core/noise/choke/choke'
import { fixed, significant } from '#core/units/number'
import { decibels as dB, hertz } from '#core/units/show'

/** A differential filter, for what comes between plus and minus. */
const props = defineProps<{ band: string; atHz: number }>()
const microhenry = ref(10)
const microfarad = ref(100)
const damped = ref(true)
const inputV = ref(13)
const inputW = ref(100)
const henry = computed(() => Math.max(0.01, microhenry.value || 0.01) * 1e-6)
const farad = computed(() => Math.max(0.001, microfarad.value || 0.001) * 1e-6)
/** Four times the capacitor behind the filter's own resistance: the usual start. */
const damping = computed(() => ({ farad: 4 * farad.value, ohm: Math.sqrt(henry.value / farad.value) }))
const filter = computed(() => ({
  henry: henry.value,
  farad: farad.value,
  sourceOhm: 0.02,
  loadOhm: Math.max(0.1, inputV.value ** 2 / Math.max(0.1, inputW.value)),
  ...(damped.value && { dampingFarad: damping.value.farad, dampingOhm: damping.value.ohm }),
}))
const filtered = computed(() => lcFilter(filter.value, props.atHz))
const filterAt = computed(() => [300, 3000, 60e3].map(hz => ({ hz, db: lcFilter(filter.value, hz).lossDb })))
const oscillates = computed(() => filterWarning(filter.value, inputV.value, Math.max(0.1, inputW.value)))
/** On paper it goes on without end; no real part does. */
const decibels = (db: number) => (db > 60 ? 'over 60 dB' : dB(db))
</script>

<template>
  <section>
    <h2>Or between plus and minus: an LC filter</h2>
    <div class="fields">
      <label
        >Inductor, µH <InputNumber v-model="microhenry" :min="0.01" :max="100000" :max-fraction-digits="2" size="small"
      /></label>
      <label
        >Capacitor, µF
        <InputNumber v-model="microfarad" :min="0.001" :max="100000" :max-fraction-digits="3" size="small"
      /></label>
      <label
        >Fed by it, V <InputNumber v-model="inputV" :min="1" :max="100" :max-fraction-digits="1" size="small"
      /></label>
      <label>and W <InputNumber v-model="inputW" :min="0.1" :max="5000" :max-fraction-digits="1" size="small" /></label>
      <label class="check"
        ><input v-model="damped" type="checkbox" /> damped by {{ significant(damping.farad * 1e6, 2) }} µF and
        {{ significant(damping.ohm, 2) }} Ω in series</label
      >
    </div>
    <p>
      <b>{{ decibels(filtered.lossDb) }}</b> on {{ band }} on paper; real parts do less above a few MHz, where the
      inductor's own capacitance and the capacitor's leads take over. At
      {{ filterAt.map(f => `${hertz(f.hz)} ${decibels(f.db)}`).join(', ') }}. Resonance
      {{ hertz(filtered.resonanceHz) }}, Q {{ fixed(filtered.q, 1) }}.
    </p>
    <p v-if="filtered.q > 1.4" class="wrong">
      With this Q it rings: noise and steps near {{ hertz(filtered.resonanceHz) }} come out larger than they went in.
      Damp it.
    </p>
    <p v-if="oscillates" class="wrong">{{ oscillates }}</p>
    <p class="quiet">
      Behind the fuse, the inductor for the whole current. A large capacitor draws a spark when it is connected.
    </p>
  </section>
</template>

<style scoped>
.fields {
  display: flex;
  flex-wrap: wrap;
  gap: 0.7rem 1.4rem;
  align-items: end;
  margin: 0.5rem 0;
}
.fields label {
  display: grid;
  gap: 0.2rem;
  color: var(--ink-2);
}
.fields :deep(input) {
  width: 7rem;
}
.fields .check :deep(input),
.fields .check input {
  width: auto;
}
.fields .check {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  padding-bottom: 0.4rem;
}
section b {
  font-size: 1.2rem;
}
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
</style>
