<script setup lang="ts">
import { useToast } from 'primevue/usetoast'
import { computed, ref, watch } from 'vue'
import { NEEDS } from '#core/noise/tests'
import { type Advice } from '#core/noise/advice'
import { cureLabel, similarCures, type Cure, type Suggestion } from '#core/noise/cure'
import { suspectsOf } from '#core/noise/suspect'
import { freshId, readCaseText, receiverOf, splitByBand, type Logbook, type NoiseCase } from '#core/noise/logbook'
import type { Observation } from '#core/noise/observation'
import { caseReport } from '#core/noise/report'
import type { Patch } from '#core/edit/patch'
import type { Fault } from '#core/plan/faults'
import type { Plan } from '#core/plan/schema'
import { useLogbook } from '../stores/logbook'
import BeliefBars from './BeliefBars.vue'
import CaseEvidence from './CaseEvidence.vue'
import CaseOut from './CaseOut.vue'
import ComplaintDialog from './ComplaintDialog.vue'
import CureDialog from './CureDialog.vue'
import PracticePanel from './PracticePanel.vue'
import { simulatedFor } from './simulated'
import TestCard from './TestCard.vue'

/** One page a complaint: what is believed and how strongly, why, the next test, the log. */
const props = defineProps<{ plan: Plan; logbook: Logbook; edit: (patch: Patch, label: string) => Fault[] }>()
const emit = defineEmits<{ tool: [id: 'comb' | 'survey'] }>()
const log = useLogbook()
const toast = useToast()

const chosenId = ref(props.logbook.cases.find(c => c.state === 'open')?.id ?? props.logbook.cases[0]?.id ?? '')
const current = computed(() => props.logbook.cases.find(c => c.id === chosenId.value) ?? props.logbook.cases[0])
const report = computed(() => (current.value ? caseReport(props.plan, current.value, props.logbook) : null))
const switching = computed(() => suspectsOf(props.plan))
const devices = computed(() => report.value?.reasoned.causes.devices.filter(d => d.id !== 'outside') ?? [])

const testId = ref('')
watch(
  () => [chosenId.value, current.value?.observations.length, current.value?.cures.length],
  () => (testId.value = ''),
)
const test = computed<Advice | undefined>(
  () => report.value?.all.find(t => t.id === testId.value) ?? report.value?.next[0],
)
const others = computed(
  () =>
    (showAll.value ? report.value?.all : report.value?.next.slice(0, 6))?.filter(t => t.id !== test.value?.id) ?? [],
)
const showAll = ref(false)
const believed = computed(() => report.value?.state === 'believed')
const practice = computed(() => !!current.value?.practice)

// What goes down with a finding.
const who = ref('')
const atA = ref<number | null>(null)
const atDevice = ref<string | null>(null)
watch(
  devices,
  d =>
    (atDevice.value = d.some(x => x.id === atDevice.value)
      ? atDevice.value
      : (report.value?.ranked.find(r => r.pair.device !== 'outside')?.pair.device ?? null)),
  { immediate: true },
)

const now = () => new Date().toISOString()
const change = (next: NoiseCase) => log.put('cases', next)

function note(observation: Observation) {
  if (current.value) change({ ...current.value, observations: [...current.value.observations, observation] })
}
function outcome(id: string, bands: string[]) {
  const t = test.value
  const c = current.value
  if (!t || !c) return
  const hour = t.needs.find(n => n === 'sun' || n === 'load' || n === 'mains') as 'sun' | 'load' | 'mains' | undefined
  const common = {
    id: freshId('o', c.observations),
    at: now(),
    ...(who.value.trim() && { who: who.value.trim() }),
    bands,
    ...(hour && { allowedBy: hour }),
  }
  if (t.what === 'sniff') note({ kind: 'sniff', ...common, loudest: id })
  else if (t.what === 'comb') note({ kind: 'comb', ...common, spacingHz: null })
  else
    note({
      kind: 'listen',
      ...common,
      setup: t.setup!,
      heard: id as 'same',
      ...(atA.value !== null && atDevice.value && { current: { device: atDevice.value, amps: atA.value } }),
    })
  atA.value = null
}
function perform() {
  const t = test.value
  const c = current.value
  if (!t || !c?.practice) return
  note(simulatedFor(props.plan, c, c.observations.length).receiver.perform(t, freshId('o', c.observations), now()))
}
const strike = (id: string) =>
  current.value && change({ ...current.value, observations: current.value.observations.filter(o => o.id !== id) })

