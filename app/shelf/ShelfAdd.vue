<script setup lang="ts">
import { reactive, ref } from 'vue'
import { CHEMISTRIES } from '#core/catalog/chemistries'
import { CONNECTORS } from '#core/catalog/connectors'
import { FUSE_TYPE_IDS, fuseClass } from '#core/catalog/fuses'
import type { ShelfItem } from '#core/shelf/item'
import { readConductor } from '#core/units/conductor'
import { readQuantity } from '#core/units/quantity'
import PickOne from '../shell/PickOne.vue'
import { usePreferences } from '../stores/preferences'
import ShelfCard from './ShelfCard.vue'

/** A form for one more line of the shelf. */
const props = defineProps<{ freeId: () => string }>()
const emit = defineEmits<{ add: [item: ShelfItem]; wrong: [words: string] }>()
const { chosen } = usePreferences()

type What = ShelfItem['what']
const WHATS: What[] = ['conductor', 'contact', 'fuse', 'adapter', 'pack']
const what = ref<What>('conductor')
/** What was written, as it was written. */
const text = reactive({ size: '', rating: '', capacity: '', carries: '', cells: '4', count: '' })
const chosenOf = reactive({ connector: 'stack-45', a: 'stack-45', b: 'inlet-4', type: 'blade', chemistry: 'lifepo4' })

const byLabel = <T extends { id: string; label: string }>(rows: readonly T[]) =>
  rows.map(({ id, label }) => ({ id, label }))
const connectors = byLabel(CONNECTORS)
const fuseTypes = FUSE_TYPE_IDS.map(id => ({ id, label: fuseClass(id).label }))
const chemistries = byLabel(CHEMISTRIES)

/** What could not be read stops the making of a line, and is said. */
class Unread extends Error {}
function read(written: string, kind: Parameters<typeof readQuantity>[1]): number {
  const result = readQuantity(written, kind, chosen.units)
  if (!result.ok) throw new Unread(result.wrong)
  return result.value
}

const MAKE: Record<What, () => object> = {
  conductor() {
    const size = readConductor(text.size, chosen.units)
    if (!size.ok) throw new Unread(size.wrong)
    const { awg, mm2 } = size.value
    const metres = read(text.count || '1', 'length')
    return { ...(awg !== undefined && { awg }), ...(mm2 !== undefined && { mm2 }), insulationC: 105, metres }
  },
  contact: () => ({ connector: chosenOf.connector, count: pieces() }),
  fuse: () => ({ type: chosenOf.type, ratedA: read(text.rating, 'current'), count: pieces() }),
  adapter() {
    const ratedA = text.carries ? { ratedA: read(text.carries, 'current') } : {}
    return { a: chosenOf.a, b: chosenOf.b, ...ratedA, count: pieces() }
  },
  pack() {
    const seriesCells = read(text.cells, 'count')
    return { chemistry: chosenOf.chemistry, seriesCells, capacityAh: read(text.capacity, 'charge'), count: pieces() }
  },
}
const pieces = () => read(text.count || '1', 'count')

function add() {
  try {
    emit('add', { id: props.freeId(), what: what.value, ...MAKE[what.value]() } as ShelfItem)
    Object.assign(text, { size: '', rating: '', capacity: '', carries: '', count: '' })
  } catch (error) {
    if (!(error instanceof Unread)) throw error
    emit('wrong', error.message)
  }
}
</script>

<template>
  <ShelfCard title="Put on the shelf">
    <form class="rows" @submit.prevent="add">
      <SelectButton v-model="what" :options="WHATS" :allow-empty="false" size="small" aria-label="What" />
      <label v-if="what === 'conductor'"
        >Size <InputText v-model="text.size" size="small" placeholder="12 AWG or 2.5 mm2"
      /></label>
      <template v-if="what === 'fuse'">
        <label>Rating <InputText v-model="text.rating" size="small" placeholder="15 A" /></label>
        <label>Class <PickOne label="Class" v-model="chosenOf.type" :options="fuseTypes" /></label>
      </template>
      <label v-if="what === 'contact'"
        >Connector <PickOne label="Connector" v-model="chosenOf.connector" is-many :options="connectors"
      /></label>
      <template v-if="what === 'adapter'">
        <label>From <PickOne label="From" v-model="chosenOf.a" is-many :options="connectors" /></label>
        <label>To <PickOne label="To" v-model="chosenOf.b" is-many :options="connectors" /></label>
        <label>Carries <InputText v-model="text.carries" size="small" placeholder="30 A, if it is said" /></label>
      </template>
      <template v-if="what === 'pack'">
        <label>Chemistry <PickOne label="Chemistry" v-model="chosenOf.chemistry" :options="chemistries" /></label>
        <label>Cells in series <InputText v-model="text.cells" size="small" /></label>
        <label>Capacity <InputText v-model="text.capacity" size="small" placeholder="12 Ah" /></label>
      </template>
      <label
        >{{ what === 'conductor' ? 'Metres of single conductor' : 'How many' }}
        <InputText v-model="text.count" size="small" :placeholder="what === 'conductor' ? '10 m' : '1'"
      /></label>
      <Button type="submit" label="Add" size="small" />
    </form>
  </ShelfCard>
</template>
