<script setup lang="ts">
import { computed, onMounted, watchEffect } from 'vue'
import { buildSheet } from '#core/sheets/build'
import { conditionsOf } from '#core/circuit/conditions'
import { cutListCsv, partsCsv, shoppingCsv } from '#core/formats/csv'
import { spiceNetlist } from '#core/formats/spice'
import { labelsSvg, svgOf } from '#core/formats/svg'
import { pathOnPaper } from '#core/picture/paper'
import { writePlan } from '#core/plan/faults'
import { LABEL_FORMATS } from '#core/sheets/labels'
import { stampWords } from '#core/sheets/state'
import { showLength } from '#core/units/quantity'
import { asGiven, fixed } from '#core/units/number'
import { download } from '../shell/download'
import { usePdf } from '../shell/usePdf'
import { useShelf } from '../stores/shelf'
import TopBar from '../shell/TopBar.vue'
import { usePreferences } from '../stores/preferences'
import { useOpenStation } from '../stores/useOpenStation'
import Icon from '../shell/Icon.vue'
import ToBuy from './ToBuy.vue'

/** The build sheet on screen and on paper. */
const props = defineProps<{ stationId: string }>()
const { station, missing } = useOpenStation(props.stationId)
const { chosen } = usePreferences()
const shelf = useShelf()
const toPdf = usePdf()
const printed = new Date().toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' })
onMounted(() => shelf.load())
const sheet = computed(() =>
  station.plan ? buildSheet(station.plan, shelf.items, { revision: station.revision, date: printed }) : null,
)
const stem = computed(
  () =>
    station.plan?.name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, '-')
      .replace(/^-|-$/g, '') || 'station',
)

/** Every open format of the plan. The PDF maker is loaded only when asked for. */
const exportsMade: { label: string; make: () => void }[] = [
  {
    label: 'Build sheet PDF',
    make: async () => {
      const { buildSheetPdf } = await import('#core/formats/pdf/buildSheet')
      const paper = chosen.paper === 'Letter' ? 'letter' : 'a4'
      const path = drawn.value ?? undefined
      await toPdf(`${stem.value}.pdf`, loadFace => buildSheetPdf(sheet.value!, { paper, path, loadFace }))
    },
  },
  {
    label: 'Path SVG',
    make: () => download(`${stem.value}.svg`, drawnSvg.value, 'image/svg+xml'),
  },
  { label: 'Cut list CSV', make: () => download(`${stem.value}-cut.csv`, cutListCsv(sheet.value!), 'text/csv') },
  { label: 'Parts CSV', make: () => download(`${stem.value}-parts.csv`, partsCsv(sheet.value!), 'text/csv') },
  {
    label: 'Shopping CSV',
    make: () => download(`${stem.value}-shopping.csv`, shoppingCsv(sheet.value!), 'text/csv'),
  },
  { label: 'Labels, tape', make: () => labels('tape') },
  { label: 'Labels, sheet', make: () => labels('sheet') },
  {
    label: 'Labels SVG',
    make: () =>
      download(`${stem.value}-labels.svg`, labelsSvg(sheet.value!.labels, LABEL_FORMATS[1]!), 'image/svg+xml'),
  },
  { label: 'Netlist', make: () => netlist() },
  { label: 'Plan JSON', make: () => download(`${stem.value}.json`, writePlan(station.plan!), 'application/json') },
]
async function labels(id: 'tape' | 'sheet') {
  const { labelsPdf } = await import('#core/formats/pdf/labels')
  const format = LABEL_FORMATS.find(f => f.id === id)!
  const named = `${stem.value}-labels-${id}.pdf`
  await toPdf(named, loadFace => labelsPdf(sheet.value!.labels, format, loadFace))
}
function netlist() {
  const all = conditionsOf(station.plan!)
  const condition = all.find(c => c.id === 'low/all') ?? all.find(c => c.loadState === 'all')!
  download(`${stem.value}.cir`, spiceNetlist(station.plan!, condition), 'text/plain')
}
/** The path as it is printed; null until the plan is judged. */
const drawn = computed(() => {
  const { plan, judged } = station
  return plan && judged ? pathOnPaper(plan, judged.verdict, judged, { units: chosen.units }) : null
})
const drawnSvg = computed(() => (drawn.value ? svgOf(drawn.value.picture) : ''))
const toBuy = computed(() => sheet.value?.shopping.filter(r => r.buy > 0) ?? [])
const length = (m: number) => showLength(m, chosen.units)

