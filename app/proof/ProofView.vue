<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { nameOf, partById, partIdOf, leadById } from '#core/plan/find'
import { layoutPath } from '#core/picture/layout'
import type { Plan } from '#core/plan/schema'
import { deviceWords, type Opening, type Short, type ShortStudy } from '#core/short/study'
import { seconds } from '#core/units/show'
import PathList from '../path/PathList.vue'
import PathView from '../path/PathView.vue'
import { useElementSize } from '../path/useElementSize'
import TopBar from '../shell/TopBar.vue'
import { usePreferences } from '../stores/preferences'
import { useOpenStation } from '../stores/useOpenStation'

/**
 * Fuses proven by a short circuit: choose a point of the path, see the current's way, what opens and when, what
 * survives.
 */
const props = defineProps<{ stationId: string }>()
const { station, missing } = useOpenStation(props.stationId)
const units = computed(() => usePreferences().chosen.units)

const study = shallowRef<ShortStudy | null>(null)
watch(
  () => station.plan,
  async plan => {
    if (!plan) return
    const result = await station.core.call('shorts', plan).catch(() => null)
    if (plan !== station.plan || !result) return
    study.value = result
    if (early) choose(early)
    early = ''
  },
  { immediate: true },
)

const keyOf = (s: Short) => `${s.kind} ${s.at} ${s.lead ?? ''}`
const chosenKey = ref('')
/** Worst first: what does not clear, then what burns, then the largest current that something has to break. */
function badness(s: Short): number {
  if (s.prospectiveA < 1) return 9
  if (atPost(s)) return 5
  if (!s.clears) return 0
  if (!s.survives) return 1
  return s.selective === false ? 2 : 4
}
const sorted = computed(() =>
  [...(study.value?.shorts ?? [])].sort((a, b) => badness(a) - badness(b) || b.prospectiveA - a.prospectiveA),
)
const chosen = computed(
  () =>
    sorted.value.find(s => keyOf(s) === chosenKey.value) ??
    sorted.value.find(s => s.kind === 'lead-end') ??
    sorted.value[0] ??
    null,
)
/** Before the first fuse nothing can open: the posts themselves, and what is held within a hand of them. */
const atPost = (s: Short) => s.opens.length === 0 && s.from.some(f => partIdOf(s.at) === f.source)

const pane = ref<HTMLElement>()
const { width } = useElementSize(pane)
const narrow = computed(() => width.value > 0 && width.value < 620)
const layout = computed(
  () => station.plan && layoutPath(station.plan, station.judged?.verdict.arrivals ?? {}, width.value),
)
const shown = computed(
  () =>
    chosen.value && {
      at: chosen.value.at,
      lead: chosen.value.lead,
      way: new Map(chosen.value.conductors.map(c => [c.lead, c.survives])),
      opens: new Map(chosen.value.opens.map(o => [`${o.place} ${o.item ?? ''}`, seconds(o.slowestS)])),
    },
)

/** What was chosen before the study was there. */
let early = ''
function choose(id: string) {
  if (!study.value) {
    early = id
    return
  }
  const list = study.value.shorts
  const own = list.filter(s => s.lead === id || (s.kind === 'terminal' && (s.at === id || partIdOf(s.at) === id)))
  const now = own.findIndex(s => keyOf(s) === chosenKey.value)
  // A part with several terminals: each press goes to its next one.
  const next = own[(now + 1) % Math.max(1, own.length)]
  if (!next) return
  chosenKey.value = keyOf(next)
  if (narrow.value) scrollTo({ top: 0, behavior: 'smooth' })
}

function big(a: number): string {
  if (a < 1000) return `${a.toFixed(0)} A`
  return `${(a / 1000).toFixed(a >= 10000 ? 0 : 2)} kA`
}
function i2t(v: number): string {
  if (v >= 1e6) return `${(v / 1e6).toFixed(1)} M`
  return v >= 1e3 ? `${(v / 1e3).toFixed(1)} k` : v.toFixed(0)
}
/** Of what its conductor withstands, %: the length of its bar. */
function heatShare(c: Short['conductors'][number]): number {
  if (c.i2t !== null) return Math.min(100, Math.max(1.5, (100 * c.i2t) / c.withstandsI2t))
  return c.survives ? 4 : 100
}
const partName = (plan: Plan, id: string) =>
  nameOf(partById(plan, partIdOf(id))!) + (id.includes('.') ? ` ${id.split('.')[1]}` : '')
const placeWords = (plan: Plan, s: Short) =>
  s.kind === 'terminal' ? partName(plan, s.at) : `end of ${nameOf(leadById(plan, s.lead!)!)}`
