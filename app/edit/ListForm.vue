<script setup lang="ts">
import { computed } from 'vue'
import { addEntry, enter, enterKeyed, removeEntry } from '#core/edit/form'
import type { Patch } from '#core/edit/patch'
import type { FormField, FormList } from '#core/kinds/kind'
import { partById, valueAt } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import type { Units } from '#core/units/quantity'
import { anA } from '#core/units/words'
import Icon from '../shell/Icon.vue'
import FieldGrid from './FieldGrid.vue'

/** A list inside a part: a line for each entry, one more, and one less. */
const props = defineProps<{
  plan: Plan
  id: string
  title: string
  list: FormList
  units: Units
  refused: Record<string, string>
  change: (path: string, label: string, patch: Patch) => void
}>()
const part = computed(() => partById(props.plan, props.id) as unknown as Record<string, unknown>)

interface Entry {
  at: string | number
  words: string
  value: Record<string, unknown>
}
const keys = computed(() => props.list.keyed?.choices(part.value) ?? [])
const entries = computed<Entry[]>(() => {
  const known = valueAt(part.value, props.list.path)
  if (props.list.keyed)
    return Object.entries((known ?? {}) as Record<string, Record<string, unknown>>).map(([at, value]) => ({
      at,
      words: keys.value.find(k => k.id === at)?.label ?? at,
      value,
    }))
  const list = Array.isArray(known) ? (known as Record<string, unknown>[]) : []
  return list.map((value, at) => ({ at, words: '', value }))
})
const left = computed(() => keys.value.filter(k => !entries.value.some(e => e.at === k.id)))

/** Entries of so many fields stand side by side. */
const NARROW = 3
const pathOf = ({ at }: Entry, field: string) => `${props.list.path}.${at}.${field}`
function set(entry: Entry, field: FormField, value: unknown) {
  const { list, id, plan } = props
  const patch =
    typeof entry.at === 'string'
      ? enterKeyed(plan, { id, key: entry.at }, { list, field: field.path }, value)
      : enter(plan, { id, under: `${list.path}.${entry.at}.` }, field, value)
  props.change(pathOf(entry, field.path), `${field.label} of ${list.one} ${nameOf(entry)}`, patch)
}
const nameOf = (e: Entry) => e.words || (typeof e.at === 'number' ? `${e.at + 1}` : e.at)
function add(key?: string) {
  const patch = addEntry(props.plan, props.id, props.list, key)
  props.change(props.list.path, `${props.list.one} into ${props.title}`, patch)
}
function remove({ at }: Entry) {
  const patch = removeEntry(props.plan, props.id, props.list, at)
  props.change(props.list.path, `${props.list.one} out of ${props.title}`, patch)
}
</script>

<template>
  <section class="list" :aria-label="list.label">
    <h4 v-if="entries.length">{{ list.label }}</h4>
    <div class="entries" :class="{ wide: list.fields.length > NARROW }">
      <div v-for="entry in entries" :key="entry.at" class="entry">
        <b v-if="entry.words">{{ entry.words }}</b>
        <div class="fields">
          <FieldGrid
            :fields="list.fields"
            :of="entry.value"
            :units="units"
            :subject="id"
            :refused="path => refused[pathOf(entry, path)]"
            @change="(field, value) => set(entry, field, value)" />
        </div>
        <button class="plain" :aria-label="`Take ${list.one} ${nameOf(entry)} out`" @click="remove(entry)">
          <Icon name="close" />
        </button>
      </div>
    </div>
    <Select
      v-if="list.keyed && left.length"
      :model-value="null"
      :options="left"
      option-label="label"
      option-value="id"
      size="small"
      :placeholder="`${list.label}: add ${anA(list.one)}`"
      :aria-label="`${list.label}: add ${anA(list.one)}`"
      @update:model-value="key => key && add(key)" />
    <button v-else-if="!list.keyed" class="plain" @click="add()">
      <Icon name="plus" /> {{ entries.length ? '' : `${list.label}: ` }}Add {{ anA(list.one) }}
    </button>
    <em v-if="refused[list.path]" role="alert">{{ refused[list.path] }}</em>
  </section>
</template>

<style scoped src="./form.css"></style>