// The paper's size is a rule of the page, which scoped styles cannot hold.
const pageRule = document.createElement('style')
watchEffect(() => {
  pageRule.textContent = `@page { size: ${chosen.paper === 'Letter' ? 'letter' : 'A4'}; margin: 14mm 13mm; }`
  document.head.append(pageRule)
})
const print = () => window.print()
</script>

<template>
  <div class="build">
    <TopBar view="build" />
    <p v-if="missing" class="missing">{{ missing }}</p>
    <main v-else-if="sheet">
      <div class="tools">
        <SelectButton
          v-model="chosen.paper"
          :options="['A4', 'Letter']"
          :allow-empty="false"
          size="small"
          aria-label="Paper" />
        <Select
          :options="exportsMade"
          option-label="label"
          placeholder="Export…"
          size="small"
          :model-value="null"
          aria-label="Export"
          @update:model-value="e => e?.make()" />
        <Button @click="print"><Icon name="print" /> Print</Button>
      </div>
      <header>
        <h1>{{ sheet.name }}</h1>
        <p>Build sheet · {{ stampWords(sheet.stamp) }}</p>
      </header>
      <p v-if="sheet.notReady.length" class="serious"><b>Not ready to build:</b> {{ sheet.notReady.join('; ') }}.</p>
      <p v-if="sheet.assumed.length" class="said"><b>Not stated, and assumed:</b> {{ sheet.assumed.join('; ') }}.</p>
      <p v-for="note in sheet.notes" :key="note" class="said">{{ note }}</p>
      <ul class="cautions">
        <li v-for="line in sheet.cautions" :key="line">{{ line }}</li>
      </ul>

      <!-- As a picture by itself, so that its looks stay its own and it prints as it stands. -->
      <img
        v-if="drawn"
        class="drawn"
        :src="`data:image/svg+xml,${encodeURIComponent(drawnSvg)}`"
        :alt="`The path of ${sheet.name}, from its sources to its loads`" />
      <p v-else-if="station.isVerdictNear && !station.isVerdictSlow" class="quiet drawing">Drawing the path…</p>

      <section tabindex="0">
        <h2>Cut list</h2>
        <table class="cut">
          <thead>
            <tr>
              <th>Lead</th>
              <th>Conductor</th>
              <th class="n">Runs</th>
              <th class="n">Cut each</th>
              <th>Ends</th>
              <th>In it</th>
              <th class="tick">done</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in sheet.cutList" :key="row.leadId">
              <td>
                <b>{{ row.name }}</b><br />{{ row.from }} → {{ row.to }}
                <div v-if="row.note">{{ row.note }}</div>
              </td>
              <td class="whole" data-label="Conductor">
                {{ row.conductor }}<template v-if="row.insulationC">, {{ asGiven(row.insulationC) }} °C</template
                ><br />{{ row.conductors.map(c => c.colour).join(' + ') }}
              </td>
              <td class="n" data-label="Runs">{{ length(row.lengthM) }}</td>
              <td class="n" data-label="Cut each">
                <b>{{ length(row.cutM) }}</b>
              </td>
              <td data-label="Ends">
                <div v-for="end in row.ends" :key="end.end" :title="end.trap">
                  {{ end.at }}: {{ end.connector }}, {{ end.method }}
                </div>
              </td>
              <td v-if="row.inline.length" data-label="In it">
                <div v-for="(item, i) in row.inline" :key="i">
                  {{ item.what }}, {{ length(item.atM) }} from {{ item.from }},
                  {{ item.leg === 'both' ? 'both legs' : `${item.leg} leg` }}; {{ item.note }}
                </div>
              </td>
              <td v-else />
              <td class="tick" data-label="done">☐</td>
            </tr>
          </tbody>
        </table>
      </section>

      <section tabindex="0">
        <h2>Parts</h2>
        <table class="parts">
          <thead>
            <tr>
              <th class="n">Count</th>
              <th>What</th>
              <th>Note</th>
              <th class="tick">have</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in sheet.parts" :key="row.what">
              <td class="n" data-label="Count">{{ row.unit === 'm' ? length(row.count) : row.count }}</td>
              <td>{{ row.what }}</td>
              <td data-label="Note">{{ row.note }}</td>
              <td class="tick" data-label="have">☐</td>
            </tr>
          </tbody>
        </table>
      </section>

      <section tabindex="0">
        <h2>To buy</h2>
        <ToBuy :rows="toBuy" :length="length" />
      </section>

      <section tabindex="0">
        <h2>Connect in this order</h2>
        <ol>
          <li v-for="(step, i) in sheet.hookUp.connect" :key="i">
            <span class="box">☐</span> {{ step.does }} <i>{{ step.before }}</i>
            <b v-if="step.caution" class="caution">{{ step.caution }}</b>
          </li>
        </ol>
        <h2>Take down</h2>
        <ol>
          <li v-for="(step, i) in sheet.hookUp.takeDown" :key="i"><span class="box">☐</span> {{ step }}</li>
        </ol>
      </section>

      <section class="labels" tabindex="0">
        <h2>Labels</h2>
        <div class="strip">
          <span v-for="label in sheet.labels" :key="label.id" class="label" :class="{ warns: label.warns }"
            ><b>{{ label.lines[0] }}</b
            >{{ label.lines[1] }}</span
          >
        </div>
      </section>

      <section tabindex="0">
        <h2>What each point should read</h2>
        <p class="quiet">
          Volts, contacts as new, a charged pack at {{ station.plan?.site?.ambientC?.typical ?? 20 }} °C. A reading 0.2
          V lower points at the step before it: a hot contact, a thin wire, a tired pack.
        </p>
        <table class="test">
          <thead>
            <tr>
              <th>Point</th>
              <th v-for="c in sheet.test.conditions" :key="c.id" class="n">{{ c.words }}</th>
              <th class="n">measured</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="row in sheet.test.rows" :key="row.terminal">
              <td>
                <b>{{ row.terminal }}</b> {{ row.words }}
              </td>
              <td v-for="(v, i) in row.volts" :key="i" class="n" :data-label="sheet.test.conditions[i]?.words">
                {{ v === null ? 'none' : fixed(v, 2) }}
              </td>
              <td class="blank" data-label="measured" />
            </tr>
          </tbody>
        </table>
      </section>
    </main>
  </div>
