<script setup lang="ts">
import { computed, ref } from 'vue'
import { hasPlace, leadById, partIdOf } from '#core/plan/find'
import { firstStep } from '#core/plan/firstSteps'
import { freePorts } from '#core/graph/free'
import type { Patch } from '#core/edit/patch'
import type { Fix } from '#core/verdict/fixes'
import type { Finding } from '#core/verdict/verdict'
import { usePreferences } from '../stores/preferences'
import { useOpenStation } from '../stores/useOpenStation'
import InlineToken from '../edit/InlineToken.vue'
import { useFindings } from '../findings/useFindings'
import { useFirstFix } from '../findings/useFirstFix'
import FindingsPanel from '../findings/FindingsPanel.vue'
import { useInAddress } from '../shell/useInAddress'
import TopBar from '../shell/TopBar.vue'
import { useViews } from '../shell/useViews'
import DemoLine from '../stations/DemoLine.vue'
import ConditionBar from './ConditionBar.vue'
import MindLines from './MindLines.vue'
import PathList from './PathList.vue'
import PathView from './PathView.vue'
import { useToken } from '../edit/useToken'
import VoltsDock from './VoltsDock.vue'
import SelectionBar from './SelectionBar.vue'
import { useAsked } from './useAsked'
import { useDrop } from './useDrop'
import { useLayout } from './useLayout'
import { usePathEdits } from './usePathEdits'
import { useKeys } from './useKeys'
import { useStillThere } from './useStillThere'
import { useShown } from './useShown'
import { useStairs } from './useStairs'
import { intoSight, useWalk } from './useWalk'
import { later, laterDialog } from '../shell/later'

// What the first picture does not need comes after it.
const EditPanel = later(() => import('../edit/EditPanel.vue'))
const AddDialog = laterDialog(() => import('../edit/AddDialog.vue'))
const JoinPanel = later(() => import('./JoinPanel.vue'))
const TakeOutDialog = later(() => import('./TakeOutDialog.vue'))
const CopyDialog = later(() => import('./CopyDialog.vue'))
const FindDialog = later(() => import('./FindDialog.vue'))
const SizeDialog = later(() => import('./SizeDialog.vue'))
const MendDialog = later(() => import('../mend/MendDialog.vue'))

const props = defineProps<{ stationId: string }>()
const { station, missing, trouble } = useOpenStation(props.stationId)
const preferences = usePreferences()
const units = computed(() => preferences.chosen.units)

const selected = ref<string | null>(null)
const isCondition = (id: string) => !station.judged || station.judged.conditions.some(c => c.id === id)
const condition = useInAddress('state', 'worst', isCondition)
const editing = ref<string | null>(null)
const topBar = ref<InstanceType<typeof TopBar>>()
const addAt = ref<string | null>(null)

const pathPane = ref<HTMLElement>()
const shown = useShown(station)
const coming = () => station.plan
const drawing = { shown, coming, pane: pathPane, selected, units }
const { width, narrow, layout, toggleFold, foldWord, fold } = useLayout(drawing)
const { walk } = useWalk(layout, selected)

const verdict = computed(() => station.judged?.verdict ?? null)
const { chosen: chosenFinding, finding, lit, step: nextFinding } = useFindings(verdict, selectPlace)

useStillThere(station, selected, editing)

const { shownLoad, shownSupply, limit, shownCondition, point, stairs, arrives } = useStairs({
  station,
  layout,
  selected,
  finding,
  condition,
})

const { marked, chosen, asking, joining, copying, said, mark, markPressed, removeChosen, startJoining, joined } =
  usePathEdits(station, selected)
const { adding, sizing, mending, sought, closeDialogs, keysAhead } = useAsked({ editing, joining, asking, copying })
const take = (of: Finding, fix: Fix) => said(fix.patch, fix.label, `for: ${of.title}. Ctrl Z takes it back.`)

const { token, tokenText, commitToken } = useToken(station, units)

