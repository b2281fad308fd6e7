<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { SITE_CLASSES, type SiteClass } from '#core/catalog/noise'
import { transmittersOf } from '#core/circuit/conditions'
import { receiverOf, type Logbook } from '#core/noise/logbook'
import type { Survey } from '#core/noise/survey/survey'
import { nameOf } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import { useLogbook } from '../stores/logbook'

/** The receiver that hears: where it stands, its bandwidth, and what its meter shows at known levels. */
const props = defineProps<{ plan: Plan; logbook: Logbook; survey: Survey | undefined }>()
const emit = defineEmits<{ put: [survey: Survey] }>()
const log = useLogbook()

const setSite = (site: SiteClass) => log.change({ ...props.logbook, site }, 'site of the receiver')
// A receiver of its own for each radio; the logbook's where a survey names none.
const radios = computed(() => transmittersOf(props.plan).map(p => ({ id: p.id, label: nameOf(p) })))
const receiver = computed(() => receiverOf(props.logbook, props.survey?.radio))
function setReceiver(next: Logbook['receiver']) {
  const radio = props.survey?.radio
  log.change(
    radio
      ? { ...props.logbook, receivers: { ...props.logbook.receivers, [radio]: next } }
      : { ...props.logbook, receiver: next },
    'settings of the receiver',
  )
}
const setRadio = (radio: string) => props.survey && emit('put', { ...props.survey, radio })
const calibrationText = ref('')
const calibrationWrong = ref('')
watch(
  () => receiver.value.calibration,
  points => (calibrationText.value = (points ?? []).map(p => `${p.shown} ${p.dbm}`).join('\n')),
  { immediate: true },
)
/** Takes the table when every line of it can be read; until then what was typed stays as it is. */
function setCalibration() {
  const lines = calibrationText.value.split('\n').filter(l => l.trim())
  const read = lines.map(line => /^\s*(S\d(?:\.\d)?(?:\+\d+)?)\s+([-−]\d+(?:\.\d+)?)\s*(?:dBm)?\s*$/i.exec(line))
  const bad = read.indexOf(null)
  calibrationWrong.value =
    bad < 0
      ? ''
      : `“${lines[bad]!.trim()}” cannot be read; right would be S5 -97, what the meter shows and the level in dBm`
  if (bad < 0)
    setReceiver({
      ...receiver.value,
      calibration: read.length
        ? read.map(m => ({ shown: m![1]!.toUpperCase(), dbm: Number(m![2]!.replace('−', '-')) }))
        : undefined,
    })
}
const setField = (field: 'attenuatorDb' | 'bandwidthHz', value: number | null) =>
  setReceiver({ ...receiver.value, [field]: value || undefined })
</script>

<template>
  <div class="receiver">
    <label v-if="survey && radios.length"
      >Heard with
      <Select
        :model-value="survey.radio"
        :options="radios"
        option-label="label"
        option-value="id"
        size="small"
        placeholder="any of them"
        aria-label="Heard with"
        @update:model-value="setRadio"
    /></label>
    <label
      >Site
      <Select
        :model-value="logbook.site"
        :options="[...SITE_CLASSES]"
        option-label="label"
        option-value="id"
        size="small"
        aria-label="Site"
        @update:model-value="setSite"
    /></label>
    <label
      >Bandwidth, Hz
      <InputNumber
        :model-value="receiver.bandwidthHz ?? 2700"
        :min="1"
        :max="1000000"
        size="small"
        aria-label="Bandwidth"
        @update:model-value="v => setField('bandwidthHz', v)"
    /></label>
    <label
      >Attenuator, dB
      <InputNumber
        :model-value="receiver.attenuatorDb ?? 0"
        :min="0"
        :max="60"
        size="small"
        aria-label="Attenuator"
        @update:model-value="v => setField('attenuatorDb', v)"
    /></label>
    <label class="wide"
      >What its meter shows, and dBm at the socket, a line each<Textarea
        v-model="calibrationText"
        rows="4"
        placeholder="S5 -97"
        aria-label="Calibration"
        @change="setCalibration" /><span v-if="calibrationWrong" class="wrong" role="alert">{{
        calibrationWrong
      }}</span></label
    >
  </div>
</template>

<style scoped>
.receiver {
  display: flex;
  flex-wrap: wrap;
  gap: 0.7rem 1.4rem;
  margin-bottom: 0.9rem;
  padding: 0.7rem 0;
  border-top: 1px solid var(--line);
  border-bottom: 1px solid var(--line);
}
.receiver label {
  display: grid;
  gap: 0.2rem;
  color: var(--ink-2);
}
.receiver :deep(input) {
  width: 7rem;
}
.wrong {
  color: var(--fail);
}
</style>
