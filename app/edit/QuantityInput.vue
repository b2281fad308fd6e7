<script setup lang="ts">
import { ref, watch } from 'vue'
import { readEntry, showEntry } from '#core/edit/entry'
import type { Units } from '#core/units/quantity'

/** A number entered as people write it; says what is wrong under itself, and keeps what was typed. */
const props = defineProps<{
  label: string
  quantity: string
  units: Units
  value: unknown
  optional?: boolean
  refused?: string | null
}>()
const emit = defineEmits<{ change: [value: unknown] }>()

const shown = () => showEntry(props.value, props.quantity, props.units)
const text = ref(shown())
const wrong = ref('')
watch(
  () => [props.value, props.units],
  () => {
    text.value = shown()
    wrong.value = ''
  },
  { deep: true },
)

function commit() {
  if (text.value === shown()) {
    wrong.value = ''
    return
  }
  if (!text.value.trim() && props.optional) return emit('change', undefined)
  const read = readEntry(text.value, props.quantity, props.units)
  if (!read.ok) {
    wrong.value = read.wrong
    return
  }
  wrong.value = ''
  emit('change', read.value)
}
</script>

<template>
  <label class="quantity">
    <span>{{ label }}</span>
    <InputText
      v-model="text"
      size="small"
      :invalid="Boolean(wrong || refused)"
      autocomplete="off"
      @blur="commit"
      @keydown.enter.prevent="commit" />
    <em v-if="wrong || refused" role="alert">{{ wrong || refused }}</em>
  </label>
</template>

<style scoped>
.quantity {
  display: grid;
  gap: 0.1rem;
  min-width: 0;
}
span {
  font-size: 0.8rem;
  color: var(--ink-3);
}
em {
  font-style: normal;
  font-size: 0.82rem;
  color: var(--fail);
}
input {
  width: 100%;
}
</style>
