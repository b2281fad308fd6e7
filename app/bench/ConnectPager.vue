<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { meaningOf, type Meaning } from '#core/commission/expected'
import { PHASES, type Phase } from '#core/commission/step'
import { restedOf } from '#core/commission/rested'
import type { Log } from '#core/log/log'
import { partById } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import { asGiven, fixed, readNumber } from '#core/units/number'
import SeverityMark from '../findings/SeverityMark.vue'
import { useInAddress } from '../shell/useInAddress'
import { freshId, nowText, useLog } from '../stores/log'
import { useStation } from '../stores/station'
import SettingForm from './SettingForm.vue'
import { plain, useBench } from './useBench'

/** The station put together, one step a screen: what to do, what to see, where to stop. */
const props = defineProps<{ plan: Plan; log: Log }>()
const store = useLog()
const station = useStation()
const today = nowText().slice(0, 10)

const { answer, problem } = useBench(
  () => [props.plan, props.log.readings, props.log.settings] as const,
  client => client.call('commission', plain(props.plan), plain(props.log), today),
)
const steps = computed(() => answer.value?.steps ?? [])
const done = computed(() => new Map(props.log.steps.map(s => [s.id, s])))
const firstLeft = computed(() => steps.value.find(s => !done.value.has(s.id))?.id ?? steps.value[0]?.id ?? '')
const asked = useInAddress<string>('step', '')
const at = computed(() => {
  const wanted = asked.value || firstLeft.value
  return Math.max(
    0,
    steps.value.findIndex(s => s.id === wanted),
  )
})
const step = computed(() => steps.value[at.value] ?? null)
const isDone = computed(() => step.value !== null && done.value.has(step.value.id))
const phases = computed(() =>
  (Object.keys(PHASES) as Phase[]).flatMap(id => {
    const its = steps.value.filter(s => s.phase === id)
    if (!its.length) return []
    return [{ id, label: PHASES[id], count: its.length, done: its.filter(s => done.value.has(s.id)).length }]
  }),
)
function goTo(index: number) {
  const next = steps.value[index]
  if (next) asked.value = next.id
}
const toPhase = (id: Phase) => {
  const its = steps.value.filter(s => s.phase === id)
  asked.value = (its.find(s => !done.value.has(s.id)) ?? its[0]!).id
}
function finish() {
  if (!step.value) return
  const { id } = step.value
  const next = at.value + 1
  if (!isDone.value) store.put('steps', { id, time: nowText(), revision: station.revision } as never, 'step done')
  goTo(next)
}
const undo = () => step.value && store.drop('steps', step.value.id, 'step taken back')

// What was read at this step, and what it means.
const text = ref('')
const wrong = ref(false)
const isOf = (r: Log['readings'][number]) => {
  const reading = step.value?.reading
  return r.at === reading?.at && r.condition === reading.condition && r.note === reading.member?.name
}
const reading = computed(() => props.log.readings.filter(r => isOf(r) && r.time.startsWith(today)).at(-1) ?? null)
// By its id: what is typed stays while the worker answers anew.
watch(
  () => step.value?.id,
  () => {
    text.value = ''
    wrong.value = false
  },
)
const expectation = computed(() => (step.value && answer.value?.expected[step.value.id]) || null)
const meaning = computed<Meaning | null>(() =>
  step.value?.reading && reading.value?.volts !== undefined
    ? meaningOf(props.plan, step.value, reading.value.volts, expectation.value)
    : null,
)
/** A meter on the volts of a station shows no more. */
const MOST_V = 1000
const SENSE = 3
const odd = ref('')
function take() {
  const read = readNumber(text.value.replace(/v$/i, '').trim())
  wrong.value = !read.ok || Math.abs(read.value) > MOST_V
  if (wrong.value || !read.ok || !step.value?.reading) return
  const { at: place, condition, member } = step.value.reading
  const should = expectation.value?.expected ?? restedOf(partById(props.plan, place)!)?.fullV ?? 14
  odd.value =
    Math.abs(read.value) > SENSE * should ? `${asGiven(read.value)} V is out of any reason here: a point was lost.` : ''
  if (odd.value) return
  const entry = {
    id: freshId(),
    time: nowText(),
    at: place,
    condition,
    volts: read.value,
    revision: station.revision,
    ...(member && { note: member.name }),
  }
  store.put('readings', entry, 'reading')
  text.value = ''
}
const MARKS = { good: 'passed', off: 'caution', stop: 'danger' } as const
const faults = computed(() => answer.value?.settings.filter(f => f.part === step.value?.setting) ?? [])
/** A figure or a setting at which one stops. */
const isStopped = computed(
  () => !isDone.value && (meaning.value?.verdict === 'stop' || faults.value.some(f => f.danger)),
)
const shownDown = ref(false)
const card = ref<HTMLElement>()
watch(at, () => nextTick(() => card.value?.focus({ preventScroll: true })))
</script>

