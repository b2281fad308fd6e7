<script setup lang="ts">
import { computed } from 'vue'
import type { Suspect } from '#core/noise/suspect'
import { receiverOf, type Logbook } from '#core/noise/logbook'
import { rowWords, type Survey } from '#core/noise/survey/survey'
import { noiseIntoPlan } from '#core/noise/survey/surveyEvidence'
import { deviceNoise, surveyResults, type CellResult } from '#core/noise/survey/surveyResults'
import type { Patch } from '#core/edit/patch'
import type { Fault } from '#core/plan/faults'
import type { Plan } from '#core/plan/schema'
import { asGiven, fixed } from '#core/units/number'

/**
 * The picture of the bands: the floor with everything off, what is normal for here, and how far each state lifts it.
 */
const props = defineProps<{
  survey: Survey
  logbook: Logbook
  devices: Suspect[]
  plan: Plan
  edit: (patch: Patch, label: string) => Fault[]
}>()
function heardWords({ bands, quietUpToA }: { bands: readonly string[]; quietUpToA?: number }): string {
  const heard = bands.length ? `heard on ${bands.join(', ')}` : ''
  const quiet = quietUpToA === undefined ? '' : `quiet up to ${asGiven(quietUpToA)} A`
  return [heard, quiet].filter(Boolean).join(', ') || 'not heard'
}
// What is known of each device, worth keeping where the checks see it.
const known = computed(() =>
  deviceNoise(props.survey, props.logbook.site, receiverOf(props.logbook, props.survey.radio)).flatMap(found => {
    const patch = noiseIntoPlan(props.plan, found)
    const name = props.devices.find(d => d.id === found.device)?.name
    return patch && name
      ? [
          {
            ...found,
            patch,
            name,
            words: `${name}: ${heardWords(found)}`,
          },
        ]
      : []
  }),
)
const results = computed(() =>
  surveyResults(props.survey, props.logbook.site, receiverOf(props.logbook, props.survey.radio)),
)
const COLOURS = ['--fail', '--note', '--caution', '--pass', '--danger', '--ink-2']
const rows = computed(() =>
  props.survey.rows
    .filter(r => results.value.cells.some(c => c.row === r.id))
    .map((r, i) => ({ row: r, words: rowWords(r, props.devices), colour: `var(${COLOURS[i % COLOURS.length]})` })),
)
const LOW = -130
const HIGH = -60
const x = (dbm: number) => `${Math.max(0, Math.min(100, (100 * (dbm - LOW)) / (HIGH - LOW)))}%`
const bands = computed(() =>
  props.survey.columns
    .filter(c => results.value.floors.some(f => f.column === c.id))
    .map(c => {
      const floor = results.value.floors.find(f => f.column === c.id)!
      const cells = results.value.cells.filter(r => r.column === c.id)
      return {
        id: c.id,
        floor,
        cells: rows.value.flatMap(r => {
          const cell = cells.find(x => x.row === r.row.id)
          return cell ? [{ ...cell, ...r }] : []
        }),
      }
    }),
)
const cost = ({ costDb, errorDb, isSure }: Pick<CellResult, 'costDb' | 'errorDb' | 'isSure'>) =>
  isSure ? `costs ${Math.round(costDb)} ± ${Math.round(errorDb)} dB` : 'nothing told from chance'
const dbm = (level: number) => fixed(level, 0)
const VERDICTS = {
  end: '',
  normal: 'normal for here',
  quieter: 'quieter than usual here',
  more: 'more than usual here: not all of it is these devices',
} as const
const worst = computed(() => results.value.cells.filter(c => c.isSure).sort((a, b) => b.costDb - a.costDb)[0])
</script>

