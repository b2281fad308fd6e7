<script setup lang="ts">
import { computed } from 'vue'
import { enter } from '#core/edit/form'
import type { Patch } from '#core/edit/patch'
import { formOf } from '#core/kinds/formOf'
import { kindOf, type Part } from '#core/kinds/index'
import type { FormField } from '#core/kinds/kind'
import type { Fault } from '#core/plan/faults'
import { nameOf, partById } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import type { Units } from '#core/units/quantity'
import FieldGrid from './FieldGrid.vue'
import ListForm from './ListForm.vue'
import SelectField from './SelectField.vue'
import { useFieldEdits } from './useFieldEdits'
import { asGiven } from '#core/units/number'

/** All that can be entered of a part, as its kind describes it. */
const props = defineProps<{ plan: Plan; id: string; units: Units; edit: (patch: Patch, label: string) => Fault[] }>()
const { refused, change, apply, at, subject } = useFieldEdits(props, partById)
const part = computed(() => subject.value as Part)
const title = computed(() => nameOf(part.value))
const form = computed(() => formOf(part.value))
const lists = computed(() => [form.value.lists.filter(l => !l.more), form.value.lists.filter(l => l.more)])

function set(field: FormField, value: unknown) {
  apply(field.path, `${field.label} of ${title.value}`, enter(props.plan, { id: props.id }, field, value))
}

const levels = computed(() => kindOf(part.value).levels?.(part.value) ?? [])
const levelOptions = computed(() =>
  levels.value.map(l => ({ id: l.powerW, label: `${asGiven(l.powerW)} W, ${asGiven(l.activeA)} A` })),
)
</script>

<template>
  <SelectField
    v-if="levels.length"
    class="level"
    label="Level used"
    :value="at('powerW')"
    :options="levelOptions"
    @change="v => change('powerW', v, `power of ${title}`)" />
  <FieldGrid
    :fields="form.fields"
    :of="part"
    :units="units"
    :subject="id"
    :refused="path => refused[path]"
    @change="set">
    <ListForm
      v-for="list in lists[1]"
      :key="list.path"
      :plan="plan"
      :id="id"
      :title="title"
      :list="list"
      :units="units"
      :refused="refused"
      :change="apply" />
  </FieldGrid>
  <ListForm
    v-for="list in lists[0]"
    :key="list.path"
    :plan="plan"
    :id="id"
    :title="title"
    :list="list"
    :units="units"
    :refused="refused"
    :change="apply" />
</template>

<style scoped src="./form.css"></style>
