<script setup lang="ts">
import { computed, onMounted, ref, watch } from 'vue'
import { EVENT_FORMAT, type HoursEvent } from '#core/hours/event'
import { clockWords } from '#core/hours/schedule'
import { kindOf } from '#core/kinds/index'
import { difference } from '#core/edit/patch'
import { partById } from '#core/plan/find'
import { partName } from '#core/plan/names'
import type { Plan } from '#core/plan/schema'
import TopBar from '../shell/TopBar.vue'
import { useHours } from '../stores/hours'
import { usePreferences } from '../stores/preferences'
import { useBeside, useOpenStation } from '../stores/useOpenStation'
import { useSavedOnLeave } from '../stores/useSavedOnLeave'
import CourseCharts from './CourseCharts.vue'
import LastingTabs from './LastingTabs.vue'
import LanesView from './LanesView.vue'
import OpenFiles from './OpenFiles.vue'
import ScheduleEditor from './ScheduleEditor.vue'
import { useCourse } from './useCourse'
import { useExports } from './useExports'
import { asGiven } from '#core/units/number'

/** Hours: how long the station lasts through an event, what refills it, and what ends it. */
const props = defineProps<{ stationId: string }>()
const { station, missing } = useOpenStation(props.stationId)
const store = useHours()
useBeside(station, store)
useSavedOnLeave(store)
const preferences = usePreferences()

const index = ref(0)
const event = computed(() => store.events?.[Math.min(index.value, store.events.length - 1)] ?? null)
function change(next: HoursEvent, label: string) {
  if (store.events)
    store.change(
      store.events.map(e => (e === event.value ? next : e)),
      label,
    )
}
function begin() {
  const day = new Date()
  day.setDate(day.getDate() + ((6 - day.getDay() + 7) % 7 || 7))
  const radio = station.plan?.parts.find(p => kindOf(p).transmits)
  const fresh: HoursEvent = {
    format: EVENT_FORMAT,
    version: 1,
    name: `Event ${(store.events?.length ?? 0) + 1}`,
    start: `${day.toISOString().slice(0, 10)}T09:00`,
    hours: 24,
    ...(radio && { activities: [{ part: radio.id, mode: 'voice' as const, from: '09:00', to: '21:00' }] }),
  }
  store.change([...(store.events ?? []), fresh], `new event ${fresh.name}`)
  index.value = store.events!.length - 1
}
function copy() {
  if (!event.value || !store.events) return
  store.change([...store.events, { ...event.value, name: `${event.value.name} (copy)` }], 'copy of an event')
  index.value = store.events.length - 1
}
function remove() {
  if (!event.value || !store.events) return
  store.change(
    store.events.filter(e => e !== event.value),
    `removal of event ${event.value.name}`,
  )
  index.value = 0
}

// What if the pack were larger, or smaller.
const packs = computed(() => station.plan?.parts.filter(p => kindOf(p).stores) ?? [])
const pack = computed(() => packs.value[0])
const capacityAh = computed(() => (pack.value as { capacityAh?: number } | undefined)?.capacityAh ?? 0)
const factor = ref(1)
const otherAh = computed(() => Math.round(capacityAh.value * factor.value * 10) / 10)
const tried = computed<Plan | null>(() => {
  const { plan } = station
  const sized = pack.value && kindOf(pack.value).sized
  if (!plan || factor.value === 1 || !sized) return plan
  const parts = plan.parts.map(p => (p.id === pack.value!.id ? sized(p, factor.value) : p)) as Plan['parts']
  return { ...plan, parts }
})
function intoPlan() {
  if (!tried.value || !pack.value) return
  takePlan(tried.value, `${asGiven(otherAh.value)} Ah in ${partName(tried.value, pack.value.id)}`)
  factor.value = 1
}

