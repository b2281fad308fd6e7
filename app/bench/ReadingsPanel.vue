<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { conditionsOf, conditionWords } from '#core/circuit/conditions'
import { compile } from '#core/circuit/network'
import { readingsCsv, readReadingsCsv } from '#core/formats/readingsCsv'
import { isRecording, readRecording } from '#core/formats/recording'
import { readLogText, type Log } from '#core/log/log'
import { mergedLogs } from '#core/log/merge'
import { leadName } from '#core/plan/find'
import { terminalName } from '#core/plan/names'
import type { Plan } from '#core/plan/schema'
import { jointsOf } from '#core/readings/places'
import { SEEN, type Sight } from '#core/readings/reading'
import { fixed, readNumber } from '#core/units/number'
import { percent } from '#core/units/show'
import SeverityMark from '../findings/SeverityMark.vue'
import Icon from '../shell/Icon.vue'
import { download } from '../shell/download'
import { freshId, nowText, useLog } from '../stores/log'
import { useStation } from '../stores/station'
import InstrumentsPanel from './InstrumentsPanel.vue'
import { plain, useBench } from './useBench'
import PickOne from '../shell/PickOne.vue'

/** What was measured, against what should be there; the joint that is bad, and what to read next. */
const props = defineProps<{ plan: Plan; log: Log }>()
const store = useLog()
const station = useStation()
const { answer, problem } = useBench(
  () => [props.plan, props.log.readings, props.log.seen, props.log.instruments] as const,
  client => client.call('readings', plain(props.plan), plain(props.log)),
)

const network = computed(() => compile(props.plan))
const landed = computed(() => new Set(props.plan.leads.flatMap(l => [l.from, l.to])))
const points = computed(() => [
  ...[...network.value.terminals.keys()]
    .filter(t => landed.value.has(t))
    .map(t => ({ id: t, label: terminalName(props.plan, t), isAmps: false })),
  ...props.plan.leads.map(l => ({ id: l.id, label: `amps in ${leadName(l)}`, isAmps: true })),
])
const conditions = computed(() =>
  conditionsOf(props.plan).map(c => ({ id: c.id, label: conditionWords(props.plan, c.id) })),
)
const places = computed(() => jointsOf(network.value).map(j => ({ id: j.place, label: j.words })))
const SIGHTS = (Object.keys(SEEN) as Sight[]).map(id => ({ id, label: id }))

const at = ref<string | null>(null)
const condition = ref<string | null>(null)
const instrument = ref<string | null>(null)
const text = ref('')
const wrong = ref('')
const isAmps = computed(() => points.value.find(p => p.id === at.value)?.isAmps ?? false)
watch(conditions, list => (condition.value ??= list.find(c => c.id === 'full/idle')?.id ?? list[0]?.id ?? null), {
  immediate: true,
})
const MOST = { V: 100, A: 2000 }
function add() {
  const unit = isAmps.value ? 'A' : 'V'
  const read = readNumber(text.value.replace(/[va]$/i, '').trim())
  if (!read.ok || Math.abs(read.value) > MOST[unit]) {
    wrong.value = `${text.value} is no reading of a ${MOST[unit]} ${unit} meter: ${unit === 'V' ? '12.83' : '20.4'}`
    return
  }
  wrong.value = ''
  const value = isAmps.value ? { amps: read.value } : { volts: read.value }
  const entry = { id: freshId(), time: nowText(), at: at.value!, condition: condition.value!, ...value }
  const readWith = instrument.value !== null && { with: instrument.value }
  store.put('readings', { ...entry, ...readWith, revision: station.revision } as never, 'reading')
  text.value = ''
}
function askFor(next: { at: string; condition: string }) {
  at.value = next.at
  condition.value = next.condition
}

const place = ref<string | null>(null)
function sees(saw: Sight) {
  if (place.value)
    store.put('seen', { id: freshId(), time: nowText(), place: place.value, saw } as never, 'what was seen')
}
const wordsOf = (id: string) => places.value.find(p => p.id === id)?.label ?? id

