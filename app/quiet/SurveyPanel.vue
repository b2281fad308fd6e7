<script setup lang="ts">
import { computed, nextTick, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { BANDS } from '#core/catalog/bands'
import { surveyCsv, surveyFromCsv } from '#core/formats/surveyCsv'
import { suspectsOf } from '#core/noise/suspect'
import { freshId, receiverOf, type Logbook } from '#core/noise/logbook'
import {
  cellOrder,
  freshSurvey,
  keyed,
  levelOf,
  rowWords,
  type Survey,
  type SurveyRow,
} from '#core/noise/survey/survey'
import type { Patch } from '#core/edit/patch'
import type { Fault } from '#core/plan/faults'
import type { Plan } from '#core/plan/schema'
import { download } from '../shell/download'
import { useLogbook } from '../stores/logbook'
import BandCosts from './BandCosts.vue'
import ReceiverForm from './ReceiverForm.vue'
import SurveyColumns from './SurveyColumns.vue'
import SurveySetup from './SurveySetup.vue'

/** The survey sheet, for use at the radio: a digit fills the cell and goes on to the next. */
const props = defineProps<{ plan: Plan; logbook: Logbook; edit: (patch: Patch, label: string) => Fault[] }>()
const log = useLogbook()
const devices = computed(() => suspectsOf(props.plan))

const chosenId = ref(props.logbook.surveys[0]?.id ?? '')
const survey = computed(() => props.logbook.surveys.find(s => s.id === chosenId.value) ?? props.logbook.surveys[0])
const order = computed(() => (survey.value ? cellOrder(survey.value) : []))
const at = ref(0)
/** The first cell that is still to be read. */
const firstEmpty = () =>
  Math.max(
    0,
    order.value.findIndex(c => !survey.value!.readings[c.row]?.[c.column]),
  )
watch(
  () => survey.value?.id,
  () => (at.value = firstEmpty()),
  { immediate: true },
)
const cell = computed(() => order.value[at.value])
const row = computed(() => survey.value?.rows.find(r => r.id === cell.value?.row))
const reading = (rowId: string, column: string) => survey.value?.readings[rowId]?.[column]
const left = computed(() => order.value.filter(c => !reading(c.row, c.column)).length)

const put = (next: Survey) => log.put('surveys', next)
function set(rowId: string, column: string, value: string) {
  const s = survey.value!
  const { [column]: _old, ...others } = s.readings[rowId] ?? {}
  const first = !Object.keys(s.readings[rowId] ?? {}).length && value
  put({
    ...s,
    readings: { ...s.readings, [rowId]: value ? { ...others, [column]: value } : others },
    ...(first && { rows: s.rows.map(r => (r.id === rowId && !r.at ? { ...r, at: new Date().toISOString() } : r)) }),
  })
}
watch(
  at,
  () =>
    void nextTick(() => document.querySelector('.cell.on')?.scrollIntoView({ block: 'nearest', inline: 'nearest' })),
)
const go = (by: number) => (at.value = Math.max(0, Math.min(order.value.length - 1, at.value + by)))
function key(name: string): boolean {
  const c = cell.value
  if (!c || !survey.value) return false
  // + and the point belong to the digit just keyed, which has moved on already.
  const before = order.value[at.value - 1]
  const target = (name === '+' || name === '.' || name === ',') && !reading(c.row, c.column) && before ? before : c
  const result = keyed(reading(target.row, target.column), name)
  if (result) {
    set(target.row, target.column, result.reading)
    if (result.next) go(1)
    return true
  }
  const columns = survey.value.columns.length
  switch (name) {
    case 'ArrowRight':
    case ' ':
    case 'Tab':
    case 'Enter':
      go(1)
      return true
    case 'ArrowLeft':
      go(-1)
      return true
    case 'ArrowDown':
      go(columns)
      return true
    case 'ArrowUp':
      go(-columns)
      return true
    case 'Backspace':
    case 'Delete':
      if (!reading(c.row, c.column)) go(-1)
      set(order.value[at.value]!.row, order.value[at.value]!.column, '')
      return true
    default:
      return false
  }
}
function onKey(event: KeyboardEvent) {
  if (event.ctrlKey || event.metaKey || event.altKey || document.querySelector('[role=dialog]')) return
  if ((event.target as HTMLElement).closest('input, textarea, select, [role=combobox], [role=listbox]')) return
  // Tab and Enter move through the page unless the sheet itself has the focus.
  if (
    (event.key === 'Tab' || event.key === 'Enter' || event.key === ' ') &&
    !(event.target as HTMLElement).closest('.sheet')
  )
    return
  if (key(event.key)) event.preventDefault()
}
onMounted(() => window.addEventListener('keydown', onKey))
onBeforeUnmount(() => window.removeEventListener('keydown', onKey))

function fresh() {
  const id = freshId('s', props.logbook.surveys)
  const bands = props.plan.site?.bands?.filter(b => BANDS.some(x => x.id === b)) ?? []
  put(
    freshSurvey(
      props.plan,
      bands.length ? bands : ['80 m', '40 m', '20 m', '15 m', '10 m'],
      id,
      `Survey of ${new Date().toLocaleDateString('en-GB', { day: 'numeric', month: 'long' })}`,
    ),
  )
  chosenId.value = id
}
const refused = ref('')
async function importCsv(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  const text = await file?.text()
  input.value = ''
  if (text === undefined) return
  const id = freshId('s', props.logbook.surveys)
  const read = surveyFromCsv(text, id, file!.name.replace(/\.csv$/i, '').slice(0, 100))
  refused.value = read.ok ? '' : `${file!.name}, line ${read.line}: ${read.wrong}; right would be ${read.right}`
  if (!read.ok) return
  put(read.survey)
  chosenId.value = id
}
const exportCsv = () =>
  download(`${survey.value!.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}.csv`, surveyCsv(survey.value!), 'text/csv')

const setting = ref<SurveyRow | 'new' | 'columns' | null>(null)
function takeRow(next: SurveyRow) {
  const s = survey.value!
  put({
    ...s,
    rows: s.rows.some(r => r.id === next.id) ? s.rows.map(r => (r.id === next.id ? next : r)) : [...s.rows, next],
  })
  setting.value = null
}
function dropRow(id: string) {
  const s = survey.value!
  put({ ...s, rows: s.rows.filter(r => r.id !== id) })
  setting.value = null
  at.value = 0
}
const newRow = (): SurveyRow => ({
  id: freshId('r', survey.value!.rows),
  devices: {},
  antenna: 'antenna',
  feed: 'shared',
})
const dbm = computed(() => {
  const c = cell.value
  const column = survey.value?.columns.find(x => x.id === c?.column)
  const level = c && column ? levelOf(reading(c.row, c.column), column.hz, receiver.value) : null
  return level === null ? '' : `${Math.round(level)} dBm`
})
const calibrating = ref(false)
const receiver = computed(() => receiverOf(props.logbook, survey.value?.radio))
const PAD = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '.', '0', '+']
const padWords: Record<string, string> = { '.': '+½', '+': '+10' }
</script>

