<script setup lang="ts">
import { computed } from 'vue'
import { markShape, type Mark } from '#core/picture/scene/marks'
import ShapeView from '../path/ShapeView'

const props = defineProps<{ severity: Mark; size?: number }>()
const shapes = computed(() => [markShape(props.severity, props.size)])
</script>

<template>
  <ShapeView :shapes="shapes" />
</template>