function outcome(s: Short): string {
  if (s.prospectiveA < 1) return 'nothing flows'
  if (!s.survives) return 'a conductor burns'
  if (s.clears) return 'cleared'
  return atPost(s) ? 'before the first fuse' : 'nothing opens'
}
const isBad = (s: Short) => s.prospectiveA >= 1 && (!s.survives || (!s.clears && !atPost(s)))
const openingWords = (plan: Plan, o: Opening) =>
  `${deviceWords(plan, o)}: ${seconds(o.fastestS)} to ${seconds(o.slowestS)} at ${big(o.amps)}`
</script>

<template>
  <div class="proof">
    <TopBar view="proof" />
    <p v-if="missing" class="missing">{{ missing }}</p>
    <template v-else>
      <main>
        <section ref="pane" class="path-pane" aria-label="Path">
          <template v-if="station.plan && width && layout">
            <PathList
              v-if="narrow"
              :plan="station.plan"
              :judged="station.judged"
              :point="null"
              :width="width"
              :selected="null"
              :units="units"
              @select="choose"
              @edit="choose"
              @add="() => {}" />
            <PathView
              v-else
              :layout="layout"
              :plan="station.plan"
              :judged="station.judged"
              :point="null"
              :selected="null"
              :shown-load="null"
              :lit="new Set()"
              :units="units"
              :short="shown"
              @select="choose"
              @edit="choose"
              @token="t => choose(t.id)"
              @add="choose" />
          </template>
        </section>
        <section v-if="study && station.plan" class="table" aria-label="All shorts">
          <table>
            <thead>
              <tr>
                <th>Dead short at</th>
                <th class="n">Current</th>
                <th>Opens first</th>
                <th class="n">Fastest</th>
                <th class="n">Slowest</th>
                <th>Alone?</th>
                <th>Outcome</th>
              </tr>
            </thead>
            <tbody>
              <tr
                v-for="s in sorted"
                :key="keyOf(s)"
                :class="{ on: chosen && keyOf(s) === keyOf(chosen), bad: isBad(s) }"
                tabindex="0"
                @click="chosenKey = keyOf(s)"
                @keydown.enter="chosenKey = keyOf(s)">
                <td>{{ placeWords(station.plan, s) }}</td>
                <td class="n">{{ s.known ? '' : 'over ' }}{{ big(s.prospectiveA) }}</td>
                <td>
                  {{
                    s.opens[0]
                      ? deviceWords(station.plan, s.opens[0])
                      : s.from.every(f => f.limited) && s.prospectiveA >= 1
                        ? 'the source limits itself'
                        : 'nothing'
                  }}
                </td>
                <td class="n">{{ s.opens[0] ? seconds(s.opens[0].fastestS) : '' }}</td>
                <td class="n">{{ s.opens[0] ? seconds(s.opens[0].slowestS) : '' }}</td>
                <td>{{ s.selective === null ? '' : s.selective ? 'yes' : 'may take more along' }}</td>
                <td>
                  <b>{{ outcome(s) }}</b>
                </td>
              </tr>
            </tbody>
          </table>
        </section>
      </main>
      <aside v-if="chosen && station.plan && study" aria-label="The chosen short">
        <h2>A dead short at {{ placeWords(station.plan, chosen) }}</h2>
        <p class="figure">
          <b>{{ chosen.known ? '' : 'over ' }}{{ big(chosen.prospectiveA) }}</b> prospective<template
            v-if="chosen.from.length">
            from
            {{
              chosen.from
                .map(f => `${partName(station.plan!, f.source)} ${big(f.amps)}${f.limited ? ' (its limit)' : ''}`)
                .join(', ')
            }}</template
          >
        </p>
        <p v-if="!chosen.known" class="quiet">
          The internal resistance of a source is not said, so this is only what the rest of the path lets through.
        </p>
        <p class="verdict" :class="{ bad: isBad(chosen), warn: chosen.selective === false }">
          <template v-if="chosen.prospectiveA < 1">Nothing feeds this point.</template>
          <template v-else-if="chosen.opens[0]"
            >{{ deviceWords(station.plan, chosen.opens[0]) }} opens first, after
            {{ seconds(chosen.opens[0].fastestS) }} to {{ seconds(chosen.opens[0].slowestS) }}.<template
              v-if="!chosen.survives">
              By then a conductor has burnt.</template
            ></template
          >
          <template v-else-if="chosen.clears"
            >Nothing has to open: the source limits itself to what the conductors carry.</template
          >
          <template v-else
            >Nothing opens here{{
              atPost(chosen) ? ': it is before the first fuse. Keep this length short, covered and out of reach' : ''
            }}.</template
          >
        </p>
        <template v-if="chosen.opens.length > 1"
          ><h3>Then</h3>
          <ol>
            <li v-for="(o, i) in chosen.opens.slice(1)" :key="i">{{ openingWords(station.plan, o) }}</li>
          </ol></template
        >
        <p v-if="chosen.opensWith.length" class="warn">
          Not alone: the {{ chosen.opensWith.map(d => deviceWords(station.plan!, d)).join(', the ') }} may open before
          or with it, and what hangs behind goes dark.
        </p>
        <p v-else-if="chosen.selective" class="good">Alone: every fuse farther up is slower.</p>
        <p v-for="o in chosen.opens.filter(o => o.overInterrupting)" :key="o.place" class="bad">
          {{ big(o.amps) }} is more than the {{ deviceWords(station.plan, o) }} can break.
        </p>
        <template v-if="chosen.conductors.length">
          <h3>What the wires on the way take up</h3>
          <div v-for="c in chosen.conductors" :key="c.lead" class="conductor">
            <span>{{ nameOf(leadById(station.plan, c.lead)!) }}</span><span class="n">{{
              c.i2t === null ? (c.survives ? 'carries it' : 'for ever') : `${i2t(c.i2t)} of ${i2t(c.withstandsI2t)} A²s`
            }}</span>
            <div class="bar">
              <i :class="{ bad: !c.survives }" :style="{ width: `${heatShare(c)}%` }" />
            </div>
            <em v-if="!c.survives">does not survive</em>
          </div>
        </template>
        <p v-for="b in chosen.bms" :key="b.battery" class="quiet">
          The management system of {{ partName(station.plan, b.battery) }} would likely trip above {{ b.tripA }} A. It
          is not counted on.
        </p>
        <template v-if="study.unprotected.length">
          <h3>Before the first fuse</h3>
          <div v-for="u in study.unprotected" :key="u.source + u.lead" class="line">
            <span>{{ nameOf(leadById(station.plan, u.lead)!) }}, from {{ partName(station.plan, u.source) }}</span
            ><span class="n"
              >{{ u.lengthM.toFixed(2) }} m<template v-if="u.prospectiveA !== null">
                · {{ big(u.prospectiveA) }}</template
              ></span
            >
          </div>
        </template>
        <template v-if="study.isolation.length">
          <h3>Off, what is still live</h3>
          <div v-for="i in study.isolation" :key="i.place + i.item" class="iso">
            <b>{{ i.words }}</b> <span v-if="i.bothSidesLive" class="warn">live on both sides.</span>
            {{
              i.dead.length ? `Dead: ${i.dead.map(t => partName(station.plan!, t)).join(', ')}.` : 'Nothing goes dead.'
            }}
          </div>
        </template>
        <p class="quiet foot">
          Contacts new, droppers as wire; currents at the site's typical temperature, what a wire takes up counted from
          the hottest it works at. Typical opening times of the class. Local codes and a licensed electrician decide.
        </p>
      </aside>
    </template>
  </div>
