<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { pairPlan } from '#core/plan/beginning'
import { readPlan } from '#core/plan/faults'
import type { Conductor, Plan } from '#core/plan/schema'
import type { Part } from '#core/kinds/index'
import { readConductor } from '#core/units/conductor'
import { readQuantity, showQuantity } from '#core/units/quantity'
import { readWindow, showWindow, type ReadWindow } from '#core/units/window'
import { volts } from '#core/units/show'
import { cautionsOf } from '#core/sheets/cautions'
import SeverityMark from '../findings/SeverityMark.vue'
import OuterBar from '../shell/OuterBar.vue'
import { usePreferences } from '../stores/preferences'
import { stationsApi } from '../stores/stationsApi'
import PathPreview from './PathPreview.vue'
import { OFFERED } from './useBeginning'
import { usePreview } from './usePreview'

/** Whether one source suits one radio: three figures, and the verdict at once. */
const { chosen } = usePreferences()

const supply = ref('13.8 V ± 15 %')
const amps = ref('21 A')
const source = ref('lifepo4-50')
const length = ref(chosen.units.length === 'ft' ? '6 ft' : '2 m')
const conductor = ref(chosen.units.conductor === 'mm2' ? '4 mm2' : '12 AWG')
/** A radio of the catalogue fills in its own figures. */
const like = ref<string | null>(null)
/** What draws by itself: an inverter takes what hangs on it. */
const RADIOS = OFFERED.loads.filter(l => 'draw' in l.part)
watch(like, id => {
  const part = RADIOS.find(l => l.id === id)?.part
  if (!part) return
  const draw = part.draw as { activeA?: number; activeW?: number }
  const { nominalV = 12 } = part.supply as ReadWindow
  supply.value = showWindow(part.supply as ReadWindow)
  amps.value = showQuantity(draw.activeA ?? (draw.activeW ?? 0) / nominalV, 'current')
})

const window = computed(() => readWindow(supply.value))
const current = computed(() => readQuantity(amps.value, 'current'))
const lengthM = computed(() => readQuantity(length.value, 'length', chosen.units))
const wire = computed(() => readConductor(conductor.value, chosen.units))
const wrong = computed(() => {
  const bad = [window.value, current.value, lengthM.value, wire.value].find(e => !e.ok)
  return bad && !bad.ok ? bad.wrong : ''
})
/** While it listens a radio takes about a twentieth. */
const LISTENS = 0.05
const asked = computed<Plan | null>(() => {
  if (!window.value.ok || !current.value.ok || !lengthM.value.ok || !wire.value.ok) return null
  const activeA = current.value.value
  const row = RADIOS.find(l => l.id === like.value)
  const load = {
    kind: 'radio',
    name: row?.label ?? 'Radio',
    supply: window.value.value,
    draw: { model: 'constant-current', idleA: LISTENS * activeA, activeA },
    ...(typeof row?.part.terminal === 'string' && { terminal: row.part.terminal }),
  } as Omit<Part, 'id'>
  const made = pairPlan({
    name: `${row?.label ?? 'Radio'} on ${OFFERED.sources.find(s => s.id === source.value)!.label}`.slice(0, 200),
    load,
    source: source.value,
    lengthM: lengthM.value.value,
    conductor: wire.value.value as Conductor,
  })
  const read = made && readPlan(made)
  return read?.ok ? read.plan : null
})
const { judged, problem: unjudged, mending } = usePreview(asked, 'asked')

const load = computed(() => asked.value?.parts.at(-1))
const arrival = computed(() => (load.value && judged.value?.verdict.arrivals[load.value.id]) ?? null)
const findings = computed(() => (judged.value?.verdict.findings ?? []).filter(f => f.severity !== 'note'))
const isBad = computed(() => findings.value.some(f => f.severity === 'fail' || f.severity === 'danger'))
const answer = computed(() => {
  if (!asked.value || !judged.value) return ''
  if (isBad.value) return 'It does not suit as it is'
  return findings.value.length ? 'It suits, with a caution' : 'It suits'
})
const arrives = computed(() => {
  if (!arrival.value || !window.value.ok) return ''
  const { minV, maxV } = window.value.value
  const come = `${volts(arrival.value.low.value)} to ${volts(arrival.value.high.value)} arrive`
  return `${come}; it needs ${volts(minV)} to ${volts(maxV)}.`
})
const ways = computed(() => mending.result.value?.ways ?? [])
const cautions = computed(() => (asked.value ? cautionsOf(asked.value) : []))

