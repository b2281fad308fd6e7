<script setup lang="ts">
/** A labelled choice; options are words, or ids with their labels. */
defineProps<{
  label: string
  value: unknown
  options: readonly (string | number)[] | readonly { id: string | number; label: string }[]
  filter?: boolean
  /** It may say nothing. */
  clearable?: boolean
  refused?: string
}>()
defineEmits<{ change: [value: never] }>()
</script>

<template>
  <label class="field"
    ><span>{{ label }}</span>
    <Select
      :model-value="value"
      :options="[...options]"
      :option-label="typeof options[0] === 'object' ? 'label' : undefined"
      :option-value="typeof options[0] === 'object' ? 'id' : undefined"
      :filter="filter"
      :show-clear="clearable && value !== undefined"
      size="small"
      @update:model-value="v => $emit('change', v as never)" />
    <em v-if="refused" role="alert">{{ refused }}</em>
  </label>
</template>

<style scoped>
.field {
  display: grid;
  gap: 0.1rem;
  min-width: 0;
}
.field span {
  font-size: 0.8rem;
  color: var(--ink-3);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.field :deep(.p-select) {
  width: 100%;
  min-width: 0;
}
em {
  font-style: normal;
  font-size: 0.82rem;
  color: var(--fail);
}
</style>
