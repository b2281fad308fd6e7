<script setup lang="ts">
import { computed, nextTick, onMounted, provide, ref } from 'vue'
import { kindOf } from '#core/kinds/index'
import type { Patch } from '#core/edit/patch'
import type { Fault } from '#core/plan/faults'
import { leadById, leadName, nameOf, partById } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import type { Units } from '#core/units/quantity'
import Icon from '../shell/Icon.vue'
import { FORM_PLAN } from './formPlan'
import LeadForm from './LeadForm.vue'
import PartForm from './PartForm.vue'

/** The form of one part or lead, beside it. Every change is an edit at once; a refused one says why under its field. */
const props = defineProps<{ plan: Plan; id: string; units: Units; edit: (patch: Patch, label: string) => Fault[] }>()
const emit = defineEmits<{ close: []; remove: [id: string] }>()

const part = computed(() => partById(props.plan, props.id))
const lead = computed(() => leadById(props.plan, props.id))
const title = computed(() => (part.value ? nameOf(part.value) : leadName(lead.value ?? { id: props.id })))

provide(
  FORM_PLAN,
  computed(() => props.plan),
)

const form = ref<HTMLElement>()
onMounted(async () => {
  await nextTick()
  form.value?.querySelector('input')?.focus()
})
</script>

<template>
  <section
    v-if="part || lead"
    ref="form"
    class="edit"
    role="dialog"
    :aria-label="`Edit ${title}`"
    @keydown.esc.stop="emit('close')">
    <header>
      <h3>{{ title }}</h3>
      <span class="kind">{{ part ? kindOf(part).label : 'lead' }}</span>
      <button class="plain" @click="emit('remove', id)">Remove</button>
      <button class="plain" aria-label="Close" @click="emit('close')"><Icon name="close" /></button>
    </header>
    <PartForm v-if="part" :id="id" :plan="plan" :units="units" :edit="edit" />
    <LeadForm v-else :id="id" :plan="plan" :units="units" :edit="edit" />
  </section>
</template>

<style scoped>
.edit {
  background: var(--sheet);
  border: 1px solid var(--line-2);
  border-radius: 10px;
  box-shadow: 0 8px 28px var(--shade);
  padding: 0.75rem 0.9rem;
}
header {
  display: flex;
  align-items: baseline;
  gap: 0.5rem;
  margin-bottom: 0.4rem;
}
h3 {
  font-size: 1.05rem;
}
.kind {
  color: var(--ink-3);
  flex: 1;
}
</style>
