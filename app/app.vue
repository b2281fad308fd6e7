<script setup lang="ts">
import { useEscape } from './shell/useEscape'

useEscape()
</script>

<template>
  <NuxtPage />
  <Toast position="bottom-left" />
</template>
