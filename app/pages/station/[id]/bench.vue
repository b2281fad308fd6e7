<script setup lang="ts">
import BenchView from '../../../bench/BenchView.vue'

const route = useRoute()
</script>

<template>
  <BenchView :station-id="String(route.params.id)" />
</template>
