<script setup lang="ts">
import { computed, ref } from 'vue'
import { proceduresOf } from '#core/commission/procedures'
import { batteryLife, type BatteryLife } from '#core/log/batteries'
import { BATTERY_WORDS } from '#core/log/history'
import type { BatteryEntry, Log } from '#core/log/log'
import { dueIcal } from '#core/formats/ical'
import { nameOf } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import { percent } from '#core/units/show'
import { asGiven, fixed } from '#core/units/number'
import SeverityMark from '../findings/SeverityMark.vue'
import CellInput from '../hours/CellInput.vue'
import { readFigure, showFigure } from '../hours/entries'
import { download } from '../shell/download'
import Icon from '../shell/Icon.vue'
import { freshId, nowText, useLog } from '../stores/log'
import PickOne from '../shell/PickOne.vue'

/** The life of each battery: what was noted, how it fades, what is due, and what is done to it now and then. */
const props = defineProps<{ plan: Plan; log: Log }>()
const store = useLog()
const lives = computed(() =>
  props.plan.parts.flatMap(part => {
    const life = batteryLife(part, props.log)
    return life ? [{ part, life, entries: entriesOf(part.id) }] : []
  }),
)
/** The last first. */
const entriesOf = (part: string) =>
  props.log.batteries.filter(e => e.part === part).sort((a, b) => b.time.localeCompare(a.time))
const whats = Object.entries(BATTERY_WORDS).map(([id, label]) => ({ id: id as BatteryEntry['what'], label }))
const FIELDS: Record<BatteryEntry['what'], ('ah' | 'volts' | 'celsius' | 'cost' | 'loads' | 'cellVolts')[]> = {
  bought: ['cost'],
  charged: ['ah'],
  rested: ['volts', 'celsius'],
  capacity: ['ah', 'volts', 'celsius'],
  resistance: ['loads'],
  cells: ['cellVolts'],
  'topped-up': ['ah'],
  equalised: ['volts'],
  stored: ['volts'],
}
const what = ref<BatteryEntry['what']>('rested')
const day = ref(nowText().slice(0, 10))
const entered = ref<Partial<BatteryEntry>>({})
const asks = (field: string) => FIELDS[what.value].includes(field as never)
/** "1.2 A 13.31 V, 22 A 13.05 V" */
function readLoads(text: string) {
  const figures = [...text.replace(/(\d),(\d)/g, '$1.$2').matchAll(/-?\d+(?:\.\d+)?/g)].map(m => Number(m[0]))
  if (figures.length !== 4 || figures[0] === figures[2]) return undefined
  return [
    { amps: figures[0]!, volts: figures[1]! },
    { amps: figures[2]!, volts: figures[3]! },
  ]
}
function readCells(text: string) {
  const volts = text
    .split(/[\s;]+/)
    .filter(Boolean)
    .map(t => Number(t.replace(',', '.')))
  return volts.length > 1 && volts.every(v => v > 0 && v < 100) ? volts : undefined
}
const missing = ref('')
function add(part: string) {
  const needed = FIELDS[what.value].filter(
    f => f !== 'celsius' && f !== 'cost' && !(what.value === 'capacity' && f === 'volts'),
  )
  const lacks = needed.filter(f => entered.value[f] === undefined)
  missing.value =
    lacks.length && !['charged', 'topped-up', 'equalised', 'stored'].includes(what.value)
      ? 'its figures are missing'
      : ''
  if (missing.value) return
  const asked = Object.fromEntries(Object.entries(entered.value).filter(([f]) => asks(f)))
  store.put(
    'batteries',
    { id: freshId(), time: `${day.value}T12:00:00`, part, what: what.value, ...asked } as never,
    BATTERY_WORDS[what.value],
  )
  entered.value = {}
}
const procedures = computed(() => proceduresOf(props.plan))
const words = (e: BatteryEntry) =>
  [
    e.ah !== undefined && `${asGiven(e.ah)} Ah`,
    e.volts !== undefined && `${asGiven(e.volts)} V`,
    e.celsius !== undefined && `${asGiven(e.celsius)} °C`,
    e.cost !== undefined && `for ${e.cost}`,
    e.loads?.map(l => `${asGiven(l.volts)} V at ${asGiven(l.amps)} A`).join(', '),
    e.cellVolts?.map(v => `${asGiven(v)} V`).join(' '),
    e.note,
  ]
    .filter(Boolean)
    .join(', ')