</template>

<style scoped src="./tables.css"></style>
<style scoped>
main {
  max-width: 62rem;
  margin: 0 auto;
  padding: 1.2rem 1.2rem 4rem;
}
.tools {
  display: flex;
  gap: 0.6rem;
  justify-content: flex-end;
}
h1 {
  font-size: 1.6rem;
  letter-spacing: -0.01em;
}
header p,
.quiet {
  color: var(--ink-3);
}
h2 {
  font-size: 1.1rem;
  margin: 1.6rem 0 0.4rem;
}
.serious {
  border: 1.5px solid var(--fail);
  border-radius: 8px;
  padding: 0.5rem 0.8rem;
  margin-top: 0.8rem;
}
.serious b {
  color: var(--fail);
}
.said {
  margin: 0.6rem 0 0;
}
.cautions {
  margin: 0.8rem 0 0;
  padding: 0 0 0 1.1rem;
  color: var(--ink-2);
}
.cautions li {
  margin: 0.15rem 0;
}
ol {
  padding-left: 1.6rem;
  margin: 0.3rem 0;
}
ol li {
  margin: 0.3rem 0;
}
ol i {
  color: var(--ink-3);
}
.caution {
  color: var(--danger);
  font-weight: 600;
}
/* What is read below does not jump as the drawing comes. */
.drawing ~ section {
  visibility: hidden;
}
.drawn {
  display: block;
  width: 100%;
  max-height: 80vh;
  object-fit: contain;
  object-position: left;
  margin: 0.8rem 0;
}
.strip {
  display: flex;
  flex-wrap: wrap;
  gap: 0.35rem;
}
.label {
  border: 1px solid var(--line-2);
  border-radius: 4px;
  padding: 0.15rem 0.45rem;
  font-size: 0.82rem;
  display: grid;
  background: var(--sheet);
}
.label.warns {
  background: var(--ink);
  color: var(--paper);
}
.missing {
  padding: 3rem;
}
@media print {
  /* Printers leave backgrounds out: a warning stands in a thick frame. */
  .label,
  .label.warns {
    background: none;
    color: #000;
    border-color: #000;
    break-inside: avoid;
  }
  .label.warns {
    border-width: 3px;
    font-weight: 700;
  }
  .tools {
    display: none;
  }
  main {
    max-width: none;
    padding: 0;
  }
  .drawn {
    max-height: 60vh;
  }
  section,
  tr,
  li,
  .drawn {
    break-inside: avoid;
  }
  section {
    break-inside: auto;
  }
  thead {
    display: table-header-group;
  }
  h2 {
    break-after: avoid;
    margin-top: 1rem;
  }
}
</style>
