<script setup lang="ts">
import type { Chart } from 'chart.js'
import { useToast } from 'primevue/usetoast'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { BANDS, middleHz } from '#core/catalog/bands'
import { FERRITES, RINGS } from '#core/catalog/noise'
import { addItem } from '#core/edit/items'
import {
  filterWarning,
  impedance,
  inductance,
  insertionLossDb,
  lcFilter,
  peakHz,
  saturates,
  turnsThatFit,
  windingsFor,
  worstLossDb,
  type Winding,
} from '#core/noise/choke/choke'
import { complex, magnitude } from '#core/noise/choke/complex'
import { NEVER, UNPLUGGED } from '#core/noise/words'
import { nameOf } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import type { Patch } from '#core/edit/patch'
import type { Fault } from '#core/plan/faults'

/** What a choke does over frequency, what it takes for 20 dB on a band, and putting it into the plan. */
const props = defineProps<{ plan: Plan; edit: (patch: Patch, label: string) => Fault[]; dark: boolean }>()
const toast = useToast()

const material = ref<(typeof FERRITES)[number]['id']>('nizn-800')
const ring = ref<(typeof RINGS)[number]['id']>('ring-61')
const cores = ref(4)
const turns = ref(4)
const cableMm = ref(6)
const loopOhm = ref(150)
const dcA = ref(15)
const passes = ref<'pair' | 'one'>('pair')
const band = ref('20 m')
const wantedDb = ref(20)

const ferrite = computed(() => FERRITES.find(f => f.id === material.value)!)
const size = computed(() => RINGS.find(r => r.id === ring.value)!)
const choke = computed(() => ({
  ...ferrite.value,
  odMm: size.value.odMm,
  idMm: size.value.idMm,
  heightMm: size.value.heightMm,
  ...('worksShare' in size.value && { worksShare: size.value.worksShare }),
  cores: Math.max(1, cores.value || 1),
  turns: Math.max(1, turns.value || 1),
}))
const chosenBand = computed(() => BANDS.find(b => b.id === band.value)!)
const atHz = computed(() => middleHz(chosenBand.value))
const z = computed(() => impedance(choke.value, atHz.value))
const loss = computed(() => insertionLossDb(z.value, complex(Math.max(1, loopOhm.value || 1))))
const worst = computed(() => worstLossDb(z.value, Math.max(1, loopOhm.value || 1)))
const fit = computed(() => turnsThatFit(size.value.idMm, cableMm.value || 1))
const dc = computed(() => saturates(choke.value, dcA.value || 0, passes.value))
const ways = computed(() =>
  windingsFor(
    { lowHz: chosenBand.value.lowMHz * 1e6, highHz: chosenBand.value.highMHz * 1e6 },
    wantedDb.value || 20,
    cableMm.value || 1,
    Math.max(1, loopOhm.value || 1),
  ).slice(0, 6),
)
const words = (w: Winding) =>
  `${w.turns} turn${w.turns > 1 ? 's' : ''} on ${w.cores} × ${RINGS.find(r => r.id === w.ring)!.label}, ` +
  `${FERRITES.find(f => f.id === w.material)!.label}`
function wind(w: Winding) {
  material.value = w.material
  ring.value = w.ring
  cores.value = w.cores
  turns.value = w.turns
}

// A differential filter, for what comes between plus and minus.
const microhenry = ref(10)
const microfarad = ref(100)
const damped = ref(true)
const inputV = ref(13)
const inputW = ref(100)
const filter = computed(() => {
  const [henry, farad] = [
    Math.max(0.01, microhenry.value || 0.01) * 1e-6,
    Math.max(0.001, microfarad.value || 0.001) * 1e-6,
  ]
  return {
    henry,
    farad,
    sourceOhm: 0.02,
    loadOhm: Math.max(0.1, inputV.value ** 2 / Math.max(0.1, inputW.value)),
    ...(damped.value && { dampingFarad: 4 * farad, dampingOhm: Math.sqrt(henry / farad) }),
  }
})
const filtered = computed(() => lcFilter(filter.value, atHz.value))
const filterAt = computed(() => [300, 3000, 60e3].map(hz => ({ hz, db: lcFilter(filter.value, hz).lossDb })))
const oscillates = computed(() => filterWarning(filter.value, inputV.value, Math.max(0.1, inputW.value)))
const decibels = (db: number) => String(Math.round(db) || 0).replace('-', '−')
function frequency(hz: number): string {
  if (hz >= 1e6) return `${Number((hz / 1e6).toPrecision(3))} MHz`
  return hz >= 1000 ? `${Number((hz / 1000).toPrecision(3))} kHz` : `${Math.round(hz)} Hz`
}

