<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { CONNECTORS, connector } from '#core/catalog/connectors'
import { fuseClass, FUSE_TYPE_IDS } from '#core/catalog/fuses'
import { conductorName } from '#core/conductor/resistance'
import { shelfFromCsv, shelfToCsv } from '#core/shelf/csv'
import type { ShelfItem } from '#core/shelf/item'
import { waysToJoin } from '#core/shelf/ways'
import { readConductor } from '#core/units/conductor'
import { readQuantity, showLength } from '#core/units/quantity'
import { counted } from '#core/units/words'
import { download } from '../shell/download'
import Icon from '../shell/Icon.vue'
import OuterBar from '../shell/OuterBar.vue'
import { usePreferences } from '../stores/preferences'
import { useShelf } from '../stores/shelf'

/** What the operator owns, and what the drawer can join. */
const shelf = useShelf()
const { chosen } = usePreferences()
onMounted(() => shelf.load())

const GROUPS = [
  { what: 'conductor', title: 'Conductor, by the metre' },
  { what: 'contact', title: 'Contacts and connectors, pairs' },
  { what: 'fuse', title: 'Fuses' },
  { what: 'adapter', title: 'Adapters' },
  { what: 'pack', title: 'Packs' },
] as const
/** Things that came with the sample stations. */
const madeUp = computed(() => shelf.items.filter(i => i.madeUp).length)
const clearMadeUp = () =>
  void shelf.save(
    shelf.items.filter(i => !i.madeUp),
    'made-up things taken off the shelf',
  )
const groups = computed(() => GROUPS.map(g => ({ ...g, items: shelf.items.filter(i => i.what === g.what) })))

function words(item: ShelfItem): string {
  switch (item.what) {
    case 'conductor':
      return `${conductorName(item)}${item.insulationC ? `, ${item.insulationC} °C` : ''}`
    case 'contact':
      return connector(item.connector).label
    case 'fuse':
      return `${item.ratedA} A ${fuseClass(item.type).label}`
    case 'adapter':
      return `${connector(item.a).label} to ${connector(item.b).label}${item.ratedA ? `, ${item.ratedA} A` : ''}`
    case 'pack':
      return `${item.name ? `${item.name}: ` : ''}${item.chemistry} ${item.seriesCells}S, ${item.capacityAh} Ah`
  }
}
const amount = (item: ShelfItem) =>
  item.what === 'conductor' ? showLength(item.metres, chosen.units) : String(item.count)
const wrong = ref('')

function setAmount(item: ShelfItem, text: string) {
  const read = readQuantity(text, item.what === 'conductor' ? 'length' : 'count', chosen.units)
  if (!read.ok) {
    wrong.value = read.wrong
    return
  }
  if (read.value < 0) {
    wrong.value = `${text} is below nothing; 0 takes it off the shelf.`
    return
  }
  wrong.value = ''
  const counted = item.what === 'conductor' ? { ...item, metres: read.value } : { ...item, count: read.value }
  const left = read.value === 0 ? [] : [counted]
  const label = left.length ? `amount of ${words(item)}` : `removal of ${words(item)}`
  void shelf.save(
    shelf.items.flatMap(i => (i.id === item.id ? left : [i])),
    label,
  )
}

// A new line, by kind.
const adding = ref<ShelfItem['what']>('conductor')
const first = ref('')
const second = ref('stack-45')
const a = ref('stack-45')
const b = ref('inlet-4')
const type = ref('blade')
const count = ref('')
const connectors = CONNECTORS.map(c => ({ id: c.id, label: c.label }))
function freeId() {
  let n = shelf.items.length + 1
  while (shelf.items.some(i => i.id === `i${n}`)) n++
  return `i${n}`
}
function add() {
  const id = freeId()
  const pieces = readQuantity(count.value || '1', adding.value === 'conductor' ? 'length' : 'count', chosen.units)
  if (!pieces.ok) return void (wrong.value = pieces.wrong)
  let item: ShelfItem
  if (adding.value === 'conductor') {
    const read = readConductor(first.value, chosen.units)
    if (!read.ok) return void (wrong.value = read.wrong)
    item = {
      id,
      what: 'conductor',
      ...(read.value.awg !== undefined && { awg: read.value.awg }),
      ...(read.value.mm2 !== undefined && { mm2: read.value.mm2 }),
      insulationC: 105,
      metres: pieces.value,
    } as ShelfItem
  } else if (adding.value === 'fuse') {
    const read = readQuantity(first.value, 'current', chosen.units)
    if (!read.ok) return void (wrong.value = read.wrong)
    item = { id, what: 'fuse', type: type.value, ratedA: read.value, count: pieces.value }
  } else if (adding.value === 'contact') item = { id, what: 'contact', connector: second.value, count: pieces.value }
  else if (adding.value === 'adapter') item = { id, what: 'adapter', a: a.value, b: b.value, count: pieces.value }
  else {
    const read = readQuantity(first.value, 'charge', chosen.units)
    if (!read.ok) return void (wrong.value = read.wrong)
    item = { id, what: 'pack', chemistry: 'lifepo4', seriesCells: 4, capacityAh: read.value, count: pieces.value }
  }
  wrong.value = ''
  first.value = ''
  count.value = ''
  void shelf.save([...shelf.items, item], `new on the shelf: ${words(item)}`)
}

