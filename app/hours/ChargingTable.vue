<script setup lang="ts">
import { computed, onMounted, shallowRef, watch } from 'vue'
import { TRIED_DAYS, type Filling, type Resting, type Starter } from '#core/hours/refill'
import { restingWords, starterWords } from '#core/hours/tellLasting'
import type { HoursEvent } from '#core/hours/event'
import type { Plan } from '#core/plan/schema'
import { durationWords } from '#core/units/clock'
import { fixed } from '#core/units/number'
import AtWork from './AtWork.vue'
import { MONTH_NAMES } from './entries'
import { useLasting } from './useLasting'

/** Every way the packs are filled, from the end of their use, and how long they stay when it is gone. */
const props = defineProps<{ plan: Plan; event: HoursEvent }>()
const { ask, stop, progress, problem } = useLasting()
const got = shallowRef<{ fillings: Filling[]; resting: Resting[]; starters: Starter[] } | null>(null)
async function work() {
  const answer = await ask('charging', props.plan, props.event)
  if (answer) got.value = answer
}
onMounted(work)
watch([() => props.plan, () => props.event], work)

const dimMonths = computed(
  () => got.value?.fillings.filter(f => f.by === 'sun' && f.listeningFullH === null).length ?? 0,
)
const name = (f: Filling) => (f.month ? `Sun in ${MONTH_NAMES[f.month - 1]}` : f.name)
const hours = (h: number | null) => (h === null ? `not in ${TRIED_DAYS} days` : durationWords(h))
/** Longer than this is a maintainer, not a charger. */
const TOO_SLOW_H = 48
function says({ fullH, listeningFullH, by }: Filling): string {
  if (listeningFullH === null) {
    if (fullH === null || (by !== 'sun' && fullH > TOO_SLOW_H))
      return 'too small for these packs: a maintainer, no charger'
    return by === 'sun' ? '' : 'idle loads take what it gives: switch them off'
  }
  return by !== 'sun' && listeningFullH > TOO_SLOW_H ? 'slow: it holds a full pack, it does not fill one' : ''
}
</script>

<template>
  <AtWork :progress="progress" :problem="problem" words="Filling the packs by each charger and month" @stop="stop" />
  <template v-if="got">
    <p v-if="!got.fillings.length">Nothing in the plan fills its packs in place.</p>
    <table v-else data-testid="charging">
      <thead>
        <tr>
          <th>Filled by</th>
          <th class="n">At first</th>
          <th class="n">Full, loads off</th>
          <th class="n">Full, loads idle</th>
          <th />
        </tr>
      </thead>
      <tbody>
        <tr v-for="f in got.fillings" :key="name(f)">
          <td>
            <b>{{ name(f) }}</b> <span v-if="f.by === 'engine'" class="quiet">engine running</span>
          </td>
          <td data-label="At first" class="n">{{ fixed(f.firstA, 1) }} A{{ f.by === 'sun' ? ' at best' : '' }}</td>
          <td data-label="Full, loads off" class="n">{{ hours(f.fullH) }}</td>
          <td data-label="Full, loads idle" class="n">{{ hours(f.listeningFullH) }}</td>
          <td class="quiet">{{ says(f) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="dimMonths" class="quiet">
      {{ dimMonths === 12 ? 'In no month does the sun fill them' : `In ${dimMonths} months the sun never fills them` }}
      while the loads stand idle: switch off what is not used.
    </p>
    <p v-for="r in got.resting" :key="r.part">{{ restingWords(plan, r) }}.</p>
    <p v-for="s in got.starters" :key="s.part">{{ starterWords(plan, s) }}.</p>
    <p class="quiet">
      From the end of use to full, in the site's usual warmth. Stay by a pack that charges; lithium never under 0 °C;
      flooded cells vent gas.
    </p>
  </template>
</template>

<style scoped src="../build/tables.css"></style>
<style scoped>
.quiet {
  color: var(--ink-3);
}
</style>
