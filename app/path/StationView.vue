<script setup lang="ts">
import { useElementSize } from './useElementSize'
import { computed, defineAsyncComponent, onMounted, ref, watch } from 'vue'
import { useToast } from 'primevue/usetoast'
import { conditionWords } from '#core/circuit/conditions'
import { needs } from '#core/kinds/index'
import { leadById, nameOf, partById, partIdOf } from '#core/plan/find'
import { freePorts } from '#core/edit/add'
import { remove } from '#core/edit/remove'
import type { Fix } from '#core/verdict/fixes'
import type { Finding } from '#core/verdict/verdict'
import { usePreferences } from '../stores/preferences'
import { useStation } from '../stores/station'
import InlineToken from '../edit/InlineToken.vue'
import FindingsPanel from '../findings/FindingsPanel.vue'
import TopBar from '../shell/TopBar.vue'
import ConditionBar from './ConditionBar.vue'
import MindLines from './MindLines.vue'
import PathList from './PathList.vue'
import PathView from './PathView.vue'
import { layoutPath } from '#core/picture/layout'
import { useToken } from '../edit/useToken'
import { useKeys, type Direction } from './useKeys'
import { useSavedOnLeave } from './useSavedOnLeave'
import { useStairs } from './useStairs'
import { useWalk } from './useWalk'

// What the first picture does not need comes after it.
const StaircaseChart = defineAsyncComponent(() => import('./StaircaseChart.vue'))
const EditPanel = defineAsyncComponent(() => import('../edit/EditPanel.vue'))
const AddDialog = defineAsyncComponent(() => import('../edit/AddDialog.vue'))
const SizeDialog = defineAsyncComponent(() => import('./SizeDialog.vue'))
const MendDialog = defineAsyncComponent(() => import('../mend/MendDialog.vue'))

const props = defineProps<{ stationId: string }>()
const station = useStation()
const preferences = usePreferences()
const toast = useToast()
const units = computed(() => preferences.chosen.units)

const selected = ref<string | null>(null)
const chosenFinding = ref<string | null>(null)
const condition = ref('worst')
const editing = ref<string | null>(null)
const topBar = ref<InstanceType<typeof TopBar>>()
const adding = ref(false)
const sizing = ref(false)
const mending = ref(false)
const addAt = ref<string | null>(null)
const missing = ref('')

onMounted(async () => {
  try {
    if (station.id !== props.stationId) await station.open(props.stationId)
    preferences.chosen.lastStation = props.stationId
  } catch (error) {
    missing.value = (error as Error).message
  }
})
useSavedOnLeave(station)

const pathPane = ref<HTMLElement>()
const { width } = useElementSize(pathPane)
const narrow = computed(() => width.value > 0 && width.value < 620)
const layout = computed(
  () => station.plan && layoutPath(station.plan, station.judged?.verdict.arrivals ?? {}, width.value),
)
const { walk } = useWalk(layout, selected)

const verdict = computed(() => station.judged?.verdict ?? null)
const finding = computed(() => verdict.value?.findings.find(f => f.key === chosenFinding.value) ?? null)
const lit = computed(() => new Set(finding.value ? [finding.value.place, ...(finding.value.also ?? [])] : []))

// The worst finding is chosen until the user chooses; one that is gone gives way to the next.
watch(verdict, now => {
  if (!now) return
  if (!now.findings.some(f => f.key === chosenFinding.value)) chosenFinding.value = now.findings[0]?.key ?? null
})
watch(
  () => station.plan,
  plan => {
    if (!plan) return
    const exists = (id: string | null) =>
      id !== null && (partById(plan, partIdOf(id)) !== undefined || leadById(plan, id) !== undefined)
    if (!exists(selected.value)) selected.value = null
    if (!exists(editing.value)) editing.value = null
  },
)

const { shownLoad, shownSupply, limit, shownCondition, point, stairs, arrives } = useStairs({
  station,
  layout,
  selected,
  finding,
  condition,
})

function take(of: Finding, fix: Fix) {
  const faults = station.edit(fix.patch, fix.label)
  if (faults.length) toast.add({ severity: 'error', summary: 'Not taken', detail: faults[0]!.wrong, life: 6000 })
  else
    toast.add({
      severity: 'secondary',
      summary: fix.label,
      detail: `for: ${of.title}. Ctrl Z takes it back.`,
      life: 3500,
    })
}

