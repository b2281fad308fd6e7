<script setup lang="ts">
/** In place of a page that is not there, or that broke: in words, with a way on. */
defineProps<{ title: string; words: string }>()
</script>

<template>
  <main class="lost">
    <h1>{{ title }}</h1>
    <p>{{ words }}</p>
    <p>
      <a href="/" class="plain">The station I worked on last</a>
      <a href="/stations" class="plain">All stations, and the deleted ones</a>
    </p>
  </main>
</template>

<style scoped>
.lost {
  max-width: 34rem;
  margin: 12vh auto 0;
  padding: 0 1rem;
  display: grid;
  gap: 0.7rem;
}
h1 {
  font-size: 1.5rem;
}
</style>
