<script setup lang="ts">
import { ref } from 'vue'
import { listed } from '#core/units/words'
import { backupApi, type RestoreTold } from '../stores/stationsApi'

/** Everything in one file; and out of one again, after a look at what that would change. */
const emit = defineEmits<{ restored: [] }>()
const file = ref<HTMLInputElement>()
const chosen = ref<{ name: string; text: string } | null>(null)
const told = ref<RestoreTold | null>(null)
const done = ref(false)
const wrong = ref('')
const isBusy = ref(false)

async function ask(restores: boolean) {
  if (!chosen.value) return
  isBusy.value = true
  wrong.value = ''
  try {
    told.value = await backupApi.from(chosen.value.text, restores)
    done.value = restores
    if (restores) emit('restored')
  } catch (error) {
    told.value = null
    wrong.value = `${chosen.value.name}: ${(error as Error).message}`
  } finally {
    isBusy.value = false
  }
}
async function open(event: Event) {
  const input = event.target as HTMLInputElement
  const [picked] = input.files ?? []
  if (!picked) return
  chosen.value = { name: picked.name, text: await picked.text() }
  input.value = ''
  await ask(false)
}
function leave() {
  chosen.value = null
  told.value = null
  wrong.value = ''
}
/** Whether there is anything to restore. */
const changes = (t: RestoreTold) =>
  t.added.length + t.changed.length + t.putBack.length + t.documents.length > 0 || t.shelf
</script>

<template>
  <section data-testid="backup">
    <h2>Backup</h2>
    <p class="quiet">
      All stations with their history, logs, events and the shelf in one file. A copy a day is kept beside the data, the
      last seven of them.
    </p>
    <div class="buttons">
      <a class="download target" href="/api/backup" download>Save everything to a file</a>
      <Button
        label="Restore from a file …"
        size="small"
        severity="secondary"
        :loading="isBusy"
        @click="file?.click()" />
      <input ref="file" type="file" accept=".jsonl,application/x-ndjson" hidden data-testid="restore" @change="open" />
    </div>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <div v-if="told" class="told" role="status">
      <p v-if="done">
        <b>Restored.</b> What stood before is kept in <code>{{ told.kept }}</code>
      </p>
      <template v-else>
        <p>
          <b>{{ chosen?.name }}</b>, saved {{ new Date(told.savedAt).toLocaleString() }}, would change:
        </p>
        <ul>
          <li v-if="told.added.length">put in: {{ listed(told.added) }}</li>
          <li v-if="told.changed.length">
            as in the file, what stands now stays in their history: {{ listed(told.changed) }}
          </li>
          <li v-if="told.putBack.length">deleted here, put back: {{ listed(told.putBack) }}</li>
          <li v-if="told.documents.length">replaced: {{ listed(told.documents) }}</li>
          <li v-if="told.shelf">the shelf, replaced</li>
          <li v-if="!changes(told)">nothing: all of it stands here as it is in the file</li>
          <li v-for="a in told.aside" :key="a.line" class="wrong">
            {{ a.line ? `line ${a.line}` : 'a station' }}, left aside: {{ a.wrong }}
          </li>
        </ul>
        <div class="buttons">
          <Button v-if="changes(told)" label="Restore it" size="small" :loading="isBusy" @click="ask(true)" />
          <Button label="Leave it" size="small" severity="secondary" @click="leave" />
        </div>
      </template>
    </div>
  </section>
</template>

<style scoped>
section {
  margin-top: 2rem;
}
h2 {
  font-size: 1.05rem;
  margin-bottom: 0.3rem;
}
.quiet {
  color: var(--ink-3);
  max-width: 46rem;
}
.buttons {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem;
  align-items: center;
  margin: 0.6rem 0;
}
.download {
  color: var(--ink);
  padding: 0.35rem 0;
}
.told {
  border-left: 3px solid var(--copper);
  padding: 0.3rem 0.9rem;
  max-width: 46rem;
}
.told code {
  word-break: break-all;
}
ul {
  margin: 0.4rem 0;
  padding-left: 1.1rem;
}
.wrong {
  color: var(--fail);
}
</style>