function startEditing(id: string) {
  // The picture may still show for a moment what was just taken out.
  if (!hasPlace(station.plan!, id)) return
  selected.value = id
  editing.value = leadById(station.plan!, id) ? id : partIdOf(id)
}
function startAdding(terminal: string | null) {
  addAt.value = terminal
  adding.value = true
}
function takeOutAsked(patch: Patch, label: string) {
  asking.value = null
  editing.value = null
  said(patch, label)
}
function removeEdited(id: string) {
  editing.value = null
  removeChosen([id])
}
function selectPlace({ place }: Finding) {
  selected.value = leadById(station.plan!, place) ? place : partIdOf(place)
}

const takeFirstFix = useFirstFix({ finding, fixes: () => station.fixes, take })
function goTo(id: string | null) {
  sought.value = null
  selected.value = id
  intoSight(id)
}
const viewOf = useViews()
const view = (name: string) => void navigateTo(viewOf(name))
useKeys({
  walk: direction => goTo(walk(direction)),
  edit: () => selected.value && startEditing(selected.value),
  remove: () => removeChosen(),
  close: () => {
    if (closeDialogs()) return
    if (editing.value || token.value) editing.value = token.value = null
    else marked.value = new Set()
  },
  ...keysAhead,
  letters: {
    n: () => nextFinding(1),
    p: () => nextFinding(-1),
    f: takeFirstFix,
    a: () => startAdding(selected.value && freePorts(station.plan!).includes(selected.value) ? selected.value : null),
    j: startJoining,
    x: mark,
    o: fold,
    u: () => topBar.value?.undo(),
    r: () => topBar.value?.redo(),
    w: () => (condition.value = 'worst'),
    m: () => (mending.value = true),
    s: () => (sizing.value = true),
    c: () => view('proof'),
    b: () => view('build'),
    q: () => view('quiet'),
    '/': () => (sought.value = ''),
    '?': () => topBar.value?.showKeys(),
  },
})

const { held, at: heldAt, words: heldWords, onto } = useDrop({ station, pane: pathPane, joining, said })
const litNow = computed(() => (onto.value.size ? onto.value : new Set([...lit.value, ...marked.value])))
</script>

