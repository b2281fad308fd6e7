<script setup lang="ts">
import { computed } from 'vue'
import { clashWords } from '#core/plan/clashWords'
import { stationsApi } from '../stores/stationsApi'
import { useStation } from '../stores/station'
import Dialog from './focusedDialog'

/** Another window saved this station since: nothing is overwritten until somebody chooses. */
defineProps<{ visible: boolean }>()
const station = useStation()
/** More are counted. */
const MOST = 4
const clashes = computed(() => {
  const { whole } = station
  return whole ? [...new Set(station.clashes.map(path => clashWords(whole, path)))] : []
})
const when = computed(() =>
  station.theirs
    ? new Date(station.theirs.savedAt).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', hour12: false })
    : '',
)
async function asCopy() {
  if (!station.plan) return
  const copy = await stationsApi.create(
    { ...station.plan, name: `${station.plan.name} (copy)`.slice(0, 200) },
    'kept from a window that was behind',
  )
  await station.settle('theirs')
  await navigateTo(`/station/${copy.id}`)
}
</script>

<template>
  <Dialog
    :visible="visible"
    modal
    header="Changed in another window"
    :closable="false"
    :style="{ width: '32rem' }"
    :draggable="false">
    <p>
      Another window saved revision {{ station.theirs?.revision }} of this station at {{ when }}, after this window had
      opened it. What you changed here is not saved yet, and nothing is lost.
    </p>
    <p v-if="clashes.length">
      Both changed <b>{{ clashes.slice(0, MOST).join('; ') }}</b>{{
        clashes.length > MOST ? `, and ${clashes.length - MOST} more` : ''
      }}.
    </p>
    <p v-else>What each changed makes no plan together.</p>
    <template #footer>
      <Button label="Keep both: mine as a copy" severity="secondary" @click="asCopy" />
      <Button label="Take theirs" severity="secondary" @click="station.settle('theirs')" />
      <Button label="Keep mine" @click="station.settle('mine')" />
    </template>
  </Dialog>
</template>
