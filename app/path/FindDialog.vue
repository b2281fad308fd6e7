<script setup lang="ts">
import { computed, nextTick, onMounted, ref } from 'vue'
import { kindOf } from '#core/kinds/index'
import { leadName, nameOf } from '#core/plan/find'
import { terminalName } from '#core/plan/names'
import type { Plan } from '#core/plan/schema'
import Dialog from '../shell/focusedDialog'

/** Finds a part or a lead by its name, its kind, or what it joins: arrows choose, Enter goes there. */
const props = defineProps<{ plan: Plan }>()
const emit = defineEmits<{ found: [id: string]; close: [] }>()
const text = defineModel<string>('sought', { required: true })
const at = ref(0)
const all = computed(() => [
  ...props.plan.parts.map(p => ({ id: p.id, name: nameOf(p), about: kindOf(p).label })),
  ...props.plan.leads.map(l => ({
    id: l.id,
    name: leadName(l),
    about: `${terminalName(props.plan, l.from)} – ${terminalName(props.plan, l.to)}`,
  })),
])
/** More of them nobody reads: another letter is typed. */
const MOST = 40
const found = computed(() => {
  const wanted = text.value.toLowerCase().split(/\s+/).filter(Boolean)
  return all.value
    .filter(x => wanted.every(w => `${x.name} ${x.about} ${x.id}`.toLowerCase().includes(w)))
    .slice(0, MOST)
})
function go(by: number) {
  at.value = Math.max(0, Math.min(found.value.length - 1, at.value + by))
  void nextTick(() => document.querySelector('#found [aria-selected=true]')?.scrollIntoView({ block: 'nearest' }))
}
function take(i = at.value) {
  const item = found.value[i]
  if (item) emit('found', item.id)
}
const input = ref<HTMLInputElement>()
onMounted(async () => {
  await nextTick()
  input.value?.focus()
})
</script>

<template>
  <Dialog
    visible
    modal
    header="Find in the path"
    :style="{ width: '28rem', maxWidth: '96vw' }"
    :draggable="false"
    dismissable-mask
    @update:visible="emit('close')">
    <input
      ref="input"
      v-model="text"
      class="search"
      placeholder="A name, a kind, what it joins"
      aria-label="Find a part or lead"
      role="combobox"
      aria-expanded="true"
      aria-controls="found"
      @input="at = 0"
      @keydown.down.prevent="go(1)"
      @keydown.up.prevent="go(-1)"
      @keydown.enter.prevent="take()" />
    <ul id="found" role="listbox" aria-label="Found">
      <li v-for="(item, i) in found" :key="item.id" role="option" :aria-selected="i === at" @click="take(i)">
        {{ item.name }} <span>{{ item.about }}</span>
      </li>
    </ul>
    <p v-if="!found.length" class="none">Nothing is called that.</p>
  </Dialog>
</template>

<style scoped>
.search {
  width: 100%;
  margin-top: 4px;
  padding: 0.5rem 0.7rem;
  border: 1.5px solid var(--line-2);
  border-radius: 8px;
  background: var(--paper);
}
ul {
  list-style: none;
  margin: 0.5rem 0 0;
  padding: 0;
  max-height: 20rem;
  overflow: auto;
}
li {
  padding: 0.35rem 0.6rem;
  border-radius: 6px;
  cursor: pointer;
}
li[aria-selected='true'] {
  background: var(--choice);
}
li span {
  color: var(--ink-2);
  margin-left: 0.5rem;
}
.none {
  color: var(--ink-2);
}
@media (max-width: 760px) {
  li {
    min-height: 44px;
  }
}
</style>
