<script setup lang="ts">
import ReachLine from './shell/ReachLine.vue'
import { useEscape } from './shell/useEscape'

useEscape()
</script>

<template>
  <ReachLine />
  <NuxtPage />
  <Toast position="bottom-left" />
</template>
