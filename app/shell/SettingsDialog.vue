<script setup lang="ts">
import { usePreferences } from '../stores/preferences'
import Dialog from './focusedDialog'

const visible = defineModel<boolean>('visible', { required: true })
const { chosen } = usePreferences()
const themes = [
  { id: 'system', label: 'as the system' },
  { id: 'light', label: 'light' },
  { id: 'dark', label: 'dark' },
]
const ampacities = [
  { id: 'open', label: 'open air, 105 °C' },
  { id: 'enclosed', label: 'enclosed, 75 °C' },
]
const distances = [
  { id: 'strict', label: 'strict, 0.18 m' },
  { id: 'sheathed', label: 'sheathed, 1.0 m' },
]
</script>

<template>
  <Dialog
    v-model:visible="visible"
    modal
    header="Units and theme"
    :style="{ width: '36rem' }"
    :draggable="false"
    dismissable-mask>
    <div class="rows">
      <span>Lengths</span
      ><SelectButton v-model="chosen.units.length" :options="['m', 'ft']" :allow-empty="false" size="small" />
      <span>A bare conductor size means</span
      ><SelectButton
        v-model="chosen.units.conductor"
        :options="[
          { id: 'awg', label: 'AWG' },
          { id: 'mm2', label: 'mm²' },
        ]"
        option-label="label"
        option-value="id"
        :allow-empty="false"
        size="small" />
      <span>Temperatures</span
      ><SelectButton
        v-model="chosen.units.temperature"
        :options="[
          { id: 'C', label: '°C' },
          { id: 'F', label: '°F' },
        ]"
        option-label="label"
        option-value="id"
        :allow-empty="false"
        size="small" />
      <span>Theme</span
      ><SelectButton
        v-model="chosen.theme"
        :options="themes"
        option-label="label"
        option-value="id"
        :allow-empty="false"
        size="small" />
      <span>New stations: ampacity</span
      ><SelectButton
        v-model="chosen.ampacity"
        :options="ampacities"
        option-label="label"
        option-value="id"
        :allow-empty="false"
        size="small" />
      <span>New stations: fuse distance</span
      ><SelectButton
        v-model="chosen.fuseDistance"
        :options="distances"
        option-label="label"
        option-value="id"
        :allow-empty="false"
        size="small" />
      <span>On a phone</span
      ><NuxtLink to="/devices" class="target" @click="visible = false">Use it on a phone</NuxtLink>
    </div>
  </Dialog>
</template>

<style scoped>
.rows {
  display: grid;
  grid-template-columns: 13rem 1fr;
  gap: 0.5rem 1rem;
  align-items: center;
}
.rows > span {
  color: var(--ink-2);
}
@media (max-width: 760px) {
  .rows {
    grid-template-columns: 1fr;
    gap: 0.25rem;
  }
}
</style>
