<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useInAddress } from '../shell/useInAddress'
import { useStation } from '../stores/station'
import ShortList from '../shell/ShortList.vue'
import { later } from '../shell/later'

/** Which way of the station is looked at; another one is made, and all are compared, from the same list. */
const NewWayDialog = later(() => import('./NewWayDialog.vue'))
const WaysDialog = later(() => import('./WaysDialog.vue'))
const station = useStation()
const PLAN = 'as-planned'
const way = useInAddress<string>('way', PLAN)
watch(
  [way, () => station.whole],
  () => {
    const isThere = station.whole?.variants?.some(v => v.id === way.value)
    station.way = isThere ? way.value : null
  },
  { immediate: true },
)
const variants = computed(() => station.whole?.variants ?? [])
const ANOTHER = 'another…'
const COMPARE = 'compare'
const options = computed(() => [
  { id: PLAN, label: 'as planned' },
  ...variants.value.map(v => ({ id: v.id, label: v.name })),
  { id: ANOTHER, label: 'Another way…' },
  ...(variants.value.length ? [{ id: COMPARE, label: 'Compare ways' }] : []),
])
const open = ref<'new' | 'compare' | null>(null)
function pick(id: string) {
  if (id === ANOTHER) open.value = 'new'
  else if (id === COMPARE) open.value = 'compare'
  else way.value = id
}
function made(id: string) {
  open.value = null
  way.value = id
}
</script>

<template>
  <ShortList
    v-if="station.whole"
    :model-value="station.way ?? PLAN"
    :options="options"
    class="way"
    label="Way of this station"
    title="Other ways of this station: in the car, in the field, with the other pack"
    @pick="pick" />
  <NewWayDialog v-if="open === 'new'" @made="made" @close="open = null" />
  <WaysDialog v-if="open === 'compare'" @open="made" @close="open = null" />
</template>

<style scoped>
.way {
  max-width: 10rem;
}
</style>