const { token, tokenText, commitToken } = useToken(station, units)

function startEditing(id: string) {
  selected.value = id
  editing.value = partIdOf(id)
  if (leadById(station.plan!, id)) editing.value = id
}
function startAdding(terminal: string | null) {
  addAt.value = terminal
  adding.value = true
}
function removeSelected() {
  const plan = station.plan
  if (!plan || !selected.value) return
  const id = leadById(plan, selected.value) ? selected.value : partIdOf(selected.value)
  const item = leadById(plan, id) ?? partById(plan, id)
  if (item && !station.edit(remove(plan, id), `remove ${nameOf(item)}`).length)
    toast.add({
      severity: 'secondary',
      summary: `${nameOf(item)} removed`,
      detail: 'Ctrl Z brings it back.',
      life: 3500,
    })
}
function nextFinding(by: 1 | -1) {
  const keys = verdict.value?.findings.map(f => f.key) ?? []
  if (!keys.length) return
  chosenFinding.value = keys[(keys.indexOf(chosenFinding.value ?? '') + by + keys.length) % keys.length]!
  if (finding.value) selectPlace(finding.value)
}
function selectPlace({ place }: Finding) {
  selected.value = leadById(station.plan!, place) ? place : partIdOf(place)
}

function takeFirstFix() {
  const fix = finding.value && station.fixes.get(finding.value.key)?.[0]
  if (finding.value && fix) take(finding.value, fix)
}
function walkTo(direction: Direction) {
  selected.value = walk(direction)
  document
    .querySelector<SVGElement>(`[data-lead="${selected.value}"] > g, [data-part="${selected.value}"]`)
    ?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
}
const view = (name: string) => void navigateTo(`/station/${props.stationId}/${name}`)
useKeys({
  undo: station.undo,
  redo: station.redo,
  walk: walkTo,
  edit: () => selected.value && startEditing(selected.value),
  remove: removeSelected,
  close: () => {
    editing.value = null
    token.value = null
  },
  letters: {
    n: () => nextFinding(1),
    p: () => nextFinding(-1),
    f: takeFirstFix,
    a: () => startAdding(selected.value && freePorts(station.plan!).includes(selected.value) ? selected.value : null),
    u: station.undo,
    r: station.redo,
    w: () => (condition.value = 'worst'),
    m: () => (mending.value = true),
    s: () => (sizing.value = true),
    c: () => view('proof'),
    b: () => view('build'),
    q: () => view('quiet'),
    '?': () => topBar.value?.showKeys(),
  },
})

const dark = computed(() => preferences.chosen.theme === 'dark')
</script>

