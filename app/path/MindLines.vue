<script setup lang="ts">
import { computed } from 'vue'
import { partById, partIdOf } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import { cautionsAt } from '#core/sheets/cautions'

/** The dangers of the chosen part, one line each. */
const props = defineProps<{ plan: Plan; selected: string | null }>()
const lines = computed(() => {
  const part = props.selected ? partById(props.plan, partIdOf(props.selected)) : undefined
  return part ? cautionsAt(props.plan, part) : []
})
</script>

<template>
  <p v-for="line in lines" :key="line" class="mind"><b>Mind</b> {{ line }}</p>
</template>

<style scoped>
.mind {
  margin: 0;
  padding: 0.2rem 1rem;
  font-size: 0.85rem;
  border-top: 1px solid var(--line);
}
</style>
