<script setup lang="ts">
/** A sheet beside the shelf, with its fields in rows (class `rows`). */
defineProps<{ title: string }>()
</script>

<template>
  <section class="card">
    <h2>{{ title }}</h2>
    <slot />
  </section>
</template>

<style scoped>
h2 {
  font-size: 1rem;
  margin-bottom: 0.3rem;
}
.card {
  border: 1px solid var(--line-2);
  border-radius: 10px;
  padding: 0.9rem 1rem;
  background: var(--sheet);
}
.card :deep(.rows) {
  display: grid;
  gap: 0.55rem;
  justify-items: start;
}
.card :deep(.rows label) {
  display: grid;
  grid-template-columns: 8.5rem minmax(0, 1fr);
  gap: 0.6rem;
  align-items: center;
  width: 100%;
  color: var(--ink-2);
}
.card :deep(.rows .p-select),
.card :deep(.rows input) {
  width: 100%;
  min-width: 0;
}
section {
  margin-bottom: 1.3rem;
}
</style>
