<script setup lang="ts">
import { useElementSize } from './useElementSize'
import { computed, defineAsyncComponent, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import { useToast } from 'primevue/usetoast'
import type { NamedPoint } from '#core/circuit/point'
import type { Staircase } from '#core/circuit/staircase'
import { conductorName } from '#core/conductor/resistance'
import { conditionWords } from '#core/circuit/conditions'
import { isLoad as isLoadPart, kindOf, needs } from '#core/kinds/index'
import { leadById, nameOf, partById, partIdOf } from '#core/plan/find'
import { freePorts } from '#core/edit/add'
import { setItem, setLength } from '#core/edit/items'
import { remove } from '#core/edit/remove'
import { setField } from '#core/edit/set'
import { readConductor } from '#core/units/conductor'
import { readQuantity, showLength } from '#core/units/quantity'
import type { Fix } from '#core/verdict/fixes'
import type { Finding } from '#core/verdict/verdict'
import { usePreferences } from '../stores/preferences'
import { useStation } from '../stores/station'
import InlineToken from '../edit/InlineToken.vue'
import FindingsPanel from '../findings/FindingsPanel.vue'
import TopBar from '../shell/TopBar.vue'
import ConditionBar from './ConditionBar.vue'
import PathList from './PathList.vue'
import PathView from './PathView.vue'
import { layoutPath } from '#core/picture/layout'
import { useSavedOnLeave } from './useSavedOnLeave'
import { useWalk } from './useWalk'

// What the first picture does not need comes after it.
const StaircaseChart = defineAsyncComponent(() => import('./StaircaseChart.vue'))
const EditPanel = defineAsyncComponent(() => import('../edit/EditPanel.vue'))
const AddDialog = defineAsyncComponent(() => import('../edit/AddDialog.vue'))
const SizeDialog = defineAsyncComponent(() => import('./SizeDialog.vue'))

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

/** The load whose staircase is shown: the one selected, else the one the finding speaks of, else the worst. */
const shownLoad = computed(() => {
  const plan = station.plan
  if (!plan) return null
  const isLoad = (id: string | null | undefined) => plan.parts.some(p => p.id === id && kindOf(p).role === 'load')
  if (isLoad(selected.value)) return selected.value
  const rows = layout.value?.rows.filter(r => r.kind === 'load') ?? []
  const through = rows.find(r => selected.value !== null && r.chain.includes(selected.value))
  if (through) return through.id
  if (isLoad(finding.value?.place)) return finding.value!.place
  return verdict.value?.findings.map(f => f.place).find(isLoad) ?? rows[0]?.id ?? null
})
const shownSupply = computed(() => {
  const part = station.plan?.parts.find(p => p.id === shownLoad.value)
  return part && isLoadPart(part) ? part : null
})
const limit = computed<'minV' | 'maxV'>(() => {
  const over = verdict.value?.findings.some(f => f.check === 'arrival-over' && f.place === shownLoad.value)
  const under = verdict.value?.findings.some(f => f.check === 'arrival-under' && f.place === shownLoad.value)
  return over && !under ? 'maxV' : 'minV'
})
/** Condition of the staircase: the chosen one, or the load's own worst corner. */
const shownCondition = computed(() => {
  if (condition.value !== 'worst') return condition.value
  const span = shownLoad.value ? verdict.value?.arrivals[shownLoad.value] : null
  if (!span) return null
  return limit.value === 'maxV' ? span.high.condition : span.low.condition
})

const point = shallowRef<NamedPoint | null>(null)
const stairs = shallowRef<Staircase | null>(null)
watch(
  [() => station.judged, condition, shownLoad, shownCondition],
  async ([judged]) => {
    if (!judged) return
    const [nextPoint, nextStairs] = await Promise.all([
      condition.value === 'worst' ? null : station.core.call('point', condition.value).catch(() => null),
      shownLoad.value && shownCondition.value
        ? station.core.call('stairs', shownLoad.value, shownCondition.value).catch(() => null)
        : null,
    ])
    if (judged !== station.judged) return
    point.value = nextPoint
    stairs.value = nextStairs
    if (condition.value !== 'worst' && !nextPoint) condition.value = 'worst'
  },
  { immediate: true },
)

const arrives = computed(() => {
  const load = shownSupply.value
  if (!load || !stairs.value) return null
  const volts = stairs.value.steps.at(-1)?.volts ?? stairs.value.emfV
  const { minV, maxV } = needs(load)
  const wants = limit.value === 'minV' ? `needs ${minV} V` : `stands ${maxV} V`
  return { bad: volts < minV - 1e-6 || volts > maxV + 1e-6, words: `${wants} · gets ${volts.toFixed(2)} V` }
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

/** One figure edited where it stands. */
interface TokenTarget {
  id: string
  what: 'conductor' | 'length' | 'rating'
  itemId?: string
  x: number
  y: number
}
const token = shallowRef<TokenTarget | null>(null)
const tokenText = computed(() => {
  const lead = token.value && station.plan && leadById(station.plan, token.value.id)
  if (!lead || !token.value) return ''
  if (token.value.what === 'conductor') return conductorName(lead.conductor)
  if (token.value.what === 'length') return showLength(lead.lengthM, units.value)
  const item = lead.inline?.find(i => i.id === token.value!.itemId)
  return item && 'ratedA' in item ? `${item.ratedA} A` : ''
})
function commitToken(text: string): string | null {
  const target = token.value!
  const plan = station.plan!
  const lead = leadById(plan, target.id)!
  const name = lead.name ?? lead.id
  const said = (patch: Parameters<typeof station.edit>[0], label: string) => {
    const faults = station.edit(patch, label)
    return faults.length ? `${faults[0]!.wrong}; right would be ${faults[0]!.right}` : null
  }
  if (target.what === 'conductor') {
    const read = readConductor(text, units.value)
    if (!read.ok) return read.wrong
    const { insulationC, material } = lead.conductor
    return said(
      setField(plan, lead.id, 'conductor', {
        ...read.value,
        ...(insulationC !== undefined && { insulationC }),
        ...(material && { material }),
      }),
      `conductor of ${name}`,
    )
  }
  if (target.what === 'length') {
    const read = readQuantity(text, 'length', units.value)
    return read.ok ? said(setLength(plan, lead, read.value), `length of ${name}`) : read.wrong
  }
  const read = readQuantity(text, 'current', units.value)
  if (!read.ok) return read.wrong
  return said(setItem(plan, lead.id, target.itemId!, { ratedA: read.value }), `rating of the fuse in ${name}`)
}

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

function onKey(event: KeyboardEvent) {
  const target = event.target as HTMLElement
  if (
    /^(INPUT|SELECT|TEXTAREA)$/.test(target.tagName) ||
    target.isContentEditable ||
    document.querySelector('.p-dialog-mask:not(.p-overlay-mask-leave-active)')
  )
    return
  const key = event.key
  if ((event.ctrlKey || event.metaKey) && !event.altKey) {
    if (key.toLowerCase() === 'z' && !event.shiftKey) station.undo()
    else if (key.toLowerCase() === 'y' || (key.toLowerCase() === 'z' && event.shiftKey)) station.redo()
    else return
    event.preventDefault()
    return
  }
  if (event.altKey) return
  const arrows: Record<string, 'up' | 'down' | 'left' | 'right'> = {
    ArrowUp: 'up',
    ArrowDown: 'down',
    ArrowLeft: 'left',
    ArrowRight: 'right',
  }
  if (arrows[key]) {
    if (target.closest('.p-select, .p-selectbutton')) return
    selected.value = walk(arrows[key])
    document
      .querySelector<SVGElement>(`[data-lead="${selected.value}"] > g, [data-part="${selected.value}"]`)
      ?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
  } else if (key === 'n' || key === 'N') nextFinding(1)
  else if (key === 'p' || key === 'P') nextFinding(-1)
  else if (key === 'f' || key === 'F') {
    const fix = finding.value && station.fixes.get(finding.value.key)?.[0]
    if (finding.value && fix) take(finding.value, fix)
  } else if (key === 'a' || key === 'A')
    startAdding(selected.value && freePorts(station.plan!).includes(selected.value) ? selected.value : null)
  else if (key === 'e' || key === 'E' || (key === 'Enter' && target.tagName !== 'BUTTON')) {
    if (selected.value) startEditing(selected.value)
  } else if (key === 'Delete' || key === 'Backspace') removeSelected()
  else if (key === 'u' || key === 'U') station.undo()
  else if (key === 'r' || key === 'R') station.redo()
  else if (key === 'w' || key === 'W') condition.value = 'worst'
  else if (key === 's' || key === 'S') sizing.value = true
  else if (key === 'c' || key === 'C') void navigateTo(`/station/${props.stationId}/proof`)
  else if (key === 'b' || key === 'B') void navigateTo(`/station/${props.stationId}/build`)
  else if (key === 'q' || key === 'Q') void navigateTo(`/station/${props.stationId}/quiet`)
  else if (key === '?') topBar.value?.showKeys()
  else if (key === 'Escape') {
    editing.value = null
    token.value = null
  } else return
  event.preventDefault()
}
onMounted(() => window.addEventListener('keydown', onKey))
onBeforeUnmount(() => window.removeEventListener('keydown', onKey))

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
        <p v-else-if="shownSupply" class="quiet">No voltage arrives in this condition.</p>
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