<template>
  <div v-if="missing" class="missing">
    <p>{{ missing }}</p>
    <NuxtLink to="/stations">All stations</NuxtLink>
  </div>
  <div v-else class="station">
    <TopBar ref="topBar" view="path" />
    <main :class="{ early: station.plan && station.isVerdictNear }">
      <DemoLine v-if="station.plan?.madeUp" />
      <p v-if="trouble" role="alert" class="lost">{{ trouble }}</p>
      <ConditionBar v-if="station.plan" v-model="condition" :plan="station.plan" :judged="station.judged" />
      <section
        ref="pathPane"
        class="path-pane"
        aria-label="Path"
        @mousedown.capture="markPressed"
        @click.capture="markPressed">
        <template v-if="station.plan && shown && width">
          <PathList
            v-if="narrow"
            :plan="shown.plan"
            :judged="shown.judged"
            :point="point"
            :width="width"
            :selected="selected"
            :units="units"
            :lit="onto"
            @select="id => (selected = id)"
            @edit="startEditing"
            @add="startAdding"
            @unfold="toggleFold" />
          <PathView
            v-else-if="layout"
            :layout="layout"
            :pane-width="width"
            :plan="shown.plan"
            :judged="shown.judged"
            :point="point"
            :selected="selected"
            :shown-load="shownLoad"
            :lit="litNow"
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
            {{ firstStep(station.plan)?.words }} <button class="plain" @click="startAdding(null)">Add it</button> or
            <NuxtLink to="/new">answer four questions</NuxtLink>.
          </p>
        </template>
      </section>
      <SelectionBar
        v-if="station.plan"
        :plan="station.plan"
        :chosen="chosen"
        :marked="marked.size"
        :fold="foldWord"
        @fold="fold"
        @edit="startEditing(chosen[0]!)"
        @join="startJoining"
        @copy="copying = chosen"
        @remove="removeChosen()"
        @forget="marked = new Set()"
        @add="startAdding(null)"
        @mend="mending = true"
        @size="sizing = true" />
      <MindLines v-if="station.plan" :plan="station.plan" :selected="selected" />
      <EditPanel
        v-if="editing && station.plan"
        :key="editing"
        class="editor"
        :plan="station.plan"
        :id="editing"
        :units="units"
        :edit="station.edit"
        @remove="removeEdited"
        @close="editing = null" />
      <JoinPanel
        v-if="joining && station.plan"
        :key="`${joining.id}${joining.end}${joining.onto}`"
        class="joiner"
        :plan="station.plan"
        v-bind="joining"
        @look="id => (selected = id)"
        @join="joined"
        @close="joining = null" />
      <p v-if="held" class="held" :style="{ left: `${heldAt.x + 12}px`, top: `${heldAt.y + 8}px` }">
        {{ heldWords }}
      </p>
      <VoltsDock
        v-if="station.plan"
        :plan="station.plan"
        :load="shownSupply"
        :condition="shownCondition"
        :stairs="stairs"
        :limit="limit"
        :arrives="arrives"
        :is-judged="verdict !== null"
        :dark="preferences.isDark"
        @place="place => (selected = place)" />
    </main>
    <FindingsPanel
      v-model:chosen="chosenFinding"
      class="findings"
      :plan="station.plan"
      :verdict="verdict"
      :passed="station.judged?.passed ?? []"
      :fixes="station.fixes"
      :first="station.plan && firstStep(station.plan)"
      :problem="station.verdictProblem"
      :is-slow="station.isVerdictSlow"
      @take="take"
      @choose="selectPlace" />
    <SizeDialog v-if="station.plan && sizing" v-model:visible="sizing" :plan="station.plan" :edit="station.edit" />
    <MendDialog v-if="station.plan && mending" v-model:visible="mending" :plan="station.plan" :edit="station.edit" />
    <TakeOutDialog
      v-if="asking && station.plan"
      :id="asking"
      :plan="station.plan"
      @take="takeOutAsked"
      @close="asking = null" />
    <FindDialog
      v-if="sought !== null && station.plan"
      v-model:sought="sought"
      :plan="station.plan"
      @found="goTo"
      @close="sought = null" />
    <CopyDialog v-if="copying && station.plan" :plan="station.plan" :ids="copying" @close="copying = null" />
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
  grid-template: auto 1fr / minmax(0, 1fr) 350px;
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
.joiner {
  position: absolute;
  right: 0.8rem;
  top: 3rem;
  z-index: 7;
}
.held {
  position: fixed;
  z-index: 20;
  pointer-events: none;
  background: var(--sheet);
  border: 1px solid var(--line-2);
  border-radius: 6px;
  padding: 0.2rem 0.5rem;
  box-shadow: 0 4px 14px var(--shade);
}
.empty,
.quiet {
  color: var(--ink-3);
  padding: 1.5rem;
}
.lost {
  padding: 0.4rem 1rem;
  color: var(--fail);
}
.missing {
  padding: 3rem;
  text-align: center;
}
/* A finger that rests takes something along: no letters are marked by it. */
@media (pointer: coarse) {
  .path-pane {
    user-select: none;
    -webkit-user-select: none;
    -webkit-touch-callout: none;
  }
}
@media (max-width: 760px), (max-height: 520px) {
  .station {
    display: flex;
    flex-direction: column;
    height: auto;
  }
  main {
    display: block;
    order: 2;
  }
  .early {
    visibility: hidden;
  }
  .path-pane {
    overflow: auto hidden;
  }
  .findings {
    border-left: 0;
    border-bottom: 1px solid var(--line-2);
    order: 1;
  }
  .editor,
  .joiner {
    position: fixed;
    max-height: 75vh;
    overflow: auto;
  }
  .joiner {
    inset: auto 0.8rem 0.8rem;
    width: auto;
    max-width: none;
  }
}
</style>
