<script setup lang="ts">
import BuildView from '../../../build/BuildView.vue'

const route = useRoute()
</script>

<template>
  <BuildView :station-id="String(route.params.id)" />
</template>
