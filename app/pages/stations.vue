<script setup lang="ts">
import StationList from '../stations/StationList.vue'
</script>

<template>
  <StationList />
</template>
