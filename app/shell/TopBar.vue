<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useStation } from '../stores/station'
import { usePreferences } from '../stores/preferences'
import { useHours } from '../stores/hours'
import { useLog } from '../stores/log'
import { useLogbook } from '../stores/logbook'
import UndoButtons from './UndoButtons.vue'
import { useViews } from './useViews'
import WayPicker from '../ways/WayPicker.vue'
import { later, laterDialog } from './later'

const HistoryDialog = laterDialog(() => import('./HistoryDialog.vue'))
const KeysSheet = laterDialog(() => import('./KeysSheet.vue'))
const SiteDialog = later(() => import('../edit/SiteDialog.vue'))
const ConflictDialog = laterDialog(() => import('./ConflictDialog.vue'))
const SettingsDialog = laterDialog(() => import('./SettingsDialog.vue'))

/** The bar over a station's views, and the dialogs that open from it. */
defineProps<{ view: 'path' | 'proof' | 'schools' | 'quiet' | 'hours' | 'build' | 'bench' }>()
const open = ref<'settings' | 'history' | 'keys' | 'site' | null>(null)
const station = useStation()
const viewOf = useViews()
const log = useLogbook()
const hours = useHours()
const bench = useLog()
/** Of all the last step is taken back first; another station's logbook is not this view's. */
const histories = computed(() => [
  station.undoable,
  ...[log, hours, bench].filter(d => d.stationId === station.id).map(d => d.undoable),
])
/** On a phone the strip of views goes on beyond the edge: the one that is shown is brought into sight. */
const views = ref<HTMLElement>()
onMounted(() => views.value?.querySelector('.on')?.scrollIntoView({ block: 'nearest', inline: 'center' }))
const undoing = ref<InstanceType<typeof UndoButtons>>()
defineExpose({
  showKeys: () => (open.value = 'keys'),
  undo: () => undoing.value?.undo(),
  redo: () => undoing.value?.redo(),
})
const { chosen } = usePreferences()

const time = (iso: string) =>
  iso ? new Date(iso).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', hour12: false }) : ''
const saved = computed(() => {
  switch (station.saveState) {
    case 'saved':
      return `saved ${time(station.savedAt)} · revision ${station.revision}`
    case 'saving':
    case 'unsaved':
      return 'saving…'
    case 'conflict':
      return 'not saved: changed in another window'
    default:
      return 'not saved: the server does not answer'
  }
})
const units = computed(
  () =>
    `${chosen.units.length} · ${chosen.units.conductor === 'awg' ? 'AWG' : 'mm²'} · ` +
    `${station.plan?.site?.ampacity === 'enclosed' ? 'enclosed' : 'open air'}`,
)
</script>

<template>
  <header class="top">
    <NuxtLink to="/stations" class="brand target" title="All stations">Wireman</NuxtLink>
    <NuxtLink to="/stations" class="plain away target">Stations</NuxtLink>
    <NuxtLink to="/shelf" class="plain away target">Shelf</NuxtLink>
    <button
      class="name plain"
      :title="`${station.plan?.name ?? ''}: name, site, places, load states`"
      :disabled="!station.plan"
      @click="open = 'site'">
      {{ station.plan?.name }}
    </button>
    <WayPicker />
    <button
      class="saved plain"
      :class="station.saveState"
      title="History of this station"
      data-testid="saved"
      @click="open = 'history'">
      {{ saved }}
    </button>
    <nav ref="views" aria-label="Views of this station">
      <NuxtLink :to="viewOf('')" :class="{ on: view === 'path' }">Path</NuxtLink>
      <NuxtLink :to="viewOf('proof')" :class="{ on: view === 'proof' }">Short circuit</NuxtLink>
      <NuxtLink
        :to="viewOf('schools')"
        :class="{ on: view === 'schools' }"
        title="Where operators are of two minds: both sides on this station"
        >Choices</NuxtLink
      >
      <NuxtLink
        :to="viewOf('quiet')"
        :class="{ on: view === 'quiet' }"
        title="What makes the noise on the bands, and how it gets in"
        >Noise</NuxtLink
      >
      <NuxtLink
        :to="viewOf('hours')"
        :class="{ on: view === 'hours' }"
        title="How long it lasts, what refills it, what ends it"
        >Hours</NuxtLink
      >
      <NuxtLink :to="viewOf('build')" :class="{ on: view === 'build' }">Build sheet</NuxtLink>
      <NuxtLink
        :to="viewOf('bench')"
        :class="{ on: view === 'bench' }"
        title="Put it together step by step, measure it, find what is wrong, look after the batteries"
        >Bench</NuxtLink
      >
    </nav>
    <div class="right">
      <UndoButtons ref="undoing" :histories="histories" />
      <button class="plain units" title="Units and theme" @click="open = 'settings'">
        <span class="all">{{ units }}</span><span class="short">Units</span>
      </button>
      <button class="plain keys" title="Keys" aria-label="Keys" @click="open = 'keys'">?</button>
    </div>
  </header>
  <KeysSheet :visible="open === 'keys'" @update:visible="open = null" />
  <SettingsDialog :visible="open === 'settings'" @update:visible="open = null" />
  <HistoryDialog :visible="open === 'history'" @update:visible="open = null" />
  <SiteDialog
    v-if="station.plan && open === 'site'"
    visible
    :plan="station.plan"
    :units="chosen.units"
    :edit="station.edit"
    @update:visible="open = null" />
  <ConflictDialog :visible="station.saveState === 'conflict' && station.theirs !== null" />
