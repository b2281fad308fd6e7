<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { BANDS, middleHz } from '#core/catalog/bands'
import { ACCURACY, followAdvice, informationBound } from '#core/noise/simulated/solve'
import { WAYS, whenWords } from '#core/noise/cause'
import { freshId, type NoiseCase } from '#core/noise/logbook'
import type { Observation } from '#core/noise/observation'
import { observationWords } from '#core/noise/observationWords'
import type { CaseReport } from '#core/noise/report'
import type { Setup } from '#core/noise/setup'
import { isPart } from '#core/noise/suspect'
import { NEEDS } from '#core/noise/test'
import type { Plan } from '#core/plan/schema'
import { fixed, rounded, roundedTo, significant } from '#core/units/number'
import { download } from '../shell/download'
import { heat } from './heat'
import { simulatedFor } from './simulated'

/** A simulated receiver with a hidden fault: switch, unplug and add things, look and listen, and name what it is. */
const props = defineProps<{ plan: Plan; noiseCase: NoiseCase; report: CaseReport }>()
const emit = defineEmits<{ note: [observation: Observation]; named: [pair: { device: string; way: string }] }>()

const simulated = computed(() => simulatedFor(props.plan, props.noiseCase))
const devices = computed(() => simulated.value.causes.devices.filter(d => isPart(d.id)))

// What is switched, in the operator's words.
const states = ref<Record<string, string>>({})
const added = ref<string[]>([])
const antenna = ref<'antenna' | 'dummy'>('antenna')
const feed = ref<'shared' | 'own-battery'>('shared')
const gainDown = ref(false)
const stateChoices = (d: { mostA?: number }) => [
  { id: 'usual', label: 'as usual' },
  { id: 'off', label: 'off' },
  { id: 'idle', label: 'idle' },
  ...[0.25, 0.5, 0.75, 1].flatMap(s =>
    d.mostA ? [{ id: `at ${s}`, label: `at ${significant(s * d.mostA, 2)} A` }] : [],
  ),
]
const THINGS = computed(() => [
  { id: 'choke radio', label: "choke on the radio's lead" },
  { id: 'lc-filter radio', label: 'LC filter' },
  ...devices.value.flatMap(d => [
    { id: `choke ${d.id}`, label: `choke at ${d.name}` },
    ...(d.hasMains ? [{ id: `mains-filter ${d.id}`, label: `mains filter at ${d.name}` }] : []),
  ]),
])
const setup = computed((): Setup => ({
  ...(Object.values(states.value).some(s => s !== 'usual') && {
    devices: Object.fromEntries(
      Object.entries(states.value)
        .filter(([, s]) => s !== 'usual')
        .map(([id, s]) => [
          id,
          s.startsWith('at ')
            ? {
                state: 'working' as const,
                currentA: roundedTo(Number(s.slice(3)) * devices.value.find(d => d.id === id)!.mostA!, 2),
                minutesOn: 30,
              }
            : { state: s as 'off' },
        ]),
    ),
  }),
  ...(antenna.value === 'dummy' && { antenna: 'dummy' as const }),
  ...(feed.value === 'own-battery' && { feed: 'own-battery' as const }),
  ...(gainDown.value && { rfGain: 'down' as const }),
  ...(added.value.length && {
    added: added.value.map(a => {
      const [what, at] = a.split(' ') as ['choke', string]
      return { what, at }
    }),
  }),
}))
const changed = computed(() => Object.keys(setup.value).length > 0)
const toggle = (id: string) =>
  (added.value = added.value.includes(id) ? added.value.filter(a => a !== id) : [...added.value, id])

