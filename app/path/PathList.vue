<script setup lang="ts">
import { computed } from 'vue'
import type { Severity } from '#core/checks/check'
import { SEVERITIES } from '#core/checks/check'
import { conductorName } from '#core/conductor/resistance'
import { isLoad, kindOf, needs, type LoadPart, type Part } from '#core/kinds/index'
import { nameOf, partIdOf } from '#core/plan/find'
import { terminalName } from '#core/plan/names'
import type { Lead, Plan } from '#core/plan/schema'
import { showLength, type Units } from '#core/units/quantity'
import type { NamedPoint } from '#core/circuit/point'
import type { Judged } from '../workers/answers'
import SeverityMark from '../findings/SeverityMark.vue'
import { axisX, type Axis } from '#core/picture/axis'
import { layoutPath } from '#core/picture/layout'
import { arrivalHeard, arrivalShapes, tonesOf } from '#core/picture/scene/arrival'
import { boxLines, ownLine } from '#core/picture/words'
import { cautionsAt } from '#core/sheets/cautions'
import ShapeView from './ShapeView'
import Icon from '../shell/Icon.vue'
import { asGiven } from '#core/units/number'

/**
 * The path for a narrow screen, from top to bottom as current meets it: a card for each source and what stands between,
 * then one for each load with its way, its window and what arrives.
 */
const props = defineProps<{
  plan: Plan
  judged: Judged | null
  point: NamedPoint | null
  width: number
  selected: string | null
  units: Units
  /** What something held would be let go on. */
  lit?: ReadonlySet<string>
}>()
const emit = defineEmits<{ select: [id: string]; edit: [id: string]; add: [terminal: string] }>()

const layout = computed(() => layoutPath(props.plan, props.judged?.verdict.arrivals ?? {}, 900))
const parts = computed(() => new Map(props.plan.parts.map(p => [p.id, p])))
const leads = computed(() => new Map(props.plan.leads.map(l => [l.id, l])))
const axis = computed<Axis>(() => ({ ...layout.value.axis, x: 0, width: props.width - 70 }))
const worst = (ids: string[]): Severity | 'passed' => {
  const found = props.judged?.verdict.findings.filter(f => ids.includes(f.place)).map(f => f.severity) ?? []
  return SEVERITIES.find(s => found.includes(s)) ?? 'passed'
}
function arrivalOf(loadId: string) {
  const { verdict } = props.judged!
  return arrivalShapes({
    axis: axis.value,
    y: 30,
    window: needs(parts.value.get(loadId) as LoadPart),
    arrival: verdict.arrivals[loadId] ?? null,
    nowV: props.point?.nodes[loadId]?.volts ?? null,
    ...tonesOf(verdict.findings, loadId),
    compact: false,
  })
}
/** The dangers of all parts on a way, each once. */
const mindsOn = (chain: readonly string[]) => [
  ...new Set(chain.flatMap(id => (parts.value.has(id) ? cautionsAt(props.plan, parts.value.get(id)!) : []))),
]
function words(id: string): string {
  const part = parts.value.get(id)
  if (part) return nameOf(part)
  const lead = leads.value.get(id)!
  const fuses = (lead.inline ?? []).map(i =>
    i.kind === 'fuse' || i.kind === 'breaker' ? `${i.kind} ${asGiven(i.ratedA)} A` : i.kind,
  )
  return [`${conductorName(lead.conductor)} ${showLength(lead.lengthM, props.units)}`, ...fuses].join(', ')
}
const heard = (id: string) =>
  `what arrives at ${words(id)}: ${arrivalHeard(props.judged?.verdict.arrivals[id] ?? null)}`
/** Sources and what stands between, in the order in which current meets them; loads come after. */
const before = computed(() => {
  const rank = { source: 0, between: 1, load: 2 }
  return props.plan.parts.filter(p => !isLoad(p)).sort((a, b) => rank[kindOf(a).role] - rank[kindOf(b).role])
})
const about = (p: Part) => [...boxLines(props.plan, p), ownLine(p)].filter(Boolean).join(' · ')
/** Leads that leave a part toward what is no load: those to loads stand on the loads' own cards. */
const otherEnd = ({ from, to }: Lead, id: string) => (partIdOf(from) === id ? partIdOf(to) : partIdOf(from))
const out = (p: Part) =>
  props.plan.leads.filter(
    l => partIdOf(l.from) === p.id && parts.value.has(partIdOf(l.to)) && !isLoad(parts.value.get(partIdOf(l.to))!),
  )
</script>

