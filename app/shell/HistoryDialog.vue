<script setup lang="ts">
import { ref, watch } from 'vue'
import { stationsApi, type Revision } from '../stores/stationsApi'
import { useStation } from '../stores/station'
import Dialog from './focusedDialog'

const visible = defineModel<boolean>('visible', { required: true })
const station = useStation()
const revisions = ref<Revision[]>([])
const wrong = ref('')
// It may be asked for before its program has come: then it begins open.
watch(
  visible,
  async open => {
    if (!open) return
    wrong.value = ''
    await station.saveNow()
    revisions.value = await stationsApi.revisions(station.id).catch((e: Error) => {
      wrong.value = e.message
      return []
    })
  },
  { immediate: true },
)
/** The state that is being named. */
const naming = ref(0)
const name = ref('')
function begin(revision: Revision) {
  naming.value = revision.number
  name.value = revision.name
}
async function giveName(revision: Revision) {
  try {
    await stationsApi.nameRevision(station.id, revision.number, name.value)
    revision.name = name.value.trim()
    naming.value = 0
    wrong.value = ''
  } catch (e) {
    wrong.value = (e as Error).message
  }
}
async function back(number: number) {
  const faults = await station.goBackTo(number)
  if (faults.length) wrong.value = faults[0]!.wrong
  else visible.value = false
}
const when = (iso: string) => new Date(iso).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' })
</script>

<template>
  <Dialog
    v-model:visible="visible"
    modal
    header="History"
    :style="{ width: '40rem' }"
    :draggable="false"
    dismissable-mask>
    <p class="quiet">
      All states of a day are kept, then one an hour, after a month one a day; what has a name stays. Going back is a
      step like any other: it can be undone.
    </p>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <ol>
      <li v-for="(revision, i) in revisions" :key="revision.number">
        <b>{{ revision.number }}</b><span>{{ when(revision.savedAt) }}</span>
        <form v-if="naming === revision.number" class="note" @submit.prevent="giveName(revision)">
          <InputText v-model="name" autofocus maxlength="80" aria-label="Name of this state" size="small" />
          <Button label="Keep" type="submit" size="small" />
        </form>
        <span v-else class="note">
          <b v-if="revision.name">{{ revision.name }} · </b>{{ revision.note }}
          <span v-if="revision.who" class="quiet"> · {{ revision.who }}</span>
          <button class="plain" :aria-label="`Name revision ${revision.number}`" @click="begin(revision)">
            {{ revision.name ? 'rename' : 'name it' }}
          </button>
        </span>
        <Button v-if="i > 0" label="Go back to it" size="small" severity="secondary" @click="back(revision.number)" />
        <span v-else class="quiet">now</span>
      </li>
    </ol>
  </Dialog>
</template>

<style scoped>
ol {
  list-style: none;
  padding: 0;
  margin: 0.6rem 0 0;
}
li {
  display: grid;
  grid-template-columns: 2.5rem 10.5rem 1fr auto;
  gap: 0.6rem;
  align-items: center;
  padding: 0.35rem 0;
  border-top: 1px solid var(--line);
  min-height: 2.6rem;
}
.note {
  color: var(--ink-2);
}
.note .plain {
  padding: 0 0.3rem;
  font-size: 0.9em;
}
form.note {
  display: flex;
  gap: 0.4rem;
}
@media (max-width: 760px) {
  li {
    grid-template-columns: 2rem 1fr auto;
  }
  .note {
    grid-column: 2 / -1;
    grid-row: 2;
  }
}
.quiet {
  color: var(--ink-3);
}
.wrong {
  color: var(--fail);
}
</style>
