<script setup lang="ts">
import SchoolsView from '../../../schools/SchoolsView.vue'

const route = useRoute()
</script>

<template>
  <SchoolsView :station-id="String(route.params.id)" />
</template>
