<script setup lang="ts" generic="T extends string">
/**
 * One of a short list, in the browser's own field: the first picture waits for no other program, and a phone shows its
 * own wheel. Where a list is long or searched, it is {@link PickOne}'s.
 */
const props = defineProps<{
  modelValue: T | null
  label: string
  options: readonly { id: T; label: string }[]
  /** What stands there while none is chosen. */
  unchosen?: string
}>()
const emit = defineEmits<{ pick: [value: T] }>()

/** What is no choice that stays, as "Another…", leaves the field at the choice it was at. */
function pick(event: Event) {
  const field = event.target as HTMLSelectElement
  const picked = field.value as T
  field.value = props.modelValue ?? ''
  emit('pick', picked)
}
</script>

<template>
  <select class="short" :value="modelValue ?? ''" :aria-label="label" @change="pick">
    <option v-if="unchosen" value="" disabled hidden>{{ unchosen }}</option>
    <option v-for="o in options" :key="o.id" :value="o.id">{{ o.label }}</option>
  </select>
</template>

<style scoped>
.short {
  padding: 0.2rem 0.3rem;
  border: 1px solid var(--line-2);
  border-radius: 6px;
  background: var(--paper);
  cursor: pointer;
  text-overflow: ellipsis;
  /* As wide as what is chosen, not as the longest it might be. */
  field-sizing: content;
}
.short:hover {
  background: var(--choice);
}
.short option {
  background: var(--sheet);
  color: var(--ink);
}
</style>
