<script setup lang="ts">
import { shallowRef, type Component } from 'vue'
import ToastEventBus from 'primevue/toasteventbus'
import { fetched, notYet } from './later'

/** What is told at the window's edge. Its program comes with the first message, which waits for it. */
const load = notYet(() => import('primevue/toast'))
const toast = shallowRef<Component>()
const waiting: unknown[] = []
async function wait(message: unknown) {
  waiting.push(message)
  const { default: Toast } = await fetched(load)
  toast.value = Toast
}
ToastEventBus.on('add', wait)

function say() {
  ToastEventBus.off('add', wait)
  for (const message of waiting) ToastEventBus.emit('add', message)
}
</script>

<template>
  <component :is="toast" v-if="toast" position="bottom-left" @vue:mounted="say" />
</template>
