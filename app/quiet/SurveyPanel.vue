<script setup lang="ts">
import { computed, ref } from 'vue'
import { BANDS } from '#core/catalog/bands'
import { surveyCsv, surveyFromCsv } from '#core/formats/surveyCsv'
import { suspectsOf } from '#core/noise/suspect'
import { freshId, receiverOf, type Logbook } from '#core/noise/logbook'
import { freshSurvey, levelOf, rowWords, type Survey, type SurveyRow } from '#core/noise/survey/survey'
import type { Patch } from '#core/edit/patch'
import type { Fault } from '#core/plan/faults'
import type { Plan } from '#core/plan/schema'
import { download } from '../shell/download'
import { useLogbook } from '../stores/logbook'
import BandCosts from './BandCosts.vue'
import ReceiverForm from './ReceiverForm.vue'
import SurveyColumns from './SurveyColumns.vue'
import SurveyPad from './SurveyPad.vue'
import SurveySetup from './SurveySetup.vue'
import SurveySheet from './SurveySheet.vue'
import { useSurveySheet } from './useSurveySheet'

/** The survey sheet, for use at the radio: a digit fills the cell and goes on to the next. */
const props = defineProps<{ plan: Plan; logbook: Logbook; edit: (patch: Patch, label: string) => Fault[] }>()
const log = useLogbook()
const devices = computed(() => suspectsOf(props.plan))

const chosenId = ref(props.logbook.surveys[0]?.id ?? '')
const survey = computed(() => props.logbook.surveys.find(s => s.id === chosenId.value) ?? props.logbook.surveys[0])
const put = (next: Survey) => log.put('surveys', next)
const { order, at, cell, row, left, reading, go, choose, key } = useSurveySheet(survey, put)

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
      <SurveyPad
        :band="cell?.column ?? ''"
        :state="row ? rowWords(row, devices) : ''"
        :reading="cell ? (reading(cell.row, cell.column) ?? '–') : ''"
        :dbm="dbm"
        @key="key"
        @go="go" />
      <SurveySheet
        :survey="survey"
        :devices="devices"
        :cell="cell"
        @choose="choose"
        @state="setting = $event"
        @add="setting = 'new'" />
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
@media (max-width: 760px) {
  .left {
    margin-left: 0;
  }
}
</style>