const leads = computed(() => props.plan.leads.map(l => ({ id: l.id, label: nameOf(l) })))
const lead = ref<string | null>(null)
function put() {
  const at = props.plan.leads.find(l => l.id === lead.value)
  if (!at) return
  const faults = props.edit(
    addItem(
      props.plan,
      at.id,
      { kind: 'choke', turns: choke.value.turns, cores: choke.value.cores, material: ferrite.value.label },
      { fromEndM: 0.2 },
    ),
    `choke in ${nameOf(at)}`,
  )
  toast.add(
    faults.length
      ? { severity: 'error', summary: 'Not taken', detail: faults[0]!.wrong, life: 5000 }
      : {
          severity: 'secondary',
          summary: `Choke in ${nameOf(at)}`,
          detail: 'Listen before and after. Ctrl Z takes it back.',
          life: 3500,
        },
  )
}

const canvas = ref<HTMLCanvasElement>()
let chart: Chart | undefined
async function draw() {
  if (!canvas.value) return
  const { drawImpedance } = await import('./impedanceChart')
  if (!canvas.value) return
  chart?.destroy()
  chart = drawImpedance(canvas.value, choke.value)
}
onMounted(draw)
watch([choke, () => props.dark], draw, { flush: 'post' })
onBeforeUnmount(() => chart?.destroy())
</script>

<template>
  <div class="choke">
    <section class="form">
      <label
        >Material
        <Select v-model="material" :options="[...FERRITES]" option-label="label" option-value="id" size="small"
      /></label>
      <label
        >Core <Select v-model="ring" :options="[...RINGS]" option-label="label" option-value="id" size="small"
      /></label>
      <label>Cores in a row <InputNumber v-model="cores" :min="1" :max="12" show-buttons size="small" /></label>
      <label>Turns <InputNumber v-model="turns" :min="1" :max="20" show-buttons size="small" /></label>
      <label>Cable across, mm <InputNumber v-model="cableMm" :min="1" :max="60" size="small" /></label>
      <label>Loop it stands in, Ω <InputNumber v-model="loopOhm" :min="1" :max="5000" size="small" /></label>
      <label
        >Conductors
        <SelectButton
          v-model="passes"
          :options="[
            { id: 'pair', label: 'all' },
            { id: 'one', label: 'one alone' },
          ]"
          option-label="label"
          option-value="id"
          :allow-empty="false"
          size="small"
      /></label>
      <label>Direct current, A <InputNumber v-model="dcA" :min="0" :max="500" size="small" /></label>
      <label>Band <Select v-model="band" :options="BANDS.map(b => b.id)" size="small" /></label>
    </section>
    <section class="result">
      <p class="figure">
        <b>{{ loss.toFixed(1) }} dB</b> on {{ band }}: {{ magnitude(z).toFixed(0) }} Ω ({{ z.re.toFixed(0) }}
        {{ z.im < 0 ? '−' : '+' }} j{{ Math.abs(z.im).toFixed(0) }}) in a loop of {{ loopOhm }} Ω; at least
        {{ worst.toFixed(1) }} dB, were the loop all reactance
      </p>
      <p>
        {{ (inductance(choke) * 1e6).toPrecision(3) }} µH at low frequencies; turns squared times cores:
        {{ choke.turns ** 2 * choke.cores }}. Highest near {{ (peakHz(choke) / 1e6).toPrecision(2) }} MHz, where the
        winding's own capacitance ends its rise.
      </p>
      <p v-if="turns > fit" class="wrong">{{ turns }} turns of a {{ cableMm }} mm cable do not fit; {{ fit }} do.</p>
      <p v-if="dc.saturated" class="wrong">
        {{ dcA }} A through one conductor alone drives the core to {{ dc.fluxT.toFixed(2) }} T; it is full at
        {{ dc.limitT }} T and does next to nothing. Pass all conductors together.
      </p>
      <div class="chart"><canvas ref="canvas" role="img" aria-label="impedance over frequency" /></div>
      <p class="legend">
        <span class="z">|Z|</span> <span class="r">resistance</span> <span class="x">reactance</span>
      </p>
      <div class="line">
        <Select
          v-model="lead"
          :options="leads"
          option-label="label"
          option-value="id"
          placeholder="a lead of the plan"
          size="small"
          aria-label="Lead" /><Button
          label="Put it into the plan"
          size="small"
          severity="secondary"
          :disabled="!lead"
          @click="put" />
      </div>
    </section>
    <section class="reverse">
      <h2>
        What it takes for <InputNumber v-model="wantedDb" :min="3" :max="60" size="small" aria-label="dB wanted" /> dB
        on {{ band }}
      </h2>
      <ol>
        <li v-for="w in ways" :key="w.material + w.ring + w.cores">
          <button class="plain" @click="wind(w)">{{ words(w) }}</button><span
            >{{ w.lossDb.toFixed(0) }} dB, {{ w.ohm.toFixed(0) }} Ω</span
          >
        </li>
      </ol>
      <p v-if="!ways.length" class="wrong">
        Nothing of the catalogue does it with this cable: split it over two places, or a thinner cable.
      </p>
      <p v-if="ways.length" class="quiet">
        To buy for the first: {{ ways[0]!.cores }} core{{ ways[0]!.cores > 1 ? 's' : '' }}; about
        {{
          (
            (ways[0]!.turns * 2 * (RINGS.find(r => r.id === ways[0]!.ring)!.heightMm * ways[0]!.cores + 30)) / 1000 +
            0.3
          ).toFixed(1)
        }}
        m more cable for the turns.
      </p>
      <p class="quiet">All conductors of the cable together through every core. {{ NEVER }} {{ UNPLUGGED }}</p>
    </section>
    <section class="lc">
      <h2>Or between plus and minus: an LC filter</h2>
      <div class="fields">
        <label
          >Inductor, µH
          <InputNumber v-model="microhenry" :min="0.01" :max="100000" :max-fraction-digits="2" size="small"
        /></label>
        <label
          >Capacitor, µF
          <InputNumber v-model="microfarad" :min="0.001" :max="100000" :max-fraction-digits="3" size="small"
        /></label>
        <label
          >Fed by it, V <InputNumber v-model="inputV" :min="1" :max="100" :max-fraction-digits="1" size="small"
        /></label>
        <label
          >and W <InputNumber v-model="inputW" :min="0.1" :max="5000" :max-fraction-digits="1" size="small"
        /></label>
        <label class="check"
          ><input v-model="damped" type="checkbox" /> damped by {{ Number((4 * microfarad).toPrecision(2)) }} µF and
          {{ Number((filter.dampingOhm ?? Math.sqrt(filter.henry / filter.farad)).toPrecision(2)) }} Ω in series</label
        >
      </div>
      <p>
        <b>{{ filtered.lossDb > 60 ? 'over 60' : decibels(filtered.lossDb) }} dB</b> on {{ band }} on paper; real parts
        do less above a few MHz, where the inductor's own capacitance and the capacitor's leads take over. At
        {{ filterAt.map(f => `${frequency(f.hz)} ${f.db > 60 ? 'over 60' : decibels(f.db)} dB`).join(', ') }}. Resonance
        {{ frequency(filtered.resonanceHz) }}, Q {{ filtered.q.toFixed(1) }}.
      </p>
      <p v-if="filtered.q > 1.4" class="wrong">
        With this Q it rings: noise and steps near {{ frequency(filtered.resonanceHz) }} come out larger than they went
        in. Damp it.
      </p>
      <p v-if="oscillates" class="wrong">{{ oscillates }}</p>
      <p class="quiet">
        Behind the fuse, the inductor for the whole current. A large capacitor draws a spark when it is connected.
      </p>
    </section>
  </div>
