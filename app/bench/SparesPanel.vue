<script setup lang="ts">
import { computed } from 'vue'
import { singleFailures, sparesOf, type Spare } from '#core/commission/spares'
import { nameOf, partById } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import { percent } from '#core/units/show'
import { listed } from '#core/units/words'
import { asGiven, fixed } from '#core/units/number'
import { download } from '../shell/download'

/** What to carry: the spares that cover most at least weight, and what single failure takes what off. */
defineOptions({ inheritAttrs: false })
const props = defineProps<{ plan: Plan }>()
const kit = computed(() => sparesOf(props.plan))
const failures = computed(() => singleFailures(props.plan))
const name = (id: string) => nameOf(partById(props.plan, id)!)
/** Where most of it is covered: what comes after is for those who do not walk. */
const MOST = 0.8
const isMost = (s: Spare) => s.together - s.share < MOST
const weightG = computed(() => kit.value.filter(isMost).reduce((sum, s) => sum + (s.massG ?? 0), 0))
const covered = computed(() => kit.value.findLast(isMost)?.together ?? 0)
const grams = (g: number) => (g < 1000 ? `${asGiven(g)} g` : `${fixed(g / 1000, 1)} kg`)
const exportList = () =>
  download(
    'grab-list.txt',
    [`${props.plan.name}: spares`, ...kit.value.filter(isMost).map(s => `[ ] ${s.count} × ${s.what}`)].join('\n'),
    'text/plain',
  )
</script>

<template>
  <p v-if="!kit.length">Nothing of this plan takes a radio off by itself.</p>
  <template v-else>
    <p class="answer" data-testid="spares-answer">
      {{ grams(weightG) }} of spares cover {{ percent(covered) }} of what takes a radio off the air.
    </p>
    <table>
      <thead>
        <tr>
          <th>Spare</th>
          <th class="n">Take</th>
          <th class="n">Weighs</th>
          <th class="n">Covers</th>
          <th class="n">Together</th>
          <th>Stands in for</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="s in kit" :key="s.id" :class="{ rest: !isMost(s) }">
          <td>
            <b>{{ s.what }}</b>
          </td>
          <td class="n" data-label="take">{{ s.count }}</td>
          <td class="n" data-label="weighs">{{ s.massG === null ? 'not said' : grams(s.massG) }}</td>
          <td class="n" data-label="covers">{{ percent(s.share) }}</td>
          <td class="n" data-label="together">{{ percent(s.together) }}</td>
          <td data-label="stands in for">{{ s.covers.join(', ') }}</td>
        </tr>
      </tbody>
    </table>
    <Button label="Grab list" size="small" severity="secondary" @click="exportList" />
    <h2>What takes what off</h2>
    <ul>
      <li v-for="f in failures" :key="f.what">
        {{ f.what }}: <b>{{ listed(f.takes.map(name)) }}</b>
      </li>
    </ul>
    <p class="quiet">
      A fuse is taken to fail five times as often as a part, a lead three times: judgement, not counted. Two ways to a
      load count as one way that is left, whatever volts it gives.
    </p>
  </template>
</template>

<style scoped src="../build/tables.css"></style>
<style scoped>
.answer {
  font-size: 1.15rem;
  font-weight: 600;
  margin-bottom: 0.7rem;
}
.rest td {
  color: var(--ink-3);
}
h2 {
  font-size: 1rem;
  margin: 1.2rem 0 0.4rem;
}
ul {
  margin: 0;
  padding-left: 1.1rem;
}
.quiet {
  color: var(--ink-3);
  margin-top: 0.8rem;
}
table {
  margin-bottom: 0.8rem;
}
</style>