function toggleAtHand(need: (typeof NEEDS)[number]) {
  const has = props.logbook.atHand.includes(need)
  log.change({
    ...props.logbook,
    atHand: has ? props.logbook.atHand.filter(n => n !== need) : [...props.logbook.atHand, need],
  })
}

// Complaints.
const dialog = ref<'new' | 'edit' | null>(null)
function takeComplaint(said: Pick<NoiseCase, 'title' | 'complaint' | 'radio'>) {
  if (dialog.value === 'edit' && current.value) change({ ...current.value, ...said })
  else {
    const id = freshId('c', props.logbook.cases)
    change({ id, openedAt: now(), ...said, observations: [], cures: [], state: 'open' })
    chosenId.value = id
  }
  dialog.value = null
}
function practise() {
  const id = freshId('c', props.logbook.cases)
  const n = props.logbook.cases.filter(c => c.practice).length + 1
  const bands = (props.plan.site?.bands ?? []).filter(b => /^(80|40|30|20|17|15|12|10) m$/.test(b))
  change({
    id,
    title: `Practice ${n}`,
    openedAt: now(),
    complaint: { bands: bands.slice(-1).length ? bands.slice(-1) : ['40 m'] },
    observations: [],
    cures: [],
    state: 'open',
    practice: { seed: Math.floor(Math.random() * 2 ** 30) },
  })
  chosenId.value = id
}
function remove() {
  const gone = current.value
  if (!gone) return
  log.remove('cases', gone.id)
  chosenId.value = ''
  removed.value = gone
}
const removed = ref<NoiseCase | null>(null)
function putBack() {
  if (!removed.value) return
  log.put('cases', removed.value)
  chosenId.value = removed.value.id
  removed.value = null
}

// Cures.
const curing = ref<Partial<Cure> | null>(null)
function helped({ what, helped, times, bestDb }: ReturnType<typeof similarCures>[number]) {
  const best = bestDb === null ? '' : ` (${Math.round(bestDb)} dB)`
  return `${cureLabel(what)} helped ${helped} of ${times} times${best}`
}
const similar = computed(() => {
  const kind = devices.value.find(d => d.id === report.value?.ranked[0]?.pair.device)?.kind
  return kind ? similarCures(log.tried, kind, receiverOf(props.logbook, current.value?.radio)) : []
})
function logCure(cure: Omit<Cure, 'id' | 'at'>) {
  const c = current.value
  if (!c) return
  change({
    ...c,
    cures: [
      ...c.cures,
      { ...cure, id: freshId('k', c.cures), at: now(), ...(who.value.trim() && { who: who.value.trim() }) },
    ],
  })
  curing.value = null
  void log.saveNow().then(log.refreshTried)
}
function intoPlan(suggestion: Suggestion) {
  const faults = props.edit(suggestion.patch!, suggestion.title)
  toast.add(
    faults.length
      ? { severity: 'error', summary: 'Not taken', detail: faults[0]!.wrong, life: 5000 }
      : {
          severity: 'secondary',
          summary: 'In the plan',
          detail: `${suggestion.title}. Ctrl Z on the path takes it back.`,
          life: 3500,
        },
  )
}
/** The case goes on as one a band; the one of all bands is left as it stands. */
function split() {
  const c = current.value
  if (!c) return
  const taken: { id: string }[] = [...props.logbook.cases]
  const parts = splitByBand(c, () => {
    const id = freshId('c', taken)
    taken.push({ id })
    return id
  })
  log.change({
    ...props.logbook,
    cases: [...props.logbook.cases.map(x => (x.id === c.id ? { ...x, state: 'left' as const } : x)), ...parts],
  })
  chosenId.value = parts[0]!.id
}

