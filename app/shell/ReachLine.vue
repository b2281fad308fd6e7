<script setup lang="ts">
import { isDevice, reach } from '../stores/reach'

/** One line over everything while the server is away or lets this device in no longer. */
const away = isDevice()
  ? 'The station does not answer. You see what was read last; what you change waits in this device and is merged later.'
  : 'The server does not answer. You see what was read last; what you change waits in this browser.'
</script>

<template>
  <p v-if="reach === 'away'" class="reach" role="status" data-testid="reach">{{ away }}</p>
  <p v-else-if="reach === 'shut-out'" class="reach shut" role="alert" data-testid="reach">
    This device is no longer let in. What was entered here stays; it is sent once it is
    <a href="/pair">let in again</a>.
  </p>
</template>

<style scoped>
.reach {
  position: sticky;
  z-index: 20;
  top: 0;
  margin: 0;
  padding: 0.45rem 1rem;
  text-align: center;
  background: var(--ink);
  color: var(--paper);
}
.reach a {
  color: inherit;
}
</style>
