<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { shelfFromCsv, shelfToCsv } from '#core/shelf/csv'
import type { ShelfItem } from '#core/shelf/item'
import { itemWords } from '#core/shelf/words'
import { readQuantity, showLength } from '#core/units/quantity'
import { counted } from '#core/units/words'
import { download } from '../shell/download'
import Icon from '../shell/Icon.vue'
import OuterBar from '../shell/OuterBar.vue'
import { usePreferences } from '../stores/preferences'
import { useShelf } from '../stores/shelf'
import ShelfAdd from './ShelfAdd.vue'
import ShelfJoin from './ShelfJoin.vue'

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
  const label = left.length ? `amount of ${itemWords(item)}` : `removal of ${itemWords(item)}`
  void shelf.save(
    shelf.items.flatMap(i => (i.id === item.id ? left : [i])),
    label,
  )
}

function freeId() {
  let n = shelf.items.length + 1
  while (shelf.items.some(i => i.id === `i${n}`)) n++
  return `i${n}`
}
function add(item: ShelfItem) {
  wrong.value = ''
  void shelf.save([...shelf.items, item], `new on the shelf: ${itemWords(item)}`)
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
</script>

<template>
  <div class="page" @dragover.prevent>
    <OuterBar :histories="[shelf.undoable]" />
    <main>
      <div class="heading">
        <h1>Shelf</h1>
        <Button label="Import CSV" severity="secondary" :disabled="!shelf.isRead" @click="file?.click()" />
        <Button
          label="Export CSV"
          severity="secondary"
          :disabled="!shelf.isRead"
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

      <div v-if="shelf.isRead" class="columns">
        <div>
          <section v-for="group in groups" :key="group.what">
            <h2>{{ group.title }}</h2>
            <p v-if="!group.items.length" class="quiet">none</p>
            <div v-for="item in group.items" :key="item.id" class="item">
              <span>{{ itemWords(item) }}</span>
              <input
                :value="amount(item)"
                :aria-label="`how much: ${itemWords(item)}`"
                @change="e => setAmount(item, (e.target as HTMLInputElement).value)" />
              <button class="plain" :aria-label="`Take off: ${itemWords(item)}`" @click="setAmount(item, '0')">
                <Icon name="close" />
              </button>
            </div>
          </section>
        </div>
        <div>
          <ShelfAdd :free-id="freeId" @add="add" @wrong="wrong = $event" />
          <ShelfJoin :items="shelf.items" />
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
@media (max-width: 760px) {
  .columns {
    grid-template-columns: 1fr;
  }
}
</style>
