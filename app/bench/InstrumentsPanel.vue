<script setup lang="ts">
import { computed, ref } from 'vue'
import { NO_PLACE, shownFigure } from '#core/instruments/protocol'
import { readNumber } from '#core/units/number'
import type { Log, LogReading } from '#core/log/log'
import type { Plan } from '#core/plan/schema'
import CellInput from '../hours/CellInput.vue'
import { readFigure, showFigure } from '../hours/entries'
import Icon from '../shell/Icon.vue'
import PickOne from '../shell/PickOne.vue'
import { freshId, nowText, useLog } from '../stores/log'
import { useStation } from '../stores/station'
import { useInstruments, type Showing } from './useInstruments'

/** Instruments that tell what they show, taken as readings; and how far each is off. */
interface Choice {
  id: string
  label: string
}
const props = defineProps<{ plan: Plan; log: Log; terminals: readonly Choice[]; conditions: readonly Choice[] }>()
const store = useLog()
const station = useStation()
const instruments = useInstruments()
const { port, simulated, condition, problem, shows } = instruments

const portText = ref('')
const portWrong = ref('')
function connect() {
  const read = readNumber(portText.value)
  const isPort = read.ok && Number.isInteger(read.value) && read.value >= 1024 && read.value <= 65_535
  portWrong.value = isPort ? '' : `${portText.value} is no port: a number from 1024 to 65535`
  if (isPort) instruments.listen(read.value)
}
const hide = (fault: boolean) => void instruments.simulate(station.id, fault ? Math.floor(Math.random() * 1e6) : null)
/** Real instruments do not know what is on: then it is said here. */
function setCondition(id: string) {
  if (simulated.value) void instruments.ask(`state ${id}`)
  else condition.value = id
}
const meter = computed(() => shows.value.find(s => s.id === 'meter'))

/** One row an instrument. */
const together = computed(() =>
  [...new Set(shows.value.map(instrumentOf))].map(id => {
    const figures = shows.value.filter(s => instrumentOf(s) === id)
    const [first] = figures
    return { id, name: first!.at === NO_PLACE ? first!.name.replace(/ \d+$/, 's') : first!.name, figures }
  }),
)
const instrumentOf = (s: Showing) => s.id.split('.')[0]!
const figureOf = (s: Showing) => (s.value === null ? 'nothing' : `${shownFigure(s.value, s.digit)} ${s.unit}`)

const canTake = (s: Showing) =>
  s.at !== NO_PLACE && s.value !== null && s.settled && condition.value !== null && s.unit !== '%'
function take(s: Showing) {
  const name = `${simulated.value ? 'Simulated: ' : ''}${instrumentOf(s)}`
  const known = props.log.instruments.find(i => i.name === name)
  const instrument = known ?? { id: freshId(), name }
  const value = Number(shownFigure(s.value!, s.digit))
  const reading = {
    id: freshId(),
    time: nowText(),
    at: s.at,
    condition: condition.value!,
    ...(s.unit === 'V' ? { volts: value } : { amps: value }),
    digit: s.digit,
    with: instrument.id,
    revision: station.revision,
    ...(simulated.value && { note: SIMULATED }),
  } as LogReading
  const { log } = props
  const instrumentsNow = known ? log.instruments : [...log.instruments, instrument]
  store.change({ ...log, instruments: instrumentsNow, readings: [...log.readings, reading] }, 'reading')
}
const SIMULATED = 'simulated'
const made = computed(() => props.log.readings.filter(r => r.note === SIMULATED))
function dropMade() {
  const { log } = props
  store.change({ ...log, readings: log.readings.filter(r => r.note !== SIMULATED) }, 'simulated readings taken out')
}
const own = ref('')
function addOwn() {
  store.put('instruments', { id: freshId(), name: own.value.trim() } as never, 'instrument')
  own.value = ''
}
function setOff(id: string, offset: { offsetV?: number; offsetA?: number }) {
  const { log } = props
  const changed = log.instruments.map(i => (i.id === id ? { ...i, ...offset } : i))
  store.change({ ...log, instruments: changed }, 'offset of an instrument')
}
</script>