<template>
  <div class="survey">
    <p class="bar">
      <Select
        v-if="logbook.surveys.length"
        :model-value="survey?.id"
        :options="logbook.surveys"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Survey"
        @update:model-value="v => (chosenId = v)" />
      <Button label="New survey" size="small" severity="secondary" @click="fresh" />
      <label class="plain file"
        >Open CSV<input type="file" accept=".csv,text/csv" data-testid="survey-file" @change="importCsv"
      /></label>
      <button v-if="survey" class="plain" @click="exportCsv">Save as CSV</button>
      <button v-if="survey" class="plain" @click="setting = 'columns'">Bands</button>
      <button class="plain" @click="calibrating = !calibrating">Receiver</button>
      <span v-if="survey" class="left">{{ left ? `${left} of ${order.length} to read` : 'all read' }}</span>
    </p>
    <p v-if="refused" class="wrong" role="alert">{{ refused }}</p>
    <ReceiverForm v-if="calibrating" :plan="plan" :logbook="logbook" :survey="survey" @put="put" />

    <template v-if="survey">
      <div class="one" aria-live="polite">
        <p class="what">
          <b>{{ cell?.column }}</b><span>{{ row ? rowWords(row, devices) : '' }}</span>
        </p>
        <p class="shown">
          {{ cell ? (reading(cell.row, cell.column) ?? '–') : '' }}<small>{{ dbm }}</small>
        </p>
        <div class="pad">
          <button v-for="k in PAD" :key="k" @click="key(k)">{{ padWords[k] ?? k }}</button>
          <button class="step" @click="go(-1)">Back</button><button class="step" @click="key('Backspace')">Clear</button
          ><button class="step" @click="go(1)">Skip</button>
        </div>
      </div>
      <div class="sheet" tabindex="0" role="grid" :aria-label="survey.name">
        <table>
          <thead>
            <tr>
              <th />
              <th v-for="c in survey.columns" :key="c.id">{{ c.id }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in survey.rows" :key="r.id" :class="{ on: r.id === row?.id }">
              <th>
                <button class="plain state" @click="setting = r">
                  {{ rowWords(r, devices)
                  }}<small>{{
                    [
                      r.at && new Date(r.at).toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' }),
                      r.who,
                      r.allowedBy && `by ${r.allowedBy}`,
                    ]
                      .filter(Boolean)
                      .join(' · ')
                  }}</small>
                </button>
              </th>
              <td v-for="c in survey.columns" :key="c.id">
                <button
                  class="cell"
                  :class="{ on: cell?.row === r.id && cell?.column === c.id }"
                  :aria-label="`${rowWords(r, devices)}, ${c.id}`"
                  tabindex="-1"
                  @click="at = order.findIndex(o => o.row === r.id && o.column === c.id)">
                  {{ reading(r.id, c.id) ?? '' }}
                </button>
              </td>
            </tr>
          </tbody>
        </table>
        <p class="how">
          <button class="plain" @click="setting = 'new'">Add a state</button
          ><span
            ><kbd>0</kbd>–<kbd>9</kbd> S-units and on to the next, <kbd>+</kbd> ten over nine, <kbd>.</kbd> half a unit,
            <kbd>⌫</kbd> back</span
          >
        </p>
      </div>
      <BandCosts :survey="survey" :logbook="logbook" :devices="devices" :plan="plan" :edit="edit" />
    </template>
    <div v-else class="none">
      <h2>No survey yet</h2>
      <p>
        Everything off, then each device alone, band by band. The sheet is laid out for this plan's switching parts.
      </p>
    </div>

    <SurveySetup
      v-if="setting && setting !== 'columns' && survey"
      :row="setting === 'new' ? newRow() : setting"
      :devices="devices"
      :can-drop="setting !== 'new'"
      @take="takeRow"
      @drop="dropRow"
      @close="setting = null" />
    <SurveyColumns v-if="setting === 'columns' && survey" :survey="survey" @put="put" @close="setting = null" />
  </div>
</template>

<style scoped>
.bar {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
  margin-bottom: 0.8rem;
}
.left {
  margin-left: auto;
  color: var(--ink-2);
}
.file {
  cursor: pointer;
}
.file input {
  position: absolute;
  opacity: 0;
  width: 1px;
}
.wrong {
  color: var(--fail);
  margin-bottom: 0.6rem;
}
.one {
  display: none;
}
.sheet {
  outline-offset: 4px;
  overflow-x: auto;
  margin-bottom: 1.4rem;
}
table {
  border-collapse: separate;
  border-spacing: 0 3px;
}
thead th {
  font-weight: 600;
  color: var(--ink-2);
  padding: 0 0.3rem 0.2rem;
  text-align: center;
}
tbody th {
  text-align: left;
  font-weight: 500;
  min-width: 17rem;
  padding-right: 0.8rem;
}
.state {
  text-align: left;
  color: var(--ink);
  line-height: 1.25;
  width: 100%;
}
.state small {
  display: block;
  color: var(--ink-3);
}
td {
  width: 6.5rem;
  padding: 0 2px;
}
.cell {
  width: 100%;
  min-width: 4.4rem;
  height: 2.9rem;
  border: 1px solid var(--line-2);
  border-radius: 7px;
  background: var(--sheet);
  font-size: 1.15rem;
  cursor: pointer;
}
.cell.on {
  border: 2px solid var(--copper);
  background: var(--lit);
}
tr.on th .state {
  font-weight: 650;
}
.how {
  display: flex;
  gap: 1.6rem;
  align-items: center;
  flex-wrap: wrap;
  color: var(--ink-3);
  margin-top: 0.3rem;
}
@media (max-width: 760px) {
  .one {
    display: block;
    position: sticky;
    top: 0;
    background: var(--paper);
    padding: 0.2rem 0 0.6rem;
    z-index: 2;
    border-bottom: 1px solid var(--line);
    margin-bottom: 0.7rem;
  }
  .what {
    display: flex;
    gap: 0.8rem;
    align-items: baseline;
    min-height: 2.6rem;
  }
  .what b {
    font-size: 1.5rem;
    white-space: nowrap;
  }
  .what span {
    color: var(--ink-2);
    line-height: 1.2;
  }
  .shown {
    font-size: 2.1rem;
    font-weight: 650;
    line-height: 1.1;
    display: flex;
    justify-content: space-between;
    align-items: baseline;
  }
  .shown small {
    font-size: 1rem;
    font-weight: 400;
    color: var(--ink-3);
  }
  .pad {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 0.4rem;
    margin-top: 0.4rem;
  }
  .pad button {
    height: 3.4rem;
    font-size: 1.35rem;
    border: 1px solid var(--line-2);
    border-radius: 10px;
    background: var(--sheet);
    cursor: pointer;
    touch-action: manipulation;
  }
  .pad button:active {
    background: var(--lit);
    border-color: var(--copper);
  }
  .pad .step {
    font-size: 1rem;
    height: 3rem;
    color: var(--ink-2);
    background: none;
  }
  .how span {
    display: none;
  }
  tbody th {
    min-width: 9.5rem;
  }
  .left {
    margin-left: 0;
  }
}
</style>
