<script setup lang="ts">
import { capital } from '#core/units/words'
import { computed, ref } from 'vue'
import { BANDS } from '#core/catalog/bands'
import type { NoiseCase } from '#core/noise/logbook'
import { transmittersOf } from '#core/circuit/conditions'
import { nameOf } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import Dialog from '../shell/focusedDialog'

/** What is heard, where, and how it sounds. */
const props = defineProps<{ plan: Plan; noiseCase?: NoiseCase }>()
const emit = defineEmits<{ take: [said: Pick<NoiseCase, 'title' | 'complaint' | 'radio'>]; close: [] }>()
const SOUNDS = [
  { id: 'hiss', label: 'hiss' },
  { id: 'tones', label: 'tones' },
  { id: 'buzz', label: 'buzz' },
  { id: 'whine', label: 'whine in the audio' },
] as const

const start = props.noiseCase
const title = ref(start?.title ?? '')
const bands = ref<string[]>([...(start?.complaint.bands ?? [])])
const sound = ref(start?.complaint.sound ?? null)
const words = ref(start?.complaint.words ?? '')
const radios = computed(() => transmittersOf(props.plan).map(p => ({ id: p.id, label: nameOf(p) })))
const radio = ref(start?.radio ?? radios.value[0]?.id ?? null)
const toggle = (b: string) =>
  (bands.value = bands.value.includes(b) ? bands.value.filter(x => x !== b) : [...bands.value, b])
function take() {
  const heard = capital(sound.value || 'noise')
  const on = bands.value.length ? ` on ${bands.value.join(', ')}` : ''
  const name = title.value.trim() || heard + on
  emit('take', {
    title: name.slice(0, 200),
    complaint: {
      bands: bands.value,
      ...(sound.value && { sound: sound.value }),
      ...(words.value.trim() && { words: words.value.trim().slice(0, 2000) }),
    },
    ...(radio.value && { radio: radio.value }),
  })
}
</script>

<template>
  <Dialog
    :visible="true"
    modal
    :header="noiseCase ? 'The complaint' : 'A new complaint'"
    :style="{ width: '34rem', maxWidth: '95vw' }"
    @update:visible="emit('close')">
    <form class="form" @submit.prevent="take">
      <fieldset>
        <legend>Heard on</legend>
        <button
          v-for="b in BANDS"
          :key="b.id"
          type="button"
          class="chip"
          :class="{ on: bands.includes(b.id) }"
          :aria-pressed="bands.includes(b.id)"
          @click="toggle(b.id)">
          {{ b.id }}
        </button>
      </fieldset>
      <fieldset>
        <legend>It sounds like</legend>
        <SelectButton
          v-model="sound"
          :options="[...SOUNDS]"
          option-label="label"
          option-value="id"
          size="small"
          aria-label="Sound" />
      </fieldset>
      <label
        >In your words, and when<Textarea
          v-model="words"
          rows="3"
          auto-resize
          aria-label="In your words"
          placeholder="Towards noon a hiss comes up, and goes when a cloud passes."
      /></label>
      <label>Call it<InputText v-model="title" aria-label="Call it" placeholder="as above, if left empty" /></label>
      <label v-if="radios.length > 1"
        >In the receiver of<Select
          v-model="radio"
          :options="radios"
          option-label="label"
          option-value="id"
          aria-label="Radio"
      /></label>
      <div class="end">
        <Button type="button" label="Cancel" severity="secondary" @click="emit('close')" /><Button
          type="submit"
          :label="noiseCase ? 'Save' : 'Write it down'"
          :disabled="!bands.length && !words.trim()" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.form {
  display: grid;
  gap: 0.9rem;
}
fieldset {
  border: 0;
  padding: 0;
  margin: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 0.35rem;
}
legend {
  padding: 0;
  margin-bottom: 0.3rem;
  color: var(--ink-2);
}
label {
  display: grid;
  gap: 0.3rem;
  color: var(--ink-2);
}
.end {
  display: flex;
  justify-content: flex-end;
  gap: 0.6rem;
}
</style>
