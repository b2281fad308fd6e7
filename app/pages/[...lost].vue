<script setup lang="ts">
import LostView from '../shell/LostView.vue'
</script>

<template>
  <LostView
    title="There is nothing at this address"
    words="It may be of another Wireman, or of a station that was deleted." />
</template>
