<script setup lang="ts">
import type { Chart } from 'chart.js'
import { useToast } from 'primevue/usetoast'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { BANDS, middleHz } from '#core/catalog/bands'
import { FERRITES, RINGS } from '#core/catalog/noise'
import { addItem } from '#core/edit/items'
import {
  impedance,
  inductance,
  insertionLossDb,
  peakHz,
  saturates,
  turnsThatFit,
  worstLossDb,
  type Winding,
} from '#core/noise/choke/choke'
import { complex, magnitude } from '#core/noise/choke/complex'
import { nameOf } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import type { Patch } from '#core/edit/patch'
import type { Fault } from '#core/plan/faults'
import { asGiven, fixed, significant } from '#core/units/number'
import ChokeWindings from './ChokeWindings.vue'
import LcFilter from './LcFilter.vue'

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
function wind(w: Winding) {
  material.value = w.material
  ring.value = w.ring
  cores.value = w.cores
  turns.value = w.turns
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
        <b>{{ fixed(loss, 1) }} dB</b> on {{ band }}: {{ fixed(magnitude(z), 0) }} Ω ({{ fixed(z.re, 0) }}
        {{ z.im < 0 ? '−' : '+' }} j{{ fixed(Math.abs(z.im), 0) }}) in a loop of {{ asGiven(loopOhm) }} Ω; at least
        {{ fixed(worst, 1) }} dB, were the loop all reactance
      </p>
      <p>
        {{ significant(inductance(choke) * 1e6, 3) }} µH at low frequencies; turns squared times cores:
        {{ choke.turns ** 2 * choke.cores }}. Highest near {{ significant(peakHz(choke) / 1e6, 2) }} MHz, where the
        winding's own capacitance ends its rise.
      </p>
      <p v-if="turns > fit" class="wrong">{{ turns }} turns of a {{ cableMm }} mm cable do not fit; {{ fit }} do.</p>
      <p v-if="dc.saturated" class="wrong">
        {{ asGiven(dcA) }} A through one conductor alone drives the core to {{ fixed(dc.fluxT, 2) }} T; it is full at
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
    <ChokeWindings :band="chosenBand" :cable-mm="cableMm" :loop-ohm="loopOhm" @wind="wind" />
    <LcFilter class="lc" :band="band" :at-hz="atHz" />
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
@media (max-width: 1000px) {
  .choke {
    grid-template-columns: 1fr;
  }
}
</style>
