<script setup lang="ts">
import { computed, ref } from 'vue'
import { BANDS, middleHz } from '#core/catalog/bands'
import type { Survey } from '#core/noise/survey/survey'
import { readRadioFrequency } from '#core/units/quantity'
import { figure } from '#core/units/number'
import Dialog from '../shell/focusedDialog'

/** Which bands and frequencies a survey reads. */
const props = defineProps<{ survey: Survey }>()
const emit = defineEmits<{ put: [survey: Survey]; close: [] }>()

function toggleColumn(band: string) {
  const s = props.survey
  const has = s.columns.some(c => c.id === band)
  if (has && s.columns.length === 1) return
  const found = BANDS.find(b => b.id === band)!
  const columns = has ? s.columns.filter(c => c.id !== band) : [...s.columns, { id: band, hz: middleHz(found) }]
  emit('put', { ...s, columns: columns.sort((a, b) => a.hz - b.hz) })
}
const frequency = ref('')
const frequencyHz = computed(() => {
  const read = readRadioFrequency(frequency.value)
  return read.ok && read.value > 1e4 && read.value < 3e9 ? read.value : null
})
function addFrequency() {
  const s = props.survey
  const hz = frequencyHz.value
  if (hz === null) return
  const id = `${figure(hz / 1e6, 6)} MHz`
  if (!s.columns.some(c => c.id === id))
    emit('put', { ...s, columns: [...s.columns, { id, hz }].sort((a, b) => a.hz - b.hz) })
  frequency.value = ''
}
const dropColumn = (id: string) =>
  props.survey.columns.length > 1 &&
  emit('put', { ...props.survey, columns: props.survey.columns.filter(c => c.id !== id) })
</script>

<template>
  <Dialog :visible="true" modal header="Bands of this survey" @update:visible="emit('close')"
    ><p class="chips">
      <button
        v-for="b in BANDS"
        :key="b.id"
        class="chip"
        :class="{ on: survey.columns.some(c => c.id === b.id) }"
        @click="toggleColumn(b.id)">
        {{ b.id }}</button><button
        v-for="c in survey.columns.filter(k => !BANDS.some(b => b.id === k.id))"
        :key="c.id"
        class="chip on"
        @click="dropColumn(c.id)">
        {{ c.id }}
      </button>
    </p>
    <form class="frequency" @submit.prevent="addFrequency">
      <InputText
        v-model="frequency"
        size="small"
        placeholder="7.15 MHz"
        aria-label="Frequency"
        :invalid="!!frequency && frequencyHz === null" /><Button
        type="submit"
        label="Add a frequency"
        size="small"
        severity="secondary"
        :disabled="frequencyHz === null" /></form
  ></Dialog>
</template>

<style scoped>
.frequency {
  display: flex;
  gap: 0.5rem;
  margin-top: 0.8rem;
}
.chips {
  display: flex;
  flex-wrap: wrap;
  gap: 0.35rem;
  max-width: 26rem;
}
</style>
