<script setup lang="ts">
import QuietView from '../../../quiet/QuietView.vue'

const route = useRoute()
</script>

<template>
  <QuietView :station-id="String(route.params.id)" />
</template>
