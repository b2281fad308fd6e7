<script setup lang="ts">
import { computed, ref } from 'vue'
import { swapPart } from '#core/edit/swap'
import { addVariant } from '#core/edit/variants'
import { gives, kindOf } from '#core/kinds/index'
import { partName } from '#core/plan/names'
import { startingSources } from '#core/plan/starter'
import { useStation } from '../stores/station'
import Dialog from '../shell/focusedDialog'

/** Another way of the station: what it is called, and what powers it there. */
const emit = defineEmits<{ made: [id: string]; close: [] }>()
const station = useStation()
const name = ref('')
const wrong = ref('')

const SAME = 'the same'
const source = ref(SAME)
/** What is swapped: what stores the energy, else what gives it. */
const swapped = computed(() => {
  const sources = station.plan!.parts.filter(p => gives(p) && !kindOf(p).needsController)
  return sources.find(p => kindOf(p).stores) ?? sources[0]
})
const options = computed(() => [
  { id: SAME, label: swapped.value ? `${partName(station.plan!, swapped.value.id)}, as it is` : 'as it is' },
  ...startingSources().map(s => ({ id: s.id, label: s.label })),
])

function make() {
  const called = name.value.trim() || 'Another way'
  const { id, patch } = addVariant(station.whole!, called, station.way)
  const [fault] = station.editWhole(patch, `another way: ${called}`)
  if (fault) return void (wrong.value = `${fault.wrong}; right would be ${fault.right}`)
  station.way = id
  const swap = source.value !== SAME && swapped.value ? swapPart(station.plan!, swapped.value.id, source.value) : []
  const [refused] = swap?.length ? station.edit(swap, `${called}: other source`) : []
  if (refused) wrong.value = `The way is made, its source is as it was: ${refused.wrong}`
  emit('made', id)
}
</script>

<template>
  <Dialog
    visible
    modal
    header="Another way of this station"
    :style="{ width: '30rem', maxWidth: '96vw' }"
    :draggable="false"
    @update:visible="emit('close')">
    <p class="quiet">It begins like what you look at now, and keeps only what you change in it.</p>
    <label
      >Called
      <InputText
        v-model="name"
        autofocus
        placeholder="Car"
        maxlength="200"
        aria-label="Name of the way"
        @keydown.enter="make"
    /></label>
    <label
      >Powered by
      <Select v-model="source" :options="options" option-label="label" option-value="id" filter aria-label="Powered by"
    /></label>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <template #footer><Button label="Make it" @click="make" /></template>
  </Dialog>
</template>

<style scoped>
label {
  display: grid;
  grid-template-columns: 6rem 1fr;
  gap: 0.6rem;
  align-items: center;
  margin-top: 0.7rem;
}
label > :deep(*) {
  min-width: 0;
}
.quiet {
  color: var(--ink-3);
}
.wrong {
  color: var(--fail);
  margin-top: 0.6rem;
}
</style>
