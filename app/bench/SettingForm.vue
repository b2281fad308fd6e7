<script setup lang="ts">
import { computed } from 'vue'
import { CHEMISTRIES } from '#core/catalog/chemistries'
import { lastSettings } from '#core/commission/settings'
import { kindOf } from '#core/kinds/index'
import type { Log, SettingEntry } from '#core/log/log'
import { partById } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import CellInput from '../hours/CellInput.vue'
import { readFigure, showFigure } from '../hours/entries'
import { freshId, nowText, useLog } from '../stores/log'
import PickOne from '../shell/PickOne.vue'

/** How a device was found or left set: kept with the station, held against the plan. */
const props = defineProps<{ plan: Plan; part: string; log: Log }>()
const store = useLog()
const known = computed(() => lastSettings(props.log).find(s => s.part === props.part))
const hasLoad = computed(() => kindOf(partById(props.plan, props.part)!).loadCut !== undefined)
const chemistries = CHEMISTRIES.map(c => ({ id: c.id, label: c.label }))

/** A record for each change: what was before stays in the log. */
function set(change: Partial<SettingEntry>) {
  store.put('settings', { id: freshId(), time: nowText(), part: props.part, ...change } as never, 'setting')
}
</script>

<template>
  <div class="form">
    <label
      ><span>chemistry</span
      ><PickOne
        :model-value="known?.chemistry"
        :options="chemistries"
        placeholder="as its display says"
        label="Chemistry it is set to"
        @update:model-value="v => set({ chemistry: v })"
    /></label>
    <CellInput
      label="absorbs at"
      :shown="showFigure(known?.absorptionV, 'V')"
      :read="readFigure('V', 1, 100)"
      right="volts"
      @change="v => v !== null && set({ absorptionV: v })" />
    <CellInput
      label="floats at"
      :shown="showFigure(known?.floatV, 'V')"
      :read="readFigure('V', 1, 100)"
      right="volts"
      @change="v => v !== null && set({ floatV: v })" />
    <CellInput
      label="charges at"
      :shown="showFigure(known?.chargeA, 'A')"
      :read="readFigure('A', 0, 1000)"
      right="amps, as its switch or fuse sets it"
      @change="v => v !== null && set({ chargeA: v })" />
    <template v-if="hasLoad">
      <CellInput
        label="load timer"
        :shown="showFigure(known?.loadTimerH, 'h')"
        :read="readFigure('h', 0, 1000)"
        right="hours; 0: none"
        @change="v => v !== null && set({ loadTimerH: v })" />
      <CellInput
        label="load off under"
        :shown="showFigure(known?.cutV, 'V')"
        :read="readFigure('V', 1, 100)"
        right="volts"
        @change="v => v !== null && set({ cutV: v })" />
    </template>
    <CellInput
      label="ports and switches inside"
      wide
      :shown="known?.portsOn ?? ''"
      :read="text => text.slice(0, 200)"
      right="words"
      @change="v => set({ portsOn: v })" />
  </div>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(9rem, 1fr));
  gap: 0.5rem 0.7rem;
}
label {
  display: grid;
  gap: 0.1rem;
  min-width: 0;
}
label :deep(.p-select) {
  min-width: 0;
}
label span {
  color: var(--ink-3);
  font-size: 0.82rem;
}
</style>
