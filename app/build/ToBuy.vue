<script setup lang="ts">
import type { BuildSheet } from '#core/sheets/build'
import { fixed } from '#core/units/number'

/** What is not on the shelf. */
defineProps<{ rows: BuildSheet['shopping']; length: (metres: number) => string }>()
</script>

<template>
  <p v-if="!rows.length" class="quiet">Nothing: the <NuxtLink to="/shelf">shelf</NuxtLink> has it all.</p>
  <table v-else class="parts">
    <thead>
      <tr>
        <th class="n">Buy</th>
        <th>What</th>
        <th class="n">Needs</th>
        <th class="n">On the shelf</th>
        <th class="n">Cost, typical</th>
        <th class="tick">bought</th>
      </tr>
    </thead>
    <tbody>
      <tr v-for="row in rows" :key="row.what">
        <td class="n" data-label="Buy">
          <b>{{ row.unit === 'm' ? length(row.buy) : row.buy }}</b>
        </td>
        <td>{{ row.what }}</td>
        <td class="n" data-label="Needs">{{ row.unit === 'm' ? length(row.needs) : row.needs }}</td>
        <td class="n" data-label="On the shelf">{{ row.unit === 'm' ? length(row.has) : row.has }}</td>
        <td class="n" data-label="Cost, typical">{{ row.cost ? fixed(row.cost, 0) : '' }}</td>
        <td class="tick" data-label="bought">☐</td>
      </tr>
    </tbody>
  </table>
</template>

<style scoped src="./tables.css"></style>
