<script setup lang="ts">
import LostView from './shell/LostView.vue'

defineProps<{ error: { message?: string } }>()
</script>

<template>
  <LostView
    title="This page broke"
    :words="`${error.message ?? 'It could not be shown'}. What the bar said is saved is saved; open it again.`" />
</template>
