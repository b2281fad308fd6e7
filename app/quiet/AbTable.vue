<script setup lang="ts">
import { computed, ref } from 'vue'
import { CURES, type CureId } from '#core/noise/cure'
import type { Comparison } from '#core/noise/listen/listening'
import { freshId, type Logbook } from '#core/noise/logbook'
import { suspectsOf } from '#core/noise/suspect'
import type { Plan } from '#core/plan/schema'
import { fixed, rounded } from '#core/units/number'
import { useLogbook } from '../stores/logbook'
import AbSurvey from './AbSurvey.vue'
import { khz } from './khz'

/** On against off: by how many dB, how surely, where in the band; and what it is evidence of. */
const props = defineProps<{
  compared: Comparison
  plan: Plan
  logbook: Logbook
  calibration: { offsetDb: number | null; widthHz: number }
}>()
const emit = defineEmits<{ tool: [id: 'case' | 'survey'] }>()
const log = useLogbook()

const signed = (db: number) => `${db < 0 ? '−' : '+'}${fixed(Math.abs(db), 1)}`
const chance = (p: number) => (p < 0.001 ? 'under 0.1 %' : `${fixed(100 * p, p < 0.1 ? 1 : 0)} %`)
const times = computed(() => `${props.compared.on} × on, ${props.compared.off} × off`)
const verdict = computed(() => {
  const { whole, isMore, on, off } = props.compared
  const figure = `${signed(whole.differenceDb)} ± ${fixed(whole.errorDb, 1)} dB with it on`
  if (isMore) return `${figure}: more than chance`
  return on + off < 8 ? `${figure}: not yet more than chance, switch some more` : `${figure}: no more than chance`
})
const strongest = computed(() => [...props.compared.lines].sort((a, b) => b.differenceDb - a.differenceDb).slice(0, 8))

// Both spectra laid over each other, dB over the lower of the two.
const POINTS = 260
const HEIGHT = 110
const path = (db: Float32Array) => {
  const { low, high } = range.value
  return Array.from({ length: POINTS }, (_, i) => {
    const [from, to] = [Math.floor((i * db.length) / POINTS), Math.floor(((i + 1) * db.length) / POINTS)]
    let most = -Infinity
    for (let b = from; b < to; b++) most = Math.max(most, db[b]!)
    const y = HEIGHT - ((Math.min(high, Math.max(low, most)) - low) / (high - low)) * HEIGHT
    return `${i ? 'L' : 'M'}${rounded((i * 1000) / POINTS, 1)} ${rounded(y, 1)}`
  }).join('')
}
const range = computed(() => {
  const sorted = Float32Array.from(props.compared.offDb).sort()
  const low = sorted[Math.floor(sorted.length / 4)]! - 4
  const most = props.compared.onDb.reduce((m, v) => Math.max(m, v), -Infinity)
  return { low, high: Math.max(low + 20, most + 2) }
})

// As evidence.
const devices = computed(() => suspectsOf(props.plan))
const device = ref<string | null>(null)
const HEARD = [
  { id: 'gone', label: 'gone' },
  { id: 'weaker', label: 'weaker' },
  { id: 'same', label: 'no change' },
  { id: 'not-sure', label: 'not sure' },
] as const
/** What was said by ear stands, however the figures go on. */
const said = ref<(typeof HEARD)[number]['id'] | null>(null)
const heard = computed({ get: () => said.value ?? props.compared.heard, set: h => (said.value = h) })
const openCases = computed(() => props.logbook.cases.filter(c => c.state === 'open' && !c.practice))
const caseId = ref(openCases.value.at(-1)?.id ?? '')
function evidence() {
  const c = openCases.value.find(x => x.id === caseId.value)
  if (!c || !device.value) return
  log.put('cases', {
    ...c,
    observations: [
      ...c.observations,
      {
        kind: 'listen',
        id: freshId('o', c.observations),
        at: new Date().toISOString(),
        bands: [...c.complaint.bands],
        setup: { devices: { [device.value]: { state: 'off' } } },
        heard: heard.value,
        times: Math.min(props.compared.on, props.compared.off),
        note: `measured: ${verdict.value}; ${times.value}`,
      },
    ],
  })
  emit('tool', 'case')
}

