<script setup lang="ts">
import { computed, ref } from 'vue'
import { readClock, showClock } from '#core/units/clock'

/** Which stretch of a long recording was listened to, and the way to another. */
const props = defineProps<{ stretch: { fromS: number; toS: number; ofS: number } }>()
const emit = defineEmits<{ from: [seconds: number] }>()

const typed = ref('')
const read = computed(() => readClock(typed.value))
const isLast = computed(() => props.stretch.toS > props.stretch.ofS - 1)

function go() {
  if (read.value !== null) emit('from', read.value)
}
</script>

<template>
  <p class="stretch" data-testid="stretch">
    Heard {{ showClock(stretch.fromS) }} to {{ showClock(stretch.toS) }} of {{ showClock(stretch.ofS) }}
    <Button v-if="!isLast" label="Next" size="small" severity="secondary" @click="emit('from', stretch.toS)" />
    <label
      >or from
      <InputText v-model="typed" size="small" placeholder="1:30:00" aria-label="Listen from" @keydown.enter="go"
    /></label>
    <Button v-if="read !== null" label="Listen" size="small" severity="secondary" @click="go" />
    <span v-else-if="typed.trim()" class="wrong">hours:minutes:seconds</span>
  </p>
</template>

<style scoped>
.stretch {
  display: flex;
  gap: 0.6rem;
  align-items: center;
  flex-wrap: wrap;
  color: var(--ink-2);
  margin: 0 0 0.6rem;
}
.stretch :deep(input) {
  width: 6.5rem;
}
</style>
