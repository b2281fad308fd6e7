<script setup lang="ts">
import { ref, watch } from 'vue'
import type { Advice } from '#core/noise/advice'
import { GONE_DB, WEAKER_DB } from '#core/noise/setup'
import { asGiven, fixed } from '#core/units/number'

/** One test: what to do, what to watch, and what each outcome would mean; an outcome is tapped where it is seen. */
const props = defineProps<{ test: Advice; practice: boolean; bands: readonly string[] }>()
const emit = defineEmits<{
  outcome: [id: string, bands: string[]]
  perform: []
  comb: []
  skip: [why: 'cannot-now' | 'will-not']
}>()
// Noise may come in by one way on one band and by another on the next.
const on = ref<string[]>([])
watch(
  () => [props.test.id, props.bands],
  () => (on.value = [...props.bands]),
  { immediate: true },
)
function toggle(band: string) {
  const others = on.value.filter(b => b !== band)
  if (!on.value.includes(band)) on.value = [...on.value, band]
  else if (others.length) on.value = others
}
const say = (id: string) => emit('outcome', id, on.value)
const chance = (p: number) => (p < 0.01 ? 'unlikely' : `${Math.round(100 * p)} %`)
</script>

<template>
  <article class="test" :data-test="test.id">
    <h2>{{ test.title }}</h2>
    <p class="do">{{ test.do }}</p>
    <p v-if="test.caution" class="caution">{{ test.caution }}</p>
    <p class="price">
      {{ asGiven(test.minutes) }} min<template v-if="test.euro"
        >, {{ test.euro }} € for {{ test.lacks.join(', ') }}</template
      ><template v-else-if="test.lacks.length">; waits for {{ test.lacks.join(', ') }}</template
      >; tells {{ fixed(test.bits, 1) }} bits
    </p>
    <p class="watch">
      {{ test.watch
      }}<span v-if="bands.length > 1 && test.what === 'listen' && !practice" class="bands"
        ><button
          v-for="b in bands"
          :key="b"
          class="chip"
          :class="{ on: on.includes(b) }"
          :aria-pressed="on.includes(b)"
          @click="toggle(b)">
          {{ b }}
        </button></span
      >
    </p>
    <div v-if="practice" class="outcomes">
      <button class="outcome" data-testid="perform" @click="emit('perform')">
        <b>Do it on the simulated receiver</b><span>counts as one test</span>
      </button>
    </div>
    <div v-else-if="test.what === 'comb'" class="outcomes">
      <button class="outcome" @click="emit('comb')">
        <b>Measure it in the comb view</b
        ><span>{{
          test.outcomes
            .filter(o => o.id !== 'hz:none')
            .map(o => `${o.label}: ${o.means}`)
            .join('. ')
        }}</span>
      </button>
      <button
        v-for="o in test.outcomes.filter(x => x.id === 'hz:none')"
        :key="o.id"
        class="outcome"
        :data-outcome="o.id"
        @click="say(o.id)">
        <b>{{ o.label }}</b><em>{{ chance(o.probability) }}</em
        ><span>{{ o.means }}</span>
      </button>
    </div>
    <div v-else class="outcomes">
      <button v-for="o in test.outcomes" :key="o.id" class="outcome" :data-outcome="o.id" @click="say(o.id)">
        <b>{{ o.label }}</b><em>{{ chance(o.probability) }}</em
        ><span>{{ o.means }}</span>
      </button>
    </div>
    <p v-if="!practice" class="aside">
      <button v-if="test.what === 'listen'" class="plain" data-outcome="not-sure" @click="say('not-sure')">
        Not sure what I heard
      </button>
      <button class="plain" data-testid="cannot-now" @click="emit('skip', 'cannot-now')">I cannot do it now</button>
      <button class="plain" @click="emit('skip', 'will-not')">I will not do it</button>
    </p>
    <p v-if="test.what === 'listen' && !practice" class="measure">
      Judge the noise itself, not the floor: weaker is {{ WEAKER_DB }} dB or more less, gone is {{ GONE_DB }} dB less or
      nothing left.
    </p>
  </article>
</template>

<style scoped>
.test {
  border: 1px solid var(--line-2);
  border-left: 4px solid var(--copper);
  border-radius: 8px;
  background: var(--sheet);
  padding: 0.9rem 1.1rem;
}
h2 {
  font-size: 1.2rem;
  letter-spacing: -0.01em;
}
.do {
  margin-top: 0.2rem;
  font-size: 1.02rem;
}
.watch {
  margin-top: 0.5rem;
  color: var(--ink-2);
  font-weight: 600;
}
.price {
  color: var(--ink-3);
  margin-top: 0.2rem;
}
.caution {
  color: var(--fail);
  margin-top: 0.3rem;
}
.outcomes {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(12rem, 1fr));
  gap: 0.6rem;
  margin-top: 0.5rem;
}
.outcome {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0.1rem 0.6rem;
  text-align: left;
  align-content: start;
  border: 1px solid var(--line-2);
  border-radius: 8px;
  background: var(--paper);
  padding: 0.6rem 0.8rem;
  min-height: 4rem;
  cursor: pointer;
}
.bands {
  display: inline-flex;
  gap: 0.35rem;
  margin-left: 0.8rem;
}
.aside {
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem 1.2rem;
  margin-top: 0.5rem;
}
.measure {
  color: var(--ink-3);
  font-size: 0.86rem;
  margin-top: 0.5rem;
}
.outcome:hover {
  border-color: var(--copper);
  background: var(--lit);
}
.outcome b {
  font-size: 1.05rem;
}
.outcome em {
  color: var(--ink-3);
  font-style: normal;
}
.outcome span {
  grid-column: 1 / -1;
  color: var(--ink-2);
  font-size: 0.88rem;
  line-height: 1.3;
}
</style>