<template>
  <p v-if="problem" role="alert" class="bad">{{ problem }}</p>
  <div v-if="step" class="pager">
    <nav class="phases" aria-label="Parts of the work">
      <button
        v-for="p in phases"
        :key="p.id"
        class="chip"
        :class="{ on: p.id === step.phase }"
        :aria-current="p.id === step.phase ? 'step' : undefined"
        @click="toPhase(p.id)">
        {{ p.label }} <span>{{ p.done === p.count ? '✓' : `${p.done}/${p.count}` }}</span>
      </button>
    </nav>
    <article
      ref="card"
      tabindex="-1"
      :class="{ done: isDone }"
      data-testid="step"
      @keydown.left.self="goTo(at - 1)"
      @keydown.right.self="goTo(at + 1)"
      @keydown.enter.self="finish">
      <p class="count">Step {{ at + 1 }} of {{ steps.length }}{{ isDone ? ' · done' : '' }}</p>
      <h1>{{ step.does }}</h1>
      <p v-if="step.caution" class="caution"><SeverityMark severity="caution" :size="18" /> {{ step.caution }}</p>
      <dl>
        <dt>See</dt>
        <dd>{{ step.see }}</dd>
        <template v-if="step.reading">
          <dt>Read</dt>
          <dd>
            <p v-if="expectation" class="should" data-testid="should">
              {{ fixed(expectation.expected, 2) }} ± {{ fixed(expectation.tolerance, 2) }} V
              <span>{{ step.condition }}</span>
            </p>
            <p v-else class="quiet">{{ step.condition }}</p>
            <form @submit.prevent="take">
              <label
                ><span class="sr">Volts read</span
                ><InputText v-model="text" inputmode="decimal" placeholder="volts" aria-label="Volts read" size="large"
              /></label>
              <Button type="submit" label="Take it" severity="secondary" :disabled="!text.trim()" />
            </form>
            <p v-if="wrong" class="bad" role="alert">Volts as the meter shows them: 12.83, or −12.83.</p>
            <p v-if="odd" class="bad" role="alert">{{ odd }} It was not taken.</p>
            <p v-if="meaning && reading" class="meaning" :class="meaning.verdict" role="status" data-testid="meaning">
              <SeverityMark :severity="MARKS[meaning.verdict]" :size="18" />
              <span
                ><b>{{ fixed(reading.volts!, 2) }} V</b> {{ meaning.words }}</span
              >
              <button class="plain" @click="store.drop('readings', reading.id, 'reading taken out')">
                Take it out
              </button>
            </p>
          </dd>
        </template>
        <template v-if="step.setting">
          <dt>Set</dt>
          <dd>
            <SettingForm :key="step.setting" :plan="plan" :part="step.setting" :log="log" />
            <p v-for="f in faults" :key="f.words" class="meaning" :class="f.danger ? 'stop' : 'off'" role="status">
              <SeverityMark :severity="f.danger ? 'danger' : 'caution'" :size="18" /> {{ f.words }}
            </p>
          </dd>
        </template>
        <dt>Stop if</dt>
        <dd class="stopif">{{ step.stopIf }}</dd>
        <dt>Why</dt>
        <dd class="quiet">{{ step.why }}</dd>
      </dl>
    </article>
    <div class="move">
      <Button label="Back" severity="secondary" :disabled="at === 0" @click="goTo(at - 1)" />
      <button v-if="isDone" class="plain" @click="undo">Not done after all</button>
      <Button :label="isDone ? 'Next' : 'Done, next'" class="next" :disabled="isStopped" @click="finish" />
    </div>
    <p v-if="isStopped" class="quiet">Mend it and look again before you go on.</p>
    <details :open="shownDown" @toggle="e => (shownDown = (e.target as HTMLDetailsElement).open)">
      <summary>Take it down again</summary>
      <ol>
        <li v-for="line in answer!.takeDown" :key="line">{{ line }}</li>
      </ol>
    </details>
    <p class="quiet">
      What is typed here is kept, also where the server does not answer. A step that is done says that somebody looked,
      not that nothing can happen: local codes and a licensed electrician go before it.
    </p>
  </div>
  <p v-else-if="answer">Nothing to put together yet: the plan has no leads.</p>