<template>
  <section v-if="bands.length" class="costs">
    <h2 v-if="worst">
      {{ rows.find(r => r.row.id === worst!.row)?.words }} costs {{ Math.round(worst.costDb) }} dB on {{ worst.column }}
    </h2>
    <h2 v-else>Nothing read so far lifts the floor</h2>
    <p class="key">
      <span class="normal">normal for {{ logbook.site.replace('-', ' ') }}</span
      ><span class="floor">everything off</span
      ><span v-for="r in rows" :key="r.row.id" class="row" :style="{ '--c': r.colour }">{{ r.words }}</span>
    </p>
    <div v-for="b in bands" :key="b.id" class="band">
      <b>{{ b.id }}</b>
      <div class="scale">
        <i class="normal" :style="{ left: x(b.floor.normalDbm) }" />
        <i class="floor" :style="{ width: x(b.floor.dbm) }" />
        <i
          v-for="(c, i) in b.cells"
          :key="c.row.id"
          class="lift"
          :class="{ sure: c.isSure }"
          :style="{
            left: x(Math.min(c.offDbm, c.onDbm)),
            width: `calc(${x(Math.max(c.onDbm, c.offDbm))} - ${x(Math.min(c.offDbm, c.onDbm))})`,
            top: `${6 + 7 * i}px`,
            '--c': c.colour,
          }" />
      </div>
      <p>
        <span v-for="c in b.cells.filter(k => k.isSure)" :key="c.row.id" :style="{ color: c.colour }"
          >{{ cost(c)
          }}<template v-if="c.addedDbm !== null"
            >, adds {{ dbm(c.addedDbm) }} ± {{ Math.round(c.uncertaintyDb) }} dBm</template
          ></span
        >
        <span class="quiet">{{
          b.floor.verdict === 'end'
            ? 'the meter is at its lower end: what is below, it cannot tell'
            : `floor ${VERDICTS[b.floor.verdict]}`
        }}</span>
      </p>
    </div>
    <p class="axis"><span>−130 dBm</span><span>−95</span><span>−60 dBm</span></p>
    <p v-for="k in known" :key="k.device" class="known">
      {{ k.words }}
      <Button label="Into the plan" size="small" severity="secondary" @click="edit(k.patch, `noise of ${k.name}`)" />
    </p>
  </section>
</template>

<style scoped>
h2 {
  font-size: 1.15rem;
}
.key {
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem 1.2rem;
  color: var(--ink-2);
  margin: 0.2rem 0 0.6rem;
}
.key span::before {
  content: '';
  display: inline-block;
  width: 1rem;
  height: 8px;
  margin-right: 0.4rem;
  border-radius: 2px;
  background: var(--c);
}
.key .normal::before {
  width: 2px;
  height: 12px;
  background: var(--pass);
  vertical-align: -2px;
}
.key .floor::before {
  background: var(--line-2);
}
.band {
  display: grid;
  grid-template-columns: 3.4rem minmax(0, 1fr) 21rem;
  gap: 0.9rem;
  align-items: center;
  margin-bottom: 0.35rem;
}
.scale {
  position: relative;
  height: 34px;
  background: var(--choice);
  border-radius: 4px;
  overflow: hidden;
}
.scale i {
  position: absolute;
  display: block;
}
.scale .floor {
  left: 0;
  top: 0;
  bottom: 0;
  background: var(--line-2);
  opacity: 0.55;
}
.scale .normal {
  top: 0;
  bottom: 0;
  width: 2px;
  background: var(--pass);
  z-index: 1;
}
.scale .lift {
  height: 6px;
  background: var(--c);
  border-radius: 2px;
  opacity: 0.35;
  min-width: 2px;
}
.scale .lift.sure {
  opacity: 1;
}
.band p {
  line-height: 1.25;
  font-size: 0.9rem;
}
.band p span {
  display: block;
}
.known {
  margin-top: 0.7rem;
  display: flex;
  gap: 0.8rem;
  align-items: center;
}
.quiet {
  color: var(--ink-3);
}
.axis {
  display: flex;
  justify-content: space-between;
  margin: 0 21.9rem 0 4.3rem;
  color: var(--ink-3);
  font-size: 0.85rem;
}
@media (max-width: 760px) {
  .band {
    grid-template-columns: 3rem minmax(0, 1fr);
  }
  .band p {
    grid-column: 2;
  }
  .axis {
    margin: 0 0 0 3.9rem;
  }
}
</style>
