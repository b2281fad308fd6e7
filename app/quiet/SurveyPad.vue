<script setup lang="ts">
/** The phone's way to key a survey: one cell at a time, its state and band on top, large keys below. */
defineProps<{ band: string; state: string; reading: string; dbm: string }>()
const emit = defineEmits<{ key: [name: string]; go: [by: number] }>()

const PAD = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '.', '0', '+']
const PAD_WORDS: Record<string, string> = { '.': '+½', '+': '+10' }
</script>

<template>
  <div class="one" aria-live="polite">
    <p class="what">
      <b>{{ band }}</b><span>{{ state }}</span>
    </p>
    <p class="shown">
      {{ reading }}<small>{{ dbm }}</small>
    </p>
    <div class="pad">
      <button v-for="k in PAD" :key="k" @click="emit('key', k)">{{ PAD_WORDS[k] ?? k }}</button>
      <button class="step" @click="emit('go', -1)">Back</button>
      <button class="step" @click="emit('key', 'Backspace')">Clear</button>
      <button class="step" @click="emit('go', 1)">Skip</button>
    </div>
  </div>
</template>

<style scoped>
.one {
  display: none;
}
@media (max-width: 760px) {
  .one {
    display: block;
    position: sticky;
    top: 0;
    background: var(--paper);
    padding: 0.2rem 0 0.6rem;
    z-index: 2;
    border-bottom: 1px solid var(--line);
    margin-bottom: 0.7rem;
  }
  .what {
    display: flex;
    gap: 0.8rem;
    align-items: baseline;
    min-height: 2.6rem;
  }
  .what b {
    font-size: 1.5rem;
    white-space: nowrap;
  }
  .what span {
    color: var(--ink-2);
    line-height: 1.2;
  }
  .shown {
    font-size: 2.1rem;
    font-weight: 650;
    line-height: 1.1;
    display: flex;
    justify-content: space-between;
    align-items: baseline;
  }
  .shown small {
    font-size: 1rem;
    font-weight: 400;
    color: var(--ink-3);
  }
  .pad {
    display: grid;
    grid-template-columns: repeat(3, 1fr);
    gap: 0.4rem;
    margin-top: 0.4rem;
  }
  .pad button {
    height: 3.4rem;
    font-size: 1.35rem;
    border: 1px solid var(--line-2);
    border-radius: 10px;
    background: var(--sheet);
    cursor: pointer;
    touch-action: manipulation;
  }
  .pad button:active {
    background: var(--lit);
    border-color: var(--copper);
  }
  .pad .step {
    font-size: 1rem;
    height: 3rem;
    color: var(--ink-2);
    background: none;
  }
}
</style>
