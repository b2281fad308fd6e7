<script setup lang="ts">
import { computed, ref } from 'vue'
import { freshId, type NoiseCase } from '#core/noise/logbook'
import type { Observation } from '#core/noise/observation'
import { besides, isPart, type Suspect } from '#core/noise/suspect'

/** A finding of one's own, in words, with what it concerns: it counts for as much as one hearing. */
const props = defineProps<{ noiseCase: NoiseCase; devices: readonly Suspect[]; who: string }>()
const emit = defineEmits<{ note: [observation: Observation] }>()

const words = ref('')
const concerns = ref<string | null>(null)
const speaks = ref<'for' | 'against'>('for')
const choices = computed(() => [...props.devices.filter(d => isPart(d.id)), ...besides])
const SPEAKS = [
  { id: 'for', label: 'it is' },
  { id: 'against', label: 'it is not' },
]

function note() {
  if (!words.value.trim() || !concerns.value) return
  emit('note', {
    kind: 'own',
    id: freshId('o', props.noiseCase.observations),
    at: new Date().toISOString(),
    ...(props.who.trim() && { who: props.who.trim() }),
    bands: [...props.noiseCase.complaint.bands],
    words: words.value.trim().slice(0, 500),
    concerns: concerns.value,
    speaks: speaks.value,
  })
  words.value = ''
}
</script>

<template>
  <form @submit.prevent="note">
    <Textarea v-model="words" rows="2" aria-label="What you found" placeholder="What you found, in your words" />
    <span class="row"
      ><span class="says">It says that</span
      ><Select
        v-model="speaks"
        :options="SPEAKS"
        option-label="label"
        option-value="id"
        size="small"
        aria-label="For or against" /><Select
        v-model="concerns"
        :options="choices"
        option-label="name"
        option-value="id"
        placeholder="which"
        size="small"
        aria-label="What it concerns" /><Button
        type="submit"
        label="Write down"
        size="small"
        severity="secondary"
        :disabled="!words.trim() || !concerns"
    /></span>
  </form>
</template>

<style scoped>
form {
  display: grid;
  gap: 0.4rem;
  max-width: 34rem;
}
.row {
  display: flex;
  flex-wrap: wrap;
  gap: 0.5rem;
  align-items: center;
}
.says {
  color: var(--ink-3);
}
</style>
