<script setup lang="ts">
import { computed, ref } from 'vue'
import TopBar from '../shell/TopBar.vue'
import { usePreferences } from '../stores/preferences'
import { useOpenStation } from '../stores/useOpenStation'
import ChokePanel from './ChokePanel.vue'
import CombPanel from './CombPanel.vue'

/** Quiet: which device makes the noise, and what keeps it off the bands. */
const props = defineProps<{ stationId: string }>()
const { station, missing } = useOpenStation(props.stationId)
const tab = ref<'comb' | 'choke'>('comb')
const dark = computed(() => usePreferences().chosen.theme === 'dark')
</script>

<template>
  <div class="quiet">
    <TopBar view="quiet" />
    <p v-if="missing" class="missing">{{ missing }}</p>
    <main v-else-if="station.plan">
      <div class="heading">
        <h1>Quiet</h1>
        <SelectButton v-model="tab" :options="[{ id: 'comb', label: 'Comb: whose tones are these?' }, { id: 'choke', label: 'Choke workbench' }]" option-label="label" option-value="id" :allow-empty="false" size="small" aria-label="Tool" />
      </div>
      <CombPanel v-if="tab === 'comb'" :plan="station.plan" />
      <ChokePanel v-else :plan="station.plan" :edit="station.edit" :dark="dark" />
    </main>
  </div>
</template>

<style scoped>
main { max-width: 78rem; margin: 0 auto; padding: 1rem 1.2rem 3rem; }
.heading { display: flex; align-items: center; gap: 1.2rem; flex-wrap: wrap; margin-bottom: 1rem; }
h1 { font-size: 1.6rem; letter-spacing: -0.01em; }
.missing { padding: 3rem; }
</style>
