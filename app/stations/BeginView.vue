<script setup lang="ts">
import { computed, markRaw, ref, watch } from 'vue'
import { isSerious } from '#core/checks/check'
import { cautionsOf } from '#core/sheets/cautions'
import { capital, counted } from '#core/units/words'
import SeverityMark from '../findings/SeverityMark.vue'
import OuterBar from '../shell/OuterBar.vue'
import { stationsApi } from '../stores/stationsApi'
import OwnLoad from './OwnLoad.vue'
import PathPreview from './PathPreview.vue'
import { OFFERED, useBeginning } from './useBeginning'
import { usePreview } from './usePreview'

/** A station of one's own from four questions: its path grows beside them, mended already. */
const { answers, isStore, loads, totalA, lengthWrong, conductorWrong, plan: asked, fittingSupply } = useBeginning()
const { plan, judged, problem: unjudged, mending, isReady } = usePreview(asked, 'mended')

// 1. What is powered.
const search = ref('')
const telling = ref(false)
const shown = computed(() => {
  const wanted = search.value.trim().toLowerCase()
  return OFFERED.loads.filter(l => l.label.toLowerCase().includes(wanted) || answers.counts[l.id])
})
const MOST_OF_ONE = 9
const step = (id: string, by: number) =>
  (answers.counts[id] = Math.max(0, Math.min(MOST_OF_ONE, (answers.counts[id] ?? 0) + by)))

// 2. From what.
const BESIDE = [
  { id: 'mains', label: 'Mains supply beside it, through a gate', rows: OFFERED.mains },
  { id: 'sun', label: 'Sun fills it, through a controller', rows: OFFERED.sun },
  { id: 'vehicle', label: 'A vehicle fills it, through a DC-DC charger', rows: OFFERED.vehicle },
] as const
type Beside = (typeof BESIDE)[number]['id']
function tick(id: Beside, isOn: boolean) {
  const first = { mains: fittingSupply(), sun: 'panel-100', vehicle: 'vehicle-12' }[id]
  answers[id] = isOn ? first : null
}
// A supply that was chosen by the program goes with what hangs on it.
watch(totalA, () => answers.mains && (answers.mains = fittingSupply()))

const cautions = computed(() => (plan.value ? cautionsOf(plan.value) : []))
const left = computed(() => (isReady.value && mending.result.value?.left) || [])
const changes = computed(() => (isReady.value && mending.result.value?.ways[0]?.steps) || [])
const isPossible = computed(() => !left.value.some(isSerious))
const whyNot = computed(() => (isReady.value ? unjudged.value || mending.problem.value : ''))
/** In one line; what was changed and what is left stand below it. */
const verdict = computed(() => {
  if (!loads.value.length) return 'Choose at least one thing to power.'
  if (!asked.value) return 'Something above cannot be read yet.'
  if (!isReady.value) return 'Making it sound…'
  if (whyNot.value) return `It is not judged: ${whyNot.value}.`
  if (!isPossible.value) return 'Not possible as asked. Another source, or less on it?'
  const many = changes.value.length
  if (left.value.length)
    return (
      `No danger and no failure is found${many ? `, with ${counted(many, 'change')}` : ''}. ` +
      `${capital(counted(left.value.length, 'caution'))} to look at.`
    )
  return many ? `Passes every check, with ${counted(many, 'change')}.` : 'Passes every check as it stands.'
})

