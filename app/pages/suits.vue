<script setup lang="ts">
import SuitView from '../stations/SuitView.vue'
</script>

<template>
  <SuitView />
</template>
