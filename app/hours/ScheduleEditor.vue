<script setup lang="ts">
import { computed } from 'vue'
import { MODES } from '#core/hours/modes'
import type { HoursEvent } from '#core/hours/event'
import { isLoad, kindOf } from '#core/kinds/index'
import { partName } from '#core/plan/names'
import type { Plan } from '#core/plan/schema'
import Icon from '../shell/Icon.vue'
import CellInput from './CellInput.vue'
import TimeCells from './TimeCells.vue'
import EventFields from './EventFields.vue'
import {
  readFigure,
  readPercent,
  readTime,
  showFigure,
  showPercent,
  showTime,
  TIME_RIGHT,
  withEntry,
  withField,
  withoutEntry,
  type List,
} from './entries'

/** What happens: who transmits, what else is on, what fills the packs, where and in what weather. */
const props = defineProps<{ plan: Plan; event: HoursEvent }>()
const emit = defineEmits<{ change: [next: HoursEvent, label: string] }>()

const options = (is: (id: string) => boolean) =>
  props.plan.parts.filter(p => is(p.id)).map(p => ({ id: p.id, label: partName(props.plan, p.id) }))
const part = (id: string) => props.plan.parts.find(p => p.id === id)!
const radios = computed(() => options(id => kindOf(part(id)).transmits === true))
const loads = computed(() => options(id => isLoad(part(id)) && kindOf(part(id)).transmits !== true))
const feeds = computed(() => options(id => kindOf(part(id)).runsOn !== undefined || 'feeds' in part(id)))
const panels = computed(() => options(id => kindOf(part(id)).needsController === true))
const stores = computed(() => options(id => kindOf(part(id)).store?.(part(id), () => []) != null))
const modes = Object.entries(MODES).map(([id, { label }]) => ({ id, label }))

const set = (list: List, index: number, change: object, label: string) =>
  emit('change', withField(props.event, list, index, change), label)
const drop = (list: List, index: number) => emit('change', withoutEntry(props.event, list, index), 'removed entry')
const add = (list: List, entry: object) => emit('change', withEntry(props.event, list, entry), 'new entry')
/** Whole packs; nothing said: none to read. */
const readCount = (text: string) => {
  const read = readFigure('', 1, 99)(text)
  return read && Number.isInteger(read) ? read : undefined
}
const DAY = { from: '09:00', to: '21:00' }
</script>