// Files of readings.
const file = ref<HTMLInputElement>()
const aside = ref<{ line: number; wrong: string; right: string }[]>([])
async function open(chosen: File | undefined) {
  if (!chosen) return
  const content = await chosen.text()
  if (/^\uFEFF?\s*\{/.test(content)) return takeLog(content, chosen.name)
  const reader = isRecording(content) ? readRecording : readReadingsCsv
  const read = reader(content, props.plan, { revision: station.revision })
  if (!read.ok) return void (aside.value = [read])
  aside.value = read.aside
  const { log } = props
  const instruments = [...log.instruments]
  const readings = read.readings.map(r => ({
    id: freshId(),
    time: /T/.test(r.time ?? '') ? r.time! : `${r.time ?? nowText().slice(0, 10)}T00:00:00`,
    at: r.at,
    condition: r.condition,
    ...(r.volts === undefined ? { amps: r.amps! } : { volts: r.volts }),
    digit: r.digit,
    ...(r.with !== undefined && { with: instrumentNamed(instruments, r.with) }),
  }))
  const seen = read.seen.map(s => ({ id: freshId(), time: nowText(), place: s.place, saw: s.saw }))
  const all = { readings: [...log.readings, ...readings], seen: [...log.seen, ...seen], instruments }
  store.change({ ...log, ...all }, chosen.name)
}
/** The id of an instrument; one that is not there yet is added. */
function instrumentNamed(instruments: Log['instruments'], name: string): string {
  const known = instruments.find(i => i.name === name)
  if (known) return known.id
  const fresh = { id: freshId(), name }
  instruments.push(fresh)
  return fresh.id
}
/** Another log of this station: what is in it and not here is added, nothing here is changed. */
function takeLog(content: string, name: string) {
  const read = readLogText(content)
  aside.value = read.ok ? [] : read.faults.map(f => ({ line: 0, wrong: `${f.path} ${f.wrong}`.trim(), right: f.right }))
  if (read.ok) store.change(mergedLogs(props.log, read.log), name)
}
function exportCsv() {
  const named = new Map(props.log.instruments.map(i => [i.id, i.name]))
  const all = props.log.readings.map(r => {
    const by = named.get(r.with ?? '')
    const { at, condition, volts, amps, time, digit = 0.01 } = r
    return { at, condition, time, digit, ...(volts === undefined ? { amps } : { volts }), ...(by && { with: by }) }
  })
  download('readings.csv', readingsCsv(all as never), 'text/csv')
}
const exportLog = () => download('log.json', JSON.stringify(props.log, null, 2), 'application/json')

/** The surest first. */
const suspects = computed(() => [...(answer.value?.suspects ?? [])].sort((a, b) => b.sure - a.sure))
/** The last day first; of the rest those that are off. */
const days = computed(() => [...new Set((answer.value?.points ?? []).map(p => p.day ?? ''))].sort().reverse())
const day = ref<string | null>(null)
const shownDay = computed(() => day.value ?? days.value[0] ?? '')
const rows = computed(() => (answer.value?.points ?? []).filter(p => (p.day ?? '') === shownDay.value))
const offs = computed(() => (answer.value?.points ?? []).filter(p => !p.within).length)
</script>

<template>
  <p v-if="problem" role="alert" class="bad">{{ problem }}</p>
  <template v-if="answer">
    <section class="answer" data-testid="joints">
      <template v-if="suspects.length">
        <p v-for="s in suspects" :key="s.place" class="suspect">
          <SeverityMark severity="fail" :size="20" />
          <span
            ><b>{{ percent(s.sure) }} sure{{ s.asOf && ` on ${s.asOf}, not looked at since` }}:</b> {{ s.words }}</span
          >
        </p>
      </template>
      <p v-else-if="answer.points.length" class="suspect">
        <SeverityMark severity="passed" :size="20" />
        <span>No joint is suspect by these {{ answer.points.length }} readings.</span>
      </p>
      <p v-else>Nothing was read yet. Each reading is held against the plan at once.</p>
      <p v-if="answer.doNotFit" class="bad">
        The readings do not fit together: a condition, a load or a point was not as said.
      </p>
      <div v-for="t in answer.trends" :key="t.place" class="trend">
        {{ t.words }}:
        <span v-for="d in t.days" :key="d.day"
          >{{ d.day }} <b>{{ fixed(d.milliohm, 1) }} mΩ</b></span
        >
        {{ t.rises ? 'and rising' : '' }}
      </div>
    </section>

    <section v-if="answer.next.length">
      <h2>Read next</h2>
      <button v-for="n in answer.next" :key="n.at + n.condition" class="next" @click="askFor(n)">
        <b>{{ n.where }}</b> <span>{{ n.why }}</span>
      </button>
    </section>

    <form class="entry" @submit.prevent="add">
      <PickOne v-model="at" :options="points" is-many placeholder="where" label="Where it was read" />
      <PickOne v-model="condition" :options="conditions" label="With what on" />
      <InputText
        v-model="text"
        size="small"
        inputmode="decimal"
        :placeholder="isAmps ? 'amps' : 'volts'"
        aria-label="What it read" />
      <PickOne
        v-if="log.instruments.length"
        v-model="instrument"
        :options="log.instruments.map(i => ({ id: i.id, label: i.name }))"
        placeholder="with any meter"
        label="Read with" />
      <Button type="submit" label="Add" size="small" :disabled="!at || !condition || !text.trim()" />
      <p v-if="wrong" class="bad" role="alert">{{ wrong }}</p>
    </form>
    <div class="entry">
      <PickOne
        v-model="place"
        :options="places"
        is-many
        placeholder="a joint that was looked at"
        label="A joint that was looked at" />
      <button v-for="s in SIGHTS" :key="s.id" class="chip" :disabled="!place" @click="sees(s.id)">{{ s.label }}</button>
    </div>
    <p v-for="s in log.seen" :key="s.id" class="seen">
      {{ wordsOf(s.place) }}: {{ s.saw }}, {{ s.time.slice(0, 10) }}
      <button class="plain" :aria-label="`Take out: ${s.saw}`" @click="store.drop('seen', s.id, 'what was seen')">
        <Icon name="close" />
      </button>
    </p>

    <InstrumentsPanel :plan="plan" :log="log" :terminals="points.filter(p => !p.isAmps)" :conditions="conditions" />

    <section v-if="answer.points.length">
      <div class="head">
        <h2>
          {{ offs ? `${offs} of ${answer.points.length} are not as they should be` : 'All are as they should be' }}
        </h2>
        <div class="days">
          <button v-for="d in days" :key="d" class="chip" :class="{ on: d === shownDay }" @click="day = d">
            {{ d || 'no day' }}
          </button>
        </div>
      </div>
      <table>
        <thead>
          <tr>
            <th>Where</th>
            <th>With</th>
            <th class="n">Read</th>
            <th class="n">Should be</th>
            <th></th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(p, i) in rows" :key="i" :class="{ off: !p.within }">
            <td>
              <b>{{ p.where }}</b>
            </td>
            <td data-label="with">{{ p.state }}</td>
            <td class="n" data-label="read">{{ fixed(p.read, 2) }} {{ p.unit }}</td>
            <td class="n" data-label="should be">
              {{ p.expectedHere === null ? 'not known' : `${fixed(p.expectedHere, 2)} ± ${fixed(p.tolerance!, 2)}` }}
            </td>
            <td>{{ p.within ? '' : 'off' }}</td>
            <td>
              <button
                v-if="p.id"
                class="plain"
                :aria-label="`Take out ${fixed(p.read, 2)} ${p.unit} at ${p.where}`"
                @click="store.drop('readings', p.id!, 'reading taken out')">
                <Icon name="close" />
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </section>
    <details v-if="answer.aside.length" class="aside">
      <summary>
        {{ answer.aside.length }} readings are of no place or state of the plan as it is now: kept, not used
      </summary>
      <p v-for="(a, i) in answer.aside" :key="i">
        {{ a.time.slice(0, 10) }}, {{ a.at }}, {{ a.condition }}: {{ a.wrong }}
      </p>
    </details>
    <div class="files">
      <Button label="Open readings or a recording" size="small" severity="secondary" @click="file?.click()" />
      <input
        ref="file"
        type="file"
        accept=".csv,.txt,.json,text/csv,text/plain,application/json"
        hidden
        data-testid="readings-file"
        @change="e => open((e.target as HTMLInputElement).files?.[0])" />
      <Button label="Readings as CSV" size="small" severity="secondary" @click="exportCsv" />
      <Button label="The whole log" size="small" severity="secondary" @click="exportLog" />
    </div>
    <ul v-if="aside.length" class="bad" role="alert">
      <li v-for="(a, i) in aside.slice(0, 30)" :key="i">
        {{ a.line ? `line ${a.line}, left aside` : 'not taken' }}: {{ a.wrong }}; right would be {{ a.right }}
      </li>
    </ul>
  </template>
</template>

<style scoped src="../build/tables.css"></style>
<style scoped>
.answer {
  display: grid;
  gap: 0.5rem;
  margin-bottom: 1rem;
  font-size: 1.05rem;
}
.suspect {
  display: flex;
  gap: 0.6rem;
  align-items: start;
  max-width: 50rem;
}
.suspect svg {
  flex: none;
  margin-top: 0.1rem;
}
.trend {
  color: var(--ink-2);
  font-size: 0.93rem;
}
.trend span + span::before {
  content: ' → ';
}
h2 {
  font-size: 1rem;
  margin: 0.6rem 0 0.3rem;
}
.next {
  display: block;
  text-align: left;
  border: 0;
  border-left: 3px solid var(--copper);
  background: none;
  padding: 0.25rem 0.7rem;
  margin-bottom: 0.35rem;
  cursor: pointer;
  max-width: 50rem;
}
.next:hover {
  background: var(--choice);
}
.entry {
  display: flex;
  flex-wrap: wrap;
  gap: 0.45rem;
  align-items: center;
  margin: 0.8rem 0;
}
.entry > :deep(.p-select) {
  width: 17rem;
  max-width: 100%;
}
.entry > :deep(input) {
  width: 6.5rem;
}
.seen {
  color: var(--ink-2);
}
.head {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem 1rem;
  align-items: baseline;
}
.days {
  margin-bottom: 0.4rem;
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem;
}
td .plain {
  padding: 0 0.3rem;
}
td b {
  font-weight: 500;
}
.off td {
  font-weight: 600;
  color: var(--fail);
}
.bad {
  color: var(--fail);
}
.aside {
  margin-top: 0.8rem;
  color: var(--ink-2);
}
.files {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  margin-top: 1rem;
}
</style>
