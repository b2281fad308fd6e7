<script setup lang="ts">
import type { Undoable } from '../stores/useHistory'
import Icon from './Icon.vue'
import { useUndo } from './useUndo'

/** Undo and redo, as buttons and by key; each button says what it would take back. */
const props = defineProps<{ histories: readonly Undoable[] }>()
const { undo, redo, canUndo, canRedo } = useUndo(() => props.histories)
defineExpose({ undo, redo })
</script>

<template>
  <button
    class="plain"
    :disabled="!canUndo"
    :title="canUndo ? `Undo: ${canUndo}` : 'Nothing to undo'"
    aria-label="Undo"
    @click="undo">
    <Icon name="undo" />
  </button>
  <button
    class="plain"
    :disabled="!canRedo"
    :title="canRedo ? `Redo: ${canRedo}` : 'Nothing to redo'"
    aria-label="Redo"
    @click="redo">
    <Icon name="redo" />
  </button>
</template>