</template>

<style scoped>
.top {
  display: flex;
  align-items: center;
  gap: 0.7rem;
  padding: 0 1rem;
  min-height: 46px;
  border-bottom: 1px solid var(--line-2);
  background: var(--paper);
}
.brand {
  font-weight: 750;
  font-size: 1.12rem;
  text-decoration: none;
  letter-spacing: -0.01em;
}
.away {
  padding: 0 0.1rem;
  color: var(--ink-2);
  text-decoration: none;
}
.name {
  font-weight: 650;
  padding-left: 0.8rem;
  border-radius: 0;
  border-left: 1px solid var(--line-2);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
  max-width: 18rem;
}
.saved {
  color: var(--ink-3);
  font-size: 0.86rem;
  white-space: nowrap;
}
.saved.conflict,
.saved.offline {
  color: var(--fail);
  font-weight: 650;
}
nav {
  display: flex;
  gap: 0.3rem;
  margin: 0 auto;
  height: 46px;
}
nav a {
  display: flex;
  align-items: center;
  padding: 0 0.55rem;
  white-space: nowrap;
  text-decoration: none;
  color: var(--ink-2);
  border-bottom: 3px solid transparent;
  border-top: 3px solid transparent;
}
nav a:hover {
  color: var(--ink);
}
nav a.on {
  color: var(--ink);
  font-weight: 650;
  border-bottom-color: var(--copper);
}
.right {
  display: flex;
  align-items: center;
  white-space: nowrap;
}
.units {
  font-size: 0.88rem;
}
@media (min-width: 761px) {
  .units .short {
    display: none;
  }
}
/* The views have a line of their own. */
@media (max-width: 1180px) {
  .top {
    flex-wrap: wrap;
    padding: 0.3rem 0.7rem 0;
    gap: 0.2rem 0.7rem;
  }
  .saved {
    flex: 1;
    text-align: left;
    overflow: hidden;
    text-overflow: ellipsis;
  }
  .right {
    order: 2;
  }
  nav {
    margin: 0 -0.7rem;
    padding: 0 0.3rem;
    order: 5;
    height: 44px;
    flex: 1 0 100%;
    overflow-x: auto;
  }
}
@media (max-width: 760px) {
  .top {
    gap: 0.2rem 0.6rem;
  }
  .saved {
    text-align: right;
  }
  .units .all {
    display: none;
  }
}
/* Two lines from the start: nothing moves under a finger as the name comes. */
@media (max-width: 480px) {
  .name {
    flex: 1 0 7rem;
    text-align: left;
  }
  .saved {
    flex: 1 0 5rem;
  }
}
@media (pointer: coarse) {
  .keys {
    display: none;
  }
}
@media print {
  .top {
    display: none;
  }
}
</style>
