<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { loadStateNames, sourceStateWords } from '#core/circuit/conditions'
import type { Plan } from '#core/plan/schema'
import type { SourceState } from '#core/battery/emf'
import ShortList from '../shell/ShortList.vue'
import { bringWithin } from '../shell/withinPane'
import type { Judged } from '../workers/answers'

/** Which condition the path shows: the worst of all, or one of the matrix. */
const props = defineProps<{ plan: Plan; judged: Judged | null }>()
const condition = defineModel<string>({ required: true })

const sources = computed(() => [...new Set(props.judged?.conditions.map(c => c.source) ?? [])] as SourceState[])
const loadStates = computed(() => [...new Set(props.judged?.conditions.map(c => c.loadState) ?? [])])
const chosen = computed(() =>
  condition.value === 'worst'
    ? null
    : { source: condition.value.split('/')[0]!, load: condition.value.slice(condition.value.indexOf('/') + 1) },
)
const FEW = 3
const first = computed(() => loadStates.value.slice(0, FEW))
const nameOf = computed(() => loadStateNames(props.plan))
/** The list of before where it reads as it did: a long one is read whole by the field each time it is another. */
const rest = computed<{ id: string; label: string }[]>(before => {
  const now = loadStates.value.slice(FEW).map(id => ({ id, label: nameOf.value(id) }))
  const isSame =
    before?.length === now.length && now.every((n, i) => n.id === before[i]!.id && n.label === before[i]!.label)
  return isSame ? before : now
})

function pick(part: { source?: string; load?: string }) {
  const source = part.source ?? chosen.value?.source ?? (sources.value.includes('low') ? 'low' : sources.value[0]!)
  const load = part.load ?? chosen.value?.load ?? 'all'
  condition.value = `${source}/${load}`
}
const lasting = computed(() => rest.value.find(r => r.id === chosen.value?.load)?.id ?? null)

// Where the strip goes on beyond its edge, what is chosen is brought into sight; the page stays where it is.
const strip = ref<HTMLElement>()
const FADES_PX = 24
watch([condition, loadStates], () => nextTick(bringIntoSight), { immediate: true })
function bringIntoSight() {
  const pressed = strip.value?.querySelectorAll('.chip[aria-pressed="true"]')
  const shown = lasting.value ? strip.value?.querySelector('.more') : pressed?.[pressed.length - 1]
  if (strip.value && shown) bringWithin(strip.value, shown, FADES_PX)
}
</script>

<template>
  <div ref="strip" class="conditions" role="toolbar" aria-label="Condition shown">
    <span class="quiet">Show</span>
    <button class="chip" :aria-pressed="!chosen" @click="condition = 'worst'">
      worst of {{ judged ? `${judged.conditions.length} states` : 'all' }}
    </button>
    <template v-if="sources.length > 1">
      <span class="bar" />
      <button
        v-for="source in sources"
        :key="source"
        class="chip"
        :aria-pressed="chosen?.source === source"
        @click="pick({ source })">
        {{ sourceStateWords(source) }}
      </button>
    </template>
    <span class="bar" />
    <button
      v-for="load in first"
      :key="load"
      class="chip"
      :aria-pressed="chosen?.load === load"
      @click="pick({ load })">
      {{ nameOf(load).replace('all ', '') }}
    </button>
    <ShortList
      v-if="rest.length"
      :model-value="lasting"
      :options="rest"
      unchosen="more…"
      class="more"
      label="More load states"
      @pick="load => pick({ load })" />
  </div>
</template>

<style scoped>
.conditions {
  display: flex;
  align-items: center;
  gap: 0.15rem;
  padding: 0.4rem 1rem;
  overflow-x: auto;
  white-space: nowrap;
  border-bottom: 1px solid var(--line);
  /* What goes on beyond the edge fades, and is scrolled to. */
  mask-image: linear-gradient(to right, #000 calc(100% - 1.5rem), transparent);
  padding-right: 1.5rem;
}
.quiet {
  color: var(--ink-3);
  margin-right: 0.4rem;
}
.chip {
  /* The strip is scrolled, its words are not squeezed. */
  flex: none;
  border: 0;
  background: none;
  padding: 0.25rem 0.5rem;
  border-radius: 999px;
  cursor: pointer;
  color: var(--ink-2);
}
.chip:hover {
  background: var(--choice);
}
.chip[aria-pressed='true'] {
  background: var(--button);
  color: var(--button-ink);
  font-weight: 600;
}
.bar {
  width: 1px;
  height: 1.2rem;
  background: var(--line-2);
  margin: 0 0.4rem;
  flex: none;
}
.more {
  max-width: 11rem;
  border-color: transparent;
  background: none;
}
</style>
