<script setup lang="ts">
import { onMounted, shallowRef, watch } from 'vue'
import type { HoursEvent } from '#core/hours/event'
import { clockWords } from '#core/hours/schedule'
import type { WhatIfAnswer } from '#core/hours/whatIf'
import type { Plan } from '#core/plan/schema'
import { fixed } from '#core/units/number'
import AtWork from './AtWork.vue'
import { useLasting } from './useLasting'

/** One thing changed at a time, side by side: how long it lasts then, and what it weighs. */
const props = defineProps<{ plan: Plan; whole: Plan; event: HoursEvent }>()
const emit = defineEmits<{ plan: [next: Plan, label: string]; event: [next: HoursEvent, label: string] }>()
const { ask, stop, progress, problem } = useLasting()
const got = shallowRef<{ answers: WhatIfAnswer[]; held: string | null } | null>(null)
async function work() {
  const answers = await ask('whatIf', props.plan, props.event, props.whole)
  if (answers) got.value = answers
}
onMounted(work)
watch([() => props.plan, () => props.event], work)

const ends = (a: WhatIfAnswer) => (a.holds ? 'to the end' : clockWords(props.event, a.lastsH))
const why = (a: WhatIfAnswer) => a.words.split('; then ')[1]?.replace(/\.$/, '') ?? ''
const weighs = ({ moreG, way, plan }: WhatIfAnswer) => {
  if (moreG === null || way || !plan || Math.abs(moreG) < 1) return ''
  return `${moreG > 0 ? '+' : '−'}${fixed(Math.abs(moreG) / 1000, 1)} kg`
}
const longest = (answers: readonly WhatIfAnswer[]) => Math.max(...answers.map(a => a.lastsH))
function take(a: WhatIfAnswer) {
  if (a.plan) emit('plan', a.plan, a.label)
  else if (a.event) emit('event', a.event, a.label)
}
</script>

<template>
  <AtWork :progress="progress" :problem="problem" words="Trying one thing after the other" @stop="stop" />
  <template v-if="got">
    <table data-testid="what-if">
      <thead>
        <tr>
          <th>With</th>
          <th>On the air until</th>
          <th>Then</th>
          <th class="n">Weighs</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="a in got.answers" :key="a.id" :class="{ now: a.id === 'as planned' }">
          <td>
            <b>{{ a.label }}</b>
          </td>
          <td data-label="On the air until">
            <span class="bar"
              ><i :style="{ width: `${(100 * a.lastsH) / longest(got.answers)}%` }" :class="{ holds: a.holds }"
            /></span>
            <span :class="{ holds: a.holds }">{{ ends(a) }}</span>
          </td>
          <td data-label="Then" class="quiet">{{ why(a) }}</td>
          <td data-label="Weighs" class="n">{{ weighs(a) }}</td>
          <td>
            <button
              v-if="(a.plan || a.event) && !a.way"
              class="plain"
              :aria-label="`Take: ${a.label}`"
              @click="take(a)">
              Take it
            </button>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="got.held" class="held">{{ got.held }}</p>
    <p class="quiet">A larger one is taken to be of the same make-up: its amps, mass and cost grow with it.</p>
  </template>
</template>

<style scoped src="../build/tables.css"></style>
<style scoped>
.bar {
  display: inline-block;
  width: 7rem;
  height: 0.7rem;
  background: var(--line);
  border-radius: 3px;
  margin-right: 0.6rem;
  vertical-align: -0.05rem;
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
span.holds {
  color: var(--pass);
  font-weight: 600;
}
tr.now td {
  background: var(--lit);
}
.quiet {
  color: var(--ink-3);
}
.held {
  margin-top: 0.6rem;
}
td {
  vertical-align: middle;
}
</style>
