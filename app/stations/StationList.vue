<script setup lang="ts">
import { useToast } from 'primevue/usetoast'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { readPlan, readPlanText, writePlan, type Fault } from '#core/plan/faults'
import type { Plan } from '#core/plan/schema'
import { fixed } from '#core/units/number'
import { listChanged } from '../stores/reach'
import { stationsApi, type DeletedStation, type StationRow } from '../stores/stationsApi'
import Icon from '../shell/Icon.vue'
import OuterBar from '../shell/OuterBar.vue'
import { CoreClient, startHours } from '../workers/client'
import type { HoursApi } from '../workers/hoursAnswers'
import ternRock from '../../demo/tern-rock-light.json'
import heron from '../../demo/narrowboat-heron.json'
import moor from '../../demo/moor-walk-kit.json'
import cleanBench from '../../demo/clean-bench.json'
import BackupPanel from './BackupPanel.vue'
import StationCard from './StationCard.vue'
import { useRemoving } from './useRemoving'

const toast = useToast()
const stations = ref<StationRow[] | null>(null)
const wrong = ref('')
const refused = ref<{ file: string; faults: Fault[] } | null>(null)
const deleted = ref<DeletedStation[]>([])
const search = ref('')
const file = ref<HTMLInputElement>()

async function load() {
  try {
    ;[stations.value, deleted.value] = await Promise.all([stationsApi.list(), stationsApi.deleted()])
    wrong.value = ''
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
onMounted(load)
watch(listChanged, load)
const shown = computed(() => {
  const wanted = search.value.trim().toLowerCase()
  return stations.value?.filter(s => s.name.toLowerCase().includes(wanted)) ?? null
})
/** Verdicts of what comes into sight, one after the other. */
const core = new CoreClient()
const hours = new CoreClient<HoursApi>(startHours)
onBeforeUnmount(() => {
  core.restart()
  hours.restart()
})

const DEMOS = [ternRock, heron, moor, cleanBench]
function demo(file: unknown) {
  const read = readPlan(file)
  if (read.ok) void create(read.plan, 'from a demo station')
}
/** An empty plan says by itself what comes first. */
const empty = () => create({ format: 'wireman-plan', version: 1, name: 'My station', parts: [], leads: [] }, 'empty')

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
          wrong: `the file has ${fixed(chosen.size / 1024 / 1024, 1)} MB`,
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
const { undoable, remove, putBack } = useRemoving(load)
async function restore(station: DeletedStation) {
  await putBack(station)
  toast.add({ severity: 'secondary', summary: `${station.name} is back`, life: 2500 })
}
/** From so many on there is a search. */
const MANY = 5
const when = (iso: string) => new Date(iso).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <div class="page" @dragover.prevent @drop.prevent="e => importFile(e.dataTransfer?.files[0])">
    <OuterBar :histories="[undoable]" />
    <main>
      <div class="heading">
        <h1>Stations</h1>
        <Button @click="navigateTo('/new')"><Icon name="plus" /> Plan my own</Button>
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
      <InputText
        v-if="(stations?.length ?? 0) > MANY"
        v-model="search"
        placeholder="Search"
        aria-label="Search the stations"
        class="search" />
      <ul v-if="shown?.length" class="list" aria-label="Stations">
        <StationCard v-for="row in shown" :key="`${row.id}${row.revision}`" :row="row" :core="core" :hours="hours">
          <span class="does">
            <button class="plain" :aria-label="`Duplicate ${row.name}`" @click="duplicate(row)">Duplicate</button>
            <button class="plain" :aria-label="`Export ${row.name}`" @click="exportPlan(row)">Export</button>
            <button class="plain" :aria-label="`Delete ${row.name}`" @click="remove(row)">Delete</button>
          </span>
        </StationCard>
      </ul>
      <p v-else-if="stations?.length" class="none">No station is called “{{ search }}”.</p>
      <p v-else-if="stations" class="none">
        No station yet. Plan your own from four questions, ask whether one radio suits one source, or import a plan
        file.
      </p>
      <template v-if="stations || wrong">
        <p class="others">
          <span>A made-up one:</span>
          <button v-for="d in DEMOS" :key="d.name" class="plain" @click="demo(d)">{{ d.name }}</button>
          <button class="plain" @click="empty">An empty plan</button>
        </p>
        <section v-if="deleted.length" class="deleted" aria-label="Deleted">
          <h2>Deleted</h2>
          <p v-for="d in deleted" :key="d.id">
            {{ d.name }} <span class="facts">{{ when(d.deletedAt) }}</span>
            <button class="plain" :aria-label="`Put ${d.name} back`" @click="restore(d)">Put back</button>
          </p>
        </section>
        <BackupPanel @restored="load" />
      </template>
    </main>
  </div>
</template>

<style scoped>
.page {
  min-height: 100%;
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
.wrong {
  color: var(--fail);
}
.search {
  width: 100%;
  margin-bottom: 0.8rem;
}
.others {
  display: flex;
  flex-wrap: wrap;
  gap: 0.2rem 0.6rem;
  align-items: center;
  margin-top: 1rem;
  color: var(--ink-3);
}
.deleted {
  margin-top: 1.4rem;
  color: var(--ink-2);
}
.deleted h2 {
  font-size: 1rem;
}
.none {
  color: var(--ink-2);
}
@media (max-width: 760px) {
  .does {
    grid-column: 1 / -1;
  }
  .does button {
    min-height: 44px;
  }
}
</style>
