<script setup lang="ts">
import ProofView from '../../../proof/ProofView.vue'

const route = useRoute()
</script>

<template>
  <ProofView :station-id="String(route.params.id)" />
</template>
