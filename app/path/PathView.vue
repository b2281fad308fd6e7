<script setup lang="ts">
import { computed } from 'vue'
import type { Severity } from '#core/checks/check'
import { SEVERITIES } from '#core/checks/check'
import type { NamedPoint } from '#core/circuit/point'
import { isLoad, needs } from '#core/kinds/index'
import { nameOf } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import type { Units } from '#core/units/quantity'
import type { Judged } from '../workers/answers'
import SeverityMark from '../findings/SeverityMark.vue'
import ArrivalBar from './ArrivalBar.vue'
import { axisX, type PathLayout } from '#core/picture/layout'
import { boxLines, flowWords, leadWords, ownLine, shortened } from '#core/picture/words'

const props = defineProps<{
  plan: Plan
  judged: Judged | null
  point: NamedPoint | null
  layout: PathLayout
  selected: string | null
  /** Load whose staircase is open. */
  shownLoad: string | null
  lit: ReadonlySet<string>
  /** A short circuit shown on the path: where, the way of its current, what opens when. */
  short?: {
    at: string
    lead: string | null
    way: ReadonlyMap<string, boolean>
    opens: ReadonlyMap<string, string>
  } | null
  units: Units
}>()

const emit = defineEmits<{
  select: [id: string]
  edit: [id: string]
  token: [target: { id: string; what: 'conductor' | 'length' | 'rating'; itemId?: string; x: number; y: number }]
  add: [terminal: string]
}>()

const parts = computed(() => new Map(props.plan.parts.map(p => [p.id, p])))
const leads = computed(() => new Map(props.plan.leads.map(l => [l.id, l])))

/** Worst severity at each place. */
const worst = computed(() => {
  const map = new Map<string, Severity>()
  for (const finding of props.judged?.verdict.findings ?? []) {
    for (const place of [finding.place]) {
      const was = map.get(place)
      if (!was || SEVERITIES.indexOf(finding.severity) < SEVERITIES.indexOf(was)) map.set(place, finding.severity)
    }
  }
  return map
})
const sideOf = (loadId: string, check: string) => {
  const found = props.judged?.verdict.findings.find(f => f.place === loadId && f.check === check)
  return found ? (found.severity === 'caution' ? ('caution' as const) : ('fail' as const)) : null
}

const isLit = (id: string) => props.lit.has(id)
const portLit = (terminal: string) => props.lit.has(terminal)

function flow(leadId: string): string {
  if (props.point) {
    const lead = props.point.leads[leadId]
    return lead?.amps == null ? 'no solution' : flowWords(Math.abs(lead.amps), Math.abs(lead.dropV ?? 0))
  }
  const lead = props.judged?.leads[leadId]
  return lead ? flowWords(lead.amps, lead.dropV) : ''
}

function sourceVolts(id: string): string {
  if (props.point) {
    const node = props.point.parts[id]
    return node?.volts == null ? '' : `${Number(node.volts).toFixed(2)} V`
  }
  const span = props.judged?.sources[id]
  if (!span) return ''
  const [low, high] = [span.low.value.toFixed(1), span.high.value.toFixed(1)]
  return low === high ? `${low} V` : `${low}–${high} V`
}

const nowAt = (loadId: string) => (props.point ? (props.point.nodes[loadId]?.volts ?? null) : null)
const placeMark = (leadId: string) => worst.value.get(leadId)
const selectedRow = computed(() => props.layout.rows.find(r => r.kind === 'load' && r.id === props.shownLoad))

function token(event: Event, id: string, what: 'conductor' | 'length' | 'rating', itemId?: string) {
  const box = (event.currentTarget as SVGGraphicsElement).getBBox()
  emit('token', { id, what, itemId, x: box.x, y: box.y })
}
const barEnd = (id: string) => {
  const bar = props.layout.bars.find(b => b.id === id)
  return bar ? bar.x + bar.width : props.layout.loadX
}
/** Where the bolt of a short stands. */
const bolt = computed(() => {
  const short = props.short
  if (!short) return null
  const { rows, bars, boxes, leads: shapes, loadX } = props.layout
  const shape = short.lead === null ? undefined : shapes.find(l => l.id === short.lead)
  const row = rows.find(r => r.kind === 'load' && r.id === short.at.split('.')[0])
  if (row) return { x: loadX - 8, y: row.y }
  const port = bars.flatMap(b => b.ports.map(p => ({ ...p, bar: b }))).find(p => p.terminal === short.at)
  if (port) return { x: port.bar.x + port.bar.width + 4, y: port.y }
  const id = short.at.split('.')[0]
  const box = boxes.find(b => b.id === id)
  if (box) return { x: box.x + box.width - 4, y: box.y + box.height / 2 }
  const bar = bars.find(b => b.id === id)
  return bar ? { x: bar.x - 4, y: shape?.y ?? bar.y + bar.height / 2 } : shape ? { x: shape.x2, y: shape.y } : null
})
const portLabel = (terminal: string) => terminal.split('.')[1] ?? terminal
</script>

