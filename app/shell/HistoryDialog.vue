<script setup lang="ts">
import { ref, watch } from 'vue'
import { stationsApi, type Revision } from '../stores/stationsApi'
import { useStation } from '../stores/station'

const visible = defineModel<boolean>('visible', { required: true })
const station = useStation()
const revisions = ref<Revision[]>([])
const wrong = ref('')
watch(visible, async open => {
  if (!open) return
  wrong.value = ''
  await station.saveNow()
  revisions.value = await stationsApi.revisions(station.id).catch((e: Error) => {
    wrong.value = e.message
    return []
  })
})
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
    :style="{ width: '34rem' }"
    :draggable="false"
    dismissable-mask>
    <p class="quiet">Every saved state is kept. Going back is a step like any other: it can be undone.</p>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
    <ol>
      <li v-for="(revision, i) in revisions" :key="revision.number">
        <b>{{ revision.number }}</b><span>{{ when(revision.savedAt) }}</span
        ><span class="note"
          >{{ revision.note }}<span v-if="revision.who" class="quiet"> · {{ revision.who }}</span></span
        >
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
.quiet {
  color: var(--ink-3);
}
.wrong {
  color: var(--fail);
}
</style>