const { answer, odds, progress, problem, ask, askOdds, stopOdds } = useCourse()
watch(
  [tried, event, factor] as const,
  ([plan, now, size], [, before, sizeBefore]) => {
    if (plan && now) void ask(plan, now, now === before && size !== sizeBefore)
  },
  { immediate: true },
)
const got = computed(() => (answer.value?.ok ? answer.value : null))
/** Its first answer is about to come. */
const isEarly = computed(() => !answer.value && !problem.value)
const says = computed(() => odds.value?.words ?? got.value?.words ?? '')
const others = computed(() =>
  (got.value?.course.failures ?? []).map((f, i) => ({
    when: `${clockWords(event.value!, f.atH)} to ${clockWords(event.value!, f.untilH)}`,
    words: got.value!.failures[i]!,
  })),
)
const wh = (value: number) => `${Math.round(value)} Wh`

const { exportCsv, exportEvent, exportIcal, exportPdf } = useExports({
  plan: () => station.plan!,
  event: () => event.value!,
  course: () => got.value!.course,
  odds: () => odds.value?.odds ?? null,
})
function opened(next: HoursEvent) {
  store.change([...(store.events ?? []), next], `opened event ${next.name}`)
  index.value = store.events!.length - 1
}
/** A plan that was tried, put in as one step. */
function takePlan(next: Plan, label: string) {
  if (station.plan) station.edit(difference(station.plan, next), label)
}
const nameOf = (id: string) => (station.plan && partById(station.plan, id) ? partName(station.plan, id) : id)
onMounted(() => {
  factor.value = 1
})
</script>

<template>
  <div class="hours">
    <TopBar view="hours" />
    <p v-if="missing" class="missing">{{ missing }}</p>
    <main v-else-if="station.plan && store.events">
      <div class="heading">
        <h1>Hours</h1>
        <Select
          v-if="store.events.length > 1"
          :model-value="Math.min(index, store.events.length - 1)"
          :options="store.events.map((e, i) => ({ id: i, label: e.name }))"
          option-label="label"
          option-value="id"
          size="small"
          aria-label="Event"
          @update:model-value="v => (index = v)" />
        <InputText
          v-if="event"
          :model-value="event.name"
          size="small"
          aria-label="Name of the event"
          @change="
            e => change({ ...event!, name: (e.target as HTMLInputElement).value || 'Event' }, 'name of the event')
          " />
        <button class="plain" @click="begin">New event</button>
        <template v-if="event">
          <button class="plain" @click="copy">Copy</button>
          <button class="plain" @click="remove">Remove</button>
          <span class="saves">
            <button class="plain" :disabled="!got" @click="exportPdf">Print as PDF</button>
            <button class="plain" @click="exportEvent">Save as JSON</button>
            <button class="plain" :disabled="!got" @click="exportCsv">Timeline CSV</button>
            <button class="plain" @click="exportIcal">Calendar file</button>
          </span>
        </template>
        <span v-if="store.problem" class="problem" role="alert">{{ store.problem }}</span>
      </div>
      <p v-if="!event" class="none">
        Say what happens: who transmits, when, and what fills the packs. Then it says how long the station lasts.
        <Button label="Begin an event" @click="begin" />
      </p>
      <div v-else class="two">
        <div :class="{ early: isEarly }">
          <ScheduleEditor :plan="station.plan" :event="event" @change="change" />
          <OpenFiles :plan="station.plan" :event="event" @change="change" @opened="opened" />
        </div>
        <section class="course">
          <div v-if="answer && !answer.ok" class="faults" role="alert">
            <b>This cannot be worked out yet.</b>
            <p v-for="f in answer.faults" :key="f.path + f.wrong">{{ f.wrong }}; right would be {{ f.right }}.</p>
          </div>
          <template v-else>
            <h2 aria-live="polite" data-testid="says" :class="{ ends: got?.course.ends }">
              {{ says || 'Working it out…' }}
            </h2>
            <p v-if="problem" class="problem" role="alert">{{ problem }}</p>
            <LanesView :plan="station.plan" :event="event" @change="change" />
            <CourseCharts
              v-if="got"
              :plan="station.plan"
              :event="event"
              :course="got.course"
              :odds="odds?.odds ?? null"
              :dark="preferences.isDark" />
            <template v-if="got">
              <p v-if="pack" class="line">
                <label for="pack">{{ nameOf(pack.id) }}</label>
                <input
                  id="pack"
                  v-model.number="factor"
                  type="range"
                  min="0.4"
                  max="4"
                  step="0.1"
                  data-testid="pack-size" />
                <b>{{ asGiven(otherAh) }} Ah</b>
                <template v-if="factor !== 1">
                  <span class="quiet">in place of {{ asGiven(capacityAh) }} Ah</span>
                  <Button label="Put it into the plan" size="small" severity="secondary" @click="intoPlan" />
                  <button class="plain" @click="factor = 1">As it is</button>
                </template>
              </p>
              <p class="line">
                <Button
                  v-if="progress === null"
                  label="Odds in 300 weathers"
                  size="small"
                  severity="secondary"
                  @click="askOdds" />
                <template v-else>
                  <span role="status">{{ Math.round(100 * progress) }} % of the runs</span>
                  <button class="plain" @click="stopOdds">Stop</button>
                </template>
                <span v-for="c in odds?.odds.causes.slice(0, 3)" :key="c.cause + c.place" class="quiet">
                  {{ Math.round(100 * c.share) }} %: {{ nameOf(c.place) }} {{ c.cause }}
                </span>
              </p>
              <ul v-if="others.length > 1" class="failures">
                <li v-for="f in others.slice(0, 12)" :key="f.when + f.words">
                  <b>{{ f.when }}</b> {{ f.words }}
                </li>
              </ul>
              <p class="quiet">
                Loads take {{ wh(got.course.energy.loadsWh) }}, wires and converters {{ wh(got.course.energy.lossWh) }};
                the sun gives {{ wh(got.course.energy.sunWh) }}, mains and engine
                {{ wh(got.course.energy.suppliedWh) }}, packs {{ wh(got.course.energy.storesWh) }}.
              </p>
              <LastingTabs
                :plan="station.plan"
                :whole="station.whole ?? station.plan"
                :event="event"
                @plan="takePlan"
                @event="change" />
              <p v-for="s in got.sag" :key="s" class="quiet">{{ s }}.</p>
              <p v-for="a in got.assumed" :key="a" class="quiet">Assumed: {{ a }}.</p>
              <p class="quiet">
                Typical of the classes, not of your cells: measure one discharge before you trust it. Never charge
                lithium under 0 °C.
              </p>
            </template>
          </template>
        </section>
      </div>
    </main>
  </div>
