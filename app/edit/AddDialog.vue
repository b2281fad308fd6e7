<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { conductorName } from '#core/conductor/resistance'
import type { Patch } from '#core/edit/patch'
import type { Fault } from '#core/plan/faults'
import { addLeadBetween, addPartAt, appendPart, identified, usualConductor } from '#core/edit/add'
import { freePorts, freeTerminals } from '#core/graph/free'
import { kindOf } from '#core/kinds/index'
import { terminalName } from '#core/plan/names'
import { catalogueOf } from '#core/plan/starter'
import type { Plan } from '#core/plan/schema'
import { readConductor } from '#core/units/conductor'
import { readQuantity, showLength, type Units } from '#core/units/quantity'
import Dialog from '../shell/focusedDialog'

/** Adds a part on a terminal, with its lead: type to find it, arrows to choose, Enter to add. */
const props = defineProps<{
  plan: Plan
  startAt: string | null
  units: Units
  edit: (patch: Patch, label: string) => Fault[]
}>()
const visible = defineModel<boolean>('visible', { required: true })
const emit = defineEmits<{ added: [id: string] }>()

const choices = [...catalogueOf('load'), ...catalogueOf('between'), ...catalogueOf('source')]
const filter = ref('')
const at = ref(0)
const lengthText = ref('')
const conductorText = ref('')
const terminal = ref('')
const wrong = ref('')
const search = ref<HTMLInputElement>()

const matches = computed(() => {
  const words = filter.value.toLowerCase().split(/\s+/).filter(Boolean)
  return choices.filter(c => words.every(w => `${c.label} ${c.kind}`.toLowerCase().includes(w)))
})
const named = (id: string) => ({ id, label: terminalName(props.plan, id) })
const terminals = computed(() => freeTerminals(props.plan))
watch(filter, () => {
  at.value = 0
})
// It may be asked for before its program has come: then it begins open.
watch(
  visible,
  async open => {
    if (!open) return
    filter.value = ''
    at.value = 0
    wrong.value = ''
    lengthText.value = showLength(props.units.length === 'ft' ? 6 * 0.3048 : 1.5, props.units)
    conductorText.value = conductorName(usualConductor(props.plan))
    terminal.value = props.startAt ?? freePorts(props.plan)[0] ?? terminals.value[0] ?? ''
    await nextTick()
    search.value?.focus()
  },
  { immediate: true },
)

function add() {
  const choice = matches.value[at.value]
  if (!choice) {
    wrong.value = 'Nothing in the catalogue is called that; type less of it.'
    return
  }
  const length = readQuantity(lengthText.value, 'length', props.units)
  const conductor = readConductor(conductorText.value, props.units)
  if (!length.ok) return void (wrong.value = length.wrong)
  if (!conductor.ok) return void (wrong.value = conductor.wrong)
  const { insulationC } = usualConductor(props.plan)
  const wire = { ...conductor.value, ...(insulationC !== undefined && { insulationC }) }
  const stem = choice.id.split('-')[0]!
  const added = terminal.value
    ? addPartAt(props.plan, choice.part as never, {
        stem,
        terminal: terminal.value,
        lengthM: length.value,
        conductor: wire,
      })
    : addLonely(choice.part as never, stem)
  const faults = props.edit(added.patch, `add ${choice.label}`)
  if (faults.length) {
    wrong.value = `${faults[0]!.wrong}; right would be ${faults[0]!.right}`
    return
  }
  visible.value = false
  emit('added', added.id)
}

/** A part with nothing to land on yet. */
function addLonely(row: Parameters<typeof identified>[1], stem: string) {
  const part = identified(props.plan, row, stem)
  return { id: part.id, patch: appendPart(part) }
}

/** Enter adds from a field of text; in a list it chooses there. */
function enter(event: KeyboardEvent) {
  if (!(event.target instanceof HTMLInputElement) || event.target.closest('.p-select')) return
  event.preventDefault()
  add()
}

function move(by: number) {
  at.value = Math.max(0, Math.min(matches.value.length - 1, at.value + by))
  nextTick(() => document.querySelector('.choice[aria-selected="true"]')?.scrollIntoView({ block: 'nearest' }))
}