const file = ref<HTMLInputElement>()
const refused = ref<{ line: number; wrong: string; right: string }[]>([])
async function importCsv(event: Event) {
  const input = event.target as HTMLInputElement
  const text = await input.files?.[0]?.text()
  input.value = ''
  if (text === undefined) return
  const read = shelfFromCsv(text, n => `c${n + 1}`)
  refused.value = read.ok ? [] : read.faults
  if (read.ok) await shelf.save(read.items, 'shelf read from a file')
}

// Which adapters join two connectors.
const joinFrom = ref('accessory-12v')
const joinTo = ref('inlet-4')
const joinA = ref('10 A')
const ways = computed(() => {
  const read = readQuantity(joinA.value, 'current', chosen.units)
  return waysToJoin(joinFrom.value, joinTo.value, read.ok ? read.value : 10, shelf.items)
})
const mates = computed(() => !ways.value.length)
</script>

<template>
  <div class="page" @dragover.prevent>
    <OuterBar :histories="[shelf.undoable]" />
    <main>
      <div class="heading">
        <h1>Shelf</h1>
        <Button label="Import CSV" severity="secondary" @click="file?.click()" />
        <Button
          label="Export CSV"
          severity="secondary"
          @click="download('shelf.csv', shelfToCsv(shelf.items), 'text/csv')" />
        <input ref="file" type="file" accept=".csv,text/csv" hidden data-testid="shelf-import" @change="importCsv" />
      </div>
      <p class="quiet">
        What lies in the drawer. Sizing can keep to it, adapters are looked for in it first, and the shopping list
        leaves it out.
      </p>
      <p v-if="madeUp" class="quiet">
        {{ counted(madeUp, 'thing') }} here came with the sample stations and
        {{ madeUp === 1 ? 'counts' : 'count' }} for those alone.
        <button class="plain" @click="clearMadeUp">Clear them</button>
      </p>
      <p v-if="shelf.problem || wrong" class="wrong" role="alert">{{ shelf.problem || wrong }}</p>
      <div v-if="refused.length" class="refused" role="alert">
        <h2>The file was not imported; the shelf is as it was</h2>
        <ul>
          <li v-for="f in refused.slice(0, 20)" :key="f.line">
            line {{ f.line }}: {{ f.wrong }}; right would be {{ f.right }}
          </li>
        </ul>
        <button class="plain" @click="refused = []">Close</button>
      </div>

      <div class="columns">
        <div>
          <section v-for="group in groups" :key="group.what">
            <h2>{{ group.title }}</h2>
            <p v-if="!group.items.length" class="quiet">none</p>
            <div v-for="item in group.items" :key="item.id" class="item">
              <span>{{ words(item) }}</span>
              <input
                :value="amount(item)"
                :aria-label="`how much: ${words(item)}`"
                @change="e => setAmount(item, (e.target as HTMLInputElement).value)" />
              <button class="plain" :aria-label="`Take off: ${words(item)}`" @click="setAmount(item, '0')">
                <Icon name="close" />
              </button>
            </div>
          </section>
        </div>
        <div>
          <section class="card">
            <h2>Put on the shelf</h2>
            <form class="add" @submit.prevent="add">
              <SelectButton
                v-model="adding"
                :options="GROUPS.map(g => g.what)"
                :allow-empty="false"
                size="small"
                aria-label="What" />
              <label v-if="adding === 'conductor'"
                >Size <InputText v-model="first" size="small" placeholder="12 AWG or 2.5 mm2"
              /></label>
              <label v-else-if="adding === 'fuse'"
                >Rating <InputText v-model="first" size="small" placeholder="15 A"
              /></label>
              <label v-else-if="adding === 'pack'"
                >Capacity <InputText v-model="first" size="small" placeholder="12 Ah"
              /></label>
              <label v-if="adding === 'fuse'"
                >Class <Select v-model="type" :options="FUSE_TYPE_IDS" size="small"
              /></label>
              <label v-if="adding === 'contact'"
                >Connector
                <Select
                  v-model="second"
                  :options="connectors"
                  option-label="label"
                  option-value="id"
                  filter
                  size="small"
              /></label>
              <template v-if="adding === 'adapter'">
                <label
                  >From
                  <Select v-model="a" :options="connectors" option-label="label" option-value="id" filter size="small"
                /></label>
                <label
                  >To
                  <Select v-model="b" :options="connectors" option-label="label" option-value="id" filter size="small"
                /></label>
              </template>
              <label
                >{{ adding === 'conductor' ? 'Metres of single conductor' : 'How many' }}
                <InputText v-model="count" size="small" :placeholder="adding === 'conductor' ? '10 m' : '1'"
              /></label>
              <Button type="submit" label="Add" size="small" />
            </form>
          </section>
          <section class="card">
            <h2>What joins these two?</h2>
            <div class="add">
              <label
                >A lead's end
                <Select
                  v-model="joinFrom"
                  :options="connectors"
                  option-label="label"
                  option-value="id"
                  filter
                  size="small"
              /></label>
              <label
                >onto
                <Select
                  v-model="joinTo"
                  :options="connectors"
                  option-label="label"
                  option-value="id"
                  filter
                  size="small"
              /></label>
              <label>at <InputText v-model="joinA" size="small" /></label>
            </div>
            <p v-if="mates" class="good">
              They mate as they are, or nothing on the market joins them within its rating.
            </p>
            <ol v-else class="ways">
              <li v-for="(way, i) in ways" :key="i">
                <b>{{ way.steps.map(s => s.words).join(', then ') }}</b>
                <span
                  >{{ way.dropV.toFixed(2) }} V lost · contacts {{ way.riseC.toFixed(0) }} °C warmer ·
                  {{ way.failures }} places to fail<template v-if="way.money">
                    · about {{ way.money }} to buy</template
                  ></span
                >
              </li>
            </ol>
          </section>
        </div>
      </div>
    </main>
  </div>
