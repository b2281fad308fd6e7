<script setup lang="ts">
import { computed, inject } from 'vue'
import type { Choice, FormField } from '#core/kinds/kind'
import { partName, terminalName } from '#core/plan/names'
import { graphOf } from '#core/graph/graph'
import type { Units } from '#core/units/quantity'
import { FORM_PLAN } from './formPlan'
import { CONNECTOR_OPTIONS } from './options'
import QuantityInput from './QuantityInput.vue'
import SelectField from './SelectField.vue'

/** One line of a form, as its quantity is entered. Parts, places and terminals are chosen by their names. */
const props = defineProps<{
  field: FormField
  value: unknown
  units: Units
  /** The part or lead it is of, which is no choice of its own. */
  subject?: string
  refused?: string | undefined
}>()
const emit = defineEmits<{ change: [value: unknown] }>()
const plan = inject(FORM_PLAN)!

const parts = computed<Choice[]>(() =>
  plan.value.parts.filter(p => p.id !== props.subject).map(p => ({ id: p.id, label: partName(plan.value, p.id) })),
)
const choices = computed<readonly Choice[] | null>(() => {
  switch (props.field.quantity) {
    case 'choice':
      return props.field.choices!.map(c => (typeof c === 'string' ? { id: c, label: c } : c))
    case 'connector':
      return CONNECTOR_OPTIONS
    case 'part':
      return parts.value
    case 'zone':
      return (plan.value.site?.zones ?? []).map(z => ({ id: z.id, label: z.id }))
    case 'terminal':
      return [...graphOf(plan.value).terminals.keys()].map(id => ({ id, label: terminalName(plan.value, id) }))
    default:
      return null
  }
})
/** What says itself on unless it is said otherwise. */
const isOn = computed(() => (props.field.path === 'closed' ? props.value !== false : props.value === true))
const MANY = 8
</script>

<template>
  <label v-if="field.quantity === 'yes'" class="check"
    ><input type="checkbox" :checked="isOn" @change="e => emit('change', (e.target as HTMLInputElement).checked)" />
    {{ field.label }}<em v-if="refused" role="alert">{{ refused }}</em></label
  >
  <SelectField
    v-else-if="choices"
    :label="field.label"
    :value="value"
    :options="choices"
    :filter="choices.length > MANY"
    :refused="refused"
    :clearable="!field.must"
    @change="v => emit('change', v ?? undefined)" />
  <label v-else-if="field.quantity === 'parts'" class="several"
    ><span>{{ field.label }}</span>
    <MultiSelect
      :show-toggle-all="false"
      :model-value="value ?? []"
      :options="parts"
      option-label="label"
      option-value="id"
      size="small"
      display="chip"
      :aria-label="field.label"
      @update:model-value="v => emit('change', (v as string[]).length ? v : undefined)" />
    <em v-if="refused" role="alert">{{ refused }}</em>
  </label>
  <label v-else-if="field.quantity === 'note'" class="several wide"
    ><span>{{ field.label }}</span>
    <Textarea
      :model-value="String(value ?? '')"
      rows="2"
      maxlength="2000"
      size="small"
      @change="e => emit('change', (e.target as HTMLTextAreaElement).value.trim() || undefined)" />
    <em v-if="refused" role="alert">{{ refused }}</em>
  </label>
  <QuantityInput
    v-else
    :label="field.label"
    :quantity="field.quantity"
    :units="units"
    :value="value"
    optional
    :refused="refused"
    @change="v => emit('change', v)" />
</template>

<style scoped>
.check {
  display: flex;
  gap: 0.4rem;
  align-items: center;
  padding: 0.4rem 0;
}
.several {
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 0.1rem;
  min-width: 0;
}
.several :deep(.p-multiselect) {
  min-width: 0;
}
.wide {
  grid-column: 1 / -1;
}
.several span {
  font-size: 0.8rem;
  color: var(--ink-3);
}
em {
  font-style: normal;
  font-size: 0.82rem;
  color: var(--fail);
}
</style>
