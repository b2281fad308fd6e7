<script setup lang="ts">
import type { HoursEvent } from '#core/hours/event'
import CellInput from './CellInput.vue'
import { readFigure, showFigure, withChange } from './entries'
import { asGiven } from '#core/units/number'

/** When, where, and in what weather. */
const props = defineProps<{ event: HoursEvent; hasPanels: boolean }>()
const emit = defineEmits<{ change: [next: HoursEvent, label: string] }>()
const set = (change: object, label: string) => emit('change', withChange(props.event, change), label)

const readStart = (text: string) =>
  /^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}$/.test(text) ? text.replace(' ', 'T') : undefined
const place = (part: object) => ({ latDeg: 50, lonDeg: 0, ...props.event.place, ...part })
const airC = (part: object) => ({ low: 10, high: 20, ...props.event.weather?.airC, ...part })
const weather = (part: object) => ({ ...props.event.weather, ...part })
const cloudShown = () => {
  const cloud = props.event.weather?.cloud ?? 0.5
  return (typeof cloud === 'number' ? [cloud] : cloud).map(c => `${Math.round(100 * c)}`).join(', ') + ' %'
}
/** "60 %", or day by day "60, 80, 90 %". */
function readCloud(text: string) {
  const days = text
    .replace('%', '')
    .split(/[,;]+\s*|\s+/)
    .filter(Boolean)
    .map(Number)
  if (!days.length || days.some(d => !(d >= 0 && d <= 100))) return undefined
  return days.length === 1 ? days[0]! / 100 : days.map(d => d / 100)
}
</script>

<template>
  <div class="fields">
    <CellInput
      class="two"
      label="begins, local time"
      :shown="event.start.replace('T', ' ')"
      :read="readStart"
      right="a date and time as 2026-06-13 09:00"
      @change="v => set({ start: v }, 'beginning')" />
    <CellInput
      label="lasts"
      :shown="showFigure(event.hours, 'h')"
      :read="readFigure('h', 0.25, 8784)"
      right="hours, up to a year"
      @change="v => set({ hours: v }, 'length')" />
    <CellInput
      label="UTC +"
      :shown="showFigure(event.utcOffsetH ?? 0, 'h')"
      :read="readFigure('h', -12, 14)"
      right="hours from −12 to 14"
      @change="v => set({ utcOffsetH: v }, 'time zone')" />
    <CellInput
      label="latitude"
      :shown="showFigure(event.place?.latDeg, '°')"
      :read="readFigure('°', -90, 90)"
      right="−90 to 90°, north above 0"
      @change="v => set({ place: place({ latDeg: v }) }, 'place')" />
    <CellInput
      label="longitude"
      :shown="showFigure(event.place?.lonDeg, '°')"
      :read="readFigure('°', -180, 180)"
      right="−180 to 180°, east above 0"
      @change="v => set({ place: place({ lonDeg: v }) }, 'place')" />
    <CellInput
      label="air, low"
      :shown="showFigure(event.weather?.airC?.low, '°C')"
      :read="readFigure('°C', -60, 60)"
      right="degrees C"
      @change="v => set({ weather: weather({ airC: airC({ low: v }) }) }, 'air')" />
    <CellInput
      label="air, high"
      :shown="showFigure(event.weather?.airC?.high, '°C')"
      :read="readFigure('°C', -60, 60)"
      right="degrees C"
      @change="v => set({ weather: weather({ airC: airC({ high: v }) }) }, 'air')" />
    <p v-if="event.weather?.irradianceWm2" class="measured">
      The sun as measured, {{ asGiven(event.weather.irradianceWm2.length) }} h
      <button class="plain" @click="set({ weather: weather({ irradianceWm2: undefined }) }, 'measured sun out')">
        Take it out
      </button>
    </p>
    <CellInput
      v-else-if="hasPanels"
      wide
      label="cloud, of all or day by day"
      :shown="cloudShown()"
      :read="readCloud"
      right="0 to 100 %, or a list of days: 60, 80, 90"
      @change="v => set({ weather: weather({ cloud: v }) }, 'cloud')" />
  </div>
</template>

<style scoped>
.fields {
  display: grid;
  grid-template-columns: repeat(4, 1fr);
  gap: 0.3rem 0.4rem;
  width: 100%;
}
.two {
  grid-column: span 2;
}
.measured {
  grid-column: 1 / -1;
  display: flex;
  gap: 0.6rem;
  align-items: center;
}
</style>
