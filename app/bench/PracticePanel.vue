<script setup lang="ts">
import { computed, ref, shallowRef } from 'vue'
import { conditionsOf, conditionWords } from '#core/circuit/conditions'
import { drill, DRILLS, isRight, type DrillKind } from '#core/practice/drills'
import { faultsOf } from '#core/practice/faults'
import { hiddenIn, lookedAt, meterAt, scoreOf, type Hidden, type Score } from '#core/practice/hidden'
import { terminalName } from '#core/plan/names'
import type { Plan } from '#core/plan/schema'
import { fixed, readNumber } from '#core/units/number'
import SeverityMark from '../findings/SeverityMark.vue'
import { useViews } from '../shell/useViews'
import PickOne from '../shell/PickOne.vue'

/** Practice: a fault hidden in this station, to be found with a meter and one's eyes; and short sums. */
defineOptions({ inheritAttrs: false })
const props = defineProps<{ plan: Plan }>()
const viewOf = useViews()
const fresh = () => Math.floor(Math.random() * 1e6)

const hidden = shallowRef<Hidden | null>(null)
const nothing = ref(false)
const notes = ref<string[]>([])
const used = ref<{ conditions: string[]; looks: number }>({ conditions: [], looks: 0 })
const score = ref<Score | null>(null)
function hide() {
  hidden.value = hiddenIn(props.plan, fresh())
  nothing.value = !hidden.value
  notes.value = []
  used.value = { conditions: [], looks: 0 }
  score.value = null
  guess.value = null
}
const landed = computed(() => [...new Set(props.plan.leads.flatMap(l => [l.from, l.to]))])
const points = computed(() => landed.value.map(id => ({ id, label: terminalName(props.plan, id) })))
const conditions = computed(() =>
  conditionsOf(props.plan).map(c => ({ id: c.id, label: conditionWords(props.plan, c.id) })),
)
const places = computed(() => faultsOf(props.plan).map(({ fault }) => ({ id: fault.place, label: fault.words })))
const at = ref<string | null>(null)
const condition = ref<string | null>(null)
const place = ref<string | null>(null)
const guess = ref<string | null>(null)
const labelOf = (list: { id: string; label: string }[], id: string) => list.find(x => x.id === id)?.label ?? id
function read() {
  if (!hidden.value || !at.value || !condition.value) return
  used.value.conditions.push(condition.value)
  const v = meterAt(hidden.value, at.value, condition.value, used.value.conditions.length)
  notes.value.unshift(
    `${labelOf(points.value, at.value)}, ${labelOf(conditions.value, condition.value)}: ${fixed(v, 2)} V`,
  )
}
function look() {
  if (!hidden.value || !place.value) return
  used.value.looks++
  notes.value.unshift(`Whether ${labelOf(places.value, place.value)}: ${lookedAt(hidden.value, place.value)}`)
}
function say() {
  if (hidden.value && guess.value) score.value = scoreOf(hidden.value, guess.value, used.value)
}

// Short sums.
const kinds = Object.keys(DRILLS) as DrillKind[]
const asked = shallowRef(drill(kinds[0]!, fresh()))
const text = ref('')
const answered = ref<boolean | null>(null)
const wrong = ref(false)
const tally = ref({ right: 0, all: 0 })
const choices = computed(() => ('choice' in asked.value.answer ? asked.value.answer.of : null))
const unit = computed(() => ('unit' in asked.value.answer ? asked.value.answer.unit : ''))
function answer(given: string) {
  const figure = readNumber(given.replace(/[a-z°]+$/i, '').trim())
  if (!choices.value && !figure.ok) return void (wrong.value = true)
  wrong.value = false
  answered.value = isRight(asked.value, !choices.value && figure.ok ? figure.value : given)
  tally.value = { right: tally.value.right + (answered.value ? 1 : 0), all: tally.value.all + 1 }
}
function next() {
  asked.value = drill(kinds[Math.floor(Math.random() * kinds.length)]!, fresh())
  text.value = ''
  answered.value = null
}
</script>