function fadeWords({ fadePerYear, replaceOn }: BatteryLife): string {
  if (fadePerYear === null || fadePerYear <= 0) return ''
  const end = replaceOn ? `, at its end about ${replaceOn.slice(0, 7)}` : ''
  return `; ${percent(fadePerYear, 1)} less a year${end}`
}
const readDay = (text: string) =>
  /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(text)) ? text : undefined
const exportDue = () =>
  download(
    'batteries.ics',
    dueIcal(lives.value.flatMap(l => l.life.due.map(d => ({ on: d.on, what: `${nameOf(l.part)}: ${d.what}` })))),
    'text/calendar',
  )
</script>

<template>
  <p v-if="!lives.length" class="quiet">The plan has no battery that says what it holds.</p>
  <section v-for="{ part, life, entries } in lives" :key="part.id" class="life" :data-testid="`life-${part.id}`">
    <h2>{{ nameOf(part) }}</h2>
    <p v-for="w in life.warns" :key="w" class="warn">
      <SeverityMark severity="caution" :size="18" /> {{ nameOf(part) }} {{ w }}.
    </p>
    <dl>
      <template v-if="life.boughtOn">
        <dt>Bought</dt>
        <dd>{{ life.boughtOn }}{{ life.cost === null ? '' : `, for ${life.cost}` }}</dd>
      </template>
      <template v-if="life.capacity.length">
        <dt>Holds</dt>
        <dd>
          <template v-for="(c, i) in life.capacity" :key="c.on"
            >{{ i ? ' → ' : '' }}{{ c.on }} <b>{{ percent(c.share) }}</b></template
          >
          of what is printed{{ fadeWords(life) }}
        </dd>
      </template>
      <template v-if="life.resistance.length">
        <dt>Resistance</dt>
        <dd>
          <template v-for="(r, i) in life.resistance" :key="r.on"
            >{{ i ? ' → ' : '' }}{{ r.on }} <b>{{ fixed(r.milliohm, 1) }} mΩ</b></template
          >
        </dd>
      </template>
      <template v-if="life.cells">
        <dt>Cells</dt>
        <dd>{{ fixed(life.cells.spreadV, 2) }} V apart on {{ life.cells.on }}</dd>
      </template>
      <template v-if="life.cycles > 0">
        <dt>Cycles</dt>
        <dd>{{ fixed(life.cycles, 1) }} full ones noted</dd>
      </template>
      <template v-if="life.due.length">
        <dt>Due</dt>
        <dd>
          <p v-for="d in life.due" :key="d.what">
            <b>{{ d.on }}</b> {{ d.what }}
          </p>
        </dd>
      </template>
    </dl>
    <form class="entry" @submit.prevent="add(part.id)">
      <label
        ><span>what</span><PickOne v-model="what" :options="whats" :label="`What was done to ${nameOf(part)}`"
      /></label>
      <CellInput label="on" :shown="day" :read="readDay" right="a day as 2026-11-28" @change="v => (day = v)" />
      <CellInput
        v-if="asks('ah')"
        label="amp-hours"
        :shown="showFigure(entered.ah, 'Ah')"
        :read="readFigure('Ah', 0, 100000)"
        right="amp-hours"
        @change="v => (entered.ah = v)" />
      <CellInput
        v-if="asks('volts')"
        label="volts"
        :shown="showFigure(entered.volts, 'V')"
        :read="readFigure('V', 0, 1000)"
        right="volts"
        @change="v => (entered.volts = v)" />
      <CellInput
        v-if="asks('celsius')"
        label="warmth"
        :shown="showFigure(entered.celsius, '°C')"
        :read="readFigure('°C', -60, 80)"
        right="degrees C"
        @change="v => (entered.celsius = v)" />
      <CellInput
        v-if="asks('cost')"
        label="for"
        :shown="showFigure(entered.cost)"
        :read="readFigure('', 0, 1e7)"
        right="a sum of money"
        @change="v => (entered.cost = v)" />
      <CellInput
        v-if="asks('loads')"
        label="two loads and their volts"
        :shown="entered.loads?.map(l => `${asGiven(l.amps)} A ${asGiven(l.volts)} V`).join(', ') ?? ''"
        :read="readLoads"
        right="as 1.2 A 13.31 V, 22 A 13.05 V"
        @change="v => (entered.loads = v)" />
      <CellInput
        v-if="asks('cellVolts')"
        label="cell by cell"
        :shown="entered.cellVolts?.join(' ') ?? ''"
        :read="readCells"
        right="as 3.31 3.30 3.31 3.29"
        @change="v => (entered.cellVolts = v)" />
      <Button type="submit" label="Note it" size="small" />
    </form>
    <p v-if="missing" class="bad" role="alert">Nothing was noted: {{ missing }}.</p>
    <ul>
      <li v-for="e in entries" :key="e.id">
        {{ e.time.slice(0, 10) }} {{ BATTERY_WORDS[e.what] }}{{ words(e) ? `: ${words(e)}` : '' }}
        <button
          class="plain"
          :aria-label="`Take out: ${BATTERY_WORDS[e.what]} ${e.time.slice(0, 10)}`"
          @click="store.drop('batteries', e.id, 'entry taken out')">
          <Icon name="close" />
        </button>
      </li>
    </ul>
    <details v-for="p in procedures.filter(x => x.part === part.id)" :key="p.id">
      <summary>{{ p.title }}</summary>
      <p>{{ p.when }}</p>
      <p class="warn"><SeverityMark severity="caution" :size="18" /> {{ p.caution }}</p>
      <ol>
        <li v-for="s in p.steps" :key="s.does">
          {{ s.does }} <span class="quiet">See: {{ s.see }}</span> <b>Stop if: {{ s.stopIf }}</b>
        </li>
      </ol>
    </details>
  </section>
  <Button
    v-if="lives.some(l => l.life.due.length)"
    label="What is due, as a calendar"
    size="small"
    severity="secondary"
    @click="exportDue" />
</template>

<style scoped>
.life {
  padding-bottom: 1rem;
  margin-bottom: 1rem;
  border-bottom: 1px solid var(--line-2);
}
h2 {
  font-size: 1.15rem;
}
.warn {
  display: flex;
  gap: 0.5rem;
  align-items: start;
  margin: 0.3rem 0;
}
.warn svg {
  flex: none;
}
dl {
  display: grid;
  grid-template-columns: 6rem 1fr;
  gap: 0.2rem 0.8rem;
  margin: 0.5rem 0;
}
dt {
  color: var(--ink-3);
}
dd {
  margin: 0;
}
.entry {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem 0.6rem;
  align-items: end;
  margin: 0.7rem 0;
}
.entry label {
  display: grid;
  gap: 0.1rem;
}
.entry label > span {
  color: var(--ink-3);
  font-size: 0.82rem;
}
ul {
  list-style: none;
  margin: 0 0 0.6rem;
  padding: 0;
}
.quiet {
  color: var(--ink-3);
}
.bad {
  color: var(--fail);
}
summary {
  cursor: pointer;
  padding: 0.2rem 0;
}
details li {
  margin-bottom: 0.4rem;
}
</style>
