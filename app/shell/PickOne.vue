<script setup lang="ts" generic="T extends string">
/** One of a few things by its name. */
withDefaults(
  defineProps<{
    modelValue?: T | null
    label: string
    options: readonly { id: T; label: string }[]
    placeholder?: string
    /** Many enough to be searched. */
    isMany?: boolean
  }>(),
  { modelValue: null, placeholder: '', isMany: false },
)
defineEmits<{ 'update:modelValue': [value: T] }>()
</script>

<template>
  <Select
    :model-value="modelValue"
    :options="options as { id: T; label: string }[]"
    option-label="label"
    option-value="id"
    size="small"
    :filter="isMany"
    :placeholder="placeholder"
    :aria-label="label"
    @update:model-value="v => $emit('update:modelValue', v)" />
</template>
