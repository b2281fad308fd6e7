<script setup lang="ts">
import ShelfView from '../shelf/ShelfView.vue'
</script>

<template>
  <ShelfView />
</template>
