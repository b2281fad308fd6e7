<script setup lang="ts">
import { computed } from 'vue'
import type { HoursEvent } from '#core/hours/event'
import type { Odds } from '#core/hours/odds'
import type { Course, Moment } from '#core/hours/run'
import { clockWords } from '#core/hours/schedule'
import { isLoad, kindOf, needs } from '#core/kinds/index'
import { partName } from '#core/plan/names'
import type { Plan } from '#core/plan/schema'
import CourseChart from './CourseChart.vue'
import type { Drawn, Line } from './courseChart'
import { asGiven } from '#core/units/number'

/** Charge, volts and power over an event, on one time axis. */
const props = defineProps<{ plan: Plan; event: HoursEvent; course: Course; odds: Odds | null; dark: boolean }>()

const COLOURS = ['--copper', '--note', '--pass', '--ink-2'] as const
const colour = (i: number) => COLOURS[i % COLOURS.length]!
const timeline = computed(() => props.course.timeline)
const points = (of: (m: Moment) => number) => timeline.value.map(m => ({ x: m.h, y: of(m) }))
const fails = computed(() => (props.course.ends ? [props.course.ends.atH] : []))
const name = (id: string) => partName(props.plan, id)
const base = computed(() => ({ hours: props.event.hours, fails: fails.value }))

const charge = computed<Drawn>(() => {
  const stores = Object.keys(timeline.value[0]?.soc ?? {})
  const bands: Line[] = stores.flatMap((id, i) => {
    const band = props.odds?.band
    if (!band) return []
    const of = (which: 'p10' | 'p90') => band.map(b => ({ x: b.h, y: 100 * b.soc[id]![which] }))
    const line = { colour: colour(i), thin: true, label: '' }
    return [
      { ...line, points: of('p10') },
      { ...line, points: of('p90'), band: true },
    ]
  })
  const lines = stores.map((id, i) => ({ label: name(id), colour: colour(i), points: points(m => 100 * m.soc[id]!) }))
  return { ...base.value, lines: [...bands, ...lines], least: 0, most: 100, unit: ' %' }
})

/** So far under what is needed volts are drawn, V. */
const LOOK_UNDER_V = 1

const watched = computed(() => {
  const loads = props.plan.parts.filter(isLoad)
  const radios = loads.filter(l => kindOf(l).transmits)
  return radios.length ? radios : loads
})
const volts = computed<Drawn>(() => {
  const lines: Line[] = watched.value.flatMap((load, i) => {
    const minV = needs(load).minV
    const ends = [0, props.event.hours].map(x => ({ x, y: minV }))
    return [
      { label: `${name(load.id)}, transmitting`, colour: colour(i), points: points(m => m.volts[load.id]!) },
      { label: `needs ${asGiven(minV)} V`, colour: colour(i), points: ends, dashed: true, thin: true },
    ]
  })
  // Once nothing is given any more it falls to 0: that is no reason to draw the rest small.
  const shown = lines.flatMap(l => l.points.map(p => p.y)).filter(v => v > 0)
  const [low, high] = [Math.min(...watched.value.map(l => needs(l).minV)) - LOOK_UNDER_V, Math.max(...shown, 14)]
  return { ...base.value, lines: unlike(lines), least: Math.floor(low), most: Math.ceil(high + 0.2), unit: ' V' }
})
/** One dashed line for windows that are alike. */
const unlike = (lines: Line[]) =>
  lines.filter((l, i) => !l.dashed || lines.findIndex(o => o.dashed && o.label === l.label) === i)

const power = computed<Drawn>(() => {
  const lines: Line[] = [
    { label: 'sun', colour: '--caution', points: points(m => m.sunW), filled: true },
    { label: 'mains and engine', colour: '--pass', points: points(m => m.suppliedW), filled: true },
    { label: 'loads', colour: '--ink', points: points(m => m.loadsW) },
  ]
  const used = lines.filter(l => l.points.some(p => p.y > 0.5))
  return { ...base.value, lines: used, least: 0, unit: ' W', tick: h => clockWords(props.event, h) }
})
</script>

<template>
  <CourseChart title="Charge" :drawn="charge" :height="150" :dark="dark" />
  <CourseChart title="At the radios" :drawn="volts" :height="130" :dark="dark" />
  <CourseChart title="Power" :drawn="power" :height="140" :dark="dark" />
</template>
