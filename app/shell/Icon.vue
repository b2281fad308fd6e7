<script setup lang="ts">
/** The few icons of the interface, drawn with the text's own colour. */
defineProps<{ name: 'close' | 'plus' | 'undo' | 'redo' | 'edit' | 'print' }>()
const PATHS = {
  close: 'M4 4L12 12M12 4L4 12',
  plus: 'M8 3V13M3 8H13',
  undo: 'M6.5 3L3 6.5L6.5 10M3.4 6.5H9.5A3.6 3.6 0 0 1 9.5 13.6H7',
  redo: 'M9.5 3L13 6.5L9.5 10M12.6 6.5H6.5A3.6 3.6 0 0 0 6.5 13.6H9',
  edit: 'M3 13L3.7 10.2L10.8 3.1L12.9 5.2L5.8 12.3Z',
  print: 'M4.5 6V2.5H11.5V6M4.5 11.5H2.5V6H13.5V11.5H11.5M4.5 9.5H11.5V13.5H4.5Z',
}
</script>

<template>
  <svg class="icon" width="16" height="16" viewBox="0 0 16 16" aria-hidden="true">
    <path
      :d="PATHS[name]"
      fill="none"
      stroke="currentColor"
      stroke-width="1.5"
      stroke-linecap="round"
      stroke-linejoin="round" />
  </svg>
</template>

<style scoped>
.icon {
  vertical-align: -0.2em;
}
</style>
