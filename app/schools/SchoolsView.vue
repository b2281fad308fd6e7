<script setup lang="ts">
import { useToast } from 'primevue/usetoast'
import { computed, ref, shallowRef, watch } from 'vue'
import type { SchoolId } from '#core/catalog/schools'
import { applyEdit } from '#core/edit/patch'
import { chooseSchool, schoolsOf } from '#core/schools/choose'
import type { Side } from '#core/schools/compare'
import TopBar from '../shell/TopBar.vue'
import { useOpenStation } from '../stores/useOpenStation'

/**
 * The choices on which people are of two minds: which side this plan takes, what the other says, and what each comes
 * to.
 */
const props = defineProps<{ stationId: string }>()
const { station, missing } = useOpenStation(props.stationId)
const toast = useToast()

const schools = computed(() => (station.plan ? schoolsOf(station.plan) : []))
const open = ref<{ id: SchoolId; choice: string } | null>(null)
const sides = shallowRef<Side[] | null>(null)
const building = computed(() =>
  open.value && station.plan ? chooseSchool(station.plan, open.value.id, open.value.choice) : null,
)

watch([open, () => station.plan], async ([what, plan]) => {
  sides.value = null
  if (!what || !plan || !building.value) return
  const edit = applyEdit(plan, building.value.patch)
  if (!edit.ok) return
  const result = await station.core.call('compare', [plan, edit.plan]).catch(() => null)
  if (open.value === what) sides.value = result
})

function take() {
  if (!open.value || !building.value) return
  const school = schools.value.find(s => s.id === open.value!.id)!
  const label = `${school.question}: ${school.choices.find(c => c.id === open.value!.choice)!.label}`
  const faults = station.edit(building.value.patch, label)
  if (faults.length) toast.add({ severity: 'error', summary: 'Not taken', detail: faults[0]!.wrong, life: 6000 })
  else toast.add({ severity: 'secondary', summary: label, detail: 'Ctrl Z takes it back.', life: 3500 })
  open.value = null
}
const label = (id: string, choice: string) =>
  schools.value.find(s => s.id === id)?.choices.find(c => c.id === choice)?.label ?? choice
const v = (n: number) => n.toFixed(2)
const findingsWords = (side: Side) =>
  ['danger', 'fail', 'caution', 'note']
    .flatMap(s =>
      side.findings.filter(f => f.severity === s).length
        ? [`${side.findings.filter(f => f.severity === s).length} ${s}`]
        : [],
    )
    .join(', ') || 'none'
function onKey(event: KeyboardEvent) {
  if (event.key === 'Escape') open.value = null
}
</script>

