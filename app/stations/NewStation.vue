<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { chemistry } from '#core/catalog/chemistries'
import { catalogueOf, startingSources, startPlan } from '#core/plan/starter'
import type { Conductor, Plan } from '#core/plan/schema'
import { readConductor } from '#core/units/conductor'
import { readQuantity } from '#core/units/quantity'
import { counted } from '#core/units/words'
import { useMend } from '../mend/useMend'
import ternRock from '../../demo/tern-rock-light.json'
import heron from '../../demo/narrowboat-heron.json'
import moor from '../../demo/moor-walk-kit.json'
import cleanBench from '../../demo/clean-bench.json'
import { readPlan } from '#core/plan/faults'
import { usePreferences } from '../stores/preferences'

/** A station from four questions, mended before it is made, or from a demo. */
const visible = defineModel<boolean>('visible', { required: true })
const emit = defineEmits<{ create: [plan: Plan] }>()
const { chosen } = usePreferences()

const demos = [ternRock, heron, moor, cleanBench]
const loads = catalogueOf('load')
const sources = startingSources()
const name = ref('My station')
const counts = ref<Record<string, number>>({})
const source = ref('lifepo4-50')
const lengthText = ref('')
const conductorText = ref('')
watch(
  visible,
  open => {
    if (!open) return
    counts.value = { 'hf-100': 1 }
    lengthText.value = chosen.units.length === 'ft' ? '6 ft' : '2 m'
    conductorText.value = chosen.units.conductor === 'mm2' ? '6 mm2' : '10 AWG'
  },
  { immediate: true },
)

const length = computed(() => readQuantity(lengthText.value, 'length', chosen.units))
const conductor = computed(() => readConductor(conductorText.value, chosen.units))
const lengthWrong = computed(() => {
  if (!length.value.ok) return length.value.wrong
  return length.value.value > 0 && length.value.value <= 1000 ? '' : 'above 0 and at most 1000 m'
})
const plan = computed<Plan | null>(() => {
  if (lengthWrong.value || !length.value.ok || !conductor.value.ok) return null
  const chosenLoads = loads.flatMap(l => Array.from({ length: counts.value[l.id] ?? 0 }, () => l.id))
  const made = startPlan({
    name: name.value.trim() || 'My station',
    loads: chosenLoads,
    source: source.value,
    lengthM: length.value.value,
    conductor: conductor.value.value as Conductor,
  })
  if (!made) return null
  const read = readPlan({
    ...made,
    site: { ...made.site, ampacity: chosen.ampacity, fuseDistance: chosen.fuseDistance },
  })
  return read.ok ? read.plan : null
})
const { result, isBusy, look } = useMend()
watch(
  [visible, () => JSON.stringify(plan.value)],
  () => {
    if (visible.value && plan.value) void look(plan.value, { for: 'change', shelf: [], ownedOnly: false })
  },
  { immediate: true },
)
/** What is made: the station of the answers, mended. */
const mended = computed(() => (isBusy.value ? null : (result.value?.ways[0]?.plan ?? plan.value)))
const preview = computed(() => {
  if (!plan.value) return 'Choose at least one thing to power.'
  if (isBusy.value || !result.value) return 'Making it sound…'
  const { left, ways } = result.value
  const titles = (list: { title: string }[]) => list.map(l => l.title).join('; ')
  if (left.length) return `Not possible as asked: ${titles(left.slice(0, 2))}. Another source, or less on it?`
  const [way] = ways
  if (!way) return 'Passes every check as it stands.'
  const changes = way.steps.map(s => s.label).join('; ')
  return `Passes every check, with ${counted(way.steps.length, 'change')} to what you said: ${changes}.`
})
const caution = computed(() => {
  const part = sources.find(s => s.id === source.value)?.part
  return typeof part?.chemistry === 'string'
    ? chemistry(part.chemistry).caution
    : "Mains: leave the mains side to the supply's own case and cord."
})
const step = (id: string, by: number) =>
  (counts.value = { ...counts.value, [id]: Math.max(0, Math.min(9, (counts.value[id] ?? 0) + by)) })
