<script setup lang="ts">
import { computed, onBeforeUnmount, ref, shallowRef } from 'vue'
import { BANDS } from '#core/catalog/bands'
import { kindOf } from '#core/kinds/index'
import { bandsHit, clearSlots, linesInBand, suspects } from '#core/noise/combBands'
import { nameOf } from '#core/plan/find'
import { freshId, type Logbook } from '#core/noise/logbook'
import type { Plan } from '#core/plan/schema'
import { useLogbook } from '../stores/logbook'
import CombPicture from './CombPicture.vue'
import { listenToText, type ListenAnswer, type Listened } from '../workers/listen'

/**
 * Evenly spaced tones: drop a recording or type what the waterfall shows, see which device they belong to and where one
 * can still work.
 */
const props = defineProps<{ plan: Plan; logbook: Logbook }>()
const emit = defineEmits<{ tool: [id: 'case'] }>()
const log = useLogbook()

const typed = ref('')
const centre = ref('14.1 MHz')
const heard = shallowRef<Listened | null>(null)
const problem = ref('')
const progress = ref<number | null>(null)
const source = ref('')
let worker: Worker | null = null

function show(answer: ListenAnswer, name: string) {
  problem.value = answer.ok ? '' : `${answer.wrong}; right would be ${answer.right}`
  if (!answer.ok) return
  heard.value = answer.listened
  source.value = name
}
function readTyped() {
  stop()
  const lines = typed.value
    .split(/[\s;]+/)
    .map(w => w.trim())
    .filter(Boolean)
  // A bare list is taken in kHz, as a waterfall shows it.
  show(
    listenToText(
      /frequency/.test(typed.value)
        ? typed.value
        : `frequency_khz\n${lines.map(l => l.replace(',', '.')).join('\n')}\n`,
      'the list',
    ),
    'typed tones',
  )
}
function stop() {
  worker?.terminate()
  worker = null
  progress.value = null
}
onBeforeUnmount(stop)

const centreHz = computed(() => {
  const match = /^\s*([\d.,]+)\s*(mhz|khz|hz)?\s*$/i.exec(centre.value)
  const scale = { mhz: 1e6, khz: 1e3, hz: 1 }[(match?.[2] ?? 'mhz').toLowerCase() as 'mhz']
  return match ? Number(match[1]!.replace(',', '.')) * scale : 0
})
/** A minute of a wide recording; more would not fit the page's memory. */
const MOST_BYTES = 400e6
async function take(file: File | undefined | null) {
  if (!file) return
  if (file.size > MOST_BYTES) {
    stop()
    problem.value =
      `${file.name} has ${Math.round(file.size / 1e6)} MB; right would be a minute of recording, ` +
      `${MOST_BYTES / 1e6} MB at most`
    return
  }
  listen(file.name, new Uint8Array(await file.arrayBuffer()))
}

/** For want of a recording: a made-up evening with the station's likeliest device as the culprit. */
function listenToSimulated() {
  stop()
  progress.value = 0
  const recorder = new Worker(new URL('../workers/record.worker.ts', import.meta.url), { type: 'module' })
  worker = recorder
  centre.value = '14.175 MHz'
  recorder.onmessage = (event: MessageEvent<Uint8Array>) => listen('a simulated evening', event.data)
  recorder.postMessage(
    JSON.parse(
      JSON.stringify({
        plan: props.plan,
        evening: ['20 m'],
        setup: {},
        centreHz: 14.175e6,
        seconds: 0.7,
        sampleRateHz: 768e3,
      }),
    ),
  )
}
function listen(name: string, bytes: Uint8Array) {
  stop()
  problem.value = ''
  progress.value = 0
  worker = new Worker(new URL('../workers/listen.worker.ts', import.meta.url), { type: 'module' })
  worker.onmessage = (event: MessageEvent<{ progress?: number; answer?: ListenAnswer }>) => {
    if (event.data.progress !== undefined) progress.value = event.data.progress
    if (event.data.answer) {
      show(event.data.answer, name)
      stop()
    }
  }
  worker.postMessage({ name, bytes, centreHz: centreHz.value }, [bytes.buffer])
}

