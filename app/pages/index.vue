<script setup lang="ts">
import { usePreferences } from '../stores/preferences'
import { stationsApi } from '../stores/stationsApi'

/** Opens the station one worked on last; on a fresh start the first demo station. */
const { chosen } = usePreferences()
const wrong = ref('')
onMounted(async () => {
  try {
    const list = await stationsApi.list()
    const last = list.find(s => s.id === chosen.lastStation) ?? list[0]
    await navigateTo(last ? `/station/${last.id}` : '/stations', { replace: true })
  }
  catch (error) {
    wrong.value = (error as Error).message
  }
})
</script>

<template>
  <p v-if="wrong" style="padding: 3rem">{{ wrong }}</p>
</template>
