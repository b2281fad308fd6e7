<script setup lang="ts">
import DevicesView from '../devices/DevicesView.vue'
</script>

<template>
  <DevicesView />
</template>