const switching = computed(() =>
  props.plan.parts.flatMap(p => {
    const hz = kindOf(p).switching?.(p)?.hz
    return hz === undefined ? [] : [{ id: p.id, name: nameOf(p), switchingHz: hz }]
  }),
)
// What was measured goes into a case as evidence.
const openCases = computed(() => props.logbook.cases.filter(c => c.state === 'open'))
const caseId = ref(openCases.value.at(-1)?.id ?? '')
function evidence(spacingHz: number, uncertaintyHz: number) {
  const c = openCases.value.find(x => x.id === caseId.value)
  if (!c) return
  log.put('cases', {
    ...c,
    observations: [
      ...c.observations,
      {
        kind: 'comb',
        id: freshId('o', c.observations),
        at: new Date().toISOString(),
        bands: c.complaint.bands,
        spacingHz: Math.round(spacingHz),
        uncertaintyHz: Math.ceil(uncertaintyHz),
        note: `from ${source.value}`.slice(0, 200),
      },
    ],
  })
  emit('tool', 'case')
}
const khz = (hz: number, digits = 1) => (hz / 1000).toFixed(digits)
const band = ref('20 m')
const modes = [
  { id: 2700, label: 'SSB, 2.7 kHz' },
  { id: 500, label: 'CW, 500 Hz' },
  { id: 3000, label: 'digital, 3 kHz' },
]
const mode = ref(2700)
const slots = computed(() =>
  heard.value
    ? clearSlots(
        heard.value.combs,
        BANDS.find(b => b.id === band.value)!,
        mode.value,
      )
    : [],
)
/** Every line in the chosen band, kHz, with its harmonic number where it is one. */
const bandLines = computed(() =>
  (heard.value?.combs ?? []).map(c =>
    linesInBand(
      c,
      BANDS.find(b => b.id === band.value)!,
    ).map(hz => `${khz(hz)}${c.fundamentalHz ? ` (${Math.round(hz / c.fundamentalHz)})` : ''}`),
  ),
)
const nameOfPart = (id: string) => switching.value.find(s => s.id === id)?.name ?? id
</script>

<template>
  <div class="comb" @dragover.prevent @drop.prevent="e => take(e.dataTransfer?.files[0])">
    <section class="in">
      <label class="drop"
        >Drop a recording here, or <u>choose one</u><span>WAV (I/Q or audio), spectrum or tone list as CSV</span
        ><input
          type="file"
          accept=".wav,.csv,audio/wav,text/csv"
          data-testid="listen"
          @change="e => take((e.target as HTMLInputElement).files?.[0])"
      /></label>
      <label class="line">I/Q recordings are around <InputText v-model="centre" size="small" /></label>
      <label class="typed"
        >Or type the tones, kHz, as the waterfall shows them<Textarea
          v-model="typed"
          rows="7"
          aria-label="Tones, kHz"
          :placeholder="`14012\n14074\n14136\n14198`"
      /></label>
      <Button label="Find the comb" size="small" :disabled="!typed.trim()" @click="readTyped" />
      <button class="plain" @click="listenToSimulated">Listen to a simulated evening</button>
      <div v-if="progress !== null" class="progress" role="status">
        <div><i :style="{ width: `${100 * progress}%` }" /></div>
        <button class="plain" @click="stop">Stop</button>
      </div>
      <p v-if="problem" class="wrong" role="alert">{{ problem }}</p>
    </section>
    <section v-if="heard" class="picture">
      <h2>
        {{ heard.combs.length ? (heard.combs.length === 1 ? 'One comb' : `${heard.combs.length} combs`) : 'No comb' }}
        in {{ source }} <span>{{ heard.tones }} tones</span>
      </h2>
      <CombPicture :heard="heard" />
      <div class="found">
        <article v-for="(comb, k) in heard.combs" :key="k">
          <h3>
            <i :class="`c${k}`" /> {{ khz(comb.spacingHz, 3) }} kHz
            <span
              >± {{ comb.uncertaintyHz < 10 ? comb.uncertaintyHz.toFixed(1) : comb.uncertaintyHz.toFixed(0) }} Hz
              apart</span
            >
          </h3>
          <p>
            {{ comb.lines.length }} lines, {{ comb.missing }} missing between them;
            {{ comb.confidence > 0.999 ? 'over 99.9' : (100 * comb.confidence).toFixed(1) }} % sure that it is no
            chance.
          </p>
          <p v-if="comb.oddOnly">
            Odd multiples only of {{ khz(comb.fundamentalHz!, 3) }} kHz: a symmetric square wave makes them.
          </p>
          <p v-else-if="comb.fundamentalHz">
            Multiples {{ comb.lines[0]!.harmonic }} to {{ comb.lines.at(-1)!.harmonic }} of
            {{ khz(comb.fundamentalHz, 3) }} kHz.
          </p>
          <p v-if="heard.motions[k]">
            Wavers by {{ heard.motions[k]!.waverHz.toFixed(0) }} Hz, drifts
            {{ heard.motions[k]!.driftHzPerS.toFixed(1) }} Hz a second.
          </p>
          <p class="who">
            <template v-if="suspects(comb, switching).length"
              >Could be
              <b v-for="(s, i) in suspects(comb, switching)" :key="s.id"
                >{{ i ? ', or ' : '' }}{{ nameOfPart(s.id) }}</b
              >
              ({{ suspects(comb, switching)[0]!.relation === 'twice' ? 'twice its frequency' : 'its frequency' }},
              {{ (100 * suspects(comb, switching)[0]!.offShare).toFixed(1) }} % off what the plan says).</template
            ><template v-else>No part of this plan is said to switch near it.</template>
          </p>
          <p class="quiet">Lines in {{ bandsHit(comb).join(', ') }}.</p>
          <p v-if="openCases.length" class="line">
            <Button
              label="Evidence for"
              size="small"
              severity="secondary"
              @click="
                evidence(comb.oddOnly && comb.fundamentalHz ? comb.fundamentalHz : comb.spacingHz, comb.uncertaintyHz)
              " /><Select
              v-model="caseId"
              :options="openCases"
              option-label="title"
              option-value="id"
              size="small"
              aria-label="Case" />
          </p>
        </article>
        <p v-if="heard.broadcast" class="quiet">
          {{ heard.broadcast.lines.length }} carriers keep to the broadcasters'
          {{ heard.broadcast.spacingHz / 1000 }} kHz raster: stations, no fault of yours.
        </p>
        <p v-if="heard.unexplained.length" class="quiet">
          Belong to none:
          {{
            heard.unexplained
              .slice(0, 12)
              .map(hz => khz(hz))
              .join(', ')
          }}
          kHz{{ heard.unexplained.length > 12 ? ' …' : '' }}
        </p>
        <article v-if="heard.combs.length">
          <h3>Where one can still work</h3>
          <div class="line">
            <Select v-model="band" :options="BANDS.map(b => b.id)" size="small" aria-label="Band" /><Select
              v-model="mode"
              :options="modes"
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
          <p v-if="!slots.length" class="wrong">No slot of this width is clear.</p>
          <p v-for="(l, k) in bandLines" :key="k" class="quiet">
            {{ heard.combs.length > 1 ? `Comb ${k + 1}` : 'Lines' }} on {{ band }}:
            {{ l.slice(0, 12).join(', ') || 'none' }}{{ l.length > 12 ? ` and ${l.length - 12} more` : ''
            }}{{ l.length ? ' kHz' : '' }}
          </p>
        </article>
      </div>
    </section>
    <section v-else class="none">
      <h2>Whose tones are these?</h2>
      <p>
        Evenly spaced tones are the lines of a switching device. Their spacing says which of the station's it could be,
        where its other lines fall, and where one can still work. Three lines are the least; five or more, over as wide
        a span as the waterfall shows, leave no doubt.
      </p>
      <ul v-if="switching.length">
        <li v-for="s in switching" :key="s.id">
          {{ s.name
          }}<span class="quiet">
            {{ s.switchingHz < 3000 ? `${s.switchingHz} Hz` : `${khz(s.switchingHz, 0)} kHz` }}, by the plan</span
          >
        </li>
      </ul>
    </section>
  </div>
