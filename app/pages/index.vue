<script setup lang="ts">
import { usePreferences } from '../stores/preferences'
import { useStation } from '../stores/station'
import { stationsApi } from '../stores/stationsApi'

/** Opens the station one worked on last; on a fresh start the first demo station. */
const { chosen } = usePreferences()
const wrong = ref('')
// While the list is on its way: the program of the path and the workers.
useStation()
void import('../path/StationView.vue').catch(() => undefined)
onMounted(async () => {
  try {
    const list = await stationsApi.list()
    const last = list.find(s => s.id === chosen.lastStation) ?? list[0]
    await navigateTo(last ? `/station/${last.id}` : '/stations', { replace: true })
  } catch (error) {
    wrong.value = (error as Error).message
  }
})
</script>

<template>
  <p v-if="wrong" style="padding: 3rem">{{ wrong }}</p>
</template>