const wrong = ref('')
async function make() {
  if (!plan.value) return
  try {
    const made = await stationsApi.create(plan.value, 'from four questions')
    await navigateTo(`/station/${made.id}`)
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
</script>

<template>
  <div class="begin">
    <OuterBar />
    <main>
      <section class="questions" aria-label="Questions">
        <h1>Plan my own</h1>
        <label class="title">Name <InputText v-model="answers.name" size="small" maxlength="200" /></label>
        <fieldset>
          <legend>1. What do you power?</legend>
          <InputText v-model="search" size="small" placeholder="Search" aria-label="Search what there is" />
          <div v-for="load in shown" :key="load.id" class="load" :class="{ some: answers.counts[load.id] }">
            <span>{{ load.label }}</span>
            <span class="count"
              ><button
                :aria-label="`One ${load.label} less`"
                :disabled="!answers.counts[load.id]"
                @click="step(load.id, -1)">
                −</button
              ><b>{{ answers.counts[load.id] ?? 0 }}</b
              ><button :aria-label="`One ${load.label} more`" @click="step(load.id, 1)">+</button></span
            >
          </div>
          <div v-for="(part, i) in answers.own" :key="i" class="load some">
            <span>{{ part.name }}, from its manual</span>
            <button class="plain" :aria-label="`Take ${part.name} out`" @click="answers.own.splice(i, 1)">
              Take out
            </button>
          </div>
          <OwnLoad
            v-if="telling"
            @add="
              part => {
                answers.own.push(markRaw(part))
                telling = false
              }
            "
            @close="telling = false" />
          <button v-else class="plain" @click="telling = true">From my manual…</button>
        </fieldset>
        <fieldset>
          <legend>2. From what?</legend>
          <Select
            v-model="answers.source"
            :options="OFFERED.sources"
            option-label="label"
            option-value="id"
            size="small"
            filter
            aria-label="From what" />
          <template v-if="isStore">
            <div v-for="b in BESIDE" :key="b.id" class="beside">
              <label
                ><input
                  type="checkbox"
                  :checked="answers[b.id] !== null"
                  @change="e => tick(b.id, (e.target as HTMLInputElement).checked)" />
                {{ b.label }}</label
              >
              <Select
                v-if="answers[b.id] !== null"
                v-model="answers[b.id]"
                :options="b.rows"
                option-label="label"
                option-value="id"
                size="small"
                :aria-label="b.label" />
            </div>
          </template>
          <p v-else class="quiet">With a pack: mains, sun or a vehicle beside it.</p>
        </fieldset>
        <div class="pair">
          <label
            >3. How far, from the block to each?
            <InputText v-model="answers.length" size="small" aria-label="How far" :invalid="Boolean(lengthWrong)" />
            <em v-if="lengthWrong" role="alert">{{ lengthWrong }}</em></label
          >
          <label
            >4. What wire do you own?
            <InputText
              v-model="answers.conductor"
              size="small"
              aria-label="What wire"
              :invalid="Boolean(conductorWrong)" />
            <em v-if="conductorWrong" role="alert">{{ conductorWrong }}</em></label
          >
        </div>
      </section>
      <section class="grows" aria-label="The path so far">
        <div class="make">
          <p :class="{ bad: !isPossible || whyNot }" aria-live="polite" data-testid="begin-verdict">{{ verdict }}</p>
          <Button label="Make the station" :disabled="!plan || !isReady" @click="make" />
        </div>
        <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
        <ul v-if="left.length || changes.length" class="why" aria-label="What was changed, and what is left">
          <li v-for="finding in left" :key="finding.message">
            <SeverityMark :severity="finding.severity" :size="17" /><span>{{ finding.title }}</span>
          </li>
          <li v-for="change in changes" :key="change.label"><b>Changed</b> {{ change.label }}</li>
        </ul>
        <PathPreview class="pane" :plan="plan" :judged="judged" />
        <p v-for="line in cautions" :key="line" class="mind"><b>Mind</b> {{ line }}</p>
      </section>
    </main>
  </div>
</template>

<style scoped>
.begin {
  height: 100vh;
  display: flex;
  flex-direction: column;
}
main {
  flex: 1;
  min-height: 0;
  display: grid;
  grid-template-columns: 21rem minmax(0, 1fr);
}
.questions {
  overflow: auto;
  padding: 0.9rem 1rem 2rem;
  border-right: 1px solid var(--line-2);
  display: grid;
  gap: 0.8rem;
  align-content: start;
}
h1 {
  font-size: 1.3rem;
}
.title {
  display: grid;
  grid-template-columns: auto 1fr;
  gap: 0.7rem;
  align-items: center;
  font-weight: 600;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
  min-width: 0;
}
fieldset > :deep(.p-inputtext),
fieldset > :deep(.p-select) {
  width: 100%;
}
legend,
.pair label {
  font-weight: 650;
  padding: 0 0 0.3rem;
}
.load {
  display: flex;
  justify-content: space-between;
  align-items: center;
  border-bottom: 1px solid var(--line);
  min-height: 2.1rem;
}
.load.some {
  font-weight: 600;
}
.count {
  display: flex;
  align-items: center;
}
.count b {
  min-width: 1.4rem;
  text-align: center;
}
.count button {
  width: 2.1rem;
  height: 2.1rem;
  border: 0;
  border-radius: 6px;
  background: none;
  font-size: 1.15rem;
  cursor: pointer;
}
.count button:hover:not(:disabled) {
  background: var(--choice);
}
.count button:disabled {
  color: var(--ink-3);
  cursor: default;
}
.beside {
  display: grid;
  gap: 0.3rem;
  padding: 0.35rem 0;
}
.beside label {
  display: flex;
  gap: 0.5rem;
  align-items: center;
}
.pair {
  display: grid;
  grid-template-columns: 1fr;
  gap: 0.7rem;
}
.pair label {
  display: grid;
  gap: 0.3rem;
}
em {
  font-style: normal;
  font-weight: 400;
  font-size: 0.85rem;
  color: var(--fail);
}
.grows {
  display: flex;
  flex-direction: column;
  min-width: 0;
  min-height: 0;
  padding-bottom: 0.6rem;
}
.make {
  display: flex;
  gap: 1rem;
  align-items: center;
  justify-content: space-between;
  padding: 0.7rem 1rem;
  border-bottom: 1px solid var(--line);
}
.make p {
  font-weight: 600;
}
.make :deep(button) {
  flex: none;
}
p.bad,
.make p.bad {
  color: var(--fail);
}
.why {
  margin: 0;
  padding: 0.6rem 1rem;
  list-style: none;
  display: grid;
  gap: 0.25rem;
  border-bottom: 1px solid var(--line);
  font-size: 0.92rem;
}
.why li {
  display: flex;
  gap: 0.6rem;
}
.why b {
  flex: none;
  color: var(--ink-2);
}
.pane {
  flex: 1;
  min-height: 8rem;
}
.mind {
  padding: 0.1rem 1rem;
  font-size: 0.88rem;
}
.quiet {
  color: var(--ink-3);
  padding-top: 0.3rem;
}
@media (max-width: 760px) {
  .begin {
    height: auto;
  }
  main {
    grid-template-columns: 1fr;
  }
  .questions {
    border-right: 0;
    overflow: visible;
  }
  .count button {
    width: 44px;
    height: 44px;
  }
  .begin {
    padding-bottom: 7rem;
  }
  .make {
    position: fixed;
    inset: auto 0 0;
    background: var(--paper);
    border-top: 1px solid var(--line-2);
    z-index: 4;
  }
}
</style>