// A case from a file.
const refused = ref('')
async function importCase(event: Event) {
  const input = event.target as HTMLInputElement
  const text = await input.files?.[0]?.text()
  input.value = ''
  if (text === undefined) return
  const read = readCaseText(text)
  refused.value = read.ok ? '' : `${read.wrong}; right would be ${read.right}`
  if (!read.ok) return
  const { format: _format, version: _version, ...plain } = read.case
  const id = props.logbook.cases.some(c => c.id === plain.id) ? freshId('c', props.logbook.cases) : plain.id
  change({ ...plain, id })
  chosenId.value = id
}
const stateWords = { open: '', cured: 'cured', left: 'left' } as const
</script>

<template>
  <div class="case-page">
    <aside class="list">
      <ul aria-label="Complaints">
        <li v-for="c in logbook.cases" :key="c.id">
          <button :class="{ on: c.id === current?.id }" @click="chosenId = c.id">
            {{ c.title
            }}<span>{{
              [c.complaint.bands.join(', '), c.practice?.named ? 'named' : stateWords[c.state]]
                .filter(Boolean)
                .join(' · ')
            }}</span>
          </button>
        </li>
      </ul>
      <Button label="New complaint" size="small" @click="dialog = 'new'" />
      <Button label="Practise on a made-up fault" size="small" severity="secondary" @click="practise" />
      <label class="plain file"
        >Open a case file<input
          type="file"
          accept=".json,application/json"
          data-testid="case-file"
          @change="importCase"
      /></label>
      <p v-if="refused" class="wrong" role="alert">{{ refused }}</p>
      <button v-if="removed" class="plain" @click="putBack">Put “{{ removed.title }}” back</button>
    </aside>

    <section v-if="current && report" class="case">
      <header>
        <p class="complaint">
          {{ current.title
          }}<span>{{
            [
              plan.name,
              current.complaint.bands.length ? `heard on ${current.complaint.bands.join(', ')}` : '',
              current.complaint.sound ? `as ${current.complaint.sound}` : '',
            ]
              .filter(Boolean)
              .join(' · ')
          }}</span>
        </p>
        <h1 v-if="practice" class="open">
          {{ current.practice!.named ? 'How it went' : 'Find the device and the way in' }}
        </h1>
        <h1 v-else :class="report.state">{{ report.headline }}</h1>
        <p v-if="current.complaint.words" class="said">“{{ current.complaint.words }}”</p>
        <div v-for="c in report.contradictions" :key="c" class="torn" role="alert">{{ c }}</div>
        <Button
          v-if="report.bandsDiffer && current.complaint.bands.length > 1"
          class="split"
          label="A case for each band"
          size="small"
          severity="secondary"
          @click="split" />
        <BeliefBars v-if="!practice" :ranked="report.ranked" />
      </header>

      <PracticePanel
        v-if="practice"
        :key="current.id"
        :plan="plan"
        :noise-case="current"
        :report="report"
        @note="note"
        @named="p => change({ ...current!, practice: { ...current!.practice!, named: p }, state: 'left' })" />

      <details v-if="practice" class="others" :open="current.observations.length > 0">
        <summary>What the findings say: {{ report.headline }}</summary>
        <BeliefBars :ranked="report.ranked" />
      </details>

      <section v-if="(believed || current.state === 'cured') && !practice" class="cure">
        <h2>What cures it</h2>
        <ol>
          <li v-for="s in report.suggestions" :key="s.title">
            <div>
              <b>{{ s.title }}</b>
              <p>{{ s.do }}</p>
              <p v-if="s.caution" class="wrong">{{ s.caution }}</p>
            </div>
            <div class="buttons">
              <span class="quiet">{{ s.cost ? `about ${s.cost} €` : 'free' }}</span>
              <Button v-if="s.patch" label="Into the plan" size="small" severity="secondary" @click="intoPlan(s)" />
              <Button
                label="Log it"
                size="small"
                severity="secondary"
                @click="curing = { what: s.what, where: s.where }" />
            </div>
          </li>
        </ol>
        <p v-if="similar.length" class="quiet">
          In this logbook, on the same kind of device:
          {{ similar.map(helped).join('; ') }}.
        </p>
      </section>

      <section v-if="test && current.state === 'open'" class="next">
        <h3>
          {{
            believed
              ? 'To be surer still'
              : testId
                ? 'The test you chose'
                : 'The next test: it tells most for the time and money'
          }}
        </h3>
        <TestCard
          :test="test"
          :practice="practice"
          :bands="current.complaint.bands"
          @outcome="outcome"
          @perform="perform"
          @comb="emit('tool', 'comb')" />
        <p v-if="!practice" class="with">
          <label>Heard by <InputText v-model="who" size="small" aria-label="Heard by" /></label>
          <label
            >with
            <Select
              v-model="atDevice"
              :options="devices"
              option-label="name"
              option-value="id"
              size="small"
              aria-label="Device" />
            at
            <InputNumber
              v-model="atA"
              :min="0"
              :max="1000"
              :max-fraction-digits="1"
              size="small"
              aria-label="Current, A"
              input-class="amps" />
            A</label
          >
        </p>
        <details class="others">
          <summary>Other tests</summary>
          <button v-for="t in others" :key="t.id" class="plain other" @click="testId = t.id">
            <b>{{ t.title }}</b><span
              >{{ t.bits.toFixed(1) }} bits, {{ t.minutes }} min{{ t.euro ? `, ${t.euro} €` : ''
              }}{{
                t.lacks.some(n => n === 'sun' || n === 'load' || n === 'mains')
                  ? `; waits for ${t.lacks.join(', ')}`
                  : ''
              }}</span
            >
          </button>
          <button v-if="!showAll" class="plain" @click="showAll = true">All of them</button>
          <div class="hand">
            <span>At hand now</span
            ><button
              v-for="n in NEEDS"
              :key="n"
              class="chip"
              :class="{ on: logbook.atHand.includes(n) }"
              :aria-pressed="logbook.atHand.includes(n)"
              @click="toggleAtHand(n)">
              {{ n }}
            </button>
          </div>
        </details>
      </section>
    </section>
    <section v-else class="case none">
      <h1>No complaint yet</h1>
      <p>
        Write down what you hear and on which bands; Wireman says which test to make first, what each outcome would
        mean, and what cures it.
      </p>
      <p v-if="switching.length" class="quiet">
        It could be any of this plan's switching parts: {{ switching.map(d => d.name).join(', ') }}; or something
        outside the station.
      </p>
      <p v-else class="quiet">
        This plan has no switching part: noise would come from outside the station, or from something the plan does not
        show yet.
      </p>
    </section>

    <aside v-if="current && report" class="why">
      <CaseEvidence
        :noise-case="current"
        :report="report"
        :has-surveys="logbook.surveys.length > 0"
        @strike="strike"
        @cure="curing = { where: report.ranked.find(r => r.pair.device !== 'outside')?.pair.device }" />
      <CaseOut
        :plan="plan"
        :noise-case="current"
        :report="report"
        @change="change"
        @edit="dialog = 'edit'"
        @split="split"
        @remove="remove" />
      <p class="quiet mind">{{ report.cautions.join(' ') }}</p>
    </aside>

    <ComplaintDialog
      v-if="dialog"
      :plan="plan"
      :noise-case="dialog === 'edit' ? current : undefined"
      @take="takeComplaint"
      @close="dialog = null" />
    <CureDialog
      v-if="curing && current"
      :start="curing"
      :bands="current.complaint.bands"
      :devices="devices"
      @take="logCure"
      @close="curing = null" />
  </div>
