<script setup lang="ts">
import { computed, onBeforeUnmount, onMounted, ref, shallowRef } from 'vue'
import { SEVERITIES, type Severity } from '#core/checks/check'
import { layoutPath } from '#core/picture/layout'
import { pathScene } from '#core/picture/scene/scene'
import { still } from '#core/picture/scene/shape'
import type { Plan } from '#core/plan/schema'
import { counted } from '#core/units/words'
import SeverityMark from '../findings/SeverityMark.vue'
import ShapeView from '../path/ShapeView'
import { usePreferences } from '../stores/preferences'
import { hoursApi, stationsApi, type StationRow } from '../stores/stationsApi'
import type { Judged } from '../workers/answers'
import { Dropped, type CoreClient } from '../workers/client'
import type { HoursApi } from '../workers/hoursAnswers'

/** One station of the list: its path in small and its verdict, once it comes into sight. */
const props = defineProps<{ row: StationRow; core: CoreClient; hours: CoreClient<HoursApi> }>()
const { chosen } = usePreferences()

const plan = shallowRef<Plan | null>(null)
const judged = shallowRef<Judged | null>(null)
const problem = ref('')
/** How long it lasts through the first of its events, where it has any; null while that is worked out. */
const lasts = ref<string | null>('')
async function check(): Promise<Plan> {
  const read = await stationsApi.read(props.row.id)
  plan.value = read.plan
  judged.value = await props.core.call('judge', read.plan)
  return read.plan
}
async function last(checked: Promise<Plan>) {
  const [event] = (await hoursApi.read(props.row.id)).value
  if (!event) return
  lasts.value = null
  const course = await props.hours.call('course', await checked, event)
  lasts.value = course.ok ? `${event.name}: ${course.words}` : ''
}
async function look() {
  const checked = check()
  try {
    await Promise.all([checked, last(checked)])
  } catch (error) {
    if (!(error instanceof Dropped)) problem.value = (error as Error).message
  }
}
const card = ref<HTMLElement>()
let observer: IntersectionObserver | undefined
onMounted(() => {
  observer = new IntersectionObserver(([seen]) => {
    if (!seen?.isIntersecting) return
    observer!.disconnect()
    void look()
  })
  observer.observe(card.value!)
})
onBeforeUnmount(() => observer?.disconnect())

/** Drawn as wide as a page, and shown in small. */
const DRAWN_PX = 900
const small = computed(() => {
  if (!plan.value || !judged.value) return null
  const { verdict } = judged.value
  const layout = layoutPath(plan.value, verdict.arrivals, DRAWN_PX)
  const showing = { verdict, shown: judged.value, units: chosen.units, onPaper: true }
  const { head, body, arrivals } = pathScene(plan.value, layout, showing)
  return { shapes: [...head, ...arrivals, ...body].map(still), width: layout.width, height: layout.height }
})
const WORDS: Record<Severity, [string, string]> = {
  danger: ['danger', 'dangers'],
  fail: ['failure', 'failures'],
  caution: ['caution', 'cautions'],
  note: ['note', 'notes'],
}
const worst = computed<Severity | 'passed'>(() => judged.value?.verdict.findings[0]?.severity ?? 'passed')
const verdict = computed(() => {
  if (!judged.value || !plan.value) return ''
  if (!plan.value.parts.length) return 'nothing in it yet'
  const { findings } = judged.value.verdict
  const counts = SEVERITIES.map(s => [s, findings.filter(f => f.severity === s).length] as const)
  const said = counts.filter(([, n]) => n).map(([s, n]) => counted(n, ...WORDS[s]))
  return said.join(', ') || 'passes every check'
})
const when = (iso: string) => new Date(iso).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <li ref="card">
    <div class="small" aria-hidden="true" @click="navigateTo(`/station/${row.id}`)">
      <svg
        v-if="small"
        class="path"
        :viewBox="`0 0 ${small.width} ${small.height}`"
        preserveAspectRatio="xMidYMid meet">
        <ShapeView :shapes="small.shapes" />
      </svg>
    </div>
    <div class="about">
      <NuxtLink :to="`/station/${row.id}`" class="name target">{{ row.name }}</NuxtLink>
      <p v-if="row.trouble" class="wrong" data-testid="trouble">{{ row.trouble }}</p>
      <p v-if="verdict" class="verdict">
        <SeverityMark v-if="plan?.parts.length" :severity="worst" :size="17" /> {{ verdict }}
      </p>
      <p v-else-if="problem && !row.trouble" class="wrong">{{ problem }}</p>
      <p v-else-if="!row.trouble" class="facts">checking…</p>
      <p v-if="lasts" class="lasts" data-testid="lasts">{{ lasts }}</p>
      <p v-else-if="lasts === null && !problem" class="lasts facts">working out how long it lasts…</p>
      <p class="facts">
        <template v-if="plan">{{ counted(plan.parts.length, 'part') }} · </template>changed {{ when(row.updatedAt) }}
      </p>
    </div>
    <slot />
  </li>
</template>

<style scoped>
li {
  display: grid;
  grid-template-columns: 15rem 1fr auto;
  gap: 0.3rem 1.2rem;
  align-items: center;
  padding: 0.7rem 0.2rem;
  border-bottom: 1px solid var(--line);
}
.small {
  height: 7.2rem;
  cursor: pointer;
}
svg {
  width: 100%;
  height: 100%;
}
.name {
  font-weight: 650;
  font-size: 1.1rem;
  text-decoration: none;
  overflow-wrap: anywhere;
}
.name:hover {
  text-decoration: underline;
  text-underline-offset: 3px;
}
.verdict {
  display: flex;
  gap: 0.4rem;
  align-items: center;
}
.lasts {
  color: var(--ink-2);
}
.facts {
  color: var(--ink-3);
}
.wrong {
  color: var(--fail);
}
@media (max-width: 760px) {
  li {
    grid-template-columns: 6.5rem 1fr;
  }
  .small {
    height: 5rem;
  }
  /* As high from the start as most become: what is below does not move under a finger. */
  .about {
    min-height: 6.5lh;
  }
}
</style>