const joinTo = ref('')
function join() {
  const length = readQuantity(lengthText.value, 'length', props.units)
  const conductor = readConductor(conductorText.value, props.units)
  if (!length.ok || !conductor.ok || !joinTo.value) return
  const faults = props.edit(
    addLeadBetween(props.plan, terminal.value, joinTo.value, {
      lengthM: length.value,
      conductor: { ...conductor.value, insulationC: 105 },
    }),
    `lead from ${named(terminal.value).label} to ${named(joinTo.value).label}`,
  )
  if (faults.length) wrong.value = `${faults[0]!.wrong}; right would be ${faults[0]!.right}`
  else visible.value = false
}
/** Where a lead may end: what a part is fed by, and every free terminal. */
const ends = computed(() => {
  const entries = props.plan.parts.flatMap(p => {
    const { nextTerminal, ports, entry } = kindOf(p)
    if (nextTerminal) return []
    return ports?.distributes && entry ? [entry(p)] : [p.id]
  })
  return [...new Set([...entries, ...terminals.value])].filter(t => t !== terminal.value)
})
</script>

<template>
  <Dialog v-model:visible="visible" modal header="Add to the path" :style="{ width: '34rem' }" :draggable="false">
    <div class="add" @keydown.enter="enter">
      <input
        ref="search"
        v-model="filter"
        autofocus
        class="search"
        placeholder="What? Type a few letters: hf, computer, lamps, battery…"
        aria-label="Find in the catalogue"
        role="combobox"
        aria-expanded="true"
        aria-controls="choices"
        @keydown.down.prevent="move(1)"
        @keydown.up.prevent="move(-1)" />
      <ul id="choices" role="listbox" aria-label="Catalogue">
        <li
          v-for="(choice, i) in matches"
          :key="choice.id"
          class="choice"
          role="option"
          :aria-selected="i === at"
          @click="at = i"
          @dblclick="add">
          {{ choice.label }} <span>{{ choice.kind }}</span>
        </li>
      </ul>
      <div class="how">
        <label
          >On<Select
            v-model="terminal"
            :options="terminals.map(named)"
            option-label="label"
            option-value="id"
            size="small"
            filter
            :empty-message="'no free terminal: add a port to a block first'"
        /></label>
        <label>Conductor<InputText v-model="conductorText" size="small" /></label>
        <label>Length, one way<InputText v-model="lengthText" size="small" /></label>
      </div>
      <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    </div>
    <template #footer>
      <div class="join">
        <span>or only a lead to</span>
        <Select
          v-model="joinTo"
          :options="ends.map(named)"
          option-label="label"
          option-value="id"
          size="small"
          filter
          placeholder="terminal"
          aria-label="A lead to" />
        <Button label="Join" size="small" severity="secondary" :disabled="!joinTo" @click="join" />
      </div>
      <Button label="Add" @click="add" />
    </template>
  </Dialog>
</template>

<style scoped>
.add {
  padding: 3px;
}
.search {
  width: 100%;
  padding: 0.5rem 0.7rem;
  border: 1.5px solid var(--line-2);
  border-radius: 8px;
  background: var(--paper);
}
ul {
  list-style: none;
  margin: 0.5rem 0;
  padding: 0;
  max-height: 15rem;
  overflow: auto;
  border: 1px solid var(--line);
  border-radius: 8px;
}
.choice {
  padding: 0.35rem 0.7rem;
  cursor: pointer;
  display: flex;
  justify-content: space-between;
}
.choice span {
  color: var(--ink-3);
  font-size: 0.85rem;
}
.choice[aria-selected='true'] {
  background: var(--button);
  color: var(--button-ink);
}
.choice[aria-selected='true'] span {
  color: inherit;
  opacity: 0.8;
}
.how {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr;
  gap: 0.7rem;
}
.how label {
  display: grid;
  gap: 0.15rem;
  color: var(--ink-3);
  font-size: 0.85rem;
  min-width: 0;
}
.how :deep(input),
.how :deep(.p-select) {
  width: 100%;
  min-width: 0;
}
.wrong {
  color: var(--fail);
  margin-top: 0.5rem;
}
.join {
  display: flex;
  gap: 0.5rem;
  align-items: center;
  margin-right: auto;
  color: var(--ink-3);
}
</style>