<template>
  <!-- The axis stays in sight while the rows scroll under it. -->
  <svg class="path axis-head" :width="layout.width" height="40" aria-hidden="true">
    <rect class="ground" :width="layout.width" height="40" />
    <text :x="layout.axis.x + 8" y="15" class="small">what arrives, volts</text>
    <text
      v-for="tick in layout.axis.ticks"
      :key="tick"
      :x="axisX(layout.axis, tick)"
      y="33"
      text-anchor="middle"
      class="small">
      {{ tick }}
    </text>
  </svg>
  <svg
    class="path body"
    :width="layout.width"
    :height="layout.height"
    :viewBox="`0 0 ${layout.width} ${layout.height}`"
    role="group"
    aria-label="The path from sources to loads">
    <!-- the shared voltage axis -->
    <g class="axis">
      <line
        v-for="tick in layout.axis.ticks"
        :key="tick"
        :x1="axisX(layout.axis, tick)"
        :x2="axisX(layout.axis, tick)"
        y1="40"
        :y2="layout.height - 8" />
    </g>
    <rect
      v-if="selectedRow"
      class="chosen"
      :x="layout.loadX - 6"
      :y="selectedRow.y - layout.rowHeight / 2 + 3"
      :width="layout.width - layout.loadX"
      :height="layout.rowHeight - 6"
      rx="6" />

    <!-- leads -->
    <g
      v-for="lead in layout.leads"
      :key="lead.id"
      :class="[
        'lead',
        {
          off: short && !short.way.has(lead.id),
          hot: short?.way.get(lead.id) === true,
          burnt: short?.way.get(lead.id) === false,
          tie: lead.tie,
          open: lead.open,
          selected: selected === lead.id,
          lit: isLit(lead.id),
        },
      ]"
      :data-lead="lead.id">
      <g
        tabindex="0"
        role="button"
        :aria-label="`${leads.get(lead.id)?.name ?? 'lead ' + lead.id}, ${leadWords(leads.get(lead.id)!, units).conductor}, ${leadWords(leads.get(lead.id)!, units).length}`"
        @click="emit('select', lead.id)"
        @dblclick="emit('edit', lead.id)"
        @focus="emit('select', lead.id)">
        <path class="halo" :d="lead.path" :stroke-width="lead.thickness + 9" />
        <path class="copper" :d="lead.path" :stroke-width="lead.thickness" />
        <path class="grab" :d="lead.path" />
        <template v-if="!lead.tie">
          <rect class="end" :x="lead.x1 + 1" :y="lead.y - 6" width="5" height="12" />
          <rect class="end" :x="lead.x2 - 6" :y="lead.y - 6" width="5" height="12" />
        </template>
        <path
          v-if="lead.unprotected && judged?.unprotected[lead.id]"
          :class="['unprotected', { bad: judged.unprotected[lead.id]?.bad }]"
          :d="`M${lead.unprotected.x1} ${lead.unprotected.y}H${lead.unprotected.x2}`" />
      </g>
      <g
        v-for="item in lead.items"
        :key="item.id"
        :class="['item', item.kind]"
        :transform="`translate(${item.x} ${item.y})`"
        tabindex="-1"
        role="button"
        :aria-label="`${item.kind} ${item.label}`"
        @click="
          item.kind === 'fuse' || item.kind === 'breaker'
            ? emit('token', { id: lead.id, what: 'rating', itemId: item.id, x: item.x - 16, y: item.y - 12 })
            : emit('edit', lead.id)
        ">
        <template v-if="item.kind === 'dropper'">
          <path class="body" d="M-9-7L7 0L-9 7ZM7-8V8" />
          <text y="20" text-anchor="middle" class="small">diode {{ item.label }}</text>
        </template>
        <template v-else-if="item.kind === 'switch'">
          <rect class="body" x="-15" y="-9" width="30" height="18" rx="9" />
          <text y="4" text-anchor="middle">{{ item.label }}</text>
        </template>
        <template v-else>
          <rect class="body" x="-16" y="-11" width="32" height="22" :rx="item.kind === 'breaker' ? 0 : 5" />
          <text y="4.5" text-anchor="middle">{{ item.label }}</text>
          <text v-if="short?.opens.has(`${lead.id} ${item.id}`)" y="-17" text-anchor="middle" class="opens">
            {{ short.opens.get(`${lead.id} ${item.id}`) }}
          </text>
        </template>
      </g>
      <g
        v-if="placeMark(lead.id)"
        :transform="`translate(${lead.unprotected ? (lead.unprotected.x1 + lead.unprotected.x2) / 2 - 9 : lead.labelX + (lead.tie ? 92 : 88)} ${lead.y - (lead.tie ? 16 : lead.unprotected ? 34 : 27)})`">
        <SeverityMark :severity="placeMark(lead.id)!" />
      </g>
      <template v-if="lead.tie">
        <text :x="lead.labelX" :y="lead.y - 2" class="name2">
          <tspan class="token" @click="token($event, lead.id, 'conductor')">
            {{ leadWords(leads.get(lead.id)!, units).conductor }}
          </tspan>
          ·
          <tspan class="token" @click="token($event, lead.id, 'length')">
            {{ leadWords(leads.get(lead.id)!, units).length }}
          </tspan>
        </text>
        <text :x="lead.labelX" :y="lead.y + 13" class="small">{{ lead.open ? 'switched off' : flow(lead.id) }}</text>
      </template>
      <template v-else>
        <text :x="lead.labelX" :y="lead.y + (lead.labelBelow ? 24 : -9)" class="name2">
          <tspan class="token" role="button" @click="token($event, lead.id, 'conductor')">
            {{ leadWords(leads.get(lead.id)!, units).conductor }}
          </tspan>
          ·
          <tspan class="token" role="button" @click="token($event, lead.id, 'length')">
            {{ leadWords(leads.get(lead.id)!, units).length }}
          </tspan>
        </text>
        <text :x="lead.labelX" :y="lead.y + (lead.labelBelow ? 39 : layout.compact ? 15 : 18)" class="small">
          {{ lead.open ? 'switched off' : flow(lead.id) }}
        </text>
      </template>
    </g>

    <!-- sources -->
    <g
      v-for="box in layout.boxes"
      :key="box.id"
      :class="['box', { selected: selected === box.id, lit: isLit(box.id) }]"
      :data-part="box.id"
      tabindex="0"
      role="button"
      :aria-label="nameOf(parts.get(box.id)!)"
      @click="emit('select', box.id)"
      @dblclick="emit('edit', box.id)"
      @focus="emit('select', box.id)">
      <rect :x="box.x" :y="box.y" :width="box.width" :height="box.height" rx="8" />
      <text :x="box.x + 12" :y="box.y + 21" class="name">
        <title>{{ nameOf(parts.get(box.id)!) }}</title>
        {{ shortened(nameOf(parts.get(box.id)!), worst.has(box.id) ? 15 : 19) }}
      </text>
      <text
        v-for="(line, i) in boxLines(parts.get(box.id)!)"
        :key="i"
        :x="box.x + 12"
        :y="box.y + 37 + 14 * i"
        class="small">
        {{ shortened(line, 24) }}
      </text>
      <text :x="box.x + 12" :y="box.y + box.height - 9" class="figure">{{ sourceVolts(box.id) }}</text>
      <g v-if="worst.get(box.id)" :transform="`translate(${box.x + box.width - 24} ${box.y + 6})`">
        <SeverityMark :severity="worst.get(box.id)!" />
      </g>
    </g>

    <!-- blocks and joints -->
    <g
      v-for="bar in layout.bars"
      :key="bar.id"
      :class="['bar', { selected: selected === bar.id, lit: isLit(bar.id) }]"
      :data-part="bar.id">
      <g
        tabindex="0"
        role="button"
        :aria-label="nameOf(parts.get(bar.id)!)"
        @click="emit('select', bar.id)"
        @dblclick="emit('edit', bar.id)"
        @focus="emit('select', bar.id)">
        <rect :x="bar.x" :y="bar.y" :width="bar.width" :height="bar.height" rx="7" />
        <text :x="bar.x + bar.width / 2" :y="bar.y - 7" text-anchor="middle" class="name2">
          {{ nameOf(parts.get(bar.id)!) }}
        </text>
        <text
          v-if="ownLine(parts.get(bar.id)!)"
          :x="bar.x + bar.width / 2"
          :y="bar.y + bar.height + 14"
          text-anchor="middle"
          class="small">
          {{ ownLine(parts.get(bar.id)!) }}
        </text>
        <g v-if="worst.get(bar.id)" :transform="`translate(${bar.x + 6} ${bar.y - 38})`">
          <SeverityMark :severity="worst.get(bar.id)!" />
        </g>
      </g>
      <g
        v-for="port in bar.ports"
        :key="port.terminal"
        :class="['port', { free: port.free, lit: portLit(port.terminal) }]"
        :transform="`translate(${bar.x + bar.width / 2} ${port.y})`"
        role="button"
        tabindex="-1"
        :aria-label="`port ${portLabel(port.terminal)}`"
        @click="port.free ? emit('add', port.terminal) : emit('edit', bar.id)">
        <rect v-if="port.ratedA !== null || port.free" x="-13" y="-11" width="26" height="22" rx="5" />
        <circle v-else r="4" class="dot" />
        <text v-if="port.free" y="5" text-anchor="middle" class="plus">+</text>
        <text v-else-if="port.ratedA !== null" y="4.5" text-anchor="middle">{{ port.ratedA }}</text>
        <text v-if="short?.opens.has(`${port.terminal} `)" x="-19" y="4.5" text-anchor="end" class="opens">
          {{ short.opens.get(`${port.terminal} `) }}
        </text>
        <g v-if="worst.get(port.terminal)" transform="translate(-38 -9)">
          <SeverityMark :severity="worst.get(port.terminal)!" />
        </g>
      </g>
    </g>

    <!-- loads -->
    <g
      v-for="row in layout.rows"
      :key="row.id"
      :class="['row', { selected: selected === row.id, lit: isLit(row.id) }]"
      :data-part="row.id">
      <line
        class="rule"
        :x1="layout.loadX - 6"
        :x2="layout.width - 8"
        :y1="row.y + layout.rowHeight / 2"
        :y2="row.y + layout.rowHeight / 2" />
      <g
        v-if="row.kind === 'load'"
        tabindex="0"
        role="button"
        :aria-label="nameOf(parts.get(row.id)!)"
        @click="emit('select', row.id)"
        @dblclick="emit('edit', row.id)"
        @focus="emit('select', row.id)">
        <rect
          class="hit"
          :x="layout.loadX - 6"
          :y="row.y - layout.rowHeight / 2 + 3"
          :width="layout.width - layout.loadX"
          :height="layout.rowHeight - 6"
          rx="6" />
        <text :x="layout.loadX + 4" :y="row.y + (layout.compact ? -2 : -1)" class="name">
          {{ nameOf(parts.get(row.id)!) }}
        </text>
        <text :x="layout.loadX + 4" :y="row.y + (layout.compact ? 12 : 15)" class="small">
          {{ ownLine(parts.get(row.id)!) }}
        </text>
        <ArrivalBar
          v-if="judged && isLoad(parts.get(row.id)!)"
          :axis="layout.axis"
          :y="row.y - 4"
          :window="needs(parts.get(row.id) as any)"
          :arrival="judged.verdict.arrivals[row.id] ?? null"
          :now="nowAt(row.id)"
          :low="sideOf(row.id, 'arrival-under')"
          :high="sideOf(row.id, 'arrival-over')"
          :compact="layout.compact" />
        <g :transform="`translate(${layout.markX} ${row.y - 13})`">
          <SeverityMark v-if="judged" :severity="worst.get(row.id) ?? 'passed'" />
        </g>
      </g>
      <text
        v-else-if="row.kind === 'free'"
        :x="barEnd(row.chain.at(-1)!) + 10"
        :y="row.y + 4"
        class="small"
        @click="emit('add', row.id)">
        free port {{ portLabel(row.id) }}: press A to add a load here
      </text>
    </g>
    <g
      v-if="bolt"
      class="bolt"
      :transform="`translate(${bolt.x} ${bolt.y})`"
      role="img"
      aria-label="short circuit here">
      <circle r="13" />
      <path d="M2-9L-5 1.5H-0.5L-2 9L5-1.5H0.5Z" />
    </g>
  </svg>
