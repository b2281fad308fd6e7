<script setup lang="ts">
import { ref } from 'vue'
import { freshId, readCaseText, type Logbook, type NoiseCase } from '#core/noise/logbook'
import { useLogbook } from '../stores/logbook'

/** The logbook's complaints; a new one, one to practise on, one from a file, and the last removed put back. */
const props = defineProps<{ logbook: Logbook; chosen: string | undefined; removed: NoiseCase | null }>()
const emit = defineEmits<{ choose: [id: string]; create: []; practise: []; putBack: [] }>()
const log = useLogbook()

const refused = ref('')
async function importCase(event: Event) {
  const input = event.target as HTMLInputElement
  const text = await input.files?.[0]?.text()
  input.value = ''
  if (text === undefined) return
  const read = readCaseText(text)
  refused.value = read.ok ? '' : `${read.wrong}; right would be ${read.right}`
  if (!read.ok) return
  const { format: _format, version: _version, ...plain } = read.case
  const id = props.logbook.cases.some(c => c.id === plain.id) ? freshId('c', props.logbook.cases) : plain.id
  log.put('cases', { ...plain, id })
  emit('choose', id)
}
const STATE_WORDS = { open: '', cured: 'cured', left: 'left' } as const
const underTitle = (c: NoiseCase) =>
  [c.complaint.bands.join(', '), c.practice?.named ? 'named' : STATE_WORDS[c.state]].filter(Boolean).join(' · ')
</script>

<template>
  <aside class="list">
    <ul aria-label="Complaints">
      <li v-for="c in logbook.cases" :key="c.id">
        <button :class="{ on: c.id === chosen }" @click="emit('choose', c.id)">
          {{ c.title }}<span>{{ underTitle(c) }}</span>
        </button>
      </li>
    </ul>
    <Button label="New complaint" size="small" @click="emit('create')" />
    <Button label="Practise on a made-up fault" size="small" severity="secondary" @click="emit('practise')" />
    <label class="plain file"
      >Open a case file<input type="file" accept=".json,application/json" data-testid="case-file" @change="importCase"
    /></label>
    <p v-if="refused" class="wrong" role="alert">{{ refused }}</p>
    <button v-if="removed" class="plain" @click="emit('putBack')">Put “{{ removed.title }}” back</button>
  </aside>
</template>

<style scoped>
.list {
  display: grid;
  gap: 0.45rem;
  position: sticky;
  top: 1rem;
}
.list ul {
  list-style: none;
  margin: 0 0 0.4rem;
  padding: 0;
  display: grid;
  gap: 0.15rem;
}
.list li button {
  width: 100%;
  text-align: left;
  border: 0;
  border-left: 3px solid transparent;
  background: none;
  padding: 0.45rem 0.6rem;
  border-radius: 0 6px 6px 0;
  cursor: pointer;
  line-height: 1.25;
}
.list li button:hover {
  background: var(--choice);
}
.list li button.on {
  border-left-color: var(--copper);
  background: var(--choice);
  font-weight: 600;
}
.list li span {
  display: block;
  color: var(--ink-2);
  font-size: 0.86rem;
  font-weight: 400;
}
.file {
  cursor: pointer;
  text-align: center;
}
.file input {
  position: absolute;
  opacity: 0;
  width: 1px;
}
.wrong {
  color: var(--fail);
}
@media (max-width: 760px) {
  .list {
    position: static;
    grid-template-columns: 1fr 1fr;
  }
  .list ul,
  .list .wrong {
    grid-column: 1 / -1;
  }
}
@media print {
  .list {
    display: none !important;
  }
}
</style>