<template>
  <div class="schools" @keydown="onKey">
    <TopBar view="schools" />
    <p v-if="missing" class="missing">{{ missing }}</p>
    <main v-else-if="station.plan">
      <h1>Schools</h1>
      <p class="quiet">
        Operators are of two minds on these. The plan names its side; checks and sheets follow it. Choose the other to
        see what it would come to before it is taken.
      </p>
      <section v-for="s in schools" :key="s.id" class="school">
        <h2>{{ s.question }}</h2>
        <div class="choices">
          <button
            v-for="c in s.choices"
            :key="c.id"
            class="choice"
            :class="{ on: s.now === c.id, open: open?.id === s.id && open.choice === c.id }"
            :aria-pressed="s.now === c.id"
            @click="open = s.now === c.id ? null : { id: s.id, choice: c.id }">
            <b
              ><span class="mark" aria-hidden="true">{{ s.now === c.id ? '●' : '○' }}</span> {{ c.label }}</b
            ><span>{{ c.says }}</span>
          </button>
        </div>
        <div v-if="open?.id === s.id" class="compare">
          <p v-if="building?.does" class="does">Taking it also builds it: {{ building.does }}.</p>
          <p v-else class="does">Taking it changes what the plan says; nothing in it is rebuilt.</p>
          <table v-if="sides">
            <thead>
              <tr>
                <th />
                <th class="n">{{ label(s.id, s.now) }} (now)</th>
                <th class="n">{{ label(s.id, open.choice) }}</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="(side, id) in sides[0]!.arrivals" :key="id">
                <td>{{ side?.name ?? id }} gets</td>
                <td
                  v-for="(x, i) in sides"
                  :key="i"
                  class="n"
                  :class="{
                    other:
                      i === 1 &&
                      x.arrivals[id] &&
                      side &&
                      Math.abs(x.arrivals[id]!.lowV - side.lowV) + Math.abs(x.arrivals[id]!.highV - side.highV) > 0.005,
                  }">
                  {{ x.arrivals[id] ? `${v(x.arrivals[id]!.lowV)}–${v(x.arrivals[id]!.highV)} V` : 'nothing' }}
                </td>
              </tr>
              <tr>
                <td>weight</td>
                <td
                  v-for="(x, i) in sides"
                  :key="i"
                  class="n"
                  :class="{ other: i === 1 && Math.abs(x.grams - sides![0]!.grams) > 0.5 }">
                  {{ (x.grams / 1000).toFixed(2) }} kg
                </td>
              </tr>
              <tr>
                <td>cost of what has a price</td>
                <td
                  v-for="(x, i) in sides"
                  :key="i"
                  class="n"
                  :class="{ other: i === 1 && Math.abs(x.cost - sides![0]!.cost) > 0.5 }">
                  {{ x.cost.toFixed(0) }}
                </td>
              </tr>
              <tr>
                <td>lost on the way, all active</td>
                <td
                  v-for="(x, i) in sides"
                  :key="i"
                  class="n"
                  :class="{ other: i === 1 && Math.abs((x.lossW ?? 0) - (sides![0]!.lossW ?? 0)) > 0.1 }">
                  {{ x.lossW === null ? 'no solution' : `${x.lossW.toFixed(1)} W` }}
                </td>
              </tr>
              <tr>
                <td>findings</td>
                <td
                  v-for="(x, i) in sides"
                  :key="i"
                  class="n"
                  :class="{ other: i === 1 && findingsWords(x) !== findingsWords(sides![0]!) }">
                  {{ findingsWords(x) }}
                </td>
              </tr>
            </tbody>
          </table>
          <div class="buttons">
            <Button :label="`Take: ${label(s.id, open.choice)}`" size="small" @click="take" /><button
              class="plain"
              @click="open = null">
              Keep {{ label(s.id, s.now) }}
            </button>
          </div>
        </div>
      </section>
    </main>
  </div>
</template>

<style scoped>
main {
  max-width: 60rem;
  margin: 0 auto;
  padding: 1.2rem 1.2rem 4rem;
}
h1 {
  font-size: 1.6rem;
  letter-spacing: -0.01em;
}
.quiet {
  color: var(--ink-3);
  max-width: 44rem;
}
.school {
  border-top: 1px solid var(--line-2);
  padding: 0.8rem 0 0.9rem;
  margin-top: 0.4rem;
}
h2 {
  font-size: 1.02rem;
  margin-bottom: 0.45rem;
}
.choices {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(16rem, 1fr));
  gap: 0.6rem;
}
.choice {
  text-align: left;
  border: 1px solid var(--line-2);
  border-radius: 9px;
  background: none;
  padding: 0.5rem 0.75rem;
  cursor: pointer;
  display: grid;
  gap: 0.15rem;
  align-content: start;
}
.choice b {
  font-weight: 650;
}
.choice > span {
  color: var(--ink-2);
}
.choice:hover {
  background: var(--choice);
}
.choice.on {
  border-color: var(--ink);
  background: var(--sheet);
  box-shadow: inset 0 0 0 0.5px var(--ink);
}
.choice.open {
  border-color: var(--focus);
  box-shadow: inset 0 0 0 1px var(--focus);
}
.mark {
  color: var(--copper);
  font-size: 0.8em;
}
.compare {
  margin-top: 0.7rem;
  border-left: 3px solid var(--focus);
  padding: 0.1rem 0 0.1rem 0.9rem;
}
.does {
  color: var(--ink-2);
  margin-bottom: 0.4rem;
}
table {
  border-collapse: collapse;
  min-width: 28rem;
}
th {
  font-size: 0.86rem;
  color: var(--ink-3);
  font-weight: 600;
  padding: 0.2rem 1.4rem 0.2rem 0;
  text-align: left;
  border-bottom: 1.5px solid var(--ink);
}
td {
  padding: 0.22rem 1.4rem 0.22rem 0;
  border-bottom: 1px solid var(--line);
}
.n {
  text-align: right;
  white-space: nowrap;
}
.other {
  font-weight: 650;
  background: var(--lit);
}
.buttons {
  display: flex;
  gap: 0.6rem;
  margin-top: 0.6rem;
  align-items: center;
}
.missing {
  padding: 3rem;
}
@media (max-width: 760px) {
  .compare {
    overflow-x: auto;
  }
}
</style>
