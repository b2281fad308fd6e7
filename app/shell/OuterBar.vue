<script setup lang="ts">
import { ref } from 'vue'
import type { Undoable } from '../stores/useHistory'
import UndoButtons from './UndoButtons.vue'
import { later } from './later'

/** The bar over what is no view of one station: the list, the shelf, beginnings. */
const SettingsDialog = later(() => import('./SettingsDialog.vue'))
defineProps<{
  /** What can be taken back here. */
  histories?: readonly Undoable[]
}>()
const settings = ref(false)
</script>

<template>
  <header class="outer">
    <NuxtLink to="/stations" class="brand target">Wireman</NuxtLink>
    <nav aria-label="Everywhere">
      <NuxtLink to="/stations">Stations</NuxtLink>
      <NuxtLink to="/shelf">Shelf</NuxtLink>
      <NuxtLink to="/new">Plan my own</NuxtLink>
      <NuxtLink to="/suits">Does it suit?</NuxtLink>
      <NuxtLink to="/devices">On a phone</NuxtLink>
    </nav>
    <UndoButtons v-if="histories" :histories="histories" />
    <button class="plain units" @click="settings = true">Units, theme</button>
  </header>
  <SettingsDialog v-model:visible="settings" />
</template>

<style scoped>
.outer {
  min-height: 46px;
  flex: none;
  display: flex;
  align-items: center;
  gap: 0.8rem;
  padding: 0 1rem;
  border-bottom: 1px solid var(--line-2);
  background: var(--paper);
}
.brand {
  font-weight: 750;
  font-size: 1.12rem;
  text-decoration: none;
}
nav {
  display: flex;
  gap: 0.3rem;
  align-self: stretch;
  overflow-x: auto;
}
nav a {
  display: flex;
  align-items: center;
  padding: 0 0.55rem;
  white-space: nowrap;
  text-decoration: none;
  color: var(--ink-2);
  border-bottom: 3px solid transparent;
  border-top: 3px solid transparent;
}
nav a.router-link-active {
  color: var(--ink);
  font-weight: 650;
  border-bottom-color: var(--copper);
}
.units {
  margin-left: auto;
  white-space: nowrap;
}
@media (max-width: 760px) {
  .outer {
    flex-wrap: wrap;
    padding: 0.3rem 0.7rem 0;
  }
  nav {
    order: 3;
    flex: 1 0 100%;
    min-height: 44px;
  }
}
</style>
