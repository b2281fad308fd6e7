<script setup lang="ts">
import type { EventTime, HoursEvent } from '#core/hours/event'
import CellInput from './CellInput.vue'
import { readTime, showTime, TIME_RIGHT } from './entries'

/** When an entry begins and ends. */
defineProps<{ from: EventTime | undefined; to: EventTime | undefined; event: HoursEvent }>()
const emit = defineEmits<{ change: [times: { from?: EventTime | null; to?: EventTime | null }] }>()
</script>

<template>
  <CellInput
    label="from"
    :shown="showTime(from, event)"
    :read="text => readTime(text, event)"
    :right="TIME_RIGHT"
    @change="v => emit('change', { from: v })" />
  <CellInput
    label="to"
    :shown="showTime(to, event)"
    :read="text => readTime(text, event)"
    :right="TIME_RIGHT"
    @change="v => emit('change', { to: v })" />
</template>
