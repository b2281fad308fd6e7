<script setup lang="ts">
import { computed } from 'vue'
import type { Side } from '#core/schools/compare'
import { fixed } from '#core/units/number'

/** Two sides of a school beside each other, figure by figure; what is other on the second side is marked. */
const props = defineProps<{ now: Side; other: Side; labels: [string, string] }>()

interface Row {
  what: string
  of: [string, string]
}

const volts = (side: Side, id: string) => {
  const span = side.arrivals[id]
  return span ? `${fixed(span.lowV, 2)}–${fixed(span.highV, 2)} V` : 'nothing'
}
const wattsOf = (side: Side, id: string) => side.transmits.find(t => t.id === id)?.watts ?? 0
/** Watts, and how far they are under those of the side that is built now. */
const power = (side: Side, id: string) => {
  const watts = wattsOf(side, id)
  if (!watts) return 'nothing'
  const dB = 10 * Math.log10(watts / (wattsOf(props.now, id) || watts))
  const apart = Math.abs(dB) > 0.05 ? `, ${fixed(Math.abs(dB), 1)} dB ${dB < 0 ? 'less' : 'more'}` : ''
  return `${fixed(watts, watts < 10 ? 1 : 0)} W${apart}`
}
const counted = (n: number, word: string) => `${n} ${word}${n === 1 ? '' : 's'}`
const fails = ({ mayFail: { contacts, fuses, devices } }: Side) => {
  const each = [counted(contacts, 'contact'), counted(fuses, 'fuse'), counted(devices, 'device')]
  return `${contacts + fuses + devices}: ${each.join(', ')}`
}
const findings = ({ findings: all }: Side) =>
  Object.entries({ danger: 'danger', fail: 'failure', caution: 'caution', note: 'note' })
    .map(([s, word]) => ({ word, n: all.filter(f => f.severity === s).length }))
    .flatMap(({ word, n }) => (n ? [counted(n, word)] : []))
    .join(', ') || 'none'

const row = (what: string, of: (side: Side) => string): Row => ({ what, of: [of(props.now), of(props.other)] })
const rows = computed<Row[]>(() => {
  const both = [props.now, props.other]
  const loads = new Map(both.flatMap(s => Object.entries(s.arrivals).map(([id, a]) => [id, a?.name ?? id])))
  const radios = new Map(both.flatMap(s => s.transmits.map(t => [t.id, t.name])))
  return [
    ...[...loads].map(([id, name]) => row(`${name} gets`, s => volts(s, id))),
    ...[...radios].map(([id, name]) => row(`${name} transmits, at its lowest`, s => power(s, id))),
    row('lost on the way, all active', s => (s.lossW === null ? 'no solution' : `${fixed(s.lossW, 1)} W`)),
    row('may be heard', s => (s.noisy.length ? `${s.noisy.length}: ${s.noisy.join(', ')}` : 'nothing')),
    row('weight', s => `${fixed(s.grams / 1000, 2)} kg`),
    row('cost of what has a price', s => fixed(s.cost, 0)),
    row('may fail', fails),
    row('findings left', findings),
  ]
})
</script>

<template>
  <table>
    <thead>
      <tr>
        <th />
        <th v-for="label in labels" :key="label" scope="col">{{ label }}</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="r in rows" :key="r.what">
        <th scope="row">{{ r.what }}</th>
        <td>{{ r.of[0] }}</td>
        <td :class="{ other: r.of[0] !== r.of[1] }">{{ r.of[1] }}</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped>
table {
  border-collapse: collapse;
  width: 100%;
  max-width: 52rem;
}
thead th {
  font-size: 0.86rem;
  color: var(--ink-3);
  font-weight: 600;
  padding: 0.2rem 1.2rem 0.2rem 0;
  text-align: left;
  vertical-align: bottom;
  border-bottom: 1.5px solid var(--ink);
}
tbody th {
  font-weight: 400;
  text-align: left;
  color: var(--ink-2);
}
td,
tbody th {
  padding: 0.24rem 1.2rem 0.24rem 0;
  border-bottom: 1px solid var(--line);
  vertical-align: top;
}
td {
  padding-left: 0.4rem;
}
.other {
  font-weight: 650;
  background: var(--lit);
}
</style>
