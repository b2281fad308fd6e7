<script setup lang="ts">
import { computed, ref } from 'vue'
import { loadsOf } from '#core/circuit/conditions'
import type { Log } from '#core/log/log'
import { nameOf } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import { SYMPTOMS, type Symptom } from '#core/symptoms/symptom'
import type { PowerFinding } from '#core/symptoms/believe'
import { metered } from '#core/symptoms/meter'
import { powerTest } from '#core/symptoms/tests'
import { asGiven } from '#core/units/number'
import { percent } from '#core/units/show'
import SeverityMark from '../findings/SeverityMark.vue'
import Icon from '../shell/Icon.vue'
import { freshId, nowText, useLog } from '../stores/log'
import { plain, useBench } from './useBench'
import PickOne from '../shell/PickOne.vue'
import MeteredFinding from './MeteredFinding.vue'

/** Something is wrong with the power: what it comes of, by the plan's own numbers, and the test that tells most. */
const props = defineProps<{ plan: Plan; log: Log }>()
const store = useLog()
const symptoms = (Object.keys(SYMPTOMS) as Symptom[]).map(id => ({ id, label: SYMPTOMS[id] }))
const loads = computed(() => loadsOf(props.plan).map(l => ({ id: l.id, label: nameOf(l) })))

const chosen = ref<string | null>(props.log.symptoms.at(-1)?.id ?? null)
const about = computed(() => props.log.symptoms.find(s => s.id === chosen.value) ?? null)
function begin(symptom: Symptom) {
  const at = loads.value[0]?.id
  const entry = { id: freshId(), time: nowText(), symptom, findings: [], ...(at && { at }) }
  store.put('symptoms', entry, 'symptom')
  chosen.value = entry.id
}
function change(more: object, label: string) {
  if (about.value) store.put('symptoms', { ...about.value, ...more }, label)
}
const found = (finding: PowerFinding) =>
  change({ findings: [...about.value!.findings.filter(f => f.test !== finding.test), finding] }, 'what was found')
const forget = (test: string) =>
  change({ findings: about.value!.findings.filter(f => f.test !== test) }, 'finding taken back')

const { answer, problem } = useBench(
  () => [props.plan, about.value, props.log.readings, props.log.seen] as const,
  client => {
    if (!about.value) return null
    const { symptom, at, findings } = about.value
    return client.call('symptom', plain(props.plan), plain({ symptom, findings, ...(at && { at }) }), plain(props.log))
  },
)
const MOST = 6
const causes = computed(() => (answer.value?.causes ?? []).slice(0, MOST))
const most = computed(() => causes.value[0]?.probability ?? 1)
const outcomeWords = (test: string, outcome: string | null) =>
  powerTest(test)?.outcomes.find(o => o.id === outcome)?.label ?? outcome ?? 'not counted'
/** "11.2 V: it falls under the radio's least (HF radio needs 11.70 V)"; the figure alone until the answer is there. */
function findingWords({ test, outcome, read, before }: PowerFinding, i: number): string {
  if (read === undefined) return outcomeWords(test, outcome ?? null)
  const unit = metered(test)?.unit ?? ''
  const figures = before === undefined ? `${read} ${unit}` : `${before} ${unit}, then ${read} ${unit}`
  const taken = answer.value?.taken[i]
  return taken ? `${figures}: ${outcomeWords(test, taken.outcome)} (${taken.against})` : figures
}
</script>

