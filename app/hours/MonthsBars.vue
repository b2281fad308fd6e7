<script setup lang="ts">
import { onMounted, shallowRef, watch } from 'vue'
import type { HoursEvent } from '#core/hours/event'
import type { Month } from '#core/hours/months'
import type { Plan } from '#core/plan/schema'
import { percent } from '#core/units/show'
import AtWork from './AtWork.vue'
import { MONTH_NAMES } from './entries'
import { useLasting } from './useLasting'

/** Month by month, how much of the transmit time planned the sun alone carries for ever. */
const props = defineProps<{ plan: Plan; event: HoursEvent }>()
const { ask, stop, progress, problem } = useLasting()
const got = shallowRef<Month[] | null>(null)
async function work() {
  const answer = await ask('months', props.plan, props.event)
  if (answer) got.value = answer
}
onMounted(work)
watch([() => props.plan, () => props.event], work)

const MOST = 1.5
const width = (duty: number | null) => `${(100 * Math.min(MOST, duty ?? 0)) / MOST}%`
function words(duty: number | null): string {
  if (duty === null) return 'not even listening'
  return duty >= 1 ? `all of it, for ever (${percent(duty)})` : `${percent(duty)} of it`
}
</script>

<template>
  <AtWork :progress="progress" :problem="problem" words="Going through the year" @stop="stop" />
  <template v-if="got">
    <p>How much of the transmit time planned the sun alone carries, day after day, without mains and engine:</p>
    <ol data-testid="months">
      <li v-for="m in got" :key="m.month">
        <span>{{ MONTH_NAMES[m.month - 1] }}</span>
        <span class="bar"
          ><i :style="{ width: width(m.duty) }" :class="{ holds: (m.duty ?? 0) >= 1 }" /><u :style="{ left: width(1) }"
        /></span>
        <span :class="{ never: m.duty === null }">{{ words(m.duty) }}</span>
      </li>
    </ol>
    <p class="quiet">The line marks what is planned. In the usual weather of the event: a week of rain is worse.</p>
  </template>
</template>

<style scoped>
ol {
  list-style: none;
  padding: 0;
  margin: 0.5rem 0;
}
li {
  display: grid;
  grid-template-columns: 6rem minmax(6rem, 22rem) 1fr;
  gap: 0.8rem;
  align-items: center;
  padding: 0.15rem 0;
}
.bar {
  position: relative;
  height: 0.8rem;
  background: var(--line);
  border-radius: 3px;
}
.bar i {
  display: block;
  height: 100%;
  background: var(--copper);
  border-radius: 3px;
}
.bar i.holds {
  background: var(--pass);
}
.bar u {
  position: absolute;
  top: -0.15rem;
  bottom: -0.15rem;
  border-left: 2px solid var(--ink);
}
.never,
.quiet {
  color: var(--ink-3);
}
@media (max-width: 560px) {
  li {
    grid-template-columns: 5.5rem 1fr;
  }
  li > :last-child {
    grid-column: 2;
  }
}
</style>
