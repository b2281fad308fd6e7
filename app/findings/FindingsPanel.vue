<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import type { Fix } from '#core/verdict/fixes'
import type { Finding, Verdict } from '#core/verdict/verdict'
import { groupFindings, placeName, type FindingGroup } from '#core/verdict/groups'
import type { Plan } from '#core/plan/schema'
import type { FirstStep } from '#core/plan/firstSteps'
import { counted } from '#core/units/words'
import FindingCard from './FindingCard.vue'

const props = defineProps<{
  plan: Plan | null
  verdict: Verdict | null
  passed: { id: string; title: string; why: string }[]
  fixes: ReadonlyMap<string, Fix[]>
  /** What comes first, where the plan is not yet one. */
  first: FirstStep | null
  /** Why there is no verdict of the plan as it stands; empty where there is. */
  problem: string
  /** It is being made, and takes longer than one waits for. */
  isSlow: boolean
}>()
const chosen = defineModel<string | null>('chosen', { required: true })
const emit = defineEmits<{ take: [finding: Finding, fix: Fix]; choose: [finding: Finding] }>()

/** More than this are listed only when asked. */
const SHOWN = 30
const all = ref(false)
const findings = computed(() => props.verdict?.findings ?? [])
const groups = computed(() => groupFindings(findings.value))
/** Of each group the chosen one is told, else its first. */
const told = computed(() =>
  groups.value.map(g => ({ ...g, one: g.findings.find(f => f.key === chosen.value) ?? g.findings[0]! })),
)
const shown = computed(() => (all.value ? told.value : told.value.slice(0, SHOWN)))
/** More places than this of one group are listed only when asked. */
const PLACES = 12
const opened = ref(new Set<string>())
const placesOf = (group: FindingGroup) =>
  opened.value.has(group.key) ? group.findings : group.findings.slice(0, PLACES)
const nameOf = (place: string) => (props.plan ? placeName(props.plan, place) : place)
const nameOfPlace = (f: Finding) => nameOf(f.item ?? f.place)
const showPassed = ref(false)
const heading = computed(() => {
  const notes = findings.value.filter(f => f.severity === 'note').length
  const n = findings.value.length - notes
  if (n === 0 && props.first) return 'Not yet a station'
  // A note is worth knowing, and wants no mending.
  const noted = notes ? `, ${counted(notes, 'note')}` : ''
  return (n === 0 ? 'Nothing to mend' : `${counted(n, 'thing')} to mend`) + noted
})
const title = computed(() => {
  if (props.problem) return 'Not checked'
  return props.verdict ? heading.value : 'Checking…'
})
function choose(finding: Finding) {
  if (chosen.value === finding.key) return
  chosen.value = finding.key
  emit('choose', finding)
}
const list = ref<HTMLElement>()
watch(chosen, async (key, before) => {
  await nextTick()
  if (key && before) list.value?.querySelector('.chosen')?.scrollIntoView({ block: 'nearest' })
})
</script>

<template>
  <aside class="panel" aria-label="Findings">
    <header>
      <h2 aria-live="polite">{{ title }}</h2>
      <button v-if="verdict" class="passed" :aria-expanded="showPassed" @click="showPassed = !showPassed">
        {{ passed.length }} checks passed
      </button>
    </header>
    <p v-if="problem" class="stale" role="alert">
      The plan as it stands is not judged: {{ problem }}.
      {{ verdict ? 'What is shown below is of an earlier one.' : '' }}
      The next edit tries again.
    </p>
    <p v-else-if="isSlow" class="stale slow" role="status">
      A plan of this size takes more than a second to check: it is on its way.
      {{ verdict ? 'What is shown below is of before the last change.' : '' }}
    </p>
    <ul v-if="showPassed" class="passed-list">
      <li v-for="check in passed" :key="check.id" :title="check.why">{{ check.title }}: not found</li>
    </ul>
    <div ref="list" class="list">
      <section v-for="group in shown" :key="group.key" :class="{ group: group.findings.length > 1 }">
        <FindingCard
          :finding="group.one"
          :fixes="fixes.get(group.one.key)"
          :chosen="chosen === group.one.key"
          :name-of="nameOf"
          @choose="choose(group.one)"
          @take="fix => emit('take', group.one, fix)" />
        <p v-if="group.findings.length > 1" class="places">
          <b>{{ group.findings.length }} places:</b>
          <button
            v-for="f in placesOf(group)"
            :key="f.key"
            :class="{ on: f === group.one }"
            :aria-pressed="f === group.one"
            :title="f.title"
            @click="choose(f)">
            {{ nameOfPlace(f) }}
          </button>
          <button v-if="placesOf(group).length < group.findings.length" @click="opened.add(group.key)">
            {{ group.findings.length - PLACES }} more
          </button>
        </p>
      </section>
      <button v-if="told.length > shown.length" class="plain" @click="all = true">
        Show {{ told.length - shown.length }} more
      </button>
      <p v-if="first" class="calm first">{{ first.words }}</p>
      <p v-else-if="verdict && !findings.length" class="calm">
        Every check in the list passed in every condition. Build it from the build sheet, and measure as you go.
      </p>
    </div>
    <footer v-if="verdict || problem">
      Wireman says which checks a plan passed; it is no licence. Local codes and a licensed electrician decide.
    </footer>
  </aside>
</template>

<style scoped>
.stale {
  margin: 0 0 8px;
  padding: 8px 10px;
  border-left: 3px solid var(--fail);
  background: var(--lit);
}
.stale.slow {
  border-left-color: var(--line);
}
.panel {
  display: flex;
  flex-direction: column;
  min-height: 0;
  background: var(--paper);
}
header {
  display: flex;
  align-items: baseline;
  justify-content: space-between;
  gap: 1rem;
  padding: 0.8rem 1rem 0.4rem;
}
h2 {
  font-size: 1.12rem;
}
.passed {
  border: 0;
  background: none;
  color: var(--pass);
  cursor: pointer;
  text-decoration: underline dotted;
  text-underline-offset: 3px;
  white-space: nowrap;
}
.passed-list {
  margin: 0 1rem 0.5rem;
  padding: 0.5rem 0.5rem 0.5rem 1.4rem;
  background: var(--sheet);
  border-radius: 8px;
  color: var(--ink-2);
  font-size: 0.88rem;
  max-height: 40vh;
  overflow: auto;
}
.list {
  flex: 1;
  min-height: 0;
  overflow-y: auto;
  padding: 0 0.5rem;
}
.places {
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem;
  align-items: baseline;
  margin: 0.35rem 0.6rem 0.7rem 2.6rem;
  font-size: 0.88rem;
  color: var(--ink-2);
}
.places button {
  border: 1px solid var(--line-2);
  border-radius: 6px;
  background: none;
  padding: 0.1rem 0.45rem;
  cursor: pointer;
  color: var(--ink-2);
}
.places button.on {
  border-color: var(--ink-2);
  color: var(--ink);
  font-weight: 650;
}
.calm {
  padding: 1rem 0.6rem;
  color: var(--ink-2);
}
footer {
  padding: 0.6rem 1rem 0.8rem;
  color: var(--ink-3);
  font-size: 0.84rem;
  border-top: 1px solid var(--line);
}
@media (max-width: 760px), (max-height: 520px) {
  .list {
    overflow: visible;
  }
}
</style>
