<script setup lang="ts">
import type { Lead } from '#core/plan/schema'
import type { Units } from '#core/units/quantity'
import Icon from '../shell/Icon.vue'
import { FUSE_TYPE_OPTIONS } from './options'
import QuantityInput from './QuantityInput.vue'
import SelectField from './SelectField.vue'

/** One thing wired into a lead. */
type Item = NonNullable<Lead['inline']>[number]
const props = defineProps<{
  lead: Lead
  item: Item
  units: Units
  refused: (field: string) => string | undefined
}>()
defineEmits<{ change: [field: string, value: unknown, label: string]; remove: [] }>()

interface Figure {
  field: string
  label: string
  quantity: string
  value: unknown
  said: string
}
/** The figures that an item of this kind has, in the order in which they are asked. */
function figuresOf(item: Item): Figure[] {
  const figures: Figure[] = []
  if ('ratedA' in item || item.kind === 'meter') {
    const said = `rating of the ${item.kind}`
    figures.push({ field: 'ratedA', label: 'Rated', quantity: 'current', value: item.ratedA, said })
  }
  if (item.kind === 'choke') {
    figures.push({ field: 'turns', label: 'Turns', quantity: 'count', value: item.turns, said: 'turns of the choke' })
    figures.push({ field: 'cores', label: 'Cores', quantity: 'count', value: item.cores, said: 'cores of the choke' })
  }
  if (item.kind === 'dropper')
    figures.push({ field: 'count', label: 'Diodes', quantity: 'count', value: item.count ?? 1, said: 'diodes' })
  const said = `place of the ${item.kind}`
  return [...figures, { field: 'atM', label: 'At', quantity: 'length', value: item.atM ?? 0, said }]
}
const stripeOptions = () => [
  { id: 'to', label: props.lead.to },
  { id: 'from', label: props.lead.from },
]
</script>

<template>
  <div class="line">
    <b>{{ item.kind }}</b>
    <SelectField
      v-if="item.kind === 'fuse'"
      label="Class"
      :value="item.type ?? 'blade'"
      :options="FUSE_TYPE_OPTIONS"
      @change="v => $emit('change', 'type', v, 'class of the fuse')" />
    <QuantityInput
      v-for="f in figuresOf(item)"
      :key="f.field"
      :label="f.label"
      :quantity="f.quantity"
      :units="units"
      :value="f.value"
      :refused="refused(f.field)"
      @change="v => $emit('change', f.field, v, f.said)" />
    <label v-if="item.kind === 'switch' || item.kind === 'breaker'" class="check"
      ><input
        type="checkbox"
        :checked="item.closed !== false"
        @change="e => $emit('change', 'closed', (e.target as HTMLInputElement).checked, item.kind)" />
      on</label
    >
    <label v-if="item.kind === 'switch'" class="check"
      ><input
        type="checkbox"
        :checked="item.by === 'engine'"
        @change="e => $emit('change', 'by', (e.target as HTMLInputElement).checked ? 'engine' : undefined, 'relay')" />
      relay: closes with the engine</label
    >
    <SelectField
      v-if="item.kind === 'dropper'"
      label="Stripe toward"
      :value="item.stripe ?? 'to'"
      :options="stripeOptions()"
      @change="v => $emit('change', 'stripe', v, 'stripe')" />
    <button class="plain" :aria-label="`Take the ${item.kind} out`" @click="$emit('remove')">
      <Icon name="close" />
    </button>
  </div>
</template>

<style scoped src="./form.css"></style>
