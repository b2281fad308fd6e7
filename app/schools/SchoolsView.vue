<script setup lang="ts">
import { useToast } from 'primevue/usetoast'
import { computed, ref } from 'vue'
import type { SchoolId } from '#core/catalog/schools'
import TopBar from '../shell/TopBar.vue'
import { useOpenStation } from '../stores/useOpenStation'
import SideTable from './SideTable.vue'
import { useSchools } from './useSchools'

/**
 * The choices on which people are of two minds: which side this plan is built on, what the other says, and what each
 * comes to once it is built, mended and sized.
 */
const props = defineProps<{ stationId: string }>()
const { station, missing } = useOpenStation(props.stationId)
const toast = useToast()
const { schools, compared, tried, problem, compare, close } = useSchools(() => station.plan)

const open = ref<{ id: SchoolId; choice: string } | null>(null)
const groups = computed(() => [
  { title: '', those: schools.value?.filter(s => s.noDifference === null) ?? [] },
  {
    title: 'Come to the same, or cannot be had here',
    those: schools.value?.filter(s => s.noDifference !== null) ?? [],
  },
])

function look(id: SchoolId, choice: string, now: string) {
  open.value = choice === now ? null : { id, choice }
  if (open.value) void compare(id, choice)
  else close()
}
function shut() {
  open.value = null
  close()
}

const label = (id: string, choice: string) =>
  schools.value?.find(s => s.id === id)?.choices.find(c => c.id === choice)?.label ?? choice

function take() {
  const what = open.value
  if (!what || !compared.value?.patch) return
  const school = schools.value!.find(s => s.id === what.id)!
  const title = `${school.question}: ${label(what.id, what.choice)}`
  const faults = station.edit(compared.value.patch, title)
  if (faults.length) toast.add({ severity: 'error', summary: 'Not taken', detail: faults[0]!.wrong, life: 6000 })
  else toast.add({ severity: 'secondary', summary: title, detail: 'Ctrl Z takes it back.', life: 3500 })
  shut()
}
</script>

<template>
  <div class="schools" @keydown.esc="shut">
    <TopBar view="schools" />
    <p v-if="missing" class="missing">{{ missing }}</p>
    <main v-else-if="station.plan">
      <h1>Schools</h1>
      <p class="quiet">
        Operators are of two minds on these. Each shows the side that this station is built on. Choose the other: it is
        built, mended and sized, and you see what it comes to before it is taken.
      </p>
      <p v-if="!schools" class="quiet" role="status">Reading how the station is built…</p>
      <template v-for="group in groups" :key="group.title">
        <h2 v-if="group.title && group.those.length" class="group">{{ group.title }}</h2>
        <section v-for="s in group.those" :key="s.id" class="school" :class="{ same: s.noDifference }">
          <h3>{{ s.question }}</h3>
          <p v-if="s.noDifference" class="quiet">{{ s.noDifference }}</p>
          <p v-if="s.saysOther" class="quiet">
            The plan says “{{ label(s.id, s.saysOther) }}”, and is built “{{ label(s.id, s.now) }}”.
          </p>
          <div class="choices">
            <button
              v-for="c in s.choices"
              :key="c.id"
              class="choice"
              :class="{ on: s.now === c.id, open: open?.id === s.id && open.choice === c.id }"
              :aria-pressed="s.now === c.id"
              @click="look(s.id, c.id, s.now)">
              <b
                ><span class="mark" aria-hidden="true">{{ s.now === c.id ? '●' : '○' }}</span> {{ c.label }}</b
              ><span>{{ c.says }}</span>
            </button>
          </div>
          <div v-if="open?.id === s.id" class="compare" aria-live="polite">
            <p v-if="problem" class="cannot">Not compared: {{ problem }}</p>
            <p v-else-if="!compared" class="does">Built, mended and sized on both sides… {{ tried }} plans tried.</p>
            <template v-else>
              <p v-if="compared.cannot" class="cannot">{{ compared.cannot }}</p>
              <p v-else-if="compared.isSame" class="does">
                Both sides come to the same here. Taking it changes what the plan says.
              </p>
              <details v-if="compared.does.length" class="does">
                <summary>Taking it: {{ compared.does.length }} changes</summary>
                <ul>
                  <li v-for="d in compared.does" :key="d">{{ d }}</li>
                </ul>
              </details>
              <SideTable
                v-if="compared.other"
                :now="compared.now"
                :other="compared.other"
                :labels="[`${label(s.id, s.now)} (now, mended too)`, label(s.id, open.choice)]" />
              <div class="buttons">
                <Button
                  v-if="compared.patch"
                  :label="`Take: ${label(s.id, open.choice)}`"
                  :severity="compared.cannot ? 'secondary' : undefined"
                  size="small"
                  @click="take" /><button class="plain" @click="shut">Keep {{ label(s.id, s.now) }}</button>
              </div>
            </template>
          </div>
        </section>
      </template>
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
h3 {
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
.group {
  font-size: 1.15rem;
  margin: 2.2rem 0 0.4rem;
}
.same .choice {
  color: var(--ink-2);
}
.cannot {
  color: var(--fail);
  font-weight: 600;
  margin-bottom: 0.4rem;
}
summary {
  cursor: pointer;
}
.does ul {
  margin: 0.3rem 0 0.5rem 1.1rem;
}
.does {
  color: var(--ink-2);
  margin-bottom: 0.4rem;
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