<template>
  <div class="schedule">
    <EventFields :event="event" :has-panels="panels.length > 0" @change="(e, l) => emit('change', e, l)" />

    <h3>On the air</h3>
    <div v-for="(a, i) in event.activities ?? []" :key="`a${i}`" class="row">
      <div class="who">
        <Select
          :model-value="a.part"
          :options="radios"
          option-label="label"
          option-value="id"
          size="small"
          aria-label="Radio"
          @update:model-value="v => set('activities', i, { part: v }, 'radio')" />
        <Select
          :model-value="a.mode"
          :options="modes"
          option-label="label"
          option-value="id"
          size="small"
          aria-label="Mode"
          @update:model-value="v => set('activities', i, { mode: v }, 'mode')" />
        <button class="plain" aria-label="Remove this activity" @click="drop('activities', i)">
          <Icon name="close" />
        </button>
      </div>
      <TimeCells :event="event" :from="a.from" :to="a.to" @change="t => set('activities', i, t, 'time')" />
      <CellInput
        label="transmits"
        :shown="showPercent(a.share ?? MODES[a.mode].share)"
        :read="readPercent"
        right="0 to 100 %"
        @change="v => set('activities', i, { share: v }, 'transmit share')" />
      <CellInput
        label="power"
        :shown="showFigure(a.powerW, 'W')"
        :read="readFigure('W', 0.01, 10000)"
        right="watts, as 50 W"
        @change="v => set('activities', i, { powerW: v }, 'power')" />
    </div>
    <button
      v-if="radios.length"
      class="plain"
      @click="add('activities', { part: radios[0]!.id, mode: 'voice', ...DAY })">
      + an operator
    </button>

    <h3>Other loads</h3>
    <div v-for="(l, i) in event.loads ?? []" :key="`l${i}`" class="row">
      <Select
        class="two"
        :model-value="l.part"
        :options="loads"
        option-label="label"
        option-value="id"
        size="small"
        aria-label="Load"
        @update:model-value="v => set('loads', i, { part: v }, 'load')" />
      <button class="plain" aria-label="Remove this load" @click="drop('loads', i)"><Icon name="close" /></button>
      <TimeCells :event="event" :from="l.from" :to="l.to" @change="t => set('loads', i, t, 'time')" />
      <CellInput
        label="works"
        :shown="showPercent(l.duty ?? 1)"
        :read="readPercent"
        right="0 to 100 %"
        @change="v => set('loads', i, { duty: v }, 'duty')" />
      <label class="check"
        ><input
          type="checkbox"
          :checked="l.between === 'off'"
          @change="
            e => set('loads', i, { between: (e.target as HTMLInputElement).checked ? 'off' : null }, 'off outside')
          " />
        else off</label
      >
    </div>
    <button v-if="loads.length" class="plain" @click="add('loads', { part: loads[0]!.id })">+ a load</button>

    <template v-if="feeds.length">
      <h3>Mains, generator, engine on</h3>
      <div v-for="(s, i) in event.supplied ?? []" :key="`s${i}`" class="row">
        <MultiSelect
          :show-toggle-all="false"
          class="two"
          :model-value="s.parts"
          :options="feeds"
          option-label="label"
          option-value="id"
          size="small"
          aria-label="What runs"
          @update:model-value="v => v.length && set('supplied', i, { parts: v }, 'what runs')" />
        <button class="plain" aria-label="Remove these hours" @click="drop('supplied', i)">
          <Icon name="close" />
        </button>
        <TimeCells :event="event" :from="s.from" :to="s.to" @change="t => set('supplied', i, t, 'time')" />
      </div>
      <button class="plain" @click="add('supplied', { parts: [feeds[0]!.id], from: '18:00', to: '22:00' })">
        + hours of it
      </button>
    </template>

    <template v-if="panels.length">
      <h3>Panels</h3>
      <div v-for="(p, i) in event.panels ?? []" :key="`p${i}`" class="row">
        <span class="two">{{ partName(plan, p.part) }}</span>
        <button class="plain" aria-label="Lay it flat" @click="drop('panels', i)"><Icon name="close" /></button>
        <CellInput
          label="tilt"
          :shown="showFigure(p.tiltDeg, '°')"
          :read="readFigure('°', 0, 90)"
          right="0 to 90°"
          @change="v => set('panels', i, { tiltDeg: v }, 'tilt')" />
        <CellInput
          label="faces"
          :shown="showFigure(p.azimuthDeg, '°')"
          :read="readFigure('°', 0, 360)"
          right="0 to 360°, south is 180"
          @change="v => set('panels', i, { azimuthDeg: v }, 'facing')" />
        <label class="check"
          ><input
            type="checkbox"
            :checked="p.turned === true"
            @change="e => set('panels', i, { turned: (e.target as HTMLInputElement).checked || null }, 'turned')" />
          turned to the sun</label
        >
      </div>
      <button
        v-for="p in panels.filter(x => !event.panels?.some(e => e.part === x.id))"
        :key="p.id"
        class="plain"
        @click="add('panels', { part: p.id, tiltDeg: 35, azimuthDeg: (event.place?.latDeg ?? 1) < 0 ? 0 : 180 })">
        + set {{ p.label }} up (it lies flat)
      </button>
    </template>

    <template v-if="stores.length">
      <h3>Packs changed</h3>
      <div v-for="(s, i) in event.swaps ?? []" :key="`x${i}`" class="row">
        <span class="half">{{ partName(plan, s.part) }}</span>
        <CellInput
          label="at"
          :shown="showTime(s.at, event)"
          :read="text => readTime(text, event) ?? undefined"
          :right="TIME_RIGHT"
          @change="v => set('swaps', i, { at: v }, 'change of a pack')" />
        <button
          class="plain"
          :aria-label="`Take the change of ${partName(plan, s.part)} out`"
          @click="drop('swaps', i)">
          <Icon name="close" />
        </button>
      </div>
      <button
        v-for="s in stores"
        :key="s.id"
        class="plain"
        @click="add('swaps', { part: s.id, at: Math.round(event.hours / 2) })">
        + a full {{ s.label }} put in
      </button>
    </template>

    <template v-if="stores.length">
      <h3>Spare packs</h3>
      <div v-for="(s, i) in event.spares ?? []" :key="`y${i}`" class="row">
        <Select
          class="two"
          :model-value="s.part"
          :options="stores"
          option-label="label"
          option-value="id"
          size="small"
          aria-label="Packs like"
          @update:model-value="v => set('spares', i, { part: v }, 'spare packs')" />
        <button class="plain" aria-label="Take these spare packs away" @click="drop('spares', i)">
          <Icon name="close" />
        </button>
        <CellInput
          label="of them"
          :shown="showFigure(s.count)"
          :read="readCount"
          right="1 to 99"
          @change="v => set('spares', i, { count: v }, 'spare packs')" />
        <CellInput
          label="refilled in"
          :shown="showFigure(s.refillH, 'h')"
          :read="readFigure('h', 0.01, 1000)"
          right="hours on a charger beside, from empty; nothing: not at all"
          @change="v => set('spares', i, { refillH: v }, 'charger beside')" />
        <TimeCells :event="event" :from="s.from" :to="s.to" @change="t => set('spares', i, t, 'time')" />
      </div>
      <button class="plain" @click="add('spares', { part: stores[0]!.id, count: 1 })">
        + packs that lie ready, changed when one is at its end
      </button>
    </template>

    <h3>At the start</h3>
    <div v-for="s in stores" :key="s.id" class="row">
      <span class="two">{{ s.label }}</span>
      <CellInput
        label="charge"
        :shown="showPercent(event.stores?.find(x => x.part === s.id)?.startCharge ?? 1)"
        :read="readPercent"
        right="0 to 100 %"
        @change="
          v => {
            const at = event.stores?.findIndex(x => x.part === s.id) ?? -1
            if (at < 0) add('stores', { part: s.id, startCharge: v })
            else set('stores', at, { startCharge: v }, 'charge at the start')
          }
        " />
    </div>
  </div>
</template>

<style scoped>
.schedule {
  display: grid;
  gap: 0.45rem;
  align-content: start;
  justify-items: start;
}
h3 {
  margin-top: 0.7rem;
  font-size: 0.98rem;
}
.row {
  display: grid;
  grid-template-columns: 1fr 1fr 1fr 1fr;
  gap: 0.3rem 0.4rem;
  width: 100%;
  padding-bottom: 0.45rem;
  border-bottom: 1px solid var(--line);
  align-items: end;
}
.row > :deep(.p-select),
.row > :deep(.p-multiselect) {
  min-width: 0;
}
.who {
  grid-column: 1 / -1;
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr) auto;
  gap: 0.4rem;
}
.row > .half {
  grid-column: span 2;
  align-self: center;
}
.row > .two {
  grid-column: span 3;
  align-self: center;
}
.check {
  display: flex;
  gap: 0.3rem;
  align-items: center;
  color: var(--ink-2);
  font-size: 0.88rem;
}
</style>
