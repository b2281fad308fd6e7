<script setup lang="ts">
import { computed } from 'vue'
import type { NoiseCase } from '#core/noise/logbook'
import type { CaseReport } from '#core/noise/report'
import { isPart } from '#core/noise/suspect'

/** Why it is believed, what was found, what was tried. */
const props = defineProps<{ noiseCase: NoiseCase; report: CaseReport; hasSurveys: boolean }>()
const emit = defineEmits<{ strike: [observationId: string]; cure: [] }>()
const devices = computed(() => props.report.reasoned.causes.devices.filter(d => isPart(d.id)))
const day = (at: string) =>
  at ? new Date(at).toLocaleString('en-GB', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit' }) : ''
</script>

<template>
  <div class="evidence-column">
    <section v-if="report.reasoned.evidence.length || report.prior.length">
      <h3>Why</h3>
      <ul class="evidence">
        <li v-for="e in report.forIt" :key="e.index">
          <i class="for">+</i>{{ e.words }}<span>{{ e.about }}</span>
        </li>
        <li v-for="e in report.against" :key="e.index">
          <i class="against">−</i>{{ e.words }}<span>{{ e.about }}</span>
        </li>
        <li v-for="e in report.neutral" :key="e.index" class="prior">
          <i>=</i>{{ e.words }}<span>tells little beside the rest</span>
        </li>
        <li v-for="p in report.prior" :key="p" class="prior"><i>·</i>{{ p }}<span>the plan</span></li>
      </ul>
    </section>
    <p v-if="report.reasoned.causes.leftOut.length" class="quiet">
      Reasoned about are the {{ devices.length }} likeliest devices; {{ report.reasoned.causes.leftOut.length }} more
      are left out.
    </p>
    <section>
      <h3>Log</h3>
      <p v-if="!noiseCase.observations.length" class="quiet">
        {{ !noiseCase.practice && hasSurveys ? 'Nothing beyond the survey yet.' : 'Nothing tried yet.' }}
      </p>
      <ol class="log">
        <li v-for="(o, i) in noiseCase.observations" :key="o.id">
          {{ report.log[i]!.words
          }}<span>{{
            [day(o.at), o.who, o.allowedBy && `possible by ${o.allowedBy}`, o.note].filter(Boolean).join(' · ')
          }}</span
          ><button
            class="plain strike"
            :aria-label="`Strike out: ${report.log[i]!.words}`"
            @click="emit('strike', o.id)">
            ×
          </button>
        </li>
      </ol>
    </section>
    <section v-if="noiseCase.cures.length || !noiseCase.practice">
      <h3>Cures <button class="plain" @click="emit('cure')">Log a cure</button></h3>
      <ol class="log">
        <li v-for="c in report.cures" :key="c.cure.id">
          {{ c.words
          }}<span>{{
            [c.did, c.cure.sideEffects, c.cure.kept ? 'kept' : 'not kept', c.cure.cost ? `${c.cure.cost} €` : '']
              .filter(Boolean)
              .join(' · ')
          }}</span>
        </li>
      </ol>
    </section>
  </div>
</template>

<style scoped>
.evidence-column {
  display: grid;
  gap: 1.1rem;
}
h3 {
  font-size: 0.93rem;
  color: var(--ink-2);
  font-weight: 600;
  display: flex;
  justify-content: space-between;
  align-items: center;
  margin-bottom: 0.25rem;
  border-bottom: 1px solid var(--line);
}
.quiet {
  color: var(--ink-3);
}
.evidence,
.log {
  list-style: none;
  padding: 0;
  margin: 0;
  display: grid;
  gap: 0.35rem;
}
.evidence li {
  padding-left: 1.1rem;
  position: relative;
  line-height: 1.3;
}
.evidence i {
  position: absolute;
  left: 0;
  font-style: normal;
  font-weight: 700;
  color: var(--ink-3);
}
.evidence .for {
  color: var(--pass);
}
.evidence .against {
  color: var(--fail);
}
.evidence span,
.log span {
  display: block;
  color: var(--ink-3);
  font-size: 0.85rem;
}
.evidence .prior {
  color: var(--ink-2);
}
.log li {
  position: relative;
  padding-right: 1.6rem;
  line-height: 1.3;
}
.strike {
  position: absolute;
  right: 0;
  top: -0.2rem;
  padding: 0.1rem 0.45rem;
  font-size: 1.05rem;
}
@media print {
  .strike,
  h3 button {
    display: none;
  }
}
</style>
