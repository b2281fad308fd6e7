<script setup lang="ts">
import { nextTick, onMounted, ref } from 'vue'

/** One figure of the picture, edited where it stands. */
const props = defineProps<{
  x: number
  y: number
  text: string
  label: string
  commit: (text: string) => string | null
}>()
const emit = defineEmits<{ close: [] }>()

const text = ref(props.text)
const wrong = ref('')
const input = ref<HTMLInputElement>()
onMounted(async () => {
  await nextTick()
  input.value?.focus()
  input.value?.select()
})
function done() {
  if (text.value.trim() === props.text) return emit('close')
  const refused = props.commit(text.value)
  if (refused) wrong.value = refused
  else emit('close')
}
</script>

<template>
  <div class="token" :style="{ left: `${x - 8}px`, top: `${y - 6}px` }">
    <input
      ref="input"
      v-model="text"
      :aria-label="label"
      :aria-invalid="Boolean(wrong)"
      autocomplete="off"
      @keydown.enter.prevent.stop="done"
      @keydown.esc.stop="emit('close')"
      @keydown.stop
      @blur="wrong ? emit('close') : done()" />
    <em v-if="wrong" role="alert">{{ wrong }}</em>
  </div>
</template>

<style scoped>
.token {
  position: absolute;
  z-index: 5;
}
input {
  width: 8.5rem;
  padding: 0.2rem 0.45rem;
  border: 2px solid var(--focus);
  border-radius: 6px;
  background: var(--sheet);
  box-shadow: 0 4px 14px var(--shade);
}
em {
  display: block;
  max-width: 18rem;
  margin-top: 2px;
  font-style: normal;
  font-size: 0.85rem;
  padding: 0.35rem 0.5rem;
  border-radius: 6px;
  background: var(--sheet);
  color: var(--fail);
  border: 1px solid var(--fail);
}
</style>
