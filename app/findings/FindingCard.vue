<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import type { Fix } from '#core/verdict/fixes'
import type { Finding } from '#core/verdict/verdict'
import { fixed } from '#core/units/number'
import SeverityMark from './SeverityMark.vue'

const props = defineProps<{
  finding: Finding
  fixes: Fix[] | undefined
  chosen: boolean
  /** What a place is called. */
  nameOf: (place: string) => string
}>()
const emit = defineEmits<{ choose: []; take: [fix: Fix] }>()

/** Of more places than this the sentence of a finding names only the first. */
const MANY = 5
const places = computed(() => {
  const { place, also = [] } = props.finding
  return also.length > MANY ? [place, ...also] : []
})
/** Their names are looked up only where somebody opens them: of a large station that takes longer than a frame. */
const areListed = ref(false)
const list = (event: Event) => (areListed.value = (event.target as HTMLDetailsElement).open)

/** What a fix gives, in a few figures: the arriving voltage it changes most, what it costs, what it makes worse. */
function gives(fix: Fix): string {
  const arrival = fix.after.arrivals[props.finding.place]
  const end = props.finding.check === 'arrival-over' ? arrival?.highV : arrival?.lowV
  const figure = end === undefined ? '' : `${fixed(end, 2)} V`
  return [figure, fix.cost].filter(Boolean).join(' · ')
}
const worse = (fix: Fix) =>
  fix.after.worse
    .map(w => `brings: ${w.title}`)
    .filter(Boolean)
    .join(' · ')
/** The fixes as they were stand there until those of the plan as it is are worked out, and cannot be taken. */
const last = shallowRef<{ of: string; fixes: Fix[] }>()
watch(
  () => props.fixes,
  fixes => fixes && (last.value = { of: props.finding.key, fixes }),
  { immediate: true },
)
const offered = computed(() => props.fixes ?? (last.value?.of === props.finding.key ? last.value.fixes : undefined))
</script>

<template>
  <article
    :class="['finding', { chosen }]"
    :data-check="finding.check"
    :data-place="finding.place"
    @click="emit('choose')">
    <SeverityMark :severity="finding.severity" :size="20" />
    <div class="body">
      <h3>
        <button class="title" :aria-expanded="chosen" @focus="emit('choose')">{{ finding.title }}</button>
      </h3>
      <p>{{ finding.message }}</p>
      <template v-if="chosen">
        <details v-if="places.length" class="why" @click.stop @toggle="list">
          <summary>Its {{ places.length }} places, lit in the path</summary>
          {{ areListed ? places.map(nameOf).join('; ') : '' }}
        </details>
        <p class="why">{{ finding.why }}</p>
        <p v-if="finding.otherSchool" class="why school">{{ finding.otherSchool }}</p>
      </template>
      <div class="fixes">
        <button
          v-for="(fix, i) in offered"
          :key="fix.label"
          :disabled="!fixes"
          :class="[
            'fix',
            { first: i === 0 && chosen, stacked: gives(fix) && gives(fix).length + fix.label.length > 36 },
          ]"
          :title="`${fix.label}. ${worse(fix)}`"
          @click.stop="emit('take', fix)">
          <span class="label">{{ fix.label }}</span>
          <span class="gives">{{ gives(fix) }}</span>
          <kbd v-if="i === 0 && chosen">F</kbd>
          <span v-if="worse(fix)" class="worse">{{ worse(fix) }}</span>
        </button>
        <p v-if="!offered" class="why coming">working out what would mend it…</p>
        <p v-else-if="!offered.length" class="why">No single change mends this; it wants a decision of yours.</p>
      </div>
    </div>
  </article>
</template>

<style scoped>
.finding {
  display: flex;
  gap: 0.65rem;
  padding: 0.75rem 0.75rem 0.8rem;
  border: 1px solid transparent;
  border-radius: 10px;
  cursor: pointer;
}
.finding.chosen {
  background: var(--sheet);
  border-color: var(--line-2);
}
.body {
  min-width: 0;
  flex: 1;
}
h3 {
  font-size: 1.02rem;
  line-height: 1.25;
}
.title {
  border: 0;
  background: none;
  padding: 0;
  font-weight: 650;
  text-align: left;
  cursor: pointer;
}
p {
  color: var(--ink);
  margin-top: 0.2rem;
}
.why {
  color: var(--ink-3);
  font-size: 0.88rem;
}
details.why {
  margin-top: 0.2rem;
}
summary {
  cursor: pointer;
}
.school {
  border-left: 2px solid var(--line-2);
  padding-left: 0.5rem;
}
.fixes {
  margin-top: 0.5rem;
  display: grid;
  gap: 0.3rem;
}
.fix {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0 0.6rem;
  align-items: baseline;
  text-align: left;
  border: 0;
  border-radius: 6px;
  background: var(--choice);
  padding: 0.4rem 0.6rem;
  cursor: pointer;
}
/* As high as the fix that takes its place. */
.coming {
  padding: 0.4rem 0;
}
.fix:disabled {
  color: inherit;
  cursor: progress;
}
.fix:hover:enabled {
  outline: 1.5px solid var(--ink-2);
}
.fix .label {
  font-weight: 600;
}
.fix .gives {
  color: var(--ink-2);
  font-size: 0.85rem;
  text-align: right;
}
.fix.stacked .label {
  grid-column: 1 / -1;
}
.fix.stacked .gives {
  grid-column: 1 / -1;
}
.fix .worse {
  grid-column: 1 / -1;
  color: var(--caution);
  font-size: 0.83rem;
}
.fix.first {
  background: var(--button);
  color: var(--button-ink);
}
.fix.first .gives,
.fix.first .worse {
  color: inherit;
  opacity: 0.85;
}
@media (max-width: 760px) {
  .finding:not(.chosen) p,
  .finding:not(.chosen) .fixes {
    display: none;
  }
}
/* The whole card is hit. */
@media (pointer: coarse) {
  .title {
    min-height: 0;
  }
  .coming {
    min-height: 44px;
  }
}
.fix.first {
  padding-right: 2.1rem;
  position: relative;
}
.fix.first kbd {
  position: absolute;
  right: 0.55rem;
  top: 0.42rem;
  background: transparent;
  color: inherit;
  border-color: currentColor;
  opacity: 0.8;
}
</style>
