<script setup lang="ts">
import { ref, watch } from 'vue'

/** One figure of a row: taken when it can be read, else it stays and says what would be right. */
const props = defineProps<{
  label: string
  shown: string
  /** @returns the value, or undefined where it cannot be read */
  read: (text: string) => unknown
  right: string
  wide?: boolean
}>()
const emit = defineEmits<{ change: [value: never] }>()
const text = ref(props.shown)
const wrong = ref(false)
watch(
  () => props.shown,
  shown => {
    text.value = shown
    wrong.value = false
  },
)
function commit() {
  if (text.value === props.shown) return void (wrong.value = false)
  const value = props.read(text.value.trim())
  wrong.value = value === undefined
  if (value !== undefined) emit('change', value as never)
}
</script>

<template>
  <label :class="{ wide }"
    ><span>{{ label }}</span
    ><InputText
      v-model="text"
      size="small"
      :aria-label="label"
      :aria-invalid="wrong"
      @change="commit"
      @keydown.enter.prevent="commit" /><em v-if="wrong" role="alert">{{ right }}</em></label
  >
</template>

<style scoped>
label {
  display: grid;
  gap: 0.1rem;
  min-width: 0;
}
label span {
  color: var(--ink-3);
  font-size: 0.82rem;
}
label :deep(input) {
  width: 100%;
  padding-inline: 0.5rem;
}
.wide {
  grid-column: 1 / -1;
}
em {
  font-style: normal;
  color: var(--fail);
  font-size: 0.82rem;
}
</style>