</template>

<style scoped>
.axis-head {
  position: sticky;
  top: 0;
  z-index: 2;
  pointer-events: none;
}
.ground {
  fill: var(--paper);
}
.body {
  margin-top: -40px;
}
.path {
  display: block;
  font-size: 13px;
  user-select: none;
}
.small {
  font-size: 11.5px;
  fill: var(--ink-3);
}
.name {
  font-size: 13.5px;
  font-weight: 650;
  fill: var(--ink);
}
.name2 {
  font-size: 12px;
  fill: var(--ink);
}
.figure {
  font-size: 13px;
  font-weight: 650;
  fill: var(--ink);
}
.axis line {
  stroke: var(--line-2);
  stroke-dasharray: 1 5;
}
.chosen {
  fill: var(--sheet);
  stroke: var(--ink-2);
  stroke-dasharray: 2 3;
}
.rule {
  stroke: var(--line);
}
.hit {
  fill: transparent;
}
.lead {
  cursor: pointer;
}
.copper {
  fill: none;
  stroke: var(--copper);
}
.tie .copper {
  stroke: var(--copper-faint);
}
.open .copper {
  stroke: var(--copper-faint);
  stroke-dasharray: 7 5;
}
.grab {
  fill: none;
  stroke: transparent;
  stroke-width: 18;
}
.halo {
  fill: none;
  stroke: transparent;
}
.selected > g > .halo {
  stroke: var(--focus);
  opacity: 0.28;
}
.lit > g > .halo {
  stroke: var(--caution);
  opacity: 0.35;
}
.off > g:first-child,
.off > text {
  opacity: 0.35;
}
.hot .copper {
  stroke: var(--fail);
}
.burnt .copper {
  stroke: var(--danger);
  stroke-dasharray: 2 4;
}
.opens {
  font-size: 11.5px;
  font-weight: 650;
  fill: var(--pass) !important;
}
.bolt circle {
  fill: var(--fail);
  stroke: var(--sheet);
  stroke-width: 2;
}
.bolt path {
  fill: var(--sheet);
}
.end {
  fill: var(--ink);
}
.unprotected {
  stroke: var(--ink-3);
  stroke-width: 1.6;
  stroke-dasharray: 4 3;
  fill: none;
}
.unprotected.bad {
  stroke: var(--danger);
  stroke-width: 2.4;
}
.item {
  cursor: pointer;
}
.item .body {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.6;
}
.item text,
.port text {
  font-size: 12px;
  font-weight: 650;
  fill: var(--ink);
}
.item.dropper .body {
  fill: var(--ink);
}
.token {
  cursor: text;
  text-decoration: underline;
  text-decoration-style: dotted;
  text-decoration-color: var(--line-2);
  text-underline-offset: 3px;
}
.token:hover {
  fill: var(--focus);
  text-decoration-color: currentColor;
}
.box,
.bar,
.row {
  cursor: pointer;
}
.box > rect,
.bar > g > rect {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.6;
}
.box.selected > rect,
.bar.selected > g:first-child > rect {
  stroke: var(--focus);
  stroke-width: 3;
}
.box.lit > rect,
.bar.lit > g:first-child > rect {
  fill: var(--lit);
}
.row.lit .hit {
  fill: var(--lit);
  opacity: 0.6;
}
.row.selected .name {
  text-decoration: underline;
  text-underline-offset: 3px;
  text-decoration-color: var(--focus);
  text-decoration-thickness: 2px;
}
.port rect {
  fill: var(--sheet);
  stroke: var(--ink);
  stroke-width: 1.4;
}
.port.lit rect {
  fill: var(--lit);
  stroke: var(--caution);
  stroke-width: 2.4;
}
.port.free rect {
  stroke-dasharray: 3 3;
  stroke: var(--ink-3);
}
.port .dot {
  fill: var(--ink);
}
.plus {
  font-size: 15px !important;
  fill: var(--ink-3) !important;
}
</style>
