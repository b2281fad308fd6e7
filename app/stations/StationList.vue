<script setup lang="ts">
import { useToast } from 'primevue/usetoast'
import { defineAsyncComponent, onMounted, ref } from 'vue'
import { readPlanText, writePlan, type Fault } from '#core/plan/faults'
import type { Plan } from '#core/plan/schema'
import { stationsApi, type StationRow } from '../stores/stationsApi'
import Icon from '../shell/Icon.vue'

const NewStation = defineAsyncComponent(() => import('./NewStation.vue'))
const SettingsDialog = defineAsyncComponent(() => import('../shell/SettingsDialog.vue'))

const toast = useToast()
const stations = ref<StationRow[] | null>(null)
const wrong = ref('')
const refused = ref<{ file: string; faults: Fault[] } | null>(null)
const removed = ref<StationRow | null>(null)
const asking = ref(false)
const settings = ref(false)
const file = ref<HTMLInputElement>()

async function load() {
  try {
    stations.value = await stationsApi.list()
    wrong.value = ''
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
onMounted(load)

async function create(plan: Plan, note: string) {
  try {
    const made = await stationsApi.create(plan, note)
    await navigateTo(`/station/${made.id}`)
  } catch (error) {
    wrong.value = (error as Error).message
  }
}

/** Largest file read, bytes: beyond it is no plan. */
const MOST_BYTES = 4 * 1024 * 1024
async function importFile(chosen: File | undefined) {
  refused.value = null
  if (!chosen) return
  if (chosen.size > MOST_BYTES) {
    refused.value = {
      file: chosen.name,
      faults: [
        {
          path: '',
          wrong: `the file has ${(chosen.size / 1024 / 1024).toFixed(1)} MB`,
          right: 'a plan file, under 4 MB',
        },
      ],
    }
    return
  }
  const read = readPlanText(await chosen.text())
  if (read.ok) await create(read.plan, `imported from ${chosen.name}`.slice(0, 200))
  else refused.value = { file: chosen.name, faults: read.faults }
}
function onChoose(event: Event) {
  const input = event.target as HTMLInputElement
  void importFile(input.files?.[0]).finally(() => (input.value = ''))
}

async function exportPlan(row: StationRow) {
  const { plan } = await stationsApi.read(row.id)
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([writePlan(plan)], { type: 'application/json' }))
  link.download = `${
    row.name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'station'
  }.json`
  link.click()
  URL.revokeObjectURL(link.href)
}
async function duplicate(row: StationRow) {
  const { plan } = await stationsApi.read(row.id)
  await stationsApi.create({ ...plan, name: `${plan.name} (copy)`.slice(0, 200) }, `copy of ${row.name}`.slice(0, 200))
  await load()
}
async function remove(row: StationRow) {
  await stationsApi.remove(row.id)
  removed.value = row
  await load()
}
async function putBack() {
  if (!removed.value) return
  await stationsApi.restore(removed.value.id)
  toast.add({ severity: 'secondary', summary: `${removed.value.name} is back`, life: 2500 })
  removed.value = null
  await load()
}
const when = (iso: string) => new Date(iso).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <div class="page" @dragover.prevent @drop.prevent="e => importFile(e.dataTransfer?.files[0])">
    <header>
      <NuxtLink to="/" class="brand">Wireman</NuxtLink>
      <span class="right"
        ><NuxtLink to="/shelf" class="plain">Shelf</NuxtLink>
        <button class="plain" @click="settings = true">Units, theme</button></span
      >
    </header>
    <main>
      <div class="heading">
        <h1>Stations</h1>
        <Button @click="asking = true"><Icon name="plus" /> New station</Button>
        <Button label="Import a plan file" severity="secondary" @click="file?.click()" />
        <input ref="file" type="file" accept=".json,application/json" hidden data-testid="import" @change="onChoose" />
      </div>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
      <div v-if="refused" class="refused" role="alert">
        <h2>{{ refused.file }} was not imported</h2>
        <p>
          Nothing here was changed.
          {{ refused.faults.length === 1 ? 'One thing keeps' : `${refused.faults.length} things keep` }} it from being a
          plan:
        </p>
        <ul>
          <li v-for="(fault, i) in refused.faults.slice(0, 50)" :key="i">
            <code>{{ fault.path || '/' }}</code> {{ fault.wrong }}; right would be {{ fault.right }}
          </li>
        </ul>
        <button class="plain" @click="refused = null">Close</button>
      </div>
      <p v-if="removed" class="removed" role="status">
        {{ removed.name }} is deleted. <button class="plain" @click="putBack">Undo</button>
      </p>
      <ul v-if="stations?.length" class="list">
        <li v-for="row in stations" :key="row.id">
          <NuxtLink :to="`/station/${row.id}`" class="name">{{ row.name }}</NuxtLink>
          <span class="facts">{{ row.parts }} parts · revision {{ row.revision }} · {{ when(row.updatedAt) }}</span>
          <span class="does">
            <button class="plain" @click="duplicate(row)">Duplicate</button>
            <button class="plain" @click="exportPlan(row)">Export</button>
            <button class="plain" :aria-label="`Delete ${row.name}`" @click="remove(row)">Delete</button>
          </span>
        </li>
      </ul>
      <p v-else-if="stations" class="none">No station yet. Start one from four questions, or import a plan file.</p>
    </main>
    <NewStation v-model:visible="asking" @create="plan => create(plan, 'from four questions')" />
    <SettingsDialog v-model:visible="settings" />
  </div>
</template>

<style scoped>
.page {
  min-height: 100%;
}
header {
  height: 46px;
  display: flex;
  align-items: center;
  padding: 0 1rem;
  border-bottom: 1px solid var(--line-2);
}
.brand {
  font-weight: 750;
  font-size: 1.12rem;
  text-decoration: none;
}
.right {
  margin-left: auto;
}
main {
  max-width: 54rem;
  margin: 0 auto;
  padding: 1.6rem 1rem 3rem;
}
.heading {
  display: flex;
  gap: 0.7rem;
  align-items: center;
  flex-wrap: wrap;
  margin-bottom: 1rem;
}
h1 {
  font-size: 1.6rem;
  letter-spacing: -0.01em;
  margin-right: auto;
}
.list {
  list-style: none;
  margin: 0;
  padding: 0;
  border-top: 1px solid var(--line-2);
}
.list li {
  display: grid;
  grid-template-columns: 1fr auto auto;
  gap: 0.3rem 1.2rem;
  align-items: center;
  padding: 0.7rem 0.2rem;
  border-bottom: 1px solid var(--line);
}
.name {
  font-weight: 650;
  font-size: 1.08rem;
  text-decoration: none;
}
.name:hover {
  text-decoration: underline;
  text-underline-offset: 3px;
}
.facts {
  color: var(--ink-3);
}
.refused {
  border: 1.5px solid var(--fail);
  border-radius: 10px;
  padding: 0.9rem 1.1rem;
  margin-bottom: 1rem;
  background: var(--sheet);
}
.refused h2 {
  font-size: 1.05rem;
  color: var(--fail);
}
.refused ul {
  margin: 0.5rem 0;
  padding-left: 1.2rem;
  max-height: 40vh;
  overflow: auto;
}
.refused li {
  margin: 0.2rem 0;
}
code {
  font: inherit;
  background: var(--choice);
  padding: 0 0.3rem;
  border-radius: 4px;
}
.removed {
  background: var(--choice);
  border-radius: 8px;
  padding: 0.4rem 0.8rem;
  margin-bottom: 0.8rem;
}
.removed .plain {
  text-decoration: underline;
}
.wrong {
  color: var(--fail);
}
.none {
  color: var(--ink-2);
}
@media (max-width: 760px) {
  .list li {
    grid-template-columns: 1fr;
  }
  .does {
    margin-left: -0.6rem;
  }
}
</style>
