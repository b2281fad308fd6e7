<script setup lang="ts">
import { computed } from 'vue'
import type { FormField } from '#core/kinds/kind'
import { valueAt } from '#core/plan/find'
import type { Units } from '#core/units/quantity'
import FieldInput from './FieldInput.vue'

/** Lines of a form side by side; what is seldom asked stands below, folded. */
const props = defineProps<{
  fields: readonly FormField[]
  /** What they are of: a part, a lead, an entry of a list. */
  of: object
  units: Units
  subject?: string
  refused: (path: string) => string | undefined
}>()
const emit = defineEmits<{ change: [field: FormField, value: unknown] }>()

const shown = computed(() => props.fields.filter(f => !f.when || f.when(props.of as Record<string, unknown>)))
const groups = computed(() => [
  { more: false, fields: shown.value.filter(f => !f.more) },
  { more: true, fields: shown.value.filter(f => f.more) },
])
/** What is said there is told on the fold. */
const said = computed(() => groups.value[1]!.fields.filter(f => valueAt(props.of, f.path) !== undefined))
const summary = computed(() => (said.value.length ? `More, with ${said.value.length} said` : 'More'))
</script>

<template>
  <template v-for="group in groups" :key="String(group.more)">
    <component :is="group.more ? 'details' : 'div'" v-if="group.fields.length" :class="{ more: group.more }">
      <summary v-if="group.more">{{ summary }}</summary>
      <div class="grid">
        <FieldInput
          v-for="field in group.fields"
          :key="field.path"
          :field="field"
          :value="valueAt(of, field.path)"
          :units="units"
          :subject="subject"
          :refused="refused(field.path)"
          @change="v => emit('change', field, v)" />
      </div>
      <slot v-if="group.more" />
    </component>
  </template>
</template>

<style scoped src="./form.css"></style>
