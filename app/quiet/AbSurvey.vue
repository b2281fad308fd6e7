<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Comparison } from '#core/noise/listen/listening'
import type { Logbook } from '#core/noise/logbook'
import { withMeasured } from '#core/noise/survey/measured'
import { useLogbook } from '../stores/logbook'

/** On against off as two cells of a survey: what the device costs on a band, in the bandwidth of the calibration. */
const props = defineProps<{
  compared: Comparison
  logbook: Logbook
  device: string | null
  /** What a level of 0 dB is, dBm; null until it is calibrated. */
  offsetDb: number | null
  widthHz: number
}>()
const emit = defineEmits<{ tool: [id: 'survey'] }>()
const log = useLogbook()

const surveyId = ref(props.logbook.surveys[0]?.id ?? '')
const survey = computed(() => props.logbook.surveys.find(s => s.id === surveyId.value))
const column = ref<string | null>(null)
function put() {
  if (!survey.value || !column.value || !props.device || props.offsetDb === null) return
  const toDbm = props.offsetDb + 10 * Math.log10(props.widthHz)
  const { onDb, offDb } = props.compared.perHz
  const cell = { device: props.device, column: column.value, at: new Date().toISOString() }
  log.put('surveys', withMeasured(survey.value, { ...cell, onDbm: onDb + toDbm, offDbm: offDb + toDbm }))
  emit('tool', 'survey')
}
</script>

<template>
  <p v-if="survey" class="line">
    Or, all else being off, two cells of
    <Select
      v-model="surveyId"
      :options="logbook.surveys"
      option-label="name"
      option-value="id"
      size="small"
      aria-label="Survey" />
    on
    <Select
      v-model="column"
      :options="survey.columns"
      option-label="id"
      option-value="id"
      placeholder="band"
      size="small"
      aria-label="Band of the survey" />
    <Button
      label="Into the survey"
      size="small"
      severity="secondary"
      :disabled="!column || !device || offsetDb === null"
      @click="put" />
    <span v-if="offsetDb === null" class="quiet">Calibrate the level first.</span>
  </p>
</template>

<style scoped>
.line {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  flex-wrap: wrap;
  margin-top: 0.7rem;
  color: var(--ink-2);
}
.quiet {
  color: var(--ink-3);
}
</style>
