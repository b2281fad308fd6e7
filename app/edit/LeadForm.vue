<script setup lang="ts">
import { computed } from 'vue'
import { putBetween } from '#core/edit/between'
import { addItem, setLength as lengthPatch } from '#core/edit/items'
import type { Patch } from '#core/edit/patch'
import { setField } from '#core/edit/set'
import { CONTACT_STATES } from '#core/connector/mate'
import { graphOf } from '#core/graph/graph'
import type { Fault } from '#core/plan/faults'
import { leadById, leadName } from '#core/plan/find'
import type { Lead, Plan } from '#core/plan/schema'
import type { Units } from '#core/units/quantity'
import Icon from '../shell/Icon.vue'
import ItemForm from './ItemForm.vue'
import { CONNECTOR_OPTIONS, METHOD_OPTIONS, NEW_ITEMS, THROUGH_PARTS } from './options'
import QuantityInput from './QuantityInput.vue'
import SelectField from './SelectField.vue'
import { useFieldEdits } from './useFieldEdits'

/** A lead: its conductor, length and ends, and what is wired into it. */
const props = defineProps<{ plan: Plan; id: string; units: Units; edit: (patch: Patch, label: string) => Fault[] }>()
const { refused, change, subject } = useFieldEdits(props, leadById)
const lead = computed(() => subject.value as Lead)
const title = computed(() => leadName(lead.value))
const terminals = computed(() => [...graphOf(props.plan).terminals.keys()])
const ENDS = ['from', 'to'] as const

function setConductor(size: Lead['conductor']) {
  const { insulationC, material } = lead.value.conductor
  const conductor = { ...size, ...(insulationC !== undefined && { insulationC }), ...(material && { material }) }
  change('conductor', conductor, `conductor of ${title.value}`)
}
function setLength(lengthM: number) {
  const patch = lengthM > 0 ? lengthPatch(props.plan, lead.value, lengthM) : undefined
  change('lengthM', lengthM, `length of ${title.value}`, patch)
}
type EndField = 'connector' | 'method' | 'contact' | 'contactOhm'
function setEnd(end: 'from' | 'to', field: EndField, value: unknown) {
  const next = { connector: 'bare', ...lead.value.ends?.[end], [field]: value }
  change(`ends.${end}`, next, `${end} end of ${title.value}`)
}
function putThrough(row: (typeof THROUGH_PARTS)[number] | null) {
  const made = row && putBetween(props.plan, props.id, row.part as never, row.kind.slice(0, 3))
  if (made) change('inline', null, `${row.label} into ${title.value}`, made.patch)
}
function putItem({ label, fromEndM, value }: (typeof NEW_ITEMS)[number]) {
  const patch = addItem(props.plan, props.id, value, { fromEndM })
  change('inline', value, `${label} into ${title.value}`, patch)
}
function removeItem(i: number) {
  const patch = setField(props.plan, props.id, `inline.${i}`, undefined)
  change('inline', null, `take ${lead.value.inline![i]!.kind} out of ${title.value}`, patch)
}
</script>

<template>
  <div class="grid">
    <QuantityInput
      label="Conductor"
      quantity="conductor"
      :units="units"
      :value="lead.conductor"
      :refused="refused.conductor"
      @change="v => setConductor(v as Lead['conductor'])" />
    <QuantityInput
      label="Length, one way"
      quantity="length"
      :units="units"
      :value="lead.lengthM"
      :refused="refused.lengthM"
      @change="v => setLength(v as number)" />
    <SelectField
      v-for="end in ENDS"
      :key="end"
      :label="end === 'from' ? 'From' : 'To'"
      :value="lead[end]"
      :options="terminals"
      filter
      :refused="refused[end]"
      @change="v => change(end, v, `${end} of ${title}`)" />
    <SelectField
      v-for="end in ENDS"
      :key="`c-${end}`"
      :label="`Connector at ${lead[end]}`"
      :value="lead.ends?.[end]?.connector"
      :options="CONNECTOR_OPTIONS"
      filter
      @change="v => setEnd(end, 'connector', v)" />
    <SelectField
      v-for="end in ENDS"
      :key="`m-${end}`"
      :label="`Method at ${lead[end]}`"
      :value="lead.ends?.[end]?.method"
      :options="METHOD_OPTIONS"
      @change="v => setEnd(end, 'method', v)" />
    <template v-for="end in ENDS" :key="`k-${end}`">
      <SelectField
        v-if="lead.ends?.[end]"
        :label="`Contact at ${lead[end]}`"
        :value="lead.ends[end].contact"
        :options="CONTACT_STATES"
        @change="v => setEnd(end, 'contact', v)" />
      <QuantityInput
        v-if="lead.ends?.[end]"
        :label="`Measured a pole at ${lead[end]}`"
        quantity="resistance"
        optional
        :units="units"
        :value="lead.ends[end].contactOhm"
        :refused="refused[`ends.${end}`]"
        @change="v => setEnd(end, 'contactOhm', v)" />
    </template>
  </div>
  <label class="check"
    ><input
      type="checkbox"
      :checked="lead.sheathed ?? false"
      @change="e => change('sheathed', (e.target as HTMLInputElement).checked, `sheath of ${title}`)" />
    lies in a sheath</label
  >
  <h4 v-if="lead.inline?.length">In the lead, from {{ lead.from }}</h4>
  <ItemForm
    v-for="(item, i) in lead.inline"
    :key="item.id"
    :lead="lead"
    :item="item"
    :units="units"
    :refused="field => refused[`inline.${i}.${field}`]"
    @change="(field, value, label) => change(`inline.${i}.${field}`, value, `${label} in ${title}`)"
    @remove="removeItem(i)" />
  <div class="adders">
    <Select
      :model-value="null"
      :options="THROUGH_PARTS"
      option-label="label"
      size="small"
      filter
      placeholder="Put a part into it…"
      aria-label="Put a part into the lead"
      @update:model-value="putThrough" />
  </div>
  <div class="adders">
    Put in:
    <button v-for="item in NEW_ITEMS" :key="item.value.kind" class="plain" @click="putItem(item)">
      <Icon name="plus" /> {{ item.label }}
    </button>
  </div>
  <em v-if="refused.inline" role="alert">{{ refused.inline }}</em>
</template>

<style scoped src="./form.css"></style>
