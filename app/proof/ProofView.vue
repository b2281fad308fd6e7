<script setup lang="ts">
import { computed, nextTick, ref, shallowRef, watch } from 'vue'
import { leadById, nameOf, partIdOf } from '#core/plan/find'
import { partName, terminalName } from '#core/plan/names'
import { layoutPath } from '#core/picture/layout'
import type { Short, ShortStudy } from '#core/short/study'
import { worstFirst } from '#core/short/words'
import { metres, seconds, shortAmpsBrief } from '#core/units/show'
import PathList from '../path/PathList.vue'
import PathView from '../path/PathView.vue'
import { useElementSize } from '../path/useElementSize'
import TopBar from '../shell/TopBar.vue'
import { bringWithin } from '../shell/withinPane'
import { usePreferences } from '../stores/preferences'
import { useOpenStation } from '../stores/useOpenStation'
import ShortDetail from './ShortDetail.vue'
import ShortTable from './ShortTable.vue'

/**
 * Fuses proven by a short circuit: choose a point of the path, see the current's way, what opens and when, what
 * survives.
 */
const props = defineProps<{ stationId: string }>()
const { station, missing } = useOpenStation(props.stationId)
const units = computed(() => usePreferences().chosen.units)

const study = shallowRef<ShortStudy | null>(null)
/** The first study is about to come; on a phone it stands above the path. */
const isComing = ref(true)
watch(
  () => station.plan,
  async plan => {
    if (!plan) return
    const result = await station.core.call('shorts', plan).catch(() => null)
    if (plan !== station.plan) return
    isComing.value = false
    if (!result) return
    study.value = result
    if (early) choose(early)
    early = ''
  },
  { immediate: true },
)

const keyOf = (s: Short) => `${s.kind} ${s.at} ${s.lead ?? ''}`
const chosenKey = ref('')
const sorted = computed(() => worstFirst(study.value?.shorts ?? []))
const chosen = computed(
  () =>
    sorted.value.find(s => keyOf(s) === chosenKey.value) ??
    sorted.value.find(s => s.kind === 'lead-end') ??
    sorted.value[0] ??
    null,
)

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

/** Round the place of the short so much of the path is seen. */
const ROUND_PX = 60
watch([shown, width], () =>
  nextTick(() => {
    const bolt = pane.value?.querySelector('.bolt')
    if (bolt) bringWithin(pane.value!, bolt, ROUND_PX)
  }),
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
  if (narrow.value) scrollTo({ top: 0 })
}
</script>

<template>
  <div class="proof">
    <TopBar view="proof" />
    <p v-if="missing" class="missing">{{ missing }}</p>
    <template v-else>
      <main :class="{ early: isComing }">
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
          <ShortTable :plan="station.plan" :shorts="sorted" :chosen="chosen" @choose="chosenKey = keyOf($event)" />
        </section>
      </main>
      <aside v-if="chosen && station.plan && study" aria-label="The chosen short">
        <ShortDetail :plan="station.plan" :short="chosen" />
        <template v-if="study.unprotected.length">
          <h3>Before the first fuse</h3>
          <div v-for="u in study.unprotected" :key="u.source + u.lead" class="line">
            <span>{{ nameOf(leadById(station.plan, u.lead)!) }}, from {{ partName(station.plan, u.source) }}</span
            ><span class="n"
              >{{ metres(u.lengthM)
              }}<template v-if="u.prospectiveA !== null"> · {{ shortAmpsBrief(u.prospectiveA) }}</template></span
            >
          </div>
        </template>
        <template v-if="study.isolation.length">
          <h3>Off, what is still live</h3>
          <div v-for="i in study.isolation" :key="i.place + i.item" class="iso">
            <b>{{ i.words }}</b> <span v-if="i.bothSidesLive" class="warn">live on both sides.</span>
            {{
              i.dead.length
                ? `Dead: ${i.dead.map(t => terminalName(station.plan!, t)).join(', ')}.`
                : 'Nothing goes dead.'
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
  grid-template: auto 1fr / minmax(0, 1fr) 350px;
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
.n {
  text-align: right;
  white-space: nowrap;
}
aside {
  border-left: 1px solid var(--line-2);
  overflow: auto;
  padding: 0.9rem 1.1rem 1.4rem;
}
h3 {
  font-size: 0.9rem;
  margin: 1.1rem 0 0.3rem;
  color: var(--ink-3);
  font-weight: 600;
}
.warn {
  color: var(--caution);
}
.quiet {
  color: var(--ink-3);
  margin-top: 0.5rem;
}
.foot {
  font-size: 0.86rem;
  margin-top: 1.2rem;
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
@media (max-width: 760px), (max-height: 520px) {
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
  .early {
    visibility: hidden;
  }
  .path-pane,
  .table {
    overflow: auto;
    max-height: none;
  }
}
</style>
