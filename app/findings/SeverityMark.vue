<script setup lang="ts">
import type { Severity } from '#core/checks/check'

/** Each severity has a shape of its own and a word for those who hear it; colour only helps. */
defineProps<{ severity: Severity | 'passed'; size?: number }>()
const words = { danger: 'danger', fail: 'fails', caution: 'caution', note: 'note', passed: 'passed' }
</script>

<template>
  <svg
    :class="['mark', severity]"
    :width="size ?? 18"
    :height="size ?? 18"
    viewBox="-10 -10 20 20"
    role="img"
    :aria-label="words[severity]">
    <title>{{ words[severity] }}</title>
    <template v-if="severity === 'danger'">
      <path d="M-4-9H4L9-4V4L4 9H-4L-9 4V-4Z" />
      <path class="sign" d="M0-5V1.5M0 5V5.2" />
    </template>
    <template v-else-if="severity === 'fail'">
      <path d="M0-9.2L9.6 8H-9.6Z" />
      <path class="sign" d="M-2.4-0.6L2.4 5M2.4-0.6L-2.4 5" />
    </template>
    <path v-else-if="severity === 'caution'" d="M0-9L9 0L0 9L-9 0Z" />
    <template v-else-if="severity === 'note'">
      <rect x="-7" y="-7" width="14" height="14" rx="3" />
      <path class="sign" d="M0-1V4M0-4.4V-4.2" />
    </template>
    <circle v-else r="7" class="hollow" />
  </svg>
</template>

<style scoped>
.mark {
  display: inline-block;
  flex: none;
  overflow: visible;
}
.danger {
  fill: var(--danger);
}
.fail {
  fill: var(--fail);
}
.caution {
  fill: var(--caution);
}
.note {
  fill: var(--note);
}
.sign {
  stroke: var(--sheet);
  stroke-width: 2.4;
  stroke-linecap: round;
  fill: none;
}
.hollow {
  fill: none;
  stroke: var(--pass);
  stroke-width: 2.2;
}
</style>