</template>

<style scoped>
.choke {
  display: grid;
  grid-template-columns: 20rem minmax(0, 1fr) 19rem;
  gap: 1.6rem;
  align-items: start;
}
.lc {
  grid-column: 1 / -1;
  border-top: 1px solid var(--line);
  padding-top: 1rem;
  max-width: 62rem;
}
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
.lc b {
  font-size: 1.2rem;
}
.form {
  display: grid;
  gap: 0.5rem;
}
.form label {
  display: grid;
  grid-template-columns: 7.6rem minmax(0, 1fr);
  gap: 0.5rem;
  align-items: center;
  color: var(--ink-2);
}
.form :deep(.p-select),
.form :deep(input),
.form :deep(.p-inputnumber) {
  width: 100%;
  min-width: 0;
}
.figure b {
  font-size: 1.5rem;
  letter-spacing: -0.01em;
}
.result p {
  margin-bottom: 0.4rem;
}
.chart {
  height: 300px;
  position: relative;
}
.legend span {
  margin-right: 1rem;
  color: var(--ink-2);
}
.legend span::before {
  content: '';
  display: inline-block;
  width: 1.3rem;
  height: 0;
  border-top: 3px solid var(--ink);
  vertical-align: middle;
  margin-right: 0.4rem;
}
.legend .r::before {
  border-color: var(--copper);
}
.legend .x::before {
  border-top-style: dashed;
  border-color: var(--note);
}
.line {
  display: flex;
  gap: 0.6rem;
  flex-wrap: wrap;
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
  padding: 0.1rem 0.2rem;
  text-align: left;
  color: var(--ink);
}
li span {
  display: block;
  color: var(--ink-3);
  padding-left: 0.2rem;
}
@media (max-width: 1000px) {
  .choke {
    grid-template-columns: 1fr;
  }
}
</style>