</template>

<style scoped>
.phases {
  display: flex;
  flex-wrap: wrap;
  gap: 0.35rem;
  margin-bottom: 0.9rem;
}
.phases span {
  font-size: 0.88em;
}
article {
  outline: none;
  border-top: 4px solid var(--copper);
  background: var(--sheet);
  padding: 1rem 1.2rem 1.1rem;
  border-radius: 0 0 8px 8px;
}
article.done {
  border-top-color: var(--line-2);
}
.count {
  color: var(--ink-3);
  font-size: 0.88rem;
}
h1 {
  font-size: 1.3rem;
  line-height: 1.35;
  font-weight: 600;
  margin: 0.2rem 0 0.8rem;
  max-width: 46rem;
  overflow-wrap: anywhere;
}
.caution {
  display: flex;
  gap: 0.5rem;
  align-items: start;
  margin-bottom: 0.8rem;
  font-weight: 550;
  max-width: 46rem;
}
.caution svg,
.meaning svg {
  flex: none;
  margin-top: 0.1rem;
}
dl {
  display: grid;
  grid-template-columns: 4.6rem 1fr;
  gap: 0.55rem 0.8rem;
  margin: 0;
  max-width: 46rem;
}
dt {
  color: var(--ink-3);
}
dd {
  margin: 0;
}
.should {
  font-size: 1.5rem;
  font-weight: 600;
  line-height: 1.2;
}
.should span {
  font-size: 0.93rem;
  font-weight: 400;
  color: var(--ink-3);
  margin-left: 0.4rem;
}
form {
  display: flex;
  gap: 0.5rem;
  margin: 0.4rem 0;
}
form :deep(input) {
  width: 9rem;
  font-size: 1.2rem;
}
.sr {
  position: absolute;
  clip-path: inset(50%);
  width: 1px;
  height: 1px;
  overflow: hidden;
}
.meaning {
  display: flex;
  gap: 0.5rem;
  align-items: start;
  margin-top: 0.4rem;
}
.meaning .plain {
  padding-block: 0;
  white-space: nowrap;
}
.meaning.stop,
.bad {
  color: var(--fail);
}
.stopif {
  font-weight: 550;
}
.quiet {
  color: var(--ink-3);
}
.move {
  display: flex;
  gap: 0.6rem;
  align-items: center;
  margin: 0.9rem 0;
}
.next {
  margin-left: auto;
  min-width: 11rem;
}
details {
  margin: 1.2rem 0 0.6rem;
}
summary {
  cursor: pointer;
  color: var(--ink-2);
}
@media (max-width: 760px) {
  article {
    padding: 0.8rem 0.9rem 1rem;
    margin-inline: -0.9rem;
    border-radius: 0;
  }
  dl {
    grid-template-columns: 1fr;
    gap: 0.1rem;
  }
  dd {
    margin-bottom: 0.6rem;
  }
  .phases {
    flex-wrap: nowrap;
    overflow-x: auto;
    margin-inline: -0.9rem;
    padding-inline: 0.9rem;
  }
  .phases button {
    white-space: nowrap;
    flex: none;
  }
  .move {
    position: fixed;
    inset: auto 0 0 0;
    margin: 0;
    padding: 0.6rem 0.9rem calc(0.6rem + env(safe-area-inset-bottom));
    background: var(--paper);
    border-top: 1px solid var(--line-2);
    z-index: 5;
  }
  .next {
    min-height: max(3rem, 44px);
    flex: 1;
  }
}
</style>