</template>

<style scoped>
main {
  max-width: 92rem;
  margin: 0 auto;
  padding: 0.9rem 1.2rem 3rem;
}
.heading {
  display: flex;
  align-items: center;
  gap: 0.9rem;
  flex-wrap: wrap;
  margin-bottom: 0.8rem;
}
h1 {
  font-size: 1.6rem;
  letter-spacing: -0.01em;
}
.saves {
  display: flex;
  gap: 0.9rem;
  margin-left: auto;
}
.two {
  display: grid;
  grid-template-columns: 21rem minmax(0, 1fr);
  gap: 1.6rem;
}
h2 {
  font-size: 1.25rem;
  margin-bottom: 0.5rem;
  color: var(--pass);
}
h2.ends {
  color: var(--fail);
}
.line {
  display: flex;
  gap: 0.8rem;
  align-items: center;
  flex-wrap: wrap;
  margin: 0.4rem 0;
}
.line input[type='range'] {
  width: 14rem;
  accent-color: var(--copper);
}
.quiet {
  color: var(--ink-3);
}
.problem {
  color: var(--fail);
}
.faults {
  border-left: 3px solid var(--fail);
  padding: 0.4rem 0.8rem;
  background: var(--lit);
}
.failures {
  margin: 0.4rem 0;
  padding-left: 1.1rem;
}
.missing,
.none {
  padding: 2rem 0;
}
@media (max-width: 900px) {
  .two {
    grid-template-columns: minmax(0, 1fr);
  }
  .course {
    order: -1;
  }
  /* It stands below what comes, and would move under a finger. */
  .early {
    visibility: hidden;
  }
}
</style>
