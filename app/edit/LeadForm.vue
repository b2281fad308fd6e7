<script setup lang="ts">
import { computed, ref } from 'vue'
import { putBetween } from '#core/edit/between'
import { putItem } from '#core/edit/items'
import { enterEnd, enterLead, leadsAlike, setConductors } from '#core/edit/lead'
import type { Patch } from '#core/edit/patch'
import { setField } from '#core/edit/set'
import { conductorName } from '#core/conductor/resistance'
import type { FormField } from '#core/kinds/kind'
import type { Fault } from '#core/plan/faults'
import { leadById, leadName } from '#core/plan/find'
import { endForm, leadForm } from '#core/plan/leadForm'
import { terminalName } from '#core/plan/names'
import type { Conductor, Lead, Plan } from '#core/plan/schema'
import type { Units } from '#core/units/quantity'
import { counted } from '#core/units/words'
import Icon from '../shell/Icon.vue'
import FieldGrid from './FieldGrid.vue'
import ItemForm from './ItemForm.vue'
import { NEW_ITEMS, THROUGH_PARTS } from './options'
import { useFieldEdits } from './useFieldEdits'

/** A lead: its conductor, length and ends, and what is wired into it. */
const props = defineProps<{ plan: Plan; id: string; units: Units; edit: (patch: Patch, label: string) => Fault[] }>()
const { refused, change, apply, subject } = useFieldEdits(props, leadById)
const lead = computed(() => subject.value as Lead)
const title = computed(() => leadName(lead.value))
const ENDS = ['from', 'to'] as const

/** Those of the same conductor, which may be changed with it. */
const alike = computed(() => leadsAlike(props.plan, lead.value))
const forAll = ref(false)
function set(field: FormField, value: unknown) {
  const isForAll = field.path === 'conductor' && forAll.value
  const of = isForAll ? counted(alike.value.length + 1, 'lead') : title.value
  const patch = isForAll
    ? setConductors(props.plan, [lead.value, ...alike.value], value as Conductor)
    : enterLead(props.plan, lead.value, field, value)
  apply(field.path, `${field.label} of ${of}`, patch)
}
function setEnd(end: 'from' | 'to', { path, label }: FormField, value: unknown) {
  const patch = enterEnd(props.plan, lead.value, end, [path, value])
  apply(`ends.${end}.${path}`, `${label} of ${title.value}`, patch)
}
function putThrough(row: (typeof THROUGH_PARTS)[number] | null) {
  const made = row && putBetween(props.plan, { leadId: props.id }, row.part as never, row.kind.slice(0, 3))
  if (made) apply('inline', `${row.label} into ${title.value}`, made.patch)
}
function addNew({ label, fromEndM, value }: (typeof NEW_ITEMS)[number]) {
  apply('inline', `${label} into ${title.value}`, putItem(props.plan, props.id, value, fromEndM))
}
function removeItem(i: number) {
  const patch = setField(props.plan, props.id, `inline.${i}`, undefined)
  apply('inline', `take ${lead.value.inline![i]!.kind} out of ${title.value}`, patch)
}
</script>

<template>
  <FieldGrid :fields="leadForm" :of="lead" :units="units" :refused="path => refused[path]" @change="set" />
  <label v-if="alike.length" class="check"
    ><input v-model="forAll" type="checkbox" /> another conductor for {{ counted(alike.length, 'other lead') }} of
    {{ conductorName(lead.conductor) }} too</label
  >
  <section v-for="end in ENDS" :key="end" class="list" :aria-label="`At ${terminalName(plan, lead[end])}`">
    <h4>At {{ terminalName(plan, lead[end]) }}</h4>
    <FieldGrid
      :fields="endForm"
      :of="lead.ends?.[end] ?? {}"
      :units="units"
      :refused="path => refused[`ends.${end}.${path}`]"
      @change="(field, value) => setEnd(end, field, value)" />
  </section>
  <h4 v-if="lead.inline?.length">In the lead, from {{ terminalName(plan, lead.from) }}</h4>
  <ItemForm
    v-for="(item, i) in lead.inline"
    :key="item.id"
    :plan="plan"
    :lead="lead"
    :item="item"
    :units="units"
    :refused="path => refused[`inline.${i}.${path}`]"
    @change="(field, value, label) => change(`inline.${i}.${field}`, value, `${label} in ${title}`)"
    @remove="removeItem(i)" />
  <div class="adders">
    Put in:
    <button v-for="item in NEW_ITEMS" :key="item.value.kind" class="plain" @click="addNew(item)">
      <Icon name="plus" /> {{ item.label }}
    </button>
    <Select
      :model-value="null"
      :options="THROUGH_PARTS"
      option-label="label"
      size="small"
      filter
      placeholder="a part…"
      aria-label="Put a part into the lead"
      @update:model-value="putThrough" />
  </div>
  <em v-if="refused.inline" role="alert">{{ refused.inline }}</em>
</template>

<style scoped src="./form.css"></style>
