<script setup lang="ts">
import { computed, useTemplateRef, watch, type Component } from 'vue'
import { useInAddress } from '../shell/useInAddress'
import TopBar from '../shell/TopBar.vue'
import { useLog } from '../stores/log'
import { useBeside, useOpenStation } from '../stores/useOpenStation'
import { useSavedOnLeave } from '../stores/useSavedOnLeave'
import BatteriesPanel from './BatteriesPanel.vue'
import ConnectPager from './ConnectPager.vue'
import HistoryPanel from './HistoryPanel.vue'
import PracticePanel from './PracticePanel.vue'
import ReadingsPanel from './ReadingsPanel.vue'
import SparesPanel from './SparesPanel.vue'
import SymptomPanel from './SymptomPanel.vue'

/** At the bench: put together step by step, measured, a fault found, batteries looked after. */
const props = defineProps<{ stationId: string }>()
const { station, missing } = useOpenStation(props.stationId)
const store = useLog()
useBeside(station, store)
useSavedOnLeave(store)

const TABS: { id: string; label: string; of: Component }[] = [
  { id: 'connect', label: 'Step by step', of: ConnectPager },
  { id: 'readings', label: 'Readings', of: ReadingsPanel },
  { id: 'wrong', label: 'Something is wrong', of: SymptomPanel },
  { id: 'batteries', label: 'Batteries', of: BatteriesPanel },
  { id: 'spares', label: 'Spares', of: SparesPanel },
  { id: 'history', label: 'History', of: HistoryPanel },
  { id: 'practice', label: 'Practice', of: PracticePanel },
]
const tab = useInAddress<string>('tab', 'connect', id => TABS.some(t => t.id === id))
const shown = computed(() => TABS.find(t => t.id === tab.value)!)

/** On a phone the row of tabs is wider than the screen: the one that is open is brought into sight. */
const strip = useTemplateRef('strip')
watch(
  [tab, strip],
  () => strip.value?.querySelector('[aria-selected="true"]')?.scrollIntoView({ block: 'nearest', inline: 'center' }),
  { flush: 'post' },
)
</script>

<template>
  <div class="bench">
    <TopBar view="bench" />
    <p v-if="missing" class="missing">{{ missing }}</p>
    <main v-else-if="station.plan">
      <nav ref="strip" role="tablist" aria-label="At the bench">
        <button
          v-for="t in TABS"
          :id="`bench-${t.id}`"
          :key="t.id"
          role="tab"
          :aria-selected="tab === t.id"
          aria-controls="bench-panel"
          @click="tab = t.id">
          {{ t.label }}
        </button>
      </nav>
      <p v-if="store.problem" class="problem" role="status" data-testid="log-problem">{{ store.problem }}</p>
      <section v-if="store.log" id="bench-panel" role="tabpanel" :aria-labelledby="`bench-${tab}`">
        <component :is="shown.of" :key="shown.id" :plan="station.plan" :log="store.log" />
      </section>
    </main>
  </div>
</template>

<style scoped>
main {
  max-width: 62rem;
  margin: 0 auto;
  padding: 1rem 1.2rem 6rem;
}
.missing {
  padding: 3rem;
}
nav {
  display: flex;
  gap: 0.2rem 0.4rem;
  border-bottom: 1.5px solid var(--line-2);
  margin-bottom: 1rem;
  overflow-x: auto;
}
[role='tab'] {
  border: 0;
  background: none;
  padding: 0.55rem 0.75rem;
  cursor: pointer;
  color: var(--ink-2);
  border-bottom: 3px solid transparent;
  margin-bottom: -1.5px;
  white-space: nowrap;
}
[role='tab'][aria-selected='true'] {
  color: var(--ink);
  font-weight: 650;
  border-bottom-color: var(--copper);
}
.problem {
  color: var(--ink-2);
  margin-bottom: 0.8rem;
}
@media print {
  nav,
  .problem {
    display: none;
  }
}
@media (max-width: 760px) {
  main {
    padding: 0.6rem 0.9rem 6rem;
  }
}
</style>
