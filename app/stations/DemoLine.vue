<script setup lang="ts">
import { usePreferences } from '../stores/preferences'

/** Over a made-up station, until it is known: that it is one, and how to begin one's own. */
const { chosen } = usePreferences()
</script>

<template>
  <p v-if="!chosen.knowsDemo" class="demo" role="note">
    A made-up station, to look at and to spoil.
    <NuxtLink to="/new" class="go target">Plan my own</NuxtLink>
    <NuxtLink to="/suits" class="go target">Does it suit?</NuxtLink>
    <button class="plain" @click="chosen.knowsDemo = true">Not now</button>
  </p>
</template>

<style scoped>
.demo {
  display: flex;
  gap: 0.4rem 1rem;
  align-items: center;
  flex-wrap: wrap;
  padding: 0.25rem 1rem;
  background: var(--choice);
}
.go {
  font-weight: 650;
}
.demo button {
  margin-left: auto;
}
</style>
