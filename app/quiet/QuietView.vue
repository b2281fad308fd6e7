<script setup lang="ts">
import TopBar from '../shell/TopBar.vue'
import { useInAddress } from '../shell/useInAddress'
import { useLogbook } from '../stores/logbook'
import { useSavedOnLeave } from '../stores/useSavedOnLeave'
import { usePreferences } from '../stores/preferences'
import { useBeside, useOpenStation } from '../stores/useOpenStation'
import { later } from '../shell/later'

// Each tool is a program of its own.
const CasePanel = later(() => import('./CasePanel.vue'))
const SurveyPanel = later(() => import('./SurveyPanel.vue'))
const CombPanel = later(() => import('./CombPanel.vue'))
const LivePanel = later(() => import('./LivePanel.vue'))
const ChokePanel = later(() => import('./ChokePanel.vue'))

/** Quiet: which device makes the noise, which way it comes in, and what keeps it off the bands. */
const props = defineProps<{ stationId: string }>()
const { station, missing } = useOpenStation(props.stationId)
const log = useLogbook()
useBeside(station, log)
useSavedOnLeave(log)

const TOOLS = [
  { id: 'case', label: 'Cases' },
  { id: 'survey', label: 'Survey' },
  { id: 'comb', label: 'Comb' },
  { id: 'live', label: 'Listen' },
  { id: 'choke', label: 'Choke' },
] as const
type Tool = (typeof TOOLS)[number]['id']
const tool = useInAddress<Tool>('tool', 'case', said => TOOLS.some(t => t.id === said))
const preferences = usePreferences()
</script>

<template>
  <div class="quiet">
    <TopBar view="quiet" />
    <p v-if="missing" class="missing">{{ missing }}</p>
    <main v-else-if="station.plan && log.logbook">
      <div class="heading">
        <h1>Noise</h1>
        <SelectButton
          v-model="tool"
          :options="[...TOOLS]"
          option-label="label"
          option-value="id"
          :allow-empty="false"
          size="small"
          aria-label="Tool" />
        <span v-if="log.problem" class="problem" role="alert">{{ log.problem }}</span>
        <span v-else-if="log.notice" class="notice">{{ log.notice }}</span>
      </div>
      <CasePanel
        v-if="tool === 'case'"
        :plan="station.plan"
        :logbook="log.logbook"
        :edit="station.edit"
        @tool="(t: 'comb' | 'survey') => (tool = t)" />
      <SurveyPanel v-else-if="tool === 'survey'" :plan="station.plan" :logbook="log.logbook" :edit="station.edit" />
      <CombPanel
        v-else-if="tool === 'comb'"
        :plan="station.plan"
        :logbook="log.logbook"
        @tool="(t: 'case') => (tool = t)" />
      <LivePanel v-else-if="tool === 'live'" :plan="station.plan" :logbook="log.logbook" @tool="t => (tool = t)" />
      <ChokePanel v-else :plan="station.plan" :edit="station.edit" :dark="preferences.isDark" />
    </main>
    <p v-else class="missing">{{ log.problem }}</p>
  </div>
</template>

<style scoped>
main {
  max-width: 80rem;
  margin: 0 auto;
  padding: 0.9rem 1.2rem 3rem;
}
.heading {
  display: flex;
  align-items: center;
  gap: 1.2rem;
  flex-wrap: wrap;
  margin-bottom: 1rem;
}
h1 {
  font-size: 1.6rem;
  letter-spacing: -0.01em;
}
.missing {
  padding: 3rem;
}
.problem {
  color: var(--fail);
}
.notice {
  color: var(--ink-2);
}
@media (max-width: 760px) {
  main {
    padding: 0.7rem 0.8rem 3rem;
  }
  h1 {
    display: none;
  }
  .heading {
    margin-bottom: 0.6rem;
  }
}
@media print {
  .heading {
    display: none;
  }
}
</style>
