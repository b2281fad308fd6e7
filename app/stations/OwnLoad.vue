<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Part } from '#core/kinds/index'
import { readQuantity } from '#core/units/quantity'
import { readWindow } from '#core/units/window'
import { roundedTo } from '#core/units/number'

/** A radio or load as its manual tells it: volts with their tolerance, amps at powers. */
const emit = defineEmits<{ add: [part: Omit<Part, 'id'>]; close: [] }>()

const name = ref('')
const supply = ref('13.8 V ± 15 %')
const idle = ref('')
const rows = ref([{ power: '100 W', current: '' }])
const window = computed(() => readWindow(supply.value))
const read = (text: string, quantity: string) => {
  const found = readQuantity(text, quantity)
  return found.ok ? found.value : null
}
const levels = computed(() =>
  rows.value.flatMap(r => {
    const [powerW, activeA] = [read(r.power, 'power'), read(r.current, 'current')]
    return powerW !== null && activeA !== null && powerW > 0 && activeA > 0 ? [{ powerW, activeA }] : []
  }),
)
/** Amps without a power are those of a load that does not transmit. */
const amps = computed(() => levels.value[0]?.activeA ?? read(rows.value[0]!.current, 'current'))
const wrong = computed(() => {
  if (!window.value.ok) return window.value.wrong
  return amps.value === null ? 'Say what it takes when it transmits or works, as 21 A.' : ''
})
/** Of a radio that does not say what it takes while it listens: a twentieth, as radios do. */
const LISTENS = 0.05

function add() {
  if (!window.value.ok || amps.value === null) return
  const idleA = read(idle.value, 'current') ?? roundedTo(LISTENS * amps.value, 2)
  const common = {
    name: name.value.trim() || (levels.value.length ? 'My radio' : 'My load'),
    supply: window.value.value,
    draw: { model: 'constant-current' as const, idleA, activeA: amps.value },
  }
  const part = levels.value.length
    ? { kind: 'radio' as const, ...common, powerW: levels.value[0]!.powerW, levels: levels.value }
    : { kind: 'load' as const, ...common }
  emit('add', part as Omit<Part, 'id'>)
}
</script>

<template>
  <div class="own" role="group" aria-label="From my manual">
    <label>Name <InputText v-model="name" size="small" maxlength="200" placeholder="My radio" /></label>
    <label>Supply <InputText v-model="supply" size="small" :invalid="!window.ok" /></label>
    <label>Listens with <InputText v-model="idle" size="small" placeholder="1.2 A" /></label>
    <div v-for="(row, i) in rows" :key="i" class="level">
      <label>Takes <InputText v-model="row.current" size="small" placeholder="21 A" /></label>
      <label>at <InputText v-model="row.power" size="small" placeholder="100 W" /></label>
    </div>
    <p class="does">
      <button class="plain" @click="rows.push({ power: '', current: '' })">One power more</button>
      <Button label="Add it" size="small" :disabled="Boolean(wrong)" @click="add" />
      <button class="plain" @click="emit('close')">Close</button>
    </p>
    <em v-if="wrong && rows[0]!.current" role="alert">{{ wrong }}</em>
  </div>
</template>

<style scoped>
.own {
  border: 1px solid var(--line-2);
  border-radius: 8px;
  padding: 0.6rem 0.7rem;
  margin: 0.4rem 0;
  display: grid;
  gap: 0.4rem;
}
label {
  display: grid;
  grid-template-columns: 6rem 1fr;
  gap: 0.5rem;
  align-items: center;
  color: var(--ink-2);
}
.level {
  display: grid;
  grid-template-columns: 1fr 9rem;
  gap: 0.5rem;
}
.level label + label {
  grid-template-columns: 1.4rem 1fr;
}
.own :deep(input) {
  min-width: 0;
  width: 100%;
}
.does {
  display: flex;
  gap: 0.4rem;
  align-items: center;
  justify-content: flex-end;
}
em {
  font-style: normal;
  color: var(--fail);
  font-size: 0.85rem;
}
</style>
