<script setup lang="ts">
import { computed } from 'vue'
import { leadById, nameOf } from '#core/plan/find'
import { partName } from '#core/plan/names'
import type { Plan } from '#core/plan/schema'
import type { ConductorInShort, Short } from '#core/short/study'
import { currentWords, deviceWords, isBad, openingWords, outcomeOf, placeWords } from '#core/short/words'
import { asGiven } from '#core/units/number'
import { doseBrief, seconds, shortAmpsBrief } from '#core/units/show'

/** One dead short: what flows, what opens when, what the wires on the way take up. */
const props = defineProps<{ plan: Plan; short: Short }>()
const outcome = computed(() => outcomeOf(props.short))
const KEEP_COVERED = 'Keep this length short, covered and out of reach.'

/** Of what its conductor withstands, %: the length of its bar, which shows at all. */
function heatShare(c: ConductorInShort): number {
  if (c.i2t !== null) return Math.min(100, Math.max(1.5, (100 * c.i2t) / c.withstandsI2t))
  return c.survives ? 4 : 100
}
</script>

<template>
  <div>
    <h2>A dead short at {{ placeWords(plan, short) }}</h2>
    <p class="figure">
      <b>{{ currentWords(short) }}</b> prospective<template v-if="short.from.length">
        from
        {{
          short.from
            .map(f => `${partName(plan, f.source)} ${shortAmpsBrief(f.amps)}${f.limited ? ' (its limit)' : ''}`)
            .join(', ')
        }}</template
      >
    </p>
    <p v-if="!short.known" class="quiet">
      The internal resistance of a source is not said, so this is only what the rest of the path lets through.
    </p>
    <p class="verdict" :class="{ bad: isBad(short), warn: short.selective === false || outcome === 'at a post' }">
      <template v-if="outcome === 'dead'">Nothing feeds this point.</template>
      <template v-else-if="short.opens[0]"
        >{{ deviceWords(plan, short.opens[0]) }} opens first, after {{ seconds(short.opens[0].fastestS) }} to
        {{ seconds(short.opens[0].slowestS) }}.<template v-if="!short.survives">
          A conductor burns before all that feeds it is cut off.</template
        ><template v-else-if="outcome === 'at a post'">
          What stands at this post goes on: nothing can open before it. {{ KEEP_COVERED }}</template
        ><template v-else-if="outcome === 'stays'"> What else feeds it goes on.</template></template
      >
      <template v-else-if="short.clears"
        >Nothing has to open: the source limits itself to what the conductors carry.</template
      >
      <template v-else
        >Nothing opens here{{
          outcome === 'at a post' ? `: it is before the first fuse. ${KEEP_COVERED}` : '.'
        }}</template
      >
    </p>
    <template v-if="short.opens.length > 1"
      ><h3>Then</h3>
      <ol>
        <li v-for="(o, i) in short.opens.slice(1)" :key="i">{{ openingWords(plan, o) }}</li>
      </ol></template
    >
    <p v-if="short.opensWith.length" class="warn">
      Not alone: the {{ short.opensWith.map(d => deviceWords(plan, d)).join(', the ') }} may open before or with it, and
      what hangs behind goes dark.
    </p>
    <p v-else-if="short.selective" class="good">Alone: every fuse farther up is slower.</p>
    <p v-for="o in short.opens.filter(o => o.overInterrupting)" :key="o.place" class="bad">
      {{ shortAmpsBrief(o.amps) }} is more than the {{ deviceWords(plan, o) }} can break.
    </p>
    <template v-if="short.conductors.length">
      <h3>What the wires on the way take up</h3>
      <div v-for="c in short.conductors" :key="c.lead" class="conductor">
        <span>{{ nameOf(leadById(plan, c.lead)!) }}</span><span class="n">{{
          c.i2t === null
            ? c.survives
              ? 'carries it'
              : 'for ever'
            : `${doseBrief(c.i2t)} of ${doseBrief(c.withstandsI2t)} A²s`
        }}</span>
        <div class="bar">
          <i :class="{ bad: !c.survives }" :style="{ width: `${heatShare(c)}%` }" />
        </div>
        <em v-if="!c.survives">does not survive</em>
      </div>
    </template>
    <p v-for="b in short.bms" :key="b.battery" class="quiet">
      The management system of {{ partName(plan, b.battery) }} would likely trip above {{ asGiven(b.tripA) }} A. It is
      not counted on.
    </p>
  </div>
</template>

<style scoped>
.n {
  text-align: right;
  white-space: nowrap;
}
h2 {
  font-size: 1.12rem;
  line-height: 1.25;
}
h3 {
  font-size: 0.9rem;
  margin: 1.1rem 0 0.3rem;
  color: var(--ink-3);
  font-weight: 600;
}
.figure {
  margin-top: 0.35rem;
  color: var(--ink-2);
}
.figure b {
  font-size: 1.45rem;
  color: var(--ink);
  letter-spacing: -0.01em;
}
.verdict {
  margin-top: 0.5rem;
  font-weight: 650;
  color: var(--pass);
}
.verdict.warn {
  color: var(--ink);
}
.verdict.bad,
.bad {
  color: var(--danger);
}
.warn {
  color: var(--caution);
}
.good {
  color: var(--pass);
}
.quiet {
  color: var(--ink-3);
  margin-top: 0.5rem;
}
ol {
  margin: 0;
  padding-left: 1.2rem;
}
.conductor {
  display: grid;
  grid-template-columns: 1fr auto;
  gap: 0 0.6rem;
  padding: 0.25rem 0;
}
.conductor em {
  color: var(--danger);
  font-style: normal;
  font-weight: 600;
}
.bar {
  grid-column: 1 / -1;
  height: 6px;
  background: var(--choice);
  border-radius: 3px;
  overflow: hidden;
}
.bar i {
  display: block;
  height: 100%;
  background: var(--copper);
}
.bar i.bad {
  background: var(--danger);
}
</style>
