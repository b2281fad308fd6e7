<script setup lang="ts">
import { computed } from 'vue'
import { kindOf, type Part } from '#core/kinds/index'
import type { FormList } from '#core/kinds/kind'
import type { Patch } from '#core/edit/patch'
import { addPort as portPatch } from '#core/edit/ports'
import { appendTo, removeFrom } from '#core/edit/set'
import type { Fault } from '#core/plan/faults'
import { nameOf, partById } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import type { Units } from '#core/units/quantity'
import Icon from '../shell/Icon.vue'
import { CONNECTOR_OPTIONS } from './options'
import QuantityInput from './QuantityInput.vue'
import SelectField from './SelectField.vue'
import { useFieldEdits } from './useFieldEdits'

/** What a part's kind says can be entered of it: its fields, its ports, its lists. */
const props = defineProps<{ plan: Plan; id: string; units: Units; edit: (patch: Patch, label: string) => Fault[] }>()
const { refused, change, at, subject } = useFieldEdits(props, partById)
const part = computed(() => subject.value as Part)
const title = computed(() => nameOf(part.value))

const fields = computed(() => kindOf(part.value).form.filter(f => !f.when || f.when(part.value as never)))
const lists = computed(() => kindOf(part.value).lists ?? [])
const entries = (path: string) => (at(path) as Record<string, unknown>[] | undefined) ?? []
function addEntry(list: FormList) {
  const value = list.fresh(part.value as Record<string, unknown>)
  const patch = appendTo(props.plan, props.id, list.path, value)
  change(list.path, null, `${list.one} into ${title.value}`, patch)
}
function removeEntry(list: FormList, i: number) {
  change(list.path, null, `${list.one} out of ${title.value}`, removeFrom(props.plan, props.id, list.path, i))
}

/** Ports on which loads are put, each with its fuse. */
const ports = computed(() => {
  const distributes = kindOf(part.value).ports
  return distributes?.distributes
    ? (at(distributes.field) as { id: string; connector?: string; fuse?: { type: string; ratedA: number } }[])
    : null
})
const addPort = () => change('ports', null, `port into ${title.value}`, portPatch(props.plan, props.id))
function setPortFuse(i: number, ratedA: number | undefined) {
  const port = ports.value![i]!
  const fuse = ratedA === undefined ? undefined : { type: port.fuse?.type ?? 'blade', ratedA }
  change(`ports.${i}.fuse`, fuse, `fuse of port ${port.id}`)
}

const levels = computed(() => kindOf(part.value).levels?.(part.value) ?? [])
const levelOptions = computed(() => levels.value.map(l => ({ id: l.powerW, label: `${l.powerW} W, ${l.activeA} A` })))
function chooseLevel(powerW: number) {
  change('powerW', powerW, `power of ${title.value}`)
}
const isOn = (path: string) => (path === 'closed' ? at(path) !== false : at(path) === true)
</script>

<template>
  <div class="grid">
    <template v-for="field in fields" :key="field.path">
      <SelectField
        v-if="field.quantity === 'choice' || field.quantity === 'connector'"
        :label="field.label"
        :value="at(field.path)"
        :options="field.quantity === 'connector' ? CONNECTOR_OPTIONS : field.choices!"
        :filter="field.quantity === 'connector'"
        :refused="refused[field.path]"
        @change="v => change(field.path, v, `${field.label} of ${title}`)" />
      <label v-else-if="field.quantity === 'yes'" class="check"
        ><input
          type="checkbox"
          :checked="isOn(field.path)"
          @change="e => change(field.path, (e.target as HTMLInputElement).checked, `${field.label} of ${title}`)" />
        {{ field.label }}</label
      >
      <QuantityInput
        v-else
        :label="field.label"
        :quantity="field.quantity"
        :units="units"
        :value="at(field.path)"
        optional
        :refused="refused[field.path]"
        @change="v => change(field.path, v, `${field.label} of ${title}`)" />
    </template>
    <SelectField
      v-if="levels.length"
      label="Level used"
      :value="at('powerW')"
      :options="levelOptions"
      @change="chooseLevel" />
  </div>

  <template v-if="ports">
    <h4>Ports</h4>
    <div class="ports">
      <div v-for="(port, i) in ports" :key="port.id" class="line">
        <b>{{ port.id }}</b>
        <QuantityInput
          label="Fuse"
          quantity="current"
          :units="units"
          :value="port.fuse?.ratedA"
          optional
          :refused="refused[`ports.${i}.fuse`]"
          @change="v => setPortFuse(i, v as number | undefined)" />
        <SelectField
          label="Connector"
          :value="port.connector"
          :options="CONNECTOR_OPTIONS"
          filter
          @change="v => change(`ports.${i}.connector`, v, `connector of port ${port.id}`)" />
      </div>
    </div>
    <button class="plain" @click="addPort"><Icon name="plus" /> Add a port</button>
  </template>

  <template v-for="list in lists" :key="list.path">
    <h4 v-if="entries(list.path).length">{{ list.label }}</h4>
    <div v-for="(entry, i) in entries(list.path)" :key="i" class="entry">
      <template v-for="field in list.fields" :key="field.path">
        <SelectField
          v-if="field.quantity === 'choice' || field.quantity === 'connector'"
          :label="field.label"
          :value="entry[field.path]"
          :options="field.quantity === 'connector' ? CONNECTOR_OPTIONS : field.choices!"
          :filter="field.quantity === 'connector'"
          @change="v => change(`${list.path}.${i}.${field.path}`, v, `${field.label} of ${list.one} ${i + 1}`)" />
        <QuantityInput
          v-else
          :label="field.label"
          :quantity="field.quantity"
          :units="units"
          :value="entry[field.path]"
          optional
          :refused="refused[`${list.path}.${i}.${field.path}`]"
          @change="v => change(`${list.path}.${i}.${field.path}`, v, `${field.label} of ${list.one} ${i + 1}`)" />
      </template>
      <button class="plain" :aria-label="`Take ${list.one} ${i + 1} out`" @click="removeEntry(list, i)">
        <Icon name="close" />
      </button>
    </div>
    <button class="plain" @click="addEntry(list)">
      <Icon name="plus" /> Add {{ /^[aeiou]/i.test(list.one) ? 'an' : 'a' }} {{ list.one }}
    </button>
    <em v-if="refused[list.path]" role="alert">{{ refused[list.path] }}</em>
  </template>
</template>

<style scoped src="./form.css"></style>
