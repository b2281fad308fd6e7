<script setup lang="ts">
import { computed, ref, watch, type Component } from 'vue'
import type { HoursEvent } from '#core/hours/event'
import type { Plan } from '#core/plan/schema'
import ChargingTable from './ChargingTable.vue'
import MonthsBars from './MonthsBars.vue'
import SetsPanel from './SetsPanel.vue'
import WhatIfTable from './WhatIfTable.vue'
import WorthTable from './WorthTable.vue'

/** What follows from how long it lasts: each opens when asked for, since each takes a while. */
defineProps<{ plan: Plan; whole: Plan; event: HoursEvent }>()
const emit = defineEmits<{ plan: [next: Plan, label: string]; event: [next: HoursEvent, label: string] }>()

const TABS: { id: string; label: string; of: Component }[] = [
  { id: 'what-if', label: 'What if', of: WhatIfTable },
  { id: 'sets', label: 'Which packs', of: SetsPanel },
  { id: 'charging', label: 'Charging', of: ChargingTable },
  { id: 'months', label: 'Through the year', of: MonthsBars },
  { id: 'worth', label: 'What it costs', of: WorthTable },
]
const chosen = ref('')
const shown = computed(() => TABS.find(t => t.id === chosen.value))
const panel = ref<HTMLElement>()
watch(chosen, () => requestAnimationFrame(() => panel.value?.scrollIntoView({ block: 'nearest' })))
</script>

<template>
  <nav class="tabs" role="tablist" aria-label="What follows from it">
    <button
      v-for="t in TABS"
      :id="`tab-${t.id}`"
      :key="t.id"
      role="tab"
      :aria-selected="chosen === t.id"
      :aria-controls="chosen === t.id ? 'lasting' : undefined"
      @click="chosen = chosen === t.id ? '' : t.id">
      {{ t.label }}
    </button>
  </nav>
  <section v-if="shown" id="lasting" ref="panel" role="tabpanel" :aria-labelledby="`tab-${shown.id}`">
    <component
      :is="shown.of"
      :key="shown.id"
      :plan="plan"
      :whole="whole"
      :event="event"
      @plan="(next: Plan, label: string) => emit('plan', next, label)"
      @event="(next: HoursEvent, label: string) => emit('event', next, label)" />
  </section>
</template>

<style scoped>
.tabs {
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 0.3rem;
  border-bottom: 1.5px solid var(--line-2);
  margin: 1rem 0 0;
}
.tabs button {
  padding: 0.5rem 0.8rem;
  border: 0;
  border-bottom: 3px solid transparent;
  background: none;
  color: var(--ink-2);
  font: inherit;
  cursor: pointer;
}
.tabs button[aria-selected='true'] {
  color: var(--ink);
  font-weight: 600;
  border-bottom-color: var(--copper);
}
section {
  padding: 0.9rem 0;
}
</style>
