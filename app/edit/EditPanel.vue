<script setup lang="ts">
import { computed, nextTick, onMounted, ref } from 'vue'
import { CONNECTORS } from '#core/catalog/connectors'
import { fuseClass, FUSE_TYPE_IDS } from '#core/catalog/fuses'
import { KINDS, kindOf } from '#core/kinds/index'
import type { FormList } from '#core/kinds/kind'
import { putBetween } from '#core/edit/between'
import { addItem, setLength as lengthPatch } from '#core/edit/items'
import type { Patch } from '#core/edit/patch'
import { addPort as portPatch } from '#core/edit/ports'
import { remove } from '#core/edit/remove'
import { appendTo, removeFrom, setField, setFields } from '#core/edit/set'
import { graphOf } from '#core/graph/graph'
import type { Fault } from '#core/plan/faults'
import { leadById, leadName, nameOf, partById } from '#core/plan/find'
import type { Lead, Plan } from '#core/plan/schema'
import type { Units } from '#core/units/quantity'
import QuantityInput from './QuantityInput.vue'
import Icon from '../shell/Icon.vue'

/** The form of one part or lead, beside it. Every change is an edit at once; a refused one says why under its field. */
const props = defineProps<{ plan: Plan; id: string; units: Units; edit: (patch: Patch, label: string) => Fault[] }>()
const emit = defineEmits<{ close: [] }>()

const part = computed(() => partById(props.plan, props.id))
const lead = computed(() => leadById(props.plan, props.id))
const title = computed(() => (part.value ? nameOf(part.value) : leadName(lead.value ?? { id: props.id })))
const fields = computed(() =>
  part.value ? kindOf(part.value).form.filter(f => !f.when || f.when(part.value as never)) : [],
)
const terminalOptions = computed(() => [...graphOf(props.plan).terminals.keys()])
const connectorOptions = CONNECTORS.map(c => ({ id: c.id, label: c.label }))
const methodOptions = ['crimp', 'crimp+solder', 'solder', 'screw']
const fuseTypes = FUSE_TYPE_IDS.map(id => ({ id, label: fuseClass(id).label }))

const refused = ref<Record<string, string>>({})
function change(
  path: string,
  value: unknown,
  label: string,
  patch: Patch = setField(props.plan, props.id, path, value),
) {
  const faults = props.edit(patch, label)
  refused.value = faults.length ? { [path]: `${faults[0]!.wrong}; right would be ${faults[0]!.right}` } : {}
}
const lists = computed(() => (part.value ? (kindOf(part.value).lists ?? []) : []))
const entries = (path: string) => (at(path) as Record<string, unknown>[] | undefined) ?? []
function addEntry(list: FormList) {
  const value = list.fresh(part.value as Record<string, unknown>)
  const patch = appendTo(props.plan, props.id, list.path, value)
  change(list.path, null, `${list.one} into ${title.value}`, patch)
}
function removeEntry(list: FormList, i: number) {
  change(list.path, null, `${list.one} out of ${title.value}`, removeFrom(props.plan, props.id, list.path, i))
}
/** Parts that a lead can go through. */
const throughParts = [...KINDS.values()]
  .filter(k => k.between)
  .flatMap(k => k.catalogue.map(row => ({ label: row.label, kind: k.kind as string, part: row.part })))
function putThrough(row: (typeof throughParts)[number] | null) {
  const made = row && putBetween(props.plan, props.id, row.part as never, row.kind.slice(0, 3))
  if (made) change('inline', null, `${row.label} into ${title.value}`, made.patch)
}
const at = (path: string): unknown =>
  path.split('.').reduce<unknown>((v, k) => (v as Record<string, unknown> | undefined)?.[k], part.value ?? lead.value)

function setConductor(size: Lead['conductor']) {
  const { insulationC, material } = lead.value!.conductor
  change(
    'conductor',
    { ...size, ...(insulationC !== undefined && { insulationC }), ...(material && { material }) },
    `conductor of ${title.value}`,
  )
}
function setLength(lengthM: number) {
  const patch = lengthM > 0 ? lengthPatch(props.plan, lead.value!, lengthM) : undefined
  change('lengthM', lengthM, `length of ${title.value}`, patch)
}
function setEnd(end: 'from' | 'to', field: 'connector' | 'method', value: string) {
  const fitted = lead.value!.ends?.[end]
  const next = {
    connector: fitted?.connector ?? 'bare',
    ...(fitted?.method && { method: fitted.method }),
    [field]: value,
  }
  change(`ends.${end}`, next, `${end} end of ${title.value}`)
}

