<script setup lang="ts">
import { computed } from 'vue'
import type { FormField } from '#core/kinds/kind'
import { itemForms } from '#core/plan/leadForm'
import { terminalName } from '#core/plan/names'
import type { Lead, Plan } from '#core/plan/schema'
import type { Units } from '#core/units/quantity'
import Icon from '../shell/Icon.vue'
import FieldGrid from './FieldGrid.vue'

/** One thing wired into a lead. */
type Item = NonNullable<Lead['inline']>[number]
const props = defineProps<{
  plan: Plan
  lead: Lead
  item: Item
  units: Units
  refused: (field: string) => string | undefined
}>()
defineEmits<{ change: [field: string, value: unknown, label: string]; remove: [] }>()

/** The ends of the lead by what they land on. */
const fields = computed<readonly FormField[]>(() =>
  itemForms[props.item.kind].map(f =>
    f.path === 'stripe'
      ? {
          ...f,
          choices: (['to', 'from'] as const).map(id => ({ id, label: terminalName(props.plan, props.lead[id]) })),
        }
      : f,
  ),
)
</script>

<template>
  <div class="entry">
    <b>{{ item.kind }}</b>
    <div class="fields">
      <FieldGrid
        :fields="fields"
        :of="item"
        :units="units"
        :refused="refused"
        @change="(field, value) => $emit('change', field.path, value, `${field.label} of the ${item.kind}`)" />
    </div>
    <button class="plain" :aria-label="`Take the ${item.kind} out`" @click="$emit('remove')">
      <Icon name="close" />
    </button>
  </div>
</template>

<style scoped src="./form.css"></style>