// As what a cure gained: on is without it, off is with it.
const cure = ref<CureId | null>(null)
const at = ref('radio')
const places = computed(() => [{ id: 'radio', name: 'the radio' }, ...devices.value])
function logCure() {
  const c = openCases.value.find(x => x.id === caseId.value)
  if (!c || !cure.value) return
  log.put('cases', {
    ...c,
    cures: [
      ...c.cures,
      {
        id: freshId('k', c.cures),
        at: new Date().toISOString(),
        what: cure.value,
        where: at.value,
        detail: `measured: ${verdict.value.replace('with it on', 'without it')}; ${times.value}`.slice(0, 200),
        byEar: heard.value === 'not-sure' ? 'same' : heard.value,
        kept: true,
      },
    ],
  })
  emit('tool', 'case')
}
</script>

<template>
  <article class="compared">
    <h3 :class="{ more: compared.isMore }" data-testid="ab">{{ verdict }}</h3>
    <p class="quiet">{{ times }}; by chance alone {{ chance(compared.whole.chance) }}</p>
    <svg :viewBox="`0 0 1000 ${HEIGHT}`" preserveAspectRatio="none" role="img" aria-label="Spectra with it on and off">
      <path :d="path(compared.onDb)" class="on" />
      <path :d="path(compared.offDb)" class="off" />
    </svg>
    <p class="quiet key"><i class="on" /> on <i class="off" /> off</p>
    <table v-if="strongest.length">
      <thead>
        <tr>
          <th>Line, kHz</th>
          <th>with it on, dB</th>
          <th>by chance</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="l in strongest" :key="l.hz">
          <td>{{ khz(l.hz) }}</td>
          <td>{{ signed(l.differenceDb) }} ± {{ fixed(l.errorDb, 1) }}</td>
          <td>{{ chance(l.chance) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="openCases.length || logbook.surveys.length" class="line">
      Switched was
      <Select
        v-model="device"
        :options="devices"
        option-label="name"
        option-value="id"
        placeholder="which"
        size="small"
        aria-label="What was switched" />
    </p>
    <p v-if="openCases.length" class="line">
      Off it is
      <Select
        v-model="heard"
        :options="[...HEARD]"
        option-label="label"
        option-value="id"
        size="small"
        aria-label="What is heard with it off" />
      <Button label="Evidence for" size="small" severity="secondary" :disabled="!device" @click="evidence" />
      <Select
        v-model="caseId"
        :options="openCases"
        option-label="title"
        option-value="id"
        size="small"
        aria-label="Case" />
    </p>
    <p v-if="openCases.length && heard !== 'not-sure'" class="line">
      Or off was with a cure:
      <Select
        v-model="cure"
        :options="[...CURES]"
        option-label="label"
        option-value="id"
        placeholder="which"
        size="small"
        aria-label="Cure" />
      at
      <Select v-model="at" :options="places" option-label="name" option-value="id" size="small" aria-label="Where" />
      <Button label="Log the cure" size="small" severity="secondary" :disabled="!cure" @click="logCure" />
    </p>
    <AbSurvey
      :compared="compared"
      :logbook="logbook"
      :device="device"
      :offset-db="calibration.offsetDb"
      :width-hz="calibration.widthHz"
      @tool="t => emit('tool', t)" />
  </article>
</template>

<style scoped>
.compared {
  margin-top: 0.9rem;
}
h3 {
  font-size: 1.15rem;
}
h3.more {
  color: var(--fail);
}
svg {
  width: 100%;
  height: 110px;
  margin-top: 0.4rem;
  border-bottom: 1px solid var(--line-2);
}
path {
  fill: none;
  stroke-width: 1.4;
  vector-effect: non-scaling-stroke;
}
path.on {
  stroke: var(--fail);
}
path.off {
  stroke: var(--ink-2);
  stroke-dasharray: 4 2;
}
.key i {
  display: inline-block;
  width: 1.4rem;
  border-top: 2px solid var(--fail);
  vertical-align: middle;
}
.key i.off {
  border-top: 2px dashed var(--ink-2);
  margin-left: 0.8rem;
}
table {
  margin-top: 0.4rem;
  border-collapse: collapse;
  font-variant-numeric: tabular-nums;
}
th {
  text-align: left;
  color: var(--ink-3);
  font-weight: 500;
}
th,
td {
  padding: 0.1rem 1.2rem 0.1rem 0;
}
.line {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  flex-wrap: wrap;
  margin-top: 0.7rem;
  color: var(--ink-2);
}
.quiet {
  color: var(--ink-3);
}
</style>
