<script setup lang="ts">
import { computed, provide, ref } from 'vue'
import type { Patch } from '#core/edit/patch'
import { setPlan } from '#core/edit/set'
import {
  activeIn,
  addLoadState,
  addZone,
  enterSite,
  mayBeActive,
  removeLoadState,
  removeZone,
  setActive,
} from '#core/edit/site'
import { kindOf } from '#core/kinds/index'
import type { FormField } from '#core/kinds/kind'
import type { Fault } from '#core/plan/faults'
import { partName } from '#core/plan/names'
import type { LoadState, Plan } from '#core/plan/schema'
import { siteForm, zoneForm } from '#core/plan/siteForm'
import type { Units } from '#core/units/quantity'
import Icon from '../shell/Icon.vue'
import FieldGrid from './FieldGrid.vue'
import { FORM_PLAN } from './formPlan'
import Dialog from '../shell/focusedDialog'
import { asGiven } from '#core/units/number'

/** The station as a whole: its name and notes, its site, places with temperatures of their own, named load states. */
const visible = defineModel<boolean>('visible', { required: true })
const props = defineProps<{ plan: Plan; units: Units; edit: (patch: Patch, label: string) => Fault[] }>()
provide(
  FORM_PLAN,
  computed(() => props.plan),
)

const refused = ref<Record<string, string>>({})
function apply(path: string, label: string, patch: Patch) {
  const [fault] = props.edit(patch, label)
  refused.value = fault ? { [path]: `${fault.wrong}; right would be ${fault.right}` } : {}
}
const setField = (field: FormField, value: unknown) =>
  apply(field.path, `${field.label.toLowerCase()} of the station`, enterSite(props.plan, field, value))

const zones = computed(() => props.plan.site?.zones ?? [])
const newZone = ref('')
function putZone() {
  if (!newZone.value.trim()) return
  apply('zones', `place ${newZone.value.trim()}`, addZone(props.plan, newZone.value))
  newZone.value = ''
}
function setZone(i: number, { path, label }: FormField, value: unknown) {
  const full = `site.zones.${i}.${path}`
  apply(full, `${label.toLowerCase()} in ${zones.value[i]!.id}`, setPlan(props.plan, full, value))
}

const loads = computed(() => mayBeActive(props.plan))
const newState = ref('')
function putState() {
  if (!newState.value.trim()) return
  apply('states', `load state ${newState.value.trim()}`, addLoadState(props.plan, newState.value.trim()))
  newState.value = ''
}
const stateName = (s: LoadState) => s.name ?? s.id
function renameState(i: number, name: string) {
  apply(`state ${i}`, 'name of a load state', setPlan(props.plan, `loadStates.${i}.name`, name.trim() || undefined))
}
function tick(state: LoadState, partId: string, how: boolean | number) {
  const label = `${partName(props.plan, partId)} in ${stateName(state)}`
  apply(`state ${state.id}`, label, setActive(props.plan, state.id, partId, how))
}
const AS_SET = 0
function powers(partId: string) {
  const part = loads.value.find(p => p.id === partId)!
  const levels = kindOf(part).levels?.(part) ?? []
  return levels.length
    ? [{ id: AS_SET, label: 'as it is set' }, ...levels.map(l => ({ id: l.powerW, label: `${asGiven(l.powerW)} W` }))]
    : []
}
</script>

<template>
  <Dialog
    v-model:visible="visible"
    modal
    header="The station"
    :style="{ width: '56rem', maxWidth: '96vw' }"
    :draggable="false"
    dismissable-mask>
    <FieldGrid :fields="siteForm" :of="plan" :units="units" :refused="path => refused[path]" @change="setField" />

    <h4>Places with temperatures of their own</h4>
    <div v-for="(zone, i) in zones" :key="zone.id" class="entry">
      <b>{{ zone.id }}</b>
      <div class="fields">
        <FieldGrid
          :fields="zoneForm"
          :of="zone"
          :units="units"
          :refused="path => refused[`site.zones.${i}.${path}`]"
          @change="(field, value) => setZone(i, field, value)" />
      </div>
      <button
        class="plain"
        :aria-label="`Take ${zone.id} out`"
        @click="apply('zones', `place ${zone.id} out`, removeZone(plan, zone.id))">
        <Icon name="close" />
      </button>
    </div>
    <p class="adders">
      <InputText
        v-model="newZone"
        size="small"
        placeholder="roof, boot, tent"
        aria-label="New place"
        @keydown.enter.prevent="putZone" />
      <button class="plain" :disabled="!newZone.trim()" @click="putZone"><Icon name="plus" /> Add a place</button>
      <em v-if="refused.zones" role="alert">{{ refused.zones }}</em>
    </p>

    <h4>What transmits together</h4>
    <p class="quiet">Idle, everything active, and each alone are always judged; name what else happens here.</p>
    <div v-for="(state, i) in plan.loadStates ?? []" :key="state.id" class="entry state">
      <InputText
        :model-value="stateName(state)"
        size="small"
        :aria-label="`Name of load state ${i + 1}`"
        @change="e => renameState(i, (e.target as HTMLInputElement).value)" />
      <div class="fields ticks">
        <span v-for="load in loads" :key="load.id">
          <label class="check"
            ><input
              type="checkbox"
              :checked="activeIn(state, load.id) !== false"
              @change="e => tick(state, load.id, (e.target as HTMLInputElement).checked)" />
            {{ partName(plan, load.id) }}</label
          >
          <Select
            v-if="activeIn(state, load.id) !== false && powers(load.id).length"
            :model-value="activeIn(state, load.id) === true ? AS_SET : activeIn(state, load.id)"
            :options="powers(load.id)"
            option-label="label"
            option-value="id"
            size="small"
            :aria-label="`Power of ${partName(plan, load.id)} in ${stateName(state)}`"
            @update:model-value="v => tick(state, load.id, v || true)" />
        </span>
      </div>
      <button
        class="plain"
        :aria-label="`Take ${stateName(state)} out`"
        @click="apply('states', `load state ${stateName(state)} out`, removeLoadState(plan, state.id))">
        <Icon name="close" />
      </button>
    </div>
    <p class="adders">
      <InputText
        v-model="newState"
        size="small"
        placeholder="both operators"
        aria-label="New load state"
        @keydown.enter.prevent="putState" />
      <button class="plain" :disabled="!newState.trim()" @click="putState">
        <Icon name="plus" /> Add a load state
      </button>
      <em v-if="refused.states" role="alert">{{ refused.states }}</em>
    </p>
  </Dialog>
</template>

<style scoped src="./form.css"></style>
<style scoped>
.ticks {
  display: flex;
  flex-wrap: wrap;
  gap: 0 1.2rem;
}
.ticks span {
  display: flex;
  gap: 0.4rem;
  align-items: center;
}
.adders {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  flex-wrap: wrap;
}
.quiet {
  color: var(--ink-3);
}
</style>
