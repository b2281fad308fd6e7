<script setup lang="ts">
import { useToast } from 'primevue/usetoast'
import { computed, ref } from 'vue'
import { type Advice } from '#core/noise/advice'
import type { Cure, Suggestion } from '#core/noise/cure'
import { isPart, suspectsOf } from '#core/noise/suspect'
import { freshId, splitByBand, type Logbook, type NoiseCase } from '#core/noise/logbook'
import type { Observation } from '#core/noise/observation'
import { caseReport } from '#core/noise/report'
import type { Patch } from '#core/edit/patch'
import type { Fault } from '#core/plan/faults'
import type { Plan } from '#core/plan/schema'
import { fetched, later, notYet } from '../shell/later'
import { useLogbook } from '../stores/logbook'
import BeliefBars from './BeliefBars.vue'
import CaseCures from './CaseCures.vue'
import CaseEvidence from './CaseEvidence.vue'
import CaseList from './CaseList.vue'
import CaseOut from './CaseOut.vue'
import NextTest from './NextTest.vue'

const ComplaintDialog = later(() => import('./ComplaintDialog.vue'))
const CureDialog = later(() => import('./CureDialog.vue'))
const PracticePanel = later(() => import('./PracticePanel.vue'))
const simulating = notYet(() => import('./simulated'))

/** One page a complaint: what is believed and how strongly, why, the next test, the log. */
const props = defineProps<{ plan: Plan; logbook: Logbook; edit: (patch: Patch, label: string) => Fault[] }>()
const emit = defineEmits<{ tool: [id: 'comb' | 'survey'] }>()
const log = useLogbook()
const toast = useToast()

const chosenId = ref(props.logbook.cases.find(c => c.state === 'open')?.id ?? props.logbook.cases[0]?.id ?? '')
const current = computed(() => props.logbook.cases.find(c => c.id === chosenId.value) ?? props.logbook.cases[0])
const report = computed(() => (current.value ? caseReport(props.plan, current.value, props.logbook) : null))
const switching = computed(() => suspectsOf(props.plan))
const devices = computed(() => report.value?.reasoned.causes.devices.filter(d => isPart(d.id)) ?? [])

const practice = computed(() => !!current.value?.practice)

const who = ref('')
const now = () => new Date().toISOString()
const change = (next: NoiseCase) => log.put('cases', next)

function note(observation: Observation) {
  if (current.value) change({ ...current.value, observations: [...current.value.observations, observation] })
}
async function perform(t: Advice) {
  const { simulatedFor } = await fetched(simulating)
  const c = current.value
  if (!c?.practice) return
  note(simulatedFor(props.plan, c, c.observations.length).receiver.perform(t, freshId('o', c.observations), now()))
}
/** Not now, or not at all: the next best is proposed. */
function skip({ id: test }: Advice, why: 'cannot-now' | 'will-not') {
  const c = current.value
  if (c) change({ ...c, skipped: [...(c.skipped ?? []).filter(s => s.test !== test), { test, why, at: now() }] })
}
const strike = (id: string) =>
  current.value && change({ ...current.value, observations: current.value.observations.filter(o => o.id !== id) })

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
function logCure(cure: Omit<Cure, 'id' | 'at'>) {
  const c = current.value
  if (!c) return
  const by = who.value.trim()
  change({
    ...c,
    cures: [...c.cures, { ...cure, id: freshId('k', c.cures), at: now(), ...(by && { who: by }) }],
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
  const others = props.logbook.cases.map(x => (x.id === c.id ? { ...x, state: 'left' as const } : x))
  log.change({ ...props.logbook, cases: [...others, ...parts] }, `split of complaint “${c.title}”`)
  chosenId.value = parts[0]!.id
}
</script>

<template>
  <div class="case-page">
    <CaseList
      :logbook="logbook"
      :chosen="current?.id"
      :removed="removed"
      @choose="id => (chosenId = id)"
      @create="dialog = 'new'"
      @practise="practise"
      @put-back="putBack" />

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
        <template v-if="report.state !== 'believed'">
          <div v-for="c in report.contradictions" :key="c" class="torn" role="alert">{{ c }}</div>
        </template>
        <p v-for="d in report.doubts" :key="d" class="doubt">{{ d }}</p>
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

      <CaseCures
        v-if="(report.state === 'believed' || current.state === 'cured' || current.cures.length) && !practice"
        :noise-case="current"
        :report="report"
        :logbook="logbook"
        @into-plan="intoPlan"
        @tried="cure => (curing = cure)" />

      <NextTest
        v-if="current.state === 'open'"
        v-model:who="who"
        :noise-case="current"
        :report="report"
        :logbook="logbook"
        @note="note"
        @perform="perform"
        @skip="skip"
        @comb="emit('tool', 'comb')" />
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
        @cure="curing = { where: report.ranked.find(r => isPart(r.pair.device))?.pair.device }" />
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
.doubt {
  border-left: 4px solid var(--caution);
  padding: 0.2rem 0.8rem;
  margin-top: 0.5rem;
  color: var(--ink-2);
}
.split {
  margin-top: 0.5rem;
}
.others {
  margin-top: 0.8rem;
}
.others summary {
  cursor: pointer;
  color: var(--ink-2);
  padding: 0.3rem 0;
}
.quiet {
  color: var(--ink-3);
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
  .why {
    grid-column: 1;
  }
  h1 {
    font-size: 1.35rem;
  }
}
@media print {
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