</template>

<style scoped>
.comb {
  display: grid;
  grid-template-columns: 17rem minmax(0, 1fr);
  gap: 1.6rem;
}
.in {
  display: grid;
  gap: 0.7rem;
  align-content: start;
  justify-items: start;
}
.drop {
  border: 1.5px dashed var(--line-2);
  border-radius: 10px;
  padding: 1rem;
  text-align: center;
  cursor: pointer;
  width: 100%;
}
.drop:hover {
  background: var(--choice);
}
.drop span {
  display: block;
  color: var(--ink-3);
  font-size: 0.86rem;
}
.drop input {
  position: absolute;
  opacity: 0;
  width: 1px;
}
.line {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  color: var(--ink-2);
  flex-wrap: wrap;
}
.line :deep(input) {
  width: 7rem;
}
.typed {
  display: grid;
  gap: 0.25rem;
  color: var(--ink-2);
  width: 100%;
}
.progress {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  width: 100%;
}
.progress div {
  flex: 1;
  height: 6px;
  background: var(--choice);
  border-radius: 3px;
}
.progress i {
  display: block;
  height: 100%;
  background: var(--copper);
  border-radius: 3px;
}
.wrong {
  color: var(--fail);
}
.quiet {
  color: var(--ink-3);
}
h2 {
  font-size: 1.15rem;
}
h2 span,
h3 span {
  color: var(--ink-3);
  font-weight: 400;
}
.found {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(17rem, 1fr));
  gap: 0.5rem 1.8rem;
}
h3 {
  font-size: 1.05rem;
  margin-bottom: 0.2rem;
}
h3 i {
  display: inline-block;
  width: 0.65rem;
  height: 0.65rem;
  border-radius: 2px;
  background: var(--fail);
}
h3 i.c1 {
  background: var(--note);
}
h3 i.c2 {
  background: var(--caution);
}
h3 i.c3 {
  background: var(--pass);
}
.who {
  margin: 0.3rem 0;
}
.none {
  max-width: 34rem;
}
.none p {
  margin: 0.4rem 0;
  color: var(--ink-2);
}
ul {
  margin: 0.4rem 0 0;
  padding-left: 1.1rem;
}
@media (max-width: 760px) {
  .comb {
    grid-template-columns: 1fr;
  }
}
</style>
