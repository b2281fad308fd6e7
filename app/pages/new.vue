<script setup lang="ts">
import BeginView from '../stations/BeginView.vue'
</script>

<template>
  <BeginView />
</template>