</template>

<style scoped>
main {
  max-width: 66rem;
  margin: 0 auto;
  padding: 1.4rem 1rem 3rem;
}
.heading {
  display: flex;
  gap: 0.7rem;
  align-items: center;
  flex-wrap: wrap;
}
h1 {
  font-size: 1.6rem;
  letter-spacing: -0.01em;
  margin-right: auto;
}
h2 {
  font-size: 1rem;
  margin-bottom: 0.3rem;
}
.quiet {
  color: var(--ink-3);
}
.wrong {
  color: var(--fail);
  margin-top: 0.5rem;
}
.refused {
  border: 1.5px solid var(--fail);
  border-radius: 10px;
  padding: 0.7rem 1rem;
  margin: 0.8rem 0;
  background: var(--sheet);
}
.refused h2 {
  color: var(--fail);
}
.refused ul {
  margin: 0.3rem 0;
  padding-left: 1.2rem;
}
.columns {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 2.4rem;
  margin-top: 1rem;
  align-items: start;
}
section {
  margin-bottom: 1.3rem;
}
.item {
  display: grid;
  grid-template-columns: 1fr 6rem auto;
  gap: 0.6rem;
  align-items: center;
  border-bottom: 1px solid var(--line);
  padding: 0.15rem 0;
}
.item input {
  text-align: right;
  border: 1px solid transparent;
  background: none;
  border-radius: 6px;
  padding: 0.25rem 0.45rem;
}
.item input:hover,
.item input:focus {
  border-color: var(--line-2);
  background: var(--sheet);
}
.card {
  border: 1px solid var(--line-2);
  border-radius: 10px;
  padding: 0.9rem 1rem;
  background: var(--sheet);
}
.add {
  display: grid;
  gap: 0.55rem;
  justify-items: start;
}
.add label {
  display: grid;
  grid-template-columns: 8.5rem minmax(0, 1fr);
  gap: 0.6rem;
  align-items: center;
  width: 100%;
  color: var(--ink-2);
}
.add :deep(.p-select),
.add :deep(input) {
  width: 100%;
  min-width: 0;
}
.ways {
  margin: 0.7rem 0 0;
  padding-left: 1.2rem;
}
.ways li {
  margin: 0.4rem 0;
}
.ways b {
  display: block;
  font-weight: 600;
}
.ways span {
  color: var(--ink-3);
}
.good {
  color: var(--pass);
  margin-top: 0.6rem;
}
@media (max-width: 760px) {
  .columns {
    grid-template-columns: 1fr;
  }
}
</style>
