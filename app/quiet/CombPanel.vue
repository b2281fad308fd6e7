<script setup lang="ts">
import { computed, onBeforeUnmount, ref, shallowRef } from 'vue'
import { kindOf } from '#core/kinds/index'
import type { Comb } from '#core/noise/comb/comb'
import { nameOf } from '#core/plan/find'
import { freshId, type Logbook } from '#core/noise/logbook'
import type { Plan } from '#core/plan/schema'
import { readRadioFrequency } from '#core/units/quantity'
import { asGiven, fixed } from '#core/units/number'
import { useLogbook } from '../stores/logbook'
import CombFacts from './CombFacts.vue'
import CombPicture from './CombPicture.vue'
import FreeSlots from './FreeSlots.vue'
import StretchLine from './StretchLine.vue'
import { khz } from './khz'
import type { ListenJob } from '../workers/listen.worker'
import { listenToText, type ListenAnswer, type Listened } from '../workers/listen'

/**
 * Evenly spaced tones: drop a recording or type what the waterfall shows, see which device they belong to and where one
 * can still work.
 */
const props = defineProps<{ plan: Plan; logbook: Logbook }>()
const emit = defineEmits<{ tool: [id: 'case'] }>()
const log = useLogbook()

const typed = ref('')
const centre = ref('')
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
  const read = readRadioFrequency(centre.value)
  return centre.value.trim() && read.ok ? read.value : null
})
function take(file: File | undefined | null) {
  if (file) listen(file.name, file)
}
/** What was listened to last: of a long recording another stretch may be wanted. */
const file = shallowRef<Blob | null>(null)

/** For want of a recording: a made-up evening with the station's likeliest device as the culprit. */
function listenToSimulated() {
  stop()
  progress.value = 0
  const recorder = new Worker(new URL('../workers/record.worker.ts', import.meta.url), { type: 'module' })
  worker = recorder
  centre.value = '14.175 MHz'
  recorder.onmessage = (event: MessageEvent<Uint8Array<ArrayBuffer>>) =>
    listen('a simulated evening', new Blob([event.data]))
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
function listen(name: string, what: Blob, fromS = 0) {
  stop()
  file.value = what
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
  const job: ListenJob = { name, file: what, centreHz: centreHz.value, fromS }
  worker.postMessage(job)
}

const switching = computed(() =>
  props.plan.parts.flatMap(p => {
    const hz = kindOf(p).switching?.(p)?.hz
    return hz === undefined ? [] : [{ id: p.id, name: nameOf(p), switchingHz: hz }]
  }),
)
const foundWords = computed(() => {
  const { combs = [], mains } = heard.value ?? {}
  if (!combs.length) return mains ? 'Mains buzz' : 'No comb'
  if (combs.length > 1) return `${combs.length} combs`
  return combs[0]!.proven ? 'One comb' : 'A likely comb'
})
// What was measured goes into a case as evidence.
const openCases = computed(() => props.logbook.cases.filter(c => c.state === 'open'))
const caseId = ref(openCases.value.at(-1)?.id ?? '')
function evidence({ spacingHz, oddOnly, fundamentalHz, uncertaintyHz }: Comb) {
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
        spacingHz: Math.round(oddOnly && fundamentalHz ? fundamentalHz : spacingHz),
        uncertaintyHz: Math.ceil(uncertaintyHz),
        note: `from ${source.value}`.slice(0, 200),
      },
    ],
  })
  emit('tool', 'case')
}
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
      <label class="line"
        >I/Q is around
        <InputText v-model="centre" size="small" placeholder="as its file says" aria-label="Centre of an I/Q recording"
      /></label>
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
        {{ foundWords }} in {{ source }} <span>{{ heard.tones }} tones</span>
      </h2>
      <p v-if="heard.centreHz === null" class="wrong">
        Neither the file nor its name says around what frequency this I/Q recording is: figures count from its middle.
        Say it at the left and drop it again.
      </p>
      <StretchLine
        v-if="file && heard.stretch && heard.stretch.ofS > heard.stretch.toS - heard.stretch.fromS + 1"
        :stretch="heard.stretch"
        @from="s => file && listen(source, file, s)" />
      <CombPicture :heard="heard" />
      <div class="found">
        <article v-if="heard.mains">
          <h3>Mains buzz, {{ asGiven(heard.mains.mainsHz) }} Hz</h3>
          <p>
            {{ heard.mains.lines.length }} lines {{ fixed(heard.mains.spacingHz, 1) }} Hz apart.
            <template v-if="heard.mains.rare">
              Mains of three phases make it, or a clock of just that speed, as a dimmer or a PWM controller has: take
              the mains off to tell.
            </template>
            <template v-else>
              Mains make it, and no switching device's oscillator: a rectifier, a dimmer, a bad contact or an arcing
              insulator, here or at a neighbour's.
            </template>
          </p>
        </article>
        <article v-for="(comb, k) in heard.combs" :key="k">
          <CombFacts :comb="comb" :colour="k" :motion="heard.motions[k]" :switching="switching" />
          <p v-if="openCases.length" class="line">
            <Button label="Evidence for" size="small" severity="secondary" @click="evidence(comb)" /><Select
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
        <FreeSlots v-if="heard.combs.length" :combs="heard.combs" />
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
            {{ s.switchingHz < 3000 ? `${asGiven(s.switchingHz)} Hz` : `${khz(s.switchingHz, 0)} kHz` }}, by the
            plan</span
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
h2 span {
  color: var(--ink-3);
  font-weight: 400;
}
.found {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(17rem, 1fr));
  gap: 0.5rem 1.8rem;
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