const NEW_ITEMS = [
  { label: 'fuse', fromEndM: 0.12, value: { kind: 'fuse', type: 'blade', ratedA: 20, legs: 'positive' } },
  { label: 'breaker', fromEndM: 0.12, value: { kind: 'breaker', ratedA: 30 } },
  { label: 'switch', fromEndM: 0.3, value: { kind: 'switch', closed: true } },
  {
    label: 'dropper diode',
    fromEndM: 0.3,
    value: { kind: 'dropper', count: 1, ratedA: 3, stripe: 'to', labelled: true },
  },
  { label: 'watt meter', fromEndM: 0.3, value: { kind: 'meter' } },
  { label: 'common-mode choke', fromEndM: 0.3, value: { kind: 'choke', turns: 4, cores: 4 } },
] as const
function putItem({ label, fromEndM, value }: (typeof NEW_ITEMS)[number]) {
  const patch = addItem(props.plan, props.id, value, { fromEndM })
  change('inline', value, `${label} into ${title.value}`, patch)
}
const removeItem = (i: number) =>
  change(
    'inline',
    null,
    `take ${lead.value!.inline![i]!.kind} out of ${title.value}`,
    setField(props.plan, props.id, `inline.${i}`, undefined),
  )
/** Ports on which loads are put, each with its fuse. */
const ports = computed(() => {
  const distributes = part.value && kindOf(part.value).ports
  return distributes?.distributes
    ? (at(distributes.field) as { id: string; connector?: string; fuse?: { type: string; ratedA: number } }[])
    : null
})
const addPort = () => change('ports', null, `port into ${title.value}`, portPatch(props.plan, props.id))
const levels = computed(() => (part.value ? (kindOf(part.value).levels?.(part.value) ?? []) : []))
function chooseLevel(powerW: number) {
  const { activeA } = levels.value.find(l => l.powerW === powerW)!
  const patch = setFields(props.plan, props.id, { powerW, 'draw.activeA': activeA })
  change('powerW', powerW, `power of ${title.value}`, patch)
}
function removeIt() {
  props.edit(remove(props.plan, props.id), `remove ${title.value}`)
  emit('close')
}

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
      <button class="plain" @click="removeIt">Remove</button>
      <button class="plain" aria-label="Close" @click="emit('close')"><Icon name="close" /></button>
    </header>

    <div v-if="part" class="grid">
      <template v-for="field in fields" :key="field.path">
        <label v-if="field.quantity === 'choice'" class="field"
          ><span>{{ field.label }}</span>
          <Select
            :model-value="at(field.path)"
            :options="[...field.choices!]"
            size="small"
            @update:model-value="v => change(field.path, v, `${field.label} of ${title}`)" />
          <em v-if="refused[field.path]" role="alert">{{ refused[field.path] }}</em>
        </label>
        <label v-else-if="field.quantity === 'yes'" class="check"
          ><input
            type="checkbox"
            :checked="field.path === 'closed' ? at(field.path) !== false : at(field.path) === true"
            @change="e => change(field.path, (e.target as HTMLInputElement).checked, `${field.label} of ${title}`)" />
          {{ field.label }}</label
        >
        <label v-else-if="field.quantity === 'connector'" class="field"
          ><span>{{ field.label }}</span>
          <Select
            :model-value="at(field.path)"
            :options="connectorOptions"
            option-label="label"
            option-value="id"
            filter
            size="small"
            @update:model-value="v => change(field.path, v, `${field.label} of ${title}`)" />
        </label>
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
      <label v-if="levels.length" class="field"
        ><span>Level used</span>
        <Select
          :model-value="at('powerW')"
          :options="levels.map(l => ({ powerW: l.powerW, label: `${l.powerW} W, ${l.activeA} A` }))"
          option-label="label"
          option-value="powerW"
          size="small"
          @update:model-value="chooseLevel" />
      </label>
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
            @change="
              v =>
                change(
                  `ports.${i}.fuse`,
                  v === undefined ? undefined : { type: port.fuse?.type ?? 'blade', ratedA: v },
                  `fuse of port ${port.id}`,
                )
            " />
          <label class="field"
            ><span>Connector</span>
            <Select
              :model-value="port.connector"
              :options="connectorOptions"
              option-label="label"
              option-value="id"
              filter
              size="small"
              @update:model-value="v => change(`ports.${i}.connector`, v, `connector of port ${port.id}`)" />
          </label>
        </div>
      </div>
      <button class="plain" @click="addPort"><Icon name="plus" /> Add a port</button>
    </template>

    <template v-for="list in lists" :key="list.path">
      <h4 v-if="entries(list.path).length">{{ list.label }}</h4>
      <div v-for="(entry, i) in entries(list.path)" :key="i" class="entry">
        <template v-for="field in list.fields" :key="field.path">
          <label v-if="field.quantity === 'choice' || field.quantity === 'connector'" class="field"
            ><span>{{ field.label }}</span>
            <Select
              :model-value="entry[field.path]"
              :options="
                field.quantity === 'connector' ? connectorOptions : field.choices!.map(c => ({ id: c, label: c }))
              "
              option-label="label"
              option-value="id"
              :filter="field.quantity === 'connector'"
              size="small"
              @update:model-value="
                v => change(`${list.path}.${i}.${field.path}`, v, `${field.label} of ${list.one} ${i + 1}`)
              " />
          </label>
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

    <template v-if="lead">
      <div class="grid">
        <QuantityInput
          label="Conductor"
          quantity="conductor"
          :units="units"
          :value="lead.conductor"
          :refused="refused.conductor"
          @change="v => setConductor(v as Lead['conductor'])" />
        <QuantityInput
          label="Length, one way"
          quantity="length"
          :units="units"
          :value="lead.lengthM"
          :refused="refused.lengthM"
          @change="v => setLength(v as number)" />
        <label v-for="end in ['from', 'to'] as const" :key="end" class="field"
          ><span>{{ end === 'from' ? 'From' : 'To' }}</span>
          <Select
            :model-value="lead[end]"
            :options="terminalOptions"
            size="small"
            filter
            @update:model-value="v => change(end, v, `${end} of ${title}`)" />
          <em v-if="refused[end]" role="alert">{{ refused[end] }}</em>
        </label>
        <label v-for="end in ['from', 'to'] as const" :key="`c-${end}`" class="field"
          ><span>Connector at {{ lead[end] }}</span>
          <Select
            :model-value="lead.ends?.[end]?.connector"
            :options="connectorOptions"
            option-label="label"
            option-value="id"
            filter
            size="small"
            @update:model-value="v => setEnd(end, 'connector', v)" />
        </label>
        <label v-for="end in ['from', 'to'] as const" :key="`m-${end}`" class="field"
          ><span>Method at {{ lead[end] }}</span>
          <Select
            :model-value="lead.ends?.[end]?.method"
            :options="methodOptions"
            size="small"
            @update:model-value="v => setEnd(end, 'method', v)" />
        </label>
      </div>
      <label class="check"
        ><input
          type="checkbox"
          :checked="lead.sheathed ?? false"
          @change="e => change('sheathed', (e.target as HTMLInputElement).checked, `sheath of ${title}`)" />
        lies in a sheath</label
      >
      <h4 v-if="lead.inline?.length">In the lead, from {{ lead.from }}</h4>
      <div v-for="(item, i) in lead.inline" :key="item.id" class="line">
        <b>{{ item.kind }}</b>
        <label v-if="item.kind === 'fuse'" class="field"
          ><span>Class</span>
          <Select
            :model-value="item.type ?? 'blade'"
            :options="fuseTypes"
            option-label="label"
            option-value="id"
            size="small"
            @update:model-value="v => change(`inline.${i}.type`, v, `class of the fuse in ${title}`)" />
        </label>
        <QuantityInput
          v-if="'ratedA' in item || item.kind === 'meter'"
          label="Rated"
          quantity="current"
          :units="units"
          :value="item.ratedA"
          :refused="refused[`inline.${i}.ratedA`]"
          @change="v => change(`inline.${i}.ratedA`, v, `rating of the ${item.kind} in ${title}`)" />
        <template v-if="item.kind === 'choke'">
          <QuantityInput
            label="Turns"
            quantity="count"
            :units="units"
            :value="item.turns"
            :refused="refused[`inline.${i}.turns`]"
            @change="v => change(`inline.${i}.turns`, v, `turns of the choke in ${title}`)" />
          <QuantityInput
            label="Cores"
            quantity="count"
            :units="units"
            :value="item.cores"
            :refused="refused[`inline.${i}.cores`]"
            @change="v => change(`inline.${i}.cores`, v, `cores of the choke in ${title}`)" />
        </template>
        <QuantityInput
          v-if="item.kind === 'dropper'"
          label="Diodes"
          quantity="count"
          :units="units"
          :value="item.count ?? 1"
          :refused="refused[`inline.${i}.count`]"
          @change="v => change(`inline.${i}.count`, v, `diodes in ${title}`)" />
        <QuantityInput
          label="At"
          quantity="length"
          :units="units"
          :value="item.atM ?? 0"
          :refused="refused[`inline.${i}.atM`]"
          @change="v => change(`inline.${i}.atM`, v, `place of the ${item.kind} in ${title}`)" />
        <label v-if="item.kind === 'switch' || item.kind === 'breaker'" class="check"
          ><input
            type="checkbox"
            :checked="item.closed !== false"
            @change="
              e => change(`inline.${i}.closed`, (e.target as HTMLInputElement).checked, `${item.kind} in ${title}`)
            " />
          on</label
        >
        <label v-if="item.kind === 'dropper'" class="field"
          ><span>Stripe toward</span>
          <Select
            :model-value="item.stripe ?? 'to'"
            :options="[
              { id: 'to', label: lead.to },
              { id: 'from', label: lead.from },
            ]"
            option-label="label"
            option-value="id"
            size="small"
            @update:model-value="v => change(`inline.${i}.stripe`, v, `stripe in ${title}`)" />
        </label>
        <button class="plain" :aria-label="`Take the ${item.kind} out`" @click="removeItem(i)">
          <Icon name="close" />
        </button>
      </div>
      <div class="adders">
        <Select
          :model-value="null"
          :options="throughParts"
          option-label="label"
          size="small"
          filter
          placeholder="Put a part into it…"
          aria-label="Put a part into the lead"
          @update:model-value="putThrough" />
      </div>
      <div class="adders">
        Put in:
        <button v-for="item in NEW_ITEMS" :key="item.value.kind" class="plain" @click="putItem(item)">
          <Icon name="plus" /> {{ item.label }}
        </button>
      </div>
      <em v-if="refused.inline" role="alert">{{ refused.inline }}</em>
    </template>
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
h4 {
  margin: 0.7rem 0 0.2rem;
  font-size: 0.9rem;
}
.grid {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(9.2rem, 1fr));
  gap: 0.45rem 0.7rem;
  align-items: start;
}
.field {
  display: grid;
  gap: 0.1rem;
  min-width: 0;
}
.field span {
  font-size: 0.8rem;
  color: var(--ink-3);
  white-space: nowrap;
  overflow: hidden;
  text-overflow: ellipsis;
}
.field :deep(.p-select) {
  width: 100%;
  min-width: 0;
}
.ports {
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(21rem, 1fr));
  gap: 0 1.6rem;
}
.ports .line {
  grid-template-columns: 2rem 6rem 1fr;
}
.entry {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(7rem, 1fr));
  gap: 0.4rem 0.6rem;
  align-items: end;
  padding: 0.25rem 0;
  border-bottom: 1px solid var(--line);
}
.line {
  display: grid;
  grid-template-columns: 4rem repeat(3, minmax(0, 1fr)) auto;
  gap: 0.5rem;
  align-items: end;
  padding: 0.15rem 0;
}
.line b {
  padding-bottom: 0.4rem;
  font-weight: 600;
}
.check {
  display: flex;
  gap: 0.4rem;
  align-items: center;
  padding: 0.4rem 0;
}
.adders {
  margin-top: 0.4rem;
  color: var(--ink-3);
}
em {
  font-style: normal;
  font-size: 0.82rem;
  color: var(--fail);
}
</style>
