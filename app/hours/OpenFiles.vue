<script setup lang="ts">
import { ref } from 'vue'
import { readAdif } from '#core/formats/adif'
import { readIrradianceCsv } from '#core/formats/irradianceCsv'
import { withDuty } from '#core/hours/calibrate'
import { learnFrom, type Learned } from '#core/hours/learn'
import { readMeasured } from '#core/hours/measured'
import { MODES } from '#core/hours/modes'
import { readEventText } from '#core/hours/readEvent'
import type { HoursEvent } from '#core/hours/event'
import type { Plan } from '#core/plan/schema'
import { percent } from '#core/units/show'
import { fixed } from '#core/units/number'
import AtWork from './AtWork.vue'
import CellInput from './CellInput.vue'
import { useLasting } from './useLasting'

/** What is known already: an event's file, a log, measured sun, or what one event took. */
const props = defineProps<{ plan: Plan; event: HoursEvent }>()
const emit = defineEmits<{ change: [next: HoursEvent, label: string]; opened: [event: HoursEvent] }>()
const { ask, stop, progress, problem } = useLasting()
const wrong = ref<string[]>([])
const says = ref('')
const learned = ref<Learned | null>(null)

/** The largest that is read: a year of minutes, a log of a life. */
const MOST_BYTES = 40e6
async function open(changed: Event) {
  const input = changed.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  wrong.value = []
  says.value = ''
  learned.value = null
  if (file.size > MOST_BYTES) return refuse(file.name, 'it is larger than 40 MB', 'a part of it')
  const text = await file.text()
  if (/<eor>|<eoh>/i.test(text)) return openLog(file.name, text)
  if (text.trimStart().startsWith('{')) return openEvent(file.name, text)
  const read = readIrradianceCsv(text, props.event)
  if (!read.ok) return refuse(`${file.name}, line ${read.line}`, read.wrong, read.right)
  emit(
    'change',
    { ...props.event, weather: { ...props.event.weather, irradianceWm2: read.irradianceWm2 } },
    'measured sun',
  )
  says.value = `The sun of ${file.name} is taken, ${read.irradianceWm2.length} hours of it.`
}
function refuse(where: string, what: string, right: string) {
  wrong.value = [`${where}: ${what}; right would be ${right}.`]
}
function openEvent(name: string, text: string) {
  const read = readEventText(text, props.plan)
  if (read.ok) emit('opened', read.event)
  else
    wrong.value = [
      `${name} is not taken, and nothing is changed:`,
      ...read.faults.map(f => `${f.path} ${f.wrong}; right would be ${f.right}.`),
    ]
}
function openLog(name: string, text: string) {
  const read = readAdif(text)
  if (!read.ok) return refuse(`${name}, line ${read.line}`, read.wrong, read.right)
  learned.value = learnFrom(read.contacts)
  const { contacts, onAirH, contactsPerHour } = learned.value
  const skipped = read.skipped ? `; ${read.skipped} records without a time are left out` : ''
  const often = `${Math.round(contactsPerHour)} an hour`
  says.value = `${contacts} contacts in ${fixed(onAirH, 1)} h on the air, ${often}${skipped}.`
}
function useLog() {
  const share = (mode: string) => learned.value?.modes.find(m => m.mode === mode)?.share
  const activities = props.event.activities?.map(a => ({ ...a, share: share(a.mode) ?? a.share }))
  emit('change', { ...props.event, activities }, 'transmit time from a log')
  learned.value = null
}

const measured = ref('')
async function calibrate(value: NonNullable<ReturnType<typeof readMeasured>>) {
  says.value = ''
  wrong.value = []
  const found = await ask('calibrate', props.plan, props.event, value)
  if (found === null) return
  if (typeof found === 'string') return void (wrong.value = [`${found}.`])
  const { duty, low, high } = found
  emit(
    'change',
    withDuty(props.event, duty, mode => MODES[mode as keyof typeof MODES].share),
    'transmit time as measured',
  )
  says.value = `That is ${percent(duty)} of the transmit time there was (${percent(low)} to ${percent(high)}): taken.`
}
</script>

<template>
  <details class="known">
    <summary>Open a file, or say what was measured</summary>
    <div class="asks">
      <label class="file"
        >Event, log or measured sun<input
          type="file"
          accept=".json,.adi,.adif,.csv,application/json,text/csv"
          data-testid="hours-file"
          @change="open"
      /></label>
      <CellInput
        label="this event took"
        :shown="measured"
        :read="text => readMeasured(text) ?? undefined"
        right="18 Ah, 230 Wh, or 100-64 %"
        @change="calibrate" />
    </div>
    <AtWork :progress="progress" :problem="problem" words="Finding the transmit time" @stop="stop" />
    <div v-if="wrong.length" class="problem" role="alert">
      <p v-for="w in wrong" :key="w">{{ w }}</p>
    </div>
    <p v-if="says" role="status">{{ says }}</p>
    <template v-if="learned">
      <p v-for="m in learned.modes" :key="m.mode">
        {{ MODES[m.mode].label }}: {{ m.contacts }} contacts, transmitting about {{ percent(m.share) }} of the time.
      </p>
      <Button label="Use these shares" size="small" severity="secondary" @click="useLog" />
    </template>
  </details>
</template>

<style scoped>
.known {
  margin-top: 1rem;
}
summary {
  cursor: pointer;
  color: var(--ink-2);
}
.asks {
  display: grid;
  gap: 0.7rem;
  margin: 0.6rem 0;
}
.file {
  display: grid;
  gap: 0.2rem;
}
.problem {
  color: var(--fail);
}
</style>