<template>
  <div class="asks">
    <PickOne
      :model-value="about?.symptom"
      :options="symptoms"
      placeholder="What happens?"
      label="What happens"
      @update:model-value="v => (about ? change({ symptom: v, findings: [] }, 'symptom') : begin(v))" />
    <PickOne
      v-if="about && loads.length"
      :model-value="about.at"
      :options="loads"
      label="With which load"
      @update:model-value="v => change({ at: v }, 'which load')" />
    <button v-if="about" class="plain" @click="chosen = null">Something else</button>
    <button v-for="s in log.symptoms.filter(x => x.id !== chosen)" :key="s.id" class="chip" @click="chosen = s.id">
      {{ s.time.slice(0, 10) }}: {{ SYMPTOMS[s.symptom] }}
    </button>
  </div>
  <p v-if="problem" role="alert" class="bad">{{ problem }}</p>
  <template v-if="about && answer">
    <section data-testid="causes">
      <h2>It comes most likely of</h2>
      <ol>
        <li v-for="c in causes" :key="c.id">
          <span class="share">{{ percent(c.probability) }}</span>
          <span class="bar" :style="{ width: `${(100 * c.probability) / most}%` }" aria-hidden="true" />
          <span class="words"
            >{{ c.words }}<em v-if="c.why"> {{ c.why }}</em></span
          >
        </li>
      </ol>
      <p v-for="t in answer.together" :key="t.words" class="both">
        <b>Or both at once, {{ percent(t.probability) }}:</b> {{ t.words }}
      </p>
    </section>
    <section v-if="answer.next.length" data-testid="next-test">
      <h2>Do next</h2>
      <article v-for="(n, i) in answer.next.slice(0, 3)" :key="n.test.id" :class="{ first: i === 0 }">
        <h3>
          {{ n.test.label }} <span>{{ asGiven(n.test.minutes) }} min</span>
        </h3>
        <p v-if="n.test.caution" class="caution"><SeverityMark severity="caution" :size="16" /> {{ n.test.caution }}</p>
        <div class="outcomes">
          <button v-for="o in n.outcomes" :key="o.id" @click="found({ test: n.test.id, outcome: o.id })">
            <b>{{ o.label }}</b> <span>{{ o.means }}</span>
          </button>
        </div>
        <MeteredFinding v-if="n.metered" :metered="n.metered" @found="f => found({ test: n.test.id, ...f })" />
      </article>
    </section>
    <section v-if="about.findings.length">
      <h2>Found so far</h2>
      <p v-for="(f, i) in about.findings" :key="f.test">
        {{ powerTest(f.test)?.label }}: <b>{{ findingWords(f, i) }}</b>
        <em v-if="answer.doubts.includes(i)"> fits hardly any of these: was it read right?</em>
        <button class="plain" aria-label="Take this finding back" @click="forget(f.test)"><Icon name="close" /></button>
      </p>
    </section>
    <p class="quiet">
      How likely is judged from what each cause does in a circuit, not counted from repaired stations.
    </p>
  </template>
  <p v-else-if="!about" class="quiet">Say what happens; the causes are ranked by this station's own numbers.</p>
</template>

<style scoped>
.asks {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
  margin-bottom: 1rem;
}
.asks > :deep(.p-select) {
  width: 24rem;
  max-width: 100%;
}
h2 {
  font-size: 1rem;
  margin: 1rem 0 0.4rem;
}
ol {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.45rem;
}
li {
  display: grid;
  grid-template-columns: 3.2rem 7rem 1fr;
  gap: 0.6rem;
  align-items: start;
}
.share {
  text-align: right;
  font-weight: 600;
}
.bar {
  height: 0.75rem;
  margin-top: 0.25rem;
  background: var(--copper);
  border-radius: 2px;
  min-width: 2px;
}
li em {
  display: block;
}
li em,
.quiet {
  color: var(--ink-3);
  font-style: normal;
}
article {
  padding: 0.5rem 0 0.7rem;
  border-bottom: 1px solid var(--line);
}
article h3 {
  font-size: 0.98rem;
  font-weight: 500;
}
article.first h3 {
  font-size: 1.1rem;
  font-weight: 650;
}
article h3 span {
  color: var(--ink-3);
  font-weight: 400;
}
.both {
  margin: 0.5rem 0 0;
}
.caution {
  display: flex;
  gap: 0.4rem;
  margin: 0.2rem 0;
}
.outcomes {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
  margin-top: 0.4rem;
}
.outcomes button {
  border: 1px solid var(--line-2);
  background: var(--sheet);
  border-radius: 6px;
  padding: 0.4rem 0.7rem;
  text-align: left;
  cursor: pointer;
  max-width: 22rem;
}
.outcomes button:hover {
  border-color: var(--ink-3);
}
.outcomes b {
  display: block;
  font-weight: 600;
}
.outcomes span {
  color: var(--ink-3);
  font-size: 0.9em;
}
.bad {
  color: var(--fail);
}
@media (max-width: 760px) {
  li {
    grid-template-columns: 3.2rem 1fr;
  }
  .bar {
    display: none;
  }
  .outcomes button {
    flex: 1 1 100%;
    max-width: none;
  }
}
</style>