<template>
  <div class="cards">
    <article
      v-for="p in before"
      :key="p.id"
      class="small"
      :class="{ selected: selected === p.id, lit: lit?.has(p.id) }"
      :data-part="p.id"
      @click="emit('select', p.id)">
      <header>
        <SeverityMark v-if="judged" :severity="worst([p.id])" :size="20" />
        <h3>{{ nameOf(p) }}</h3>
        <span>{{ kindOf(p).label }}</span>
        <button class="plain" :aria-label="`Edit ${nameOf(p)}`" @click.stop="emit('edit', p.id)">
          <Icon name="edit" />
        </button>
      </header>
      <p v-if="about(p)" class="about">{{ about(p) }}</p>
      <p v-if="out(p).length" class="way">
        <button
          v-for="lead in out(p)"
          :key="lead.id"
          :data-lead="lead.id"
          :class="{ on: selected === lead.id }"
          @click.stop="emit('edit', lead.id)">
          {{ words(lead.id) }} › {{ nameOf(parts.get(otherEnd(lead, p.id))!)
          }}<SeverityMark v-if="worst([lead.id]) !== 'passed'" :severity="worst([lead.id])" :size="13" />
        </button>
      </p>
      <template v-if="selected === p.id">
        <p v-for="line in mindsOn([p.id])" :key="line" class="mind"><b>Mind</b> {{ line }}</p>
      </template>
    </article>
    <article
      v-for="row in layout.rows.filter(r => r.kind === 'load')"
      :key="row.id"
      :class="{ selected: selected === row.id, lit: lit?.has(row.id) }"
      :data-part="row.id"
      @click="emit('select', row.id)">
      <header>
        <SeverityMark v-if="judged" :severity="worst([row.id])" :size="20" />
        <h3>{{ nameOf(parts.get(row.id)!) }}</h3>
        <span>{{ ownLine(parts.get(row.id)!) }}</span>
        <button class="plain" :aria-label="`Edit ${nameOf(parts.get(row.id)!)}`" @click.stop="emit('edit', row.id)">
          <Icon name="edit" />
        </button>
      </header>
      <svg
        v-if="judged && isLoad(parts.get(row.id)!)"
        :width="width - 70"
        height="58"
        role="img"
        :aria-label="heard(row.id)">
        <text v-for="tick in axis.ticks" :key="tick" :x="axisX(axis, tick)" y="9" class="tick" text-anchor="middle">
          {{ tick }}
        </text>
        <ShapeView :shapes="[arrivalOf(row.id)]" />
      </svg>
      <p class="way">
        <template v-for="(id, i) in row.chain" :key="id"
          ><span v-if="i"> › </span
          ><button
            :data-lead="leads.has(id) ? id : null"
            :class="{ on: selected === id }"
            @click.stop="emit('edit', id)">
            {{ words(id)
            }}<SeverityMark
              v-if="worst([id]) !== 'passed' && id !== row.id"
              :severity="worst([id])"
              :size="13" /></button
        ></template>
      </p>
      <template v-if="selected === row.id">
        <p v-for="line in mindsOn(row.chain)" :key="line" class="mind"><b>Mind</b> {{ line }}</p>
      </template>
    </article>
    <button
      v-for="row in layout.rows.filter(r => r.kind === 'free')"
      :key="row.id"
      class="free"
      @click="emit('add', row.id)">
      + add a load on {{ terminalName(plan, row.id) }}
    </button>
  </div>
</template>

<style scoped>
.cards {
  display: grid;
  gap: 0.6rem;
  padding: 0.7rem;
}
article {
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: 10px;
  padding: 0.7rem 0.8rem;
  min-width: 0;
}
article.lit {
  background: var(--lit);
}
article.selected {
  border-color: var(--focus);
}
header {
  display: flex;
  gap: 0.6rem;
  align-items: center;
}
h3 {
  font-size: 1.05rem;
}
header span {
  color: var(--ink-3);
  flex: 1;
}
.tick {
  font-size: 10.5px;
  fill: var(--ink-3);
}
.way {
  color: var(--ink-2);
  line-height: 1.9;
}
.way button {
  border: 0;
  background: var(--choice);
  border-radius: 5px;
  padding: 0.15rem 0.4rem;
  margin-block: 2px;
  display: inline-flex;
  gap: 0.3rem;
  align-items: center;
  text-align: left;
}
.way button.on {
  outline: 2px solid var(--focus);
}
.about {
  color: var(--ink-2);
}
.cards button {
  min-height: 44px;
  min-width: 44px;
}
.free {
  border: 1.5px dashed var(--line-2);
  border-radius: 10px;
  background: none;
  padding: 0.8rem;
  color: var(--ink-2);
}
</style>
