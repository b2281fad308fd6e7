<script setup lang="ts">
import StationView from '../../../path/StationView.vue'

const route = useRoute()
</script>

<template>
  <StationView :key="String(route.params.id)" :station-id="String(route.params.id)" />
</template>
