<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { feedOf, feedsFor, landingsFor, type Loose } from '#core/edit/join'
import { isLoad } from '#core/kinds/index'
import { leadById, leadName, partById, partIdOf } from '#core/plan/find'
import { partName, terminalName } from '#core/plan/names'
import type { Plan } from '#core/plan/schema'

/** Where a lead's end or a part's feed is to land: arrows go through the terminals there are, Enter takes one. */
const props = defineProps<{
  plan: Plan
  /** The lead or part that is joined. */
  id: string
  /** The end that was grabbed; else both are offered. */
  end?: 'from' | 'to' | undefined
  /** Terminals of this part alone are offered. */
  onto?: string | undefined
}>()
const emit = defineEmits<{
  join: [what: Loose | { partId: string }, terminal: string]
  look: [id: string]
  close: []
}>()

const lead = computed(() => leadById(props.plan, props.id))
const ends = ['from', 'to'] as const
/** What feeds a load is moved oftener than the load. */
const feeds = () => (lead.value && isLoad(partById(props.plan, partIdOf(lead.value.to))!) ? 'from' : 'to')
const end = ref<'from' | 'to'>(props.end ?? feeds())
const what = computed<Loose | { partId: string }>(() =>
  lead.value ? { lead: lead.value, end: end.value } : { partId: props.id },
)
const terminals = computed(() => {
  const loose = 'partId' in what.value ? feedOf(props.plan, props.id) : what.value
  const all = loose ? landingsFor(props.plan, loose) : feedsFor(props.plan, props.id)
  return all
    .filter(t => props.onto === undefined || partIdOf(t) === props.onto)
    .map(id => ({ id, label: terminalName(props.plan, id) }))
})
const title = computed(() => {
  if (!lead.value) return `${partName(props.plan, props.id)} onto`
  return `${leadName(lead.value)}: move its end at`
})
const at = ref(0)
watch(terminals, () => (at.value = 0))
watch(at, i => {
  const terminal = terminals.value[i]
  if (terminal) emit('look', partById(props.plan, partIdOf(terminal.id))!.id)
})
const list = ref<HTMLElement>()
onMounted(async () => {
  await nextTick()
  list.value?.focus()
})
function go(by: number) {
  at.value = Math.max(0, Math.min(terminals.value.length - 1, at.value + by))
  void nextTick(() => list.value?.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' }))
}
function take(i = at.value) {
  const terminal = terminals.value[i]
  if (terminal) emit('join', what.value, terminal.id)
}
</script>

<template>
  <section class="join" role="dialog" :aria-label="title" @keydown.esc.stop="emit('close')">
    <header>
      <h3>{{ title }}</h3>
      <button class="plain" @click="emit('close')">Close</button>
    </header>
    <p v-if="lead && !props.end" class="ends">
      <label v-for="e in ends" :key="e"
        ><input v-model="end" type="radio" name="end" :value="e" /> {{ terminalName(plan, lead[e]) }}</label
      >
    </p>
    <p v-if="!terminals.length" class="none">
      No terminal is free{{ onto ? ` on ${partName(plan, onto)}` : '' }}. Add a port to a block first.
    </p>
    <ul
      v-else
      ref="list"
      role="listbox"
      tabindex="0"
      :aria-label="title"
      :aria-activedescendant="`join-${at}`"
      @keydown.down.prevent.stop="go(1)"
      @keydown.up.prevent.stop="go(-1)"
      @keydown.enter.prevent.stop="take()"
      @keydown.space.prevent.stop="take()">
      <li
        v-for="(t, i) in terminals"
        :id="`join-${i}`"
        :key="t.id"
        role="option"
        :aria-selected="i === at"
        @mouseenter="at = i"
        @click="take(i)">
        {{ t.label }}
      </li>
    </ul>
  </section>
</template>

<style scoped>
.join {
  background: var(--sheet);
  border: 1px solid var(--line-2);
  border-radius: 10px;
  box-shadow: 0 8px 28px var(--shade);
  padding: 0.6rem 0.8rem;
  width: 22rem;
  max-width: calc(100% - 1.6rem);
}
header {
  display: flex;
  justify-content: space-between;
  gap: 0.6rem;
  align-items: baseline;
}
h3 {
  font-size: 1rem;
}
.ends {
  display: grid;
  gap: 0.2rem;
  padding: 0.3rem 0;
  color: var(--ink-2);
}
ul {
  list-style: none;
  margin: 0.3rem 0 0;
  padding: 0;
  max-height: 15rem;
  overflow: auto;
}
li {
  padding: 0.4rem 0.6rem;
  border-radius: 6px;
  cursor: pointer;
}
li[aria-selected='true'] {
  background: var(--choice);
}
.none {
  color: var(--ink-2);
}
@media (max-width: 760px), (max-height: 520px) {
  li {
    min-height: 44px;
  }
}
</style>