<template>
  <section data-testid="hidden">
    <h2>Find the fault</h2>
    <p class="quiet">One thing of this station is made bad, in a copy that nobody keeps. Meter, look, and say which.</p>
    <Button :label="hidden ? 'Another one' : 'Hide a fault'" size="small" @click="hide" />
    <p v-if="nothing">Nothing of this plan can go bad so that anybody would notice.</p>
    <template v-if="hidden">
      <p class="complaint">“{{ hidden.complaint }}”</p>
      <form class="entry" @submit.prevent="read">
        <PickOne v-model="at" :options="points" placeholder="meter at" label="Meter at" />
        <PickOne v-model="condition" :options="conditions" placeholder="with" label="With what on" />
        <Button type="submit" label="Read" size="small" severity="secondary" :disabled="!at || !condition" />
      </form>
      <form class="entry" @submit.prevent="look">
        <PickOne v-model="place" :options="places" is-many placeholder="look whether" label="Look whether" />
        <Button type="submit" label="Look" size="small" severity="secondary" :disabled="!place" />
      </form>
      <form class="entry" @submit.prevent="say">
        <PickOne v-model="guess" :options="places" is-many placeholder="it is this" label="What it is" />
        <Button type="submit" label="That is it" size="small" :disabled="!guess || score !== null" />
      </form>
      <p v-if="score" class="score" role="status" data-testid="score">
        <SeverityMark :severity="score.right ? 'passed' : 'fail'" :size="18" />
        <span
          ><b>{{ score.points }} of 100.</b> {{ score.words }}</span
        >
      </p>
      <p class="quiet">{{ used.conditions.length }} readings, {{ used.looks }} looks</p>
      <ul>
        <li v-for="(n, i) in notes" :key="i">{{ n }}</li>
      </ul>
    </template>
  </section>
  <p class="quiet noise">
    A noise hidden among this station’s devices is found in
    <NuxtLink :to="viewOf('quiet')">Noise</NuxtLink>: “Practise on a made-up fault”.
  </p>
  <section data-testid="drill">
    <h2>Short sums</h2>
    <p class="asks">{{ asked.asks }}</p>
    <form v-if="answered === null" class="entry" @submit.prevent="answer(text)">
      <template v-if="choices">
        <Button v-for="c in choices" :key="c" :label="c" size="small" severity="secondary" @click="answer(c)" />
      </template>
      <template v-else>
        <InputText v-model="text" size="small" inputmode="decimal" :placeholder="unit" aria-label="Your answer" />
        <Button type="submit" label="That is it" size="small" :disabled="!text.trim()" />
      </template>
    </form>
    <p v-if="wrong" class="bad" role="alert">A figure, as 11.7.</p>
    <template v-if="answered !== null">
      <p class="score" role="status">
        <SeverityMark :severity="answered ? 'passed' : 'fail'" :size="18" />
        <span
          ><b>{{ answered ? 'Right.' : 'No.' }}</b> {{ asked.why }}</span
        >
      </p>
      <Button label="Next" size="small" @click="next" />
    </template>
    <p v-if="tally.all" class="quiet">{{ tally.right }} of {{ tally.all }} right</p>
  </section>
</template>

<style scoped>
section {
  margin-bottom: 1.6rem;
}
.noise {
  margin-bottom: 1.6rem;
}
h2 {
  font-size: 1.15rem;
  margin-bottom: 0.3rem;
}
.quiet {
  color: var(--ink-3);
  margin: 0.3rem 0;
}
.bad {
  color: var(--fail);
}
.complaint,
.asks {
  font-size: 1.1rem;
  font-weight: 600;
  margin: 0.7rem 0;
  max-width: 46rem;
}
.entry {
  display: flex;
  flex-wrap: wrap;
  gap: 0.45rem;
  margin: 0.45rem 0;
}
.entry > :deep(.p-select) {
  width: 21rem;
  max-width: 100%;
}
.score {
  display: flex;
  gap: 0.5rem;
  align-items: start;
  margin: 0.5rem 0;
  max-width: 50rem;
}
.score svg {
  flex: none;
}
ul {
  margin: 0;
  padding-left: 1.1rem;
}
</style>