const problem = ref('')
async function keep(plan: Plan | null | undefined) {
  if (!plan) return
  try {
    const made = await stationsApi.create(plan, 'kept from “Does it suit?”')
    await navigateTo(`/station/${made.id}`)
  } catch (error) {
    problem.value = (error as Error).message
  }
}
</script>

<template>
  <div class="suits">
    <OuterBar />
    <main>
      <h1>Does it suit?</h1>
      <div class="fields">
        <label>The radio's supply <InputText v-model="supply" aria-label="Supply of the radio" /></label>
        <label>It takes, transmitting <InputText v-model="amps" aria-label="Current of the radio" /></label>
        <label
          >From
          <Select
            v-model="source"
            :options="OFFERED.sources"
            option-label="label"
            option-value="id"
            filter
            aria-label="Source"
        /></label>
      </div>
      <p class="aside">
        <Select
          v-model="like"
          :options="RADIOS"
          option-label="label"
          option-value="id"
          size="small"
          filter
          placeholder="or one like…"
          aria-label="A radio like" />
        <label>by <InputText v-model="length" size="small" aria-label="Length of the lead" /></label>
        <label>of <InputText v-model="conductor" size="small" aria-label="Conductor of the lead" /></label>
      </p>
      <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
      <section v-if="answer" class="answer" :class="{ bad: isBad }" aria-live="polite">
        <h2 data-testid="suits">{{ answer }}</h2>
        <p>{{ arrives }}</p>
        <ul v-if="findings.length">
          <li v-for="f in findings" :key="f.key">
            <SeverityMark :severity="f.severity" :size="18" /><span
              ><b>{{ f.title }}.</b> {{ f.message }}</span
            >
          </li>
        </ul>
        <p v-else>{{ judged?.passed.length }} checks passed.</p>
        <p v-if="ways.length && findings.length" class="way">
          <b>{{ isBad ? 'It would suit with:' : 'Without the caution:' }}</b>
          {{ ways[0]!.steps.map(s => s.label).join('; ') }}
        </p>
        <p v-else-if="mending.isBusy.value && findings.length" class="quiet">Looking for what would mend it…</p>
        <p class="keep">
          <Button label="Keep it as a station" size="small" severity="secondary" @click="keep(asked)" />
          <Button
            v-if="ways.length && findings.length"
            label="Keep it mended"
            size="small"
            @click="keep(ways[0]!.plan)" />
        </p>
        <p v-if="problem" class="bad" role="alert">{{ problem }}</p>
      </section>
      <p v-if="unjudged" class="bad" role="alert">It is not judged: {{ unjudged }}.</p>
      <!-- What stands under the first answer comes with it, or it would move away as that comes. -->
      <template v-if="judged || unjudged || !asked">
        <PathPreview :plan="asked" :judged="judged" />
        <p v-for="line in cautions" :key="line" class="mind"><b>Mind</b> {{ line }}</p>
      </template>
    </main>
  </div>
</template>

<style scoped>
main {
  max-width: 62rem;
  margin: 0 auto;
  padding: 1.2rem 1rem 2rem;
  display: grid;
  gap: 0.8rem;
}
h1 {
  font-size: 1.5rem;
}
.fields {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 15rem), 1fr));
  gap: 0.8rem;
}
.fields label {
  display: grid;
  gap: 0.2rem;
  font-weight: 600;
}
.aside {
  display: flex;
  gap: 0.6rem 1rem;
  align-items: center;
  flex-wrap: wrap;
  color: var(--ink-2);
}
.aside label {
  display: flex;
  gap: 0.4rem;
  align-items: center;
}
.aside :deep(input) {
  width: 6rem;
}
.answer {
  border-left: 4px solid var(--pass);
  padding: 0.2rem 0 0.2rem 1rem;
  display: grid;
  gap: 0.4rem;
}
.answer.bad {
  border-left-color: var(--fail);
}
h2 {
  font-size: 1.3rem;
  color: var(--pass);
}
.bad h2,
p.bad {
  color: var(--fail);
}
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.4rem;
}
li {
  display: flex;
  gap: 0.6rem;
}
.way {
  color: var(--ink-2);
}
.keep {
  display: flex;
  gap: 0.6rem;
  margin-top: 0.3rem;
}
.quiet {
  color: var(--ink-3);
}
.mind {
  font-size: 0.88rem;
}
</style>