</template>

<style scoped>
.proof {
  display: grid;
  grid-template: 46px 1fr / minmax(0, 1fr) 350px;
  height: 100vh;
}
.proof > :first-child {
  grid-column: 1 / -1;
}
main {
  display: flex;
  flex-direction: column;
  min-height: 0;
  min-width: 0;
}
.path-pane {
  flex: 1.1;
  min-height: 0;
  overflow: auto;
}
.table {
  flex: 1;
  min-height: 0;
  overflow: auto;
  border-top: 1px solid var(--line-2);
}
table {
  border-collapse: collapse;
  width: 100%;
}
th {
  position: sticky;
  top: 0;
  background: var(--paper);
  text-align: left;
  font-weight: 600;
  font-size: 0.86rem;
  color: var(--ink-3);
  padding: 0.45rem 0.6rem;
  border-bottom: 1.5px solid var(--ink);
}
td {
  padding: 0.32rem 0.6rem;
  border-bottom: 1px solid var(--line);
}
tbody tr {
  cursor: pointer;
}
tbody tr:hover {
  background: var(--choice);
}
tr.on {
  background: var(--lit);
}
tr.bad b {
  color: var(--danger);
}
td b {
  font-weight: 600;
}
.n {
  text-align: right;
  white-space: nowrap;
}
aside {
  border-left: 1px solid var(--line-2);
  overflow: auto;
  padding: 0.9rem 1.1rem 1.4rem;
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
.foot {
  font-size: 0.86rem;
  margin-top: 1.2rem;
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
.line {
  display: flex;
  justify-content: space-between;
  gap: 0.8rem;
  padding: 0.2rem 0;
  border-bottom: 1px solid var(--line);
}
.iso {
  padding: 0.25rem 0;
  border-bottom: 1px solid var(--line);
  color: var(--ink-2);
}
.iso b {
  color: var(--ink);
  font-weight: 600;
}
.missing {
  padding: 3rem;
}
@media (max-width: 760px) {
  .proof {
    display: flex;
    flex-direction: column;
    height: auto;
  }
  .proof > :first-child {
    order: 0;
  }
  aside {
    border-left: 0;
    border-bottom: 1px solid var(--line-2);
    order: 1;
  }
  main {
    order: 2;
  }
  .path-pane,
  .table {
    overflow: auto;
    max-height: none;
  }
  table {
    min-width: 40rem;
  }
}
</style>