<template>
  <div v-if="missing" class="missing">
    <p>{{ missing }}</p>
    <NuxtLink to="/stations">All stations</NuxtLink>
  </div>
  <div v-else class="station">
    <TopBar ref="topBar" view="path" />
    <main>
      <div v-if="station.plan" class="does">
        <button class="plain" @click="startAdding(null)">Add <kbd>A</kbd></button
        ><button class="plain" @click="mending = true">Mend all <kbd>M</kbd></button
        ><button class="plain" @click="sizing = true">Size it <kbd>S</kbd></button>
      </div>
      <ConditionBar v-if="station.plan" v-model="condition" :plan="station.plan" :judged="station.judged" />
      <section ref="pathPane" class="path-pane" aria-label="Path">
        <template v-if="station.plan && width">
          <PathList
            v-if="narrow"
            :plan="station.plan"
            :judged="station.judged"
            :point="point"
            :width="width"
            :selected="selected"
            :units="units"
            @select="id => (selected = id)"
            @edit="startEditing"
            @add="startAdding" />
          <PathView
            v-else-if="layout"
            :layout="layout"
            :plan="station.plan"
            :judged="station.judged"
            :point="point"
            :selected="selected"
            :shown-load="shownLoad"
            :lit="lit"
            :units="units"
            @select="id => (selected = id)"
            @edit="startEditing"
            @token="t => (token = t)"
            @add="startAdding" />
          <InlineToken
            v-if="token"
            :key="`${token.id}${token.what}`"
            :x="token.x"
            :y="token.y"
            :text="tokenText"
            :label="token.what"
            :commit="commitToken"
            @close="token = null" />
          <p v-if="!station.plan.parts.length" class="empty">
            Nothing here yet. Press <kbd>A</kbd> to add a source, then what it feeds.
          </p>
        </template>
      </section>
      <MindLines v-if="station.plan" :plan="station.plan" :selected="selected" />
      <EditPanel
        v-if="editing && station.plan"
        :key="editing"
        class="editor"
        :plan="station.plan"
        :id="editing"
        :units="units"
        :edit="station.edit"
        @close="editing = null" />
      <section class="dock" aria-label="Where the volts go">
        <header v-if="shownSupply">
          <h2>
            Where the volts go: {{ nameOf(shownSupply)
            }}<template v-if="shownCondition && station.plan"
              >, {{ conditionWords(station.plan, shownCondition) }}</template
            >
          </h2>
          <b v-if="arrives" :class="{ bad: arrives.bad }">{{ arrives.words }}</b>
        </header>
        <StaircaseChart
          v-if="stairs && shownSupply"
          :stairs="stairs"
          :window="needs(shownSupply)"
          :limit="limit"
          :dark="dark"
          @place="place => (selected = place)" />
        <p v-else-if="shownSupply" class="quiet">
          {{ verdict ? 'No voltage arrives in this condition.' : 'Not worked out.' }}
        </p>
      </section>
    </main>
    <FindingsPanel
      v-model:chosen="chosenFinding"
      class="findings"
      :verdict="verdict"
      :passed="station.judged?.passed ?? []"
      :fixes="station.fixes"
      :problem="station.verdictProblem"
      @take="take"
      @choose="selectPlace" />
    <SizeDialog
      v-if="station.plan && sizing"
      v-model:visible="sizing"
      :plan="station.plan"
      :load="shownLoad"
      :edit="station.edit" />
    <MendDialog v-if="station.plan && mending" v-model:visible="mending" :plan="station.plan" :edit="station.edit" />
    <AddDialog
      v-if="station.plan"
      v-model:visible="adding"
      :plan="station.plan"
      :start-at="addAt"
      :units="units"
      :edit="station.edit"
      @added="id => (selected = id)" />
  </div>
</template>

<style scoped>
.station {
  display: grid;
  grid-template: 46px 1fr / minmax(0, 1fr) 350px;
  height: 100vh;
}
.station > :first-child {
  grid-column: 1 / -1;
}
main {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
  position: relative;
}
.path-pane {
  flex: 1;
  min-height: 0;
  overflow: auto;
  position: relative;
}
main > .does {
  position: absolute;
  right: 0.6rem;
  top: 4px;
  z-index: 3;
  background: var(--paper);
  padding-left: 0.5rem;
}
.dock {
  height: 245px;
  flex: none;
  border-top: 1px solid var(--line-2);
  padding: 0.5rem 1rem 0.4rem;
  display: flex;
  flex-direction: column;
  background: var(--paper);
}
.dock header {
  display: flex;
  justify-content: space-between;
  gap: 1rem;
}
.dock h2 {
  font-size: 0.98rem;
}
.dock b {
  color: var(--pass);
  white-space: nowrap;
}
.dock b.bad {
  color: var(--fail);
}
.dock .staircase {
  flex: 1;
  min-height: 0;
}
.findings {
  border-left: 1px solid var(--line-2);
}
.editor {
  position: absolute;
  left: 0.8rem;
  right: 0.8rem;
  bottom: 0.8rem;
  z-index: 6;
  max-height: 62%;
  overflow: auto;
}
.empty,
.quiet {
  color: var(--ink-3);
  padding: 1.5rem;
}
.missing {
  padding: 3rem;
  text-align: center;
}
@media (max-width: 760px) {
  .station {
    display: flex;
    flex-direction: column;
    height: auto;
  }
  main {
    display: block;
    order: 2;
  }
  .path-pane {
    overflow: visible;
  }
  .findings {
    border-left: 0;
    border-bottom: 1px solid var(--line-2);
    order: 1;
  }
  .editor {
    position: fixed;
    max-height: 75vh;
  }
}
</style>