// The receiver: a meter and a waterfall of the band, a row a moment.
const band = computed(
  () => BANDS.find(b => props.noiseCase.complaint.bands.includes(b.id)) ?? BANDS.find(b => b.id === '40 m')!,
)
const span = computed(() => {
  const middle = middleHz(band.value)
  return { low: middle - 0.5e6, high: middle + 0.5e6 }
})
const canvas = ref<HTMLCanvasElement>()
const meter = ref('')
const audio = ref(0)
let timer: ReturnType<typeof setInterval> | undefined
let look = 0
const BINS = 400
function row() {
  const el = canvas.value
  if (!el) return
  const { receiver } = simulatedFor(props.plan, props.noiseCase, 1000 + look++)
  meter.value = receiver.sReading(setup.value, band.value)
  audio.value = receiver.audioRiseDb(setup.value)
  const floor = receiver.levelDbm(
    { devices: Object.fromEntries(devices.value.map(d => [d.id, { state: 'off' as const }])) },
    1e6 * band.value.lowMHz,
    2500,
  )
  const bins = gainDown.value ? [] : receiver.spectrum(setup.value, span.value.low, span.value.high, BINS)
  const ctx = el.getContext('2d', { willReadFrequently: true })!
  if (el.width !== BINS) {
    el.width = BINS
    el.height = 90
    ctx.fillStyle = '#14181a'
    ctx.fillRect(0, 0, BINS, 90)
  }
  ctx.drawImage(el, 0, 0, BINS, 89, 0, 1, BINS, 89)
  const image = ctx.createImageData(BINS, 1)
  for (let i = 0; i < BINS; i++) {
    const v = Math.max(0, Math.min(255, ((bins[i]?.db ?? -200) - floor + 6) * 7))
    image.data.set(heat(v), 4 * i)
  }
  ctx.putImageData(image, 0, 0)
}
onMounted(() => {
  for (let i = 0; i < 60; i++) row()
  timer = setInterval(row, 350)
})
onBeforeUnmount(() => clearInterval(timer))
watch(setup, () => row())

function write() {
  const { receiver } = simulatedFor(props.plan, props.noiseCase, props.noiseCase.observations.length)
  emit(
    'note',
    receiver.perform(
      { id: 'free', what: 'listen', setup: setup.value },
      freshId('o', props.noiseCase.observations),
      new Date().toISOString(),
    ),
  )
}

const recording = ref(false)
function record() {
  recording.value = true
  const worker = new Worker(new URL('../workers/record.worker.ts', import.meta.url), { type: 'module' })
  const centreHz = 0.5 * (span.value.low + span.value.high)
  worker.onmessage = (event: MessageEvent<Uint8Array>) => {
    download(`simulated-${fixed(centreHz / 1e6, 3)}-MHz.wav`, event.data, 'audio/wav')
    recording.value = false
    worker.terminate()
  }
  worker.postMessage(
    JSON.parse(
      JSON.stringify({
        plan: props.plan,
        noiseCase: props.noiseCase,
        setup: setup.value,
        centreHz,
        seconds: 0.7,
        sampleRateHz: 768e3,
      }),
    ),
  )
}
function csv() {
  const bins = simulated.value.receiver.spectrum(setup.value, span.value.low, span.value.high, 1500)
  const rows = bins.map(b => `${Math.round(b.hz)},${rounded(b.db, 1)}`)
  download('simulated-spectrum.csv', `frequency_hz,level_db\n${rows.join('\n')}\n`, 'text/csv')
}

// Naming it.
const device = ref<string | null>(null)
const way = ref<string | null>(null)
const verdict = computed(() => {
  const { named } = props.noiseCase.practice!
  if (!named) return null
  const { fault, causes, receiver } = simulatedFor(props.plan, props.noiseCase, 5000)
  const right = named.device === fault.cause.device && named.way === fault.cause.way
  const own = causes.devices.find(d => d.id === fault.cause.device)!
  const advised = followAdvice(props.plan, causes, { receiver, fault }, new Set(NEEDS))
  const bound = informationBound(props.plan, causes)
  return {
    right,
    was: `${own.name}, ${WAYS.find(w => w.id === fault.cause.way)!.label}, ${whenWords(fault.cause.when, own)}`,
    tests: props.noiseCase.observations.length,
    advised: advised.log.map(l => observationWords(l.observation, causes.devices)),
    atLeast: fixed(bound.tests, 1),
    accuracy: ACCURACY,
  }
})
</script>

