<script setup lang="ts">
import Messages from './shell/Messages.vue'
import ReachLine from './shell/ReachLine.vue'
import { useEscape } from './shell/useEscape'

useEscape()
</script>

<template>
  <ReachLine />
  <NuxtPage />
  <Messages />
</template>