<template>
  <section data-testid="instruments">
    <h2>Instruments</h2>
    <template v-if="port === null">
      <p class="quiet">
        A meter, shunt, controller or battery management system that tells what it shows, over a port of this machine.
        Or simulated ones on this station, to try it.
      </p>
      <form class="entry" @submit.prevent="connect">
        <InputText
          v-model="portText"
          size="small"
          inputmode="numeric"
          placeholder="port"
          aria-label="Port they are at" />
        <Button type="submit" label="Listen" size="small" severity="secondary" :disabled="!portText.trim()" />
        <Button label="Simulated, as planned" size="small" severity="secondary" @click="hide(false)" />
        <Button label="Simulated, a fault hidden" size="small" severity="secondary" @click="hide(true)" />
      </form>
      <p v-if="portWrong" class="bad" role="alert">{{ portWrong }}</p>
    </template>
    <template v-else>
      <div class="entry">
        <PickOne
          :model-value="condition"
          :options="conditions"
          placeholder="what is on"
          label="What is on"
          @update:model-value="setCondition" />
        <PickOne
          v-if="meter"
          :model-value="meter.at"
          :options="terminals"
          is-many
          label="Meter held at"
          @update:model-value="at => instruments.ask(`probe ${at}`)" />
        <Button label="Put away" size="small" severity="secondary" @click="instruments.close()" />
      </div>
      <div v-for="i in together" :key="i.id" class="instrument">
        <span class="name">{{ i.name }}</span>
        <template v-for="s in i.figures" :key="s.id">
          <button
            v-if="s.at !== NO_PLACE"
            class="figure"
            :aria-label="`Take ${s.name}, ${s.unit}`"
            :disabled="!canTake(s)"
            @click="take(s)">
            <b>{{ figureOf(s) }}</b> <small>take</small>
          </button>
          <span v-else class="cell">{{ figureOf(s) }}</span>
        </template>
      </div>
      <p class="quiet">Port {{ port }}{{ simulated ? ', simulated' : '' }}. The middle of the last five figures.</p>
    </template>
    <p v-if="problem" class="bad" role="status">{{ problem }}</p>
    <p v-if="made.length" class="quiet">
      {{ made.length }} readings are of simulated instruments.
      <button class="plain" @click="dropMade">Take them out</button>
    </p>
    <details>
      <summary>My instruments, and how far each is off</summary>
      <p class="quiet">What it shows too much, as held against a better one; taken off what it reads.</p>
      <div v-for="i in log.instruments" :key="i.id" class="entry">
        <b class="who">{{ i.name }}</b>
        <CellInput
          :label="`${i.name}: volts too much`"
          :shown="showFigure(i.offsetV, 'V')"
          :read="readFigure('V', -5, 5)"
          right="volts, as 0.03"
          @change="v => v !== null && setOff(i.id, { offsetV: v })" />
        <CellInput
          :label="`${i.name}: amps too much`"
          :shown="showFigure(i.offsetA, 'A')"
          :read="readFigure('A', -50, 50)"
          right="amps, as 0.2"
          @change="v => v !== null && setOff(i.id, { offsetA: v })" />
        <button class="plain" :aria-label="`Take out ${i.name}`" @click="store.drop('instruments', i.id, 'instrument')">
          <Icon name="close" />
        </button>
      </div>
      <form class="entry" @submit.prevent="addOwn">
        <InputText v-model="own" size="small" placeholder="bench meter" aria-label="Name of an instrument" />
        <Button type="submit" label="Add" size="small" severity="secondary" :disabled="!own.trim()" />
      </form>
    </details>
  </section>
</template>

<style scoped>
section {
  margin: 1.2rem 0;
}
h2 {
  font-size: 1rem;
  margin: 0.6rem 0 0.3rem;
}
.quiet {
  color: var(--ink-3);
  max-width: 50rem;
  margin: 0.3rem 0;
}
.bad {
  color: var(--fail);
}
.entry {
  display: flex;
  flex-wrap: wrap;
  gap: 0.45rem;
  align-items: end;
  margin: 0.45rem 0;
}
.entry > :deep(.p-select) {
  width: 21rem;
  max-width: 100%;
}
.entry > :deep(.p-inputtext) {
  width: 7rem;
}
.who {
  min-width: 12rem;
  font-weight: 500;
  align-self: center;
}
.instrument {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
  align-items: center;
  padding: 0.3rem 0;
  border-bottom: 1px solid var(--line);
  max-width: 50rem;
  font-variant-numeric: tabular-nums;
}
.name {
  flex: 1 1 15rem;
}
.figure {
  min-width: 8rem;
  padding: 0.3rem 0.6rem;
  border: 1.5px solid var(--line-2);
  border-radius: 6px;
  background: var(--paper);
  cursor: pointer;
  text-align: left;
}
.figure small {
  float: right;
  color: var(--copper-ink, var(--ink-2));
}
.figure:disabled {
  cursor: default;
  border-style: dashed;
}
.figure:disabled small {
  visibility: hidden;
}
.cell {
  min-width: 4.4rem;
  color: var(--ink-2);
}
@media (max-width: 760px) {
  .name {
    flex-basis: 100%;
  }
}
</style>