<template>
  <section class="practice">
    <div class="receiver">
      <div class="meter">
        <b>{{ gainDown ? '—' : meter }}</b><span
          >{{ band.id }}{{ audio > 2 ? ' · a whine in the audio' : gainDown ? ' · silence in the audio' : '' }}</span
        >
      </div>
      <canvas ref="canvas" role="img" :aria-label="`waterfall of ${band.id}`" />
      <p class="scale">
        <span>{{ fixed(span.low / 1e6, 2) }} MHz</span><span>{{ fixed(span.high / 1e6, 2) }} MHz</span>
      </p>
      <p class="files">
        <button class="plain" :disabled="recording" @click="record">
          {{ recording ? 'Recording …' : 'Record (WAV)' }}</button><button class="plain" @click="csv">
          Spectrum (CSV)
        </button>
      </p>
    </div>
    <div class="switches">
      <label v-for="d in devices" :key="d.id"
        ><span>{{ d.name }}</span
        ><Select
          :model-value="states[d.id] ?? 'usual'"
          :options="stateChoices(d)"
          option-label="label"
          option-value="id"
          size="small"
          :aria-label="d.name"
          @update:model-value="v => (states = { ...states, [d.id]: v })"
      /></label>
      <SelectButton
        v-model="antenna"
        :options="[
          { id: 'antenna', label: 'antenna' },
          { id: 'dummy', label: 'dummy load' },
        ]"
        option-label="label"
        option-value="id"
        :allow-empty="false"
        size="small"
        aria-label="Antenna" />
      <SelectButton
        v-model="feed"
        :options="[
          { id: 'shared', label: 'shared lead' },
          { id: 'own-battery', label: 'own battery' },
        ]"
        option-label="label"
        option-value="id"
        :allow-empty="false"
        size="small"
        aria-label="Feed" />
      <p class="things">
        <button class="chip" :class="{ on: gainDown }" @click="gainDown = !gainDown">RF gain down</button
        ><button
          v-for="t in THINGS"
          :key="t.id"
          class="chip"
          :class="{ on: added.includes(t.id) }"
          @click="toggle(t.id)">
          {{ t.label }}
        </button>
      </p>
      <Button
        label="Write this down"
        size="small"
        severity="secondary"
        :disabled="!changed || !!verdict"
        @click="write" />
    </div>
    <div class="name">
      <template v-if="!verdict">
        <span>It is</span>
        <Select
          v-model="device"
          :options="[...devices.map(d => ({ id: d.id, name: d.name })), { id: 'outside', name: 'outside the station' }]"
          option-label="name"
          option-value="id"
          size="small"
          placeholder="which device"
          aria-label="Which device" />
        <Select
          v-model="way"
          :options="[...WAYS]"
          option-label="label"
          option-value="id"
          size="small"
          placeholder="which way in"
          aria-label="Which way" />
        <Button
          label="Say it"
          size="small"
          :disabled="!device || !way"
          @click="emit('named', { device: device!, way: way! })" />
        <span class="quiet">{{ noiseCase.observations.length }} tests so far</span>
      </template>
      <div v-else class="told" role="status">
        <b :class="verdict.right ? 'right' : 'missed'">{{ verdict.right ? 'Right.' : 'No.' }}</b> It was
        {{ verdict.was }}.
        <p>
          You took {{ verdict.tests }} test{{ verdict.tests === 1 ? '' : 's' }}. Following the advice takes
          {{ verdict.advised.length }}: {{ verdict.advised.join('; ') }}. With fewer than {{ verdict.atLeast }} on
          average nobody could be right {{ Math.round(100 * verdict.accuracy) }} times in a hundred.
        </p>
      </div>
    </div>
  </section>
</template>

<style scoped>
.practice {
  margin-top: 0.9rem;
  display: grid;
  grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr);
  gap: 0.9rem 1.4rem;
  border-top: 1px solid var(--line);
  border-bottom: 1px solid var(--line);
  padding: 0.9rem 0;
}
.meter {
  display: flex;
  align-items: baseline;
  gap: 0.7rem;
}
.meter b {
  font-size: 1.9rem;
  letter-spacing: -0.02em;
  min-width: 5.4rem;
}
.meter span {
  color: var(--ink-2);
}
canvas {
  width: 100%;
  height: 130px;
  display: block;
  border-radius: 6px;
  background: #14181a;
  image-rendering: auto;
}
.scale {
  display: flex;
  justify-content: space-between;
  color: var(--ink-3);
  font-size: 0.85rem;
}
.files {
  margin-left: -0.6rem;
}
.switches {
  display: grid;
  gap: 0.5rem;
  align-content: start;
  justify-items: start;
}
.switches label {
  display: grid;
  grid-template-columns: minmax(0, 1fr) 8.5rem;
  gap: 0.6rem;
  align-items: center;
  width: 100%;
}
.switches label :deep(.p-select) {
  width: 100%;
}
.things {
  display: flex;
  flex-wrap: wrap;
  gap: 0.35rem;
}
.name {
  grid-column: 1 / -1;
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem;
  align-items: center;
}
.quiet {
  color: var(--ink-3);
}
.told p {
  color: var(--ink-2);
  margin-top: 0.2rem;
}
.right {
  color: var(--pass);
}
.missed {
  color: var(--fail);
}
@media (max-width: 760px) {
  .practice {
    grid-template-columns: 1fr;
  }
}
@media print {
  .practice {
    display: none;
  }
}
</style>
