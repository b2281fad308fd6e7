<script setup lang="ts">
import { computed } from 'vue'
import { cureLabel, similarCures, type Cure, type Suggestion } from '#core/noise/cure'
import { receiverOf, type Logbook, type NoiseCase } from '#core/noise/logbook'
import type { CaseReport } from '#core/noise/report'
import { useLogbook } from '../stores/logbook'

/** What cures the cause that is believed, and what helped on such a device before. */
const props = defineProps<{ noiseCase: NoiseCase; report: CaseReport; logbook: Logbook }>()
const emit = defineEmits<{ intoPlan: [suggestion: Suggestion]; tried: [cure: Partial<Cure>] }>()
const log = useLogbook()

function helped({ what, helped, times, bestDb }: ReturnType<typeof similarCures>[number]) {
  const best = bestDb === null ? '' : ` (${Math.round(bestDb)} dB)`
  return `${cureLabel(what)} helped ${helped} of ${times} times${best}`
}
const similar = computed(() => {
  const first = props.report.ranked[0]?.pair.device
  const kind = props.report.reasoned.causes.devices.find(d => d.id === first && d.id !== 'outside')?.kind
  return kind ? similarCures(log.tried, kind, receiverOf(props.logbook, props.noiseCase.radio)) : []
})
</script>

<template>
  <section class="cure">
    <h2>What cures it</h2>
    <ol>
      <li v-for="s in report.suggestions" :key="s.title">
        <div>
          <b>{{ s.title }}</b>
          <p>{{ s.do }}</p>
          <p v-if="s.caution" class="wrong">{{ s.caution }}</p>
        </div>
        <div class="buttons">
          <span class="quiet">{{ s.cost ? `about ${s.cost} €` : 'free' }}</span>
          <Button v-if="s.patch" label="Into the plan" size="small" severity="secondary" @click="emit('intoPlan', s)" />
          <Button
            label="Log it"
            size="small"
            severity="secondary"
            @click="emit('tried', { what: s.what, where: s.where })" />
        </div>
      </li>
    </ol>
    <p v-if="similar.length" class="quiet">
      In this logbook, on the same kind of device:
      {{ similar.map(helped).join('; ') }}.
    </p>
  </section>
</template>

<style scoped>
.cure {
  margin-top: 1.3rem;
}
.cure h2 {
  font-size: 1.2rem;
}
.cure ol {
  list-style: none;
  padding: 0;
  margin: 0.5rem 0;
  border-top: 1px solid var(--line);
}
.cure li {
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 1rem;
  padding: 0.55rem 0;
  border-bottom: 1px solid var(--line);
}
.cure li p {
  color: var(--ink-2);
}
.buttons {
  display: flex;
  gap: 0.5rem;
  align-items: center;
}
.quiet {
  color: var(--ink-3);
}
.cure li .wrong {
  color: var(--fail);
}
@media (max-width: 760px) {
  .cure li {
    grid-template-columns: 1fr;
  }
}
@media print {
  .buttons {
    display: none !important;
  }
}
</style>
