<script setup lang="ts">
import { computed } from 'vue'
import { kindOf } from '#core/kinds/index'
import { leadById, leadName, partById } from '#core/plan/find'
import { partName } from '#core/plan/names'
import type { Plan } from '#core/plan/schema'
import { counted } from '#core/units/words'

/** What is chosen, and what can be done to it. */
const props = defineProps<{ plan: Plan; chosen: readonly string[]; marked: number; fold: 'Fold' | 'Unfold' | null }>()
const emit = defineEmits<{
  edit: []
  join: []
  copy: []
  remove: []
  forget: []
  fold: []
  add: []
  mend: []
  size: []
}>()

const one = computed(() => (props.chosen.length === 1 ? props.chosen[0]! : null))
const lead = computed(() => (one.value ? leadById(props.plan, one.value) : undefined))
const part = computed(() => (one.value ? partById(props.plan, one.value) : undefined))
const name = computed(() => {
  if (part.value) return partName(props.plan, part.value.id)
  return lead.value ? leadName(lead.value) : counted(props.chosen.length, 'thing')
})
const kind = computed(() => {
  if (part.value) return kindOf(part.value).label
  return lead.value ? 'lead' : 'chosen'
})
const hasParts = computed(() => props.chosen.some(id => partById(props.plan, id)))
</script>

<template>
  <div class="selection" role="toolbar" aria-label="What can be done">
    <template v-if="chosen.length">
      <b :title="name">{{ name }}</b>
      <span class="kind">{{ kind }}</span>
      <button v-if="one" class="plain" @click="emit('edit')">Edit <kbd>E</kbd></button>
      <button v-if="one" class="plain" @click="emit('join')">Join elsewhere <kbd>J</kbd></button>
      <button v-if="one && fold" class="plain" @click="emit('fold')">{{ fold }} <kbd>O</kbd></button>
      <button v-if="hasParts" class="plain" @click="emit('copy')">Copy to…</button>
      <button class="plain" @click="emit('remove')">Remove <kbd>Del</kbd></button>
      <button v-if="marked" class="plain" @click="emit('forget')">Choose one</button>
    </template>
    <span class="all">
      <button class="plain" @click="emit('add')">Add <kbd>A</kbd></button>
      <button class="plain" @click="emit('mend')">Mend all <kbd>M</kbd></button>
      <button class="plain" @click="emit('size')">Size it <kbd>S</kbd></button>
    </span>
  </div>
</template>

<style scoped>
.selection {
  display: flex;
  gap: 0.2rem 0.5rem;
  align-items: center;
  flex-wrap: wrap;
  padding: 0.15rem 1rem;
  border-top: 1px solid var(--line);
  background: var(--sheet);
}
b {
  max-width: 18rem;
  overflow: hidden;
  text-overflow: ellipsis;
  white-space: nowrap;
}
.kind {
  color: var(--ink-3);
}
.all {
  margin-left: auto;
  white-space: nowrap;
}
@media (max-width: 760px), (max-height: 520px) {
  .selection {
    position: sticky;
    bottom: 0;
    z-index: 4;
    padding: 0 0.5rem;
    border-top-color: var(--line-2);
  }
  .all {
    margin: 0;
  }
  .selection button {
    min-height: 44px;
  }
  .selection kbd {
    display: none;
  }
}
</style>