</template>

<style scoped>
.case-page {
  display: grid;
  grid-template-columns: 13.5rem minmax(0, 1fr) 18.5rem;
  gap: 1.8rem;
  align-items: start;
}
.list {
  display: grid;
  gap: 0.45rem;
  position: sticky;
  top: 1rem;
}
.list ul {
  list-style: none;
  margin: 0 0 0.4rem;
  padding: 0;
  display: grid;
  gap: 0.15rem;
}
.list li button {
  width: 100%;
  text-align: left;
  border: 0;
  border-left: 3px solid transparent;
  background: none;
  padding: 0.45rem 0.6rem;
  border-radius: 0 6px 6px 0;
  cursor: pointer;
  line-height: 1.25;
}
.list li button:hover {
  background: var(--choice);
}
.list li button.on {
  border-left-color: var(--copper);
  background: var(--choice);
  font-weight: 600;
}
.list li span {
  display: block;
  color: var(--ink-3);
  font-size: 0.86rem;
  font-weight: 400;
}
.file {
  cursor: pointer;
  text-align: center;
}
.file input {
  position: absolute;
  opacity: 0;
  width: 1px;
}
.complaint {
  color: var(--ink-2);
}
.complaint span {
  color: var(--ink-3);
  margin-left: 0.7rem;
  font-size: 0.9rem;
}
h1 {
  font-size: 1.65rem;
  line-height: 1.2;
  letter-spacing: -0.015em;
  margin: 0.15rem 0 0.2rem;
  text-wrap: balance;
}
h1.torn {
  color: var(--fail);
}
h1.believed {
  color: var(--pass);
}
.said {
  color: var(--ink-2);
}
.torn[role] {
  border: 1px solid var(--fail);
  border-left-width: 4px;
  border-radius: 6px;
  padding: 0.5rem 0.8rem;
  margin-top: 0.5rem;
  color: var(--fail);
}
.split {
  margin-top: 0.5rem;
}
.next {
  margin-top: 1.4rem;
}
h3 {
  font-size: 0.93rem;
  color: var(--ink-2);
  font-weight: 600;
  margin-bottom: 0.4rem;
}
.with {
  display: flex;
  gap: 1.2rem;
  flex-wrap: wrap;
  margin-top: 0.6rem;
  color: var(--ink-3);
}
.with label {
  display: flex;
  gap: 0.4rem;
  align-items: center;
}
.with :deep(input) {
  width: 8rem;
}
.with :deep(.amps) {
  width: 4rem;
}
.others {
  margin-top: 0.8rem;
}
.others summary {
  cursor: pointer;
  color: var(--ink-2);
  padding: 0.3rem 0;
}
.other {
  display: flex;
  justify-content: space-between;
  gap: 1rem;
  width: 100%;
  text-align: left;
}
.other b {
  font-weight: 500;
  color: var(--ink);
}
.other span {
  color: var(--ink-3);
  white-space: nowrap;
}
.hand {
  display: flex;
  flex-wrap: wrap;
  gap: 0.35rem;
  align-items: center;
  margin-top: 0.7rem;
  color: var(--ink-3);
}
.cure {
  margin-top: 1.3rem;
}
.cure h2 {
  font-size: 1.2rem;
}
.cure ol {
  list-style: none;
  padding: 0;
  margin: 0.5rem 0;
  border-top: 1px solid var(--line);
}
.cure li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 1rem;
  padding: 0.55rem 0;
  border-bottom: 1px solid var(--line);
}
.cure li p {
  color: var(--ink-2);
}
.buttons {
  display: flex;
  gap: 0.5rem;
  align-items: center;
}
.quiet {
  color: var(--ink-3);
}
.wrong,
.cure li .wrong {
  color: var(--fail);
}
.why {
  display: grid;
  gap: 1.1rem;
}
.mind {
  font-size: 0.86rem;
}
.none {
  padding-top: 0.3rem;
  max-width: 36rem;
}
.none p {
  margin-top: 0.4rem;
}
@media (max-width: 1080px) {
  .case-page {
    grid-template-columns: 12rem minmax(0, 1fr);
  }
  .why {
    grid-column: 2;
  }
}
@media (max-width: 760px) {
  .case-page {
    grid-template-columns: minmax(0, 1fr);
    gap: 1rem;
  }
  .list {
    position: static;
    grid-template-columns: 1fr 1fr;
  }
  .list ul,
  .list .wrong {
    grid-column: 1 / -1;
  }
  .why {
    grid-column: 1;
  }
  h1 {
    font-size: 1.35rem;
  }
  .cure li {
    grid-template-columns: 1fr;
  }
}
@media print {
  .list,
  .next,
  .buttons {
    display: none !important;
  }
  .case-page {
    display: block;
  }
  .why {
    margin-top: 1rem;
  }
}
</style>

<style>
@page {
  margin: 14mm 13mm;
}
</style>
