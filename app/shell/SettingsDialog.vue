<script setup lang="ts">
import { computed, ref } from 'vue'
import { setPlan, setSite as sitePatch } from '#core/edit/set'
import { siteOf } from '#core/plan/schema'
import { readQuantity } from '#core/units/quantity'
import { readTemperature, showTemperature } from '#core/units/temperature'
import { usePreferences } from '../stores/preferences'
import { useStation } from '../stores/station'

const visible = defineModel<boolean>('visible', { required: true })
const { chosen } = usePreferences()
const station = useStation()
const site = computed(() => (station.plan ? siteOf(station.plan) : null))
const wrong = ref('')

function setSite(field: string, value: unknown, label: string) {
  if (!station.plan) return
  const faults = station.edit(sitePatch(station.plan, field, value), label)
  wrong.value = faults.length ? `${faults[0]!.wrong}; right would be ${faults[0]!.right}` : ''
}
function setAmbient(which: 'low' | 'typical' | 'high', text: string) {
  const read = readTemperature(text, chosen.units)
  if (!read.ok) wrong.value = read.wrong
  else setSite('ambientC', { ...site.value!.ambientC, [which]: read.value }, `${which} temperature of the site`)
}
function setShare(text: string) {
  const read = readQuantity(text.includes('%') ? text : `${text} %`, 'fraction')
  if (!read.ok) wrong.value = read.wrong
  else setSite('dropShare', read.value, "drop a radio's path may have")
}
function rename(name: string) {
  if (name.trim() && station.plan && name !== station.plan.name)
    station.edit(setPlan(station.plan, 'name', name.trim()), 'name')
}
const value = (e: Event) => (e.target as HTMLInputElement).value

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
    header="Units, schools, site"
    :style="{ width: '36rem' }"
    :draggable="false"
    dismissable-mask
    @keydown.stop>
    <h3>Everywhere</h3>
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
    </div>
    <template v-if="station.plan && site">
      <h3>This station</h3>
      <div class="rows">
        <span>Name</span><InputText :model-value="station.plan.name" size="small" @change="e => rename(value(e))" />
        <span>Ampacity school</span
        ><SelectButton
          :model-value="site.ampacity"
          :options="ampacities"
          option-label="label"
          option-value="id"
          :allow-empty="false"
          size="small"
          @update:model-value="v => setSite('ampacity', v, 'ampacity school')" />
        <span>Fuse distance school</span
        ><SelectButton
          :model-value="site.fuseDistance"
          :options="distances"
          option-label="label"
          option-value="id"
          :allow-empty="false"
          size="small"
          @update:model-value="v => setSite('fuseDistance', v, 'fuse distance school')" />
        <span>A radio's wires may drop</span
        ><InputText
          :model-value="`${Number((site.dropShare * 100).toFixed(2))} %`"
          size="small"
          @change="e => setShare(value(e))" />
        <span>Ambient, lowest · typical · highest</span>
        <div class="three">
          <InputText
            v-for="which in ['low', 'typical', 'high'] as const"
            :key="which"
            :aria-label="`${which} temperature`"
            :model-value="showTemperature(site.ambientC[which], chosen.units)"
            size="small"
            @change="e => setAmbient(which, value(e))" />
        </div>
      </div>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    </template>
  </Dialog>
</template>

<style scoped>
h3 {
  font-size: 0.95rem;
  margin: 0.6rem 0 0.4rem;
}
.rows {
  display: grid;
  grid-template-columns: 13rem 1fr;
  gap: 0.5rem 1rem;
  align-items: center;
}
.rows > span {
  color: var(--ink-2);
}
.three {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: 0.5rem;
}
.three input {
  min-width: 0;
}
.wrong {
  color: var(--fail);
  margin-top: 0.5rem;
}
@media (max-width: 760px) {
  .rows {
    grid-template-columns: 1fr;
    gap: 0.25rem;
  }
}
</style>
