<script setup lang="ts">
import HoursView from '../../../hours/HoursView.vue'

const route = useRoute()
</script>

<template>
  <HoursView :station-id="String(route.params.id)" />
</template>
