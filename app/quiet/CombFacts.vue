<script setup lang="ts">
import { computed } from 'vue'
import type { Comb } from '#core/noise/comb/comb'
import { bandsHit, suspects } from '#core/noise/comb/bands'
import type { Heard } from '#core/noise/listen/listen'
import { asGiven, fixed } from '#core/units/number'
import { khz } from './khz'

/** What is known of one comb: its spacing, how sure, how it moves, and which parts it could come from. */
const props = defineProps<{
  comb: Comb
  /** Place in the picture's colours. */
  colour: number
  motion: Heard['motions'][number] | undefined
  switching: readonly { id: string; name: string; switchingHz: number }[]
}>()
const could = computed(() => suspects(props.comb, props.switching))
const bands = computed(() => bandsHit(props.comb))
const nameOfPart = (id: string) => props.switching.find(s => s.id === id)?.name ?? id
</script>

<template>
  <h3>
    <i :class="`c${colour}`" /> {{ khz(comb.spacingHz, 3) }} kHz
    <span>± {{ fixed(comb.uncertaintyHz, comb.uncertaintyHz < 10 ? 1 : 0) }} Hz apart</span>
  </h3>
  <p>
    {{ comb.lines.length }} lines, {{ comb.missing }} missing between them;
    {{ comb.confidence > 0.999 ? 'over 99.9' : fixed(100 * comb.confidence, 1) }} % sure that it is no chance.
  </p>
  <p v-if="comb.channelStep" class="likely">
    Stations keep to such steps too, and no converter runs so slow: no device is proven by it.
  </p>
  <p v-else-if="!comb.proven" class="likely">
    Likely, and not proven: so few tones, read so coarsely, can be even by chance. Look for more of them, or read them
    to 100 Hz.
  </p>
  <p v-if="comb.rippleHz">
    Its lines have sidebands {{ asGiven(comb.rippleHz) }} Hz apart: mains ripple on what feeds or loads the device.
  </p>
  <p v-if="comb.oddOnly">
    Odd multiples only of {{ khz(comb.fundamentalHz!, 3) }} kHz: a symmetric square wave makes them.
  </p>
  <p v-else-if="comb.fundamentalHz">
    Multiples {{ comb.lines[0]!.harmonic }} to {{ comb.lines.at(-1)!.harmonic }} of
    {{ khz(comb.fundamentalHz, 3) }} kHz.
  </p>
  <p v-if="motion">
    Wavers by {{ fixed(motion.waverHz, 0) }} Hz, drifts {{ fixed(motion.driftHzPerS, 1) }} Hz a second.
  </p>
  <p class="who">
    <template v-if="could.length"
      >Could be
      <b v-for="(s, i) in could" :key="s.id">{{ i ? ', or ' : '' }}{{ nameOfPart(s.id) }}</b>
      ({{ could[0]!.relation === 'twice' ? 'twice its frequency' : 'its frequency' }},
      {{ fixed(100 * could[0]!.offShare, 1) }} % off what the plan says).</template
    ><template v-else>No part of this plan is said to switch near it.</template>
  </p>
  <p class="quiet">
    {{ bands.length ? `Lines in ${bands.join(', ')}.` : 'In which bands it has lines cannot be told yet.' }}
  </p>
</template>

<style scoped>
h3 span {
  color: var(--ink-3);
  font-weight: 400;
}
h3 {
  font-size: 1.05rem;
  margin-bottom: 0.2rem;
}
h3 i {
  display: inline-block;
  width: 0.65rem;
  height: 0.65rem;
  border-radius: 2px;
  background: var(--fail);
}
h3 i.c1 {
  background: var(--note);
}
h3 i.c2 {
  background: var(--caution);
}
h3 i.c3 {
  background: var(--pass);
}
.who {
  margin: 0.3rem 0;
}
.likely {
  color: var(--ink-2);
}
.quiet {
  color: var(--ink-3);
}
</style>
