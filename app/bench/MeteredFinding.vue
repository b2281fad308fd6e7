<script setup lang="ts">
import { ref, useId } from 'vue'
import type { NextTest } from '#core/symptoms/believe'
import { readNumber } from '#core/units/number'

/** A test told by what the meter shows, in place of a choice of words. */
const props = defineProps<{ metered: NonNullable<NextTest['metered']> }>()
const emit = defineEmits<{ found: [shown: { read: number; before?: number }] }>()
const text = ref('')
const beforeText = ref('')
const wrong = ref('')
const field = useId()

const MOST = { V: 100, A: 2000, W: 10_000 }
const EXAMPLE = { V: '11.4', A: '0.35', W: '45' }
function figureOf(typed: string): number | null {
  const { unit } = props.metered
  const read = readNumber(typed.replace(/[vaw]$/i, '').trim())
  if (read.ok && Math.abs(read.value) <= MOST[unit]) return read.value
  wrong.value = `${typed || 'Nothing'} is no reading of a ${MOST[unit]} ${unit} meter: ${EXAMPLE[unit]}`
  return null
}
function take() {
  const before = props.metered.falls ? figureOf(beforeText.value) : undefined
  const read = before === null ? null : figureOf(text.value)
  if (read === null || before === null) return
  emit('found', { read, ...(before !== undefined && { before }) })
}
</script>

<template>
  <form @submit.prevent="take">
    <label v-if="metered.falls" :for="`${field}b`">Key up</label>
    <InputText v-if="metered.falls" :id="`${field}b`" v-model="beforeText" size="small" inputmode="decimal" />
    <label :for="field">{{ metered.falls ? 'Key down' : 'The meter shows' }}</label>
    <InputText :id="field" v-model="text" size="small" inputmode="decimal" />
    <span>{{ metered.unit }}</span>
    <Button type="submit" label="Take it" size="small" severity="secondary" />
    <span v-if="wrong" role="alert" class="bad">{{ wrong }}</span>
  </form>
</template>

<style scoped>
form {
  display: flex;
  flex-wrap: wrap;
  gap: 0.4rem;
  align-items: center;
  margin-top: 0.5rem;
}
label,
span {
  color: var(--ink-2);
}
form > :deep(.p-inputtext) {
  width: 5rem;
}
.bad {
  color: var(--fail);
}
</style>