function demo(file: unknown) {
  const read = readPlan(file)
  if (read.ok) emit('create', read.plan)
}
</script>

<template>
  <Dialog
    v-model:visible="visible"
    modal
    header="New station"
    :style="{ width: '62rem', maxWidth: '96vw' }"
    :draggable="false">
    <div class="questions">
      <label class="title">Name <InputText v-model="name" size="small" maxlength="200" autofocus /></label>
      <fieldset>
        <legend>1. What do you power?</legend>
        <div class="loads">
          <div v-for="load in loads" :key="load.id" class="load">
            <span>{{ load.label }}</span>
            <span class="count"
              ><button
                class="plain"
                :aria-label="`One ${load.label} less`"
                :disabled="!counts[load.id]"
                @click="step(load.id, -1)">
                −</button
              ><b>{{ counts[load.id] ?? 0 }}</b
              ><button class="plain" :aria-label="`One ${load.label} more`" @click="step(load.id, 1)">+</button></span
            >
          </div>
        </div>
      </fieldset>
      <fieldset>
        <legend>2. From what?</legend>
        <div class="sources">
          <label v-for="s in sources" :key="s.id" class="choice"
            ><input v-model="source" type="radio" name="source" :value="s.id" /> {{ s.label }}</label
          >
        </div>
        <p class="caution">{{ caution }}</p>
      </fieldset>
      <fieldset class="short">
        <legend>3. How far, from the fused block to each?</legend>
        <InputText v-model="lengthText" size="small" aria-label="How far" :invalid="Boolean(lengthWrong)" />
        <em v-if="lengthWrong" role="alert">{{ lengthWrong }}</em>
      </fieldset>
      <fieldset class="short">
        <legend>4. What wire do you own?</legend>
        <InputText v-model="conductorText" size="small" aria-label="What wire" :invalid="!conductor.ok" />
        <em v-if="!conductor.ok" role="alert">{{ conductor.wrong }}</em>
      </fieldset>
    </div>
    <p class="preview" aria-live="polite">{{ preview }}</p>
    <template #footer>
      <div class="foot">
        <span class="or">Or begin with a made-up one:</span>
        <Button v-for="d in demos" :key="d.name" :label="d.name" severity="secondary" size="small" @click="demo(d)" />
        <Button label="Make the station" :disabled="!plan || !mended" @click="mended && emit('create', mended)" />
      </div>
    </template>
  </Dialog>
</template>

<style scoped>
.questions {
  display: grid;
  grid-template-columns: 1.15fr 1fr;
  gap: 0.9rem 1.8rem;
}
.title {
  grid-column: 1 / -1;
  display: flex;
  gap: 0.8rem;
  align-items: center;
  font-weight: 600;
}
.title input {
  flex: 1;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
  min-width: 0;
}
legend {
  font-weight: 650;
  padding: 0 0 0.35rem;
}
.load {
  display: flex;
  justify-content: space-between;
  align-items: center;
  border-bottom: 1px solid var(--line);
}
.count {
  display: flex;
  align-items: center;
}
.count b {
  min-width: 1.4rem;
  text-align: center;
}
.choice {
  display: flex;
  gap: 0.5rem;
  padding: 0.22rem 0;
  align-items: center;
}
.caution {
  color: var(--caution);
  font-size: 0.88rem;
  margin-top: 0.4rem;
}
.preview {
  margin: 1rem 0 0;
  min-height: 2.6em;
  color: var(--ink-2);
}
.loads {
  columns: 2;
  column-gap: 1.4rem;
}
.load {
  break-inside: avoid;
}
.sources {
  columns: 2;
}
.foot {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
  justify-content: flex-end;
  width: 100%;
}
.or {
  color: var(--ink-3);
  margin-right: auto;
}
em {
  display: block;
  font-style: normal;
  color: var(--fail);
  font-size: 0.86rem;
  margin-top: 0.2rem;
}
@media (max-width: 760px) {
  .questions {
    grid-template-columns: 1fr;
  }
  .loads,
  .sources {
    columns: 1;
  }
}
</style>
