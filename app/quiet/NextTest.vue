<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Advice } from '#core/noise/advice'
import { freshId, type Logbook, type NoiseCase } from '#core/noise/logbook'
import type { Observation } from '#core/noise/observation'
import type { CaseReport } from '#core/noise/report'
import { isPart } from '#core/noise/suspect'
import { NEEDS } from '#core/noise/test'
import { asGiven, fixed } from '#core/units/number'
import { later } from '../shell/later'
import ShortList from '../shell/ShortList.vue'
import { useLogbook } from '../stores/logbook'
import TestCard from './TestCard.vue'

const OwnFinding = later(() => import('./OwnFinding.vue'))

/** The test that tells most, its outcomes, and the others there are. */
const props = defineProps<{ noiseCase: NoiseCase; report: CaseReport; logbook: Logbook }>()
const emit = defineEmits<{
  note: [observation: Observation]
  perform: [test: Advice]
  comb: []
  skip: [test: Advice, why: 'cannot-now' | 'will-not']
}>()
/** Whoever hears it, for findings and cures alike. */
const who = defineModel<string>('who', { required: true })
const log = useLogbook()
const practice = computed(() => !!props.noiseCase.practice)
const devices = computed(() => props.report.reasoned.causes.devices.filter(d => isPart(d.id)))

const testId = ref('')
watch(
  () => [props.noiseCase.id, props.noiseCase.observations.length, props.noiseCase.cures.length],
  () => (testId.value = ''),
)
const showAll = ref(false)
const isToldOnce = ref(false)
const test = computed<Advice | undefined>(
  () => props.report.all.find(t => t.id === testId.value) ?? props.report.next[0],
)
const others = computed(() =>
  (showAll.value ? props.report.all : props.report.next.slice(0, 6)).filter(t => t.id !== test.value?.id),
)
const heading = computed(() => {
  if (props.report.state === 'believed') return 'To be surer still'
  return testId.value ? 'The test you chose' : 'The next test: it tells most for the time and money'
})

/** What has to come by itself: no one can fetch the sun. */
const waitsFor = (need: string): need is 'sun' | 'load' | 'mains' => ['sun', 'load', 'mains'].includes(need)
function price({ bits, minutes, euro, lacks }: Advice) {
  const waits = lacks.some(waitsFor) ? `; waits for ${lacks.join(', ')}` : ''
  return `${fixed(bits, 1)} bits, ${asGiven(minutes)} min${euro ? `, ${euro} €` : ''}${waits}`
}

// What goes down with a finding.
const atA = ref<number | null>(null)
const times = ref(1)
const atDevice = ref<string | null>(null)
const suspected = () => props.report.ranked.find(r => isPart(r.pair.device))?.pair.device ?? null
watch(devices, d => (atDevice.value = d.some(x => x.id === atDevice.value) ? atDevice.value : suspected()), {
  immediate: true,
})
function observed(t: Advice, outcome: string, bands: string[]): Observation {
  const allowedBy = t.needs.find(waitsFor)
  const common = {
    id: freshId('o', props.noiseCase.observations),
    at: new Date().toISOString(),
    ...(who.value.trim() && { who: who.value.trim() }),
    bands,
    ...(allowedBy && { allowedBy }),
  }
  if (t.what === 'sniff') return { kind: 'sniff', ...common, loudest: outcome }
  if (t.what === 'comb') return { kind: 'comb', ...common, spacingHz: null }
  const current = atA.value !== null && atDevice.value && { device: atDevice.value, amps: atA.value }
  const often = times.value > 1 && { times: times.value }
  return {
    kind: 'listen',
    ...common,
    setup: t.setup!,
    heard: outcome as 'same',
    ...(current && { current }),
    ...often,
  }
}
function outcome(id: string, bands: string[]) {
  if (test.value) emit('note', observed(test.value, id, bands))
  atA.value = null
  times.value = 1
}

function toggleAtHand(need: (typeof NEEDS)[number]) {
  const { atHand } = props.logbook
  const next = atHand.includes(need) ? atHand.filter(n => n !== need) : [...atHand, need]
  log.change({ ...props.logbook, atHand: next }, 'what is at hand')
}
</script>

<template>
  <section v-if="test" class="next">
    <h3>{{ heading }}</h3>
    <TestCard
      :test="test"
      :practice="practice"
      :bands="noiseCase.complaint.bands"
      @outcome="outcome"
      @skip="why => emit('skip', test!, why)"
      @perform="emit('perform', test!)"
      @comb="emit('comb')" />
    <p v-if="!practice" class="with">
      <label>Heard by <InputText v-model="who" size="small" aria-label="Heard by" /></label>
      <label
        >with
        <ShortList
          :model-value="atDevice"
          label="Device"
          unchosen="a device"
          :options="devices.map(({ id, name }) => ({ id, label: name }))"
          @pick="id => (atDevice = id)" />
        at
        <InputNumber
          v-model="atA"
          :min="0"
          :max="1000"
          :max-fraction-digits="1"
          size="small"
          aria-label="Current, A"
          input-class="amps" />
        A</label
      >
      <label
        >switched to and fro
        <InputNumber v-model="times" :min="1" :max="200" size="small" aria-label="How often" input-class="amps" />
        {{ times === 1 ? 'time' : 'times' }}</label
      >
    </p>
    <details v-if="!practice" class="own" @toggle="isToldOnce = true">
      <summary>A finding of your own</summary>
      <OwnFinding
        v-if="isToldOnce"
        :noise-case="noiseCase"
        :devices="report.reasoned.causes.devices"
        :who="who"
        @note="o => emit('note', o)" />
    </details>
    <details class="others">
      <summary>Other tests</summary>
      <button v-for="t in others" :key="t.id" class="plain other" @click="testId = t.id">
        <b>{{ t.title }}</b><span>{{ price(t) }}</span>
      </button>
      <button v-if="!showAll" class="plain" @click="showAll = true">All of them</button>
      <div class="hand">
        <span>At hand now</span
        ><button
          v-for="n in NEEDS"
          :key="n"
          class="chip"
          :class="{ on: logbook.atHand.includes(n) }"
          :aria-pressed="logbook.atHand.includes(n)"
          @click="toggleAtHand(n)">
          {{ n }}
        </button>
      </div>
    </details>
  </section>
</template>

<style scoped>
.own summary {
  cursor: pointer;
  color: var(--ink-2);
  padding: 0.3rem 0;
}
.next {
  margin-top: 1.4rem;
}
h3 {
  font-size: 0.93rem;
  color: var(--ink-2);
  font-weight: 600;
  margin-bottom: 0.4rem;
}
.with {
  display: flex;
  gap: 1.2rem;
  flex-wrap: wrap;
  margin-top: 0.6rem;
  color: var(--ink-3);
}
.with label {
  display: flex;
  gap: 0.4rem;
  align-items: center;
}
.with :deep(input) {
  width: 8rem;
}
.with :deep(.amps) {
  width: 4rem;
}
.others {
  margin-top: 0.8rem;
}
.others summary {
  cursor: pointer;
  color: var(--ink-2);
  padding: 0.3rem 0;
}
.other {
  display: flex;
  justify-content: space-between;
  gap: 1rem;
  width: 100%;
  text-align: left;
}
.other b {
  font-weight: 500;
  color: var(--ink);
}
.other span {
  color: var(--ink-3);
  white-space: nowrap;
}
.hand {
  display: flex;
  flex-wrap: wrap;
  gap: 0.35rem;
  align-items: center;
  margin-top: 0.7rem;
  color: var(--ink-3);
}
@media print {
  .next {
    display: none !important;
  }
}
</style>
