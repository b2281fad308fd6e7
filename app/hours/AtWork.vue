<script setup lang="ts">
/** How far something long is, with a stop; or why it ended. */
defineProps<{ progress: number | null; problem: string; words: string }>()
const emit = defineEmits<{ stop: [] }>()
</script>

<template>
  <p v-if="progress !== null" class="work">
    <span role="status">{{ words }}{{ progress ? `, ${progress} %` : '…' }}</span>
    <button class="plain" @click="emit('stop')">Stop</button>
  </p>
  <p v-else-if="problem" class="problem" role="alert">{{ problem }}</p>
</template>

<style scoped>
.work {
  display: flex;
  gap: 0.8rem;
  align-items: center;
  color: var(--ink-3);
}
.problem {
  color: var(--fail);
}
</style>
