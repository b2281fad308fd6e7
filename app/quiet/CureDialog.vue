<script setup lang="ts">
import { computed, ref } from 'vue'
import { BANDS } from '#core/catalog/bands'
import { CURES, type Cure } from '#core/noise/cure'
import type { Suspect } from '#core/noise/suspect'
import { levelOf } from '#core/noise/survey/survey'
import { NEVER, UNPLUGGED } from '#core/noise/words'
import Dialog from '../shell/focusedDialog'

/** What was tried where, and what it did: by readings, or by ear. */
const props = defineProps<{ start: Partial<Cure>; bands: string[]; devices: Suspect[] }>()
const emit = defineEmits<{ take: [cure: Omit<Cure, 'id' | 'at'>]; close: [] }>()
const what = ref(props.start.what ?? 'choke')
const where = ref(props.start.where ?? props.devices[0]?.id ?? 'radio')
const places = computed(() => [
  ...props.devices.map(d => ({ id: d.id, label: d.name })),
  { id: 'radio', label: 'the radio' },
])
const rows = props.bands.length ? props.bands : ['40 m']
const before = ref<Record<string, string>>({})
const after = ref<Record<string, string>>({})
const byEar = ref<'same' | 'weaker' | 'gone' | null>(null)
const detail = ref('')
const sideEffects = ref('')
const cost = ref<number | null>(null)
const kept = ref(true)
const hz = (band: string) => 1e6 * (BANDS.find(b => b.id === band)?.lowMHz ?? 10)
const bad = (band: string, text: string | undefined) => !!text?.trim() && levelOf(text, hz(band)) === null
const wrong = computed(
  () =>
    rows.flatMap(b =>
      [before.value[b], after.value[b]].flatMap(t =>
        bad(b, t) ? [`${t} on ${b} is no reading: S7, S9+10 or −97 dBm`] : [],
      ),
    )[0] ?? '',
)
const nothing = computed(() => !byEar.value && !rows.some(b => before.value[b]?.trim() && after.value[b]?.trim()))
const filled = (from: Record<string, string>) => Object.fromEntries(Object.entries(from).filter(([, v]) => v?.trim()))
function take() {
  if (wrong.value) return
  const [b, a] = [filled(before.value), filled(after.value)]
  emit('take', {
    what: what.value,
    where: where.value,
    kept: kept.value,
    ...(detail.value.trim() && { detail: detail.value.trim() }),
    ...(Object.keys(b).length && { before: b }),
    ...(Object.keys(a).length && { after: a }),
    ...(byEar.value && { byEar: byEar.value }),
    ...(sideEffects.value.trim() && { sideEffects: sideEffects.value.trim() }),
    ...(cost.value !== null && { cost: cost.value }),
  })
}
</script>

<template>
  <Dialog
    :visible="true"
    modal
    header="Log a cure"
    :style="{ width: '34rem', maxWidth: '95vw' }"
    @update:visible="emit('close')">
    <form class="form" @submit.prevent="take">
      <label
        >What<Select v-model="what" :options="[...CURES]" option-label="label" option-value="id" aria-label="What"
      /></label>
      <label
        >Where<Select v-model="where" :options="places" option-label="label" option-value="id" aria-label="Where"
      /></label>
      <label class="wide"
        >In detail<InputText
          v-model="detail"
          aria-label="In detail"
          placeholder="four turns through four cores, a hand's breadth from it"
      /></label>
      <table class="wide">
        <thead>
          <tr>
            <th>Readings</th>
            <th>before</th>
            <th>after</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="b in rows" :key="b">
            <th>{{ b }}</th>
            <td>
              <InputText
                v-model="before[b]"
                size="small"
                :aria-label="`${b} before`"
                :invalid="bad(b, before[b])"
                placeholder="S7" />
            </td>
            <td>
              <InputText
                v-model="after[b]"
                size="small"
                :aria-label="`${b} after`"
                :invalid="bad(b, after[b])"
                placeholder="S3" />
            </td>
          </tr>
        </tbody>
      </table>
      <div class="wide ear">
        Or by ear
        <SelectButton
          v-model="byEar"
          :options="[
            { id: 'same', label: 'no change' },
            { id: 'weaker', label: 'weaker' },
            { id: 'gone', label: 'gone' },
          ]"
          option-label="label"
          option-value="id"
          size="small"
          aria-label="By ear" />
      </div>
      <label class="wide"
        >Side effects<InputText
          v-model="sideEffects"
          aria-label="Side effects"
          placeholder="none, or: gets warm, drops 0.1 V"
      /></label>
      <label>Cost, €<InputNumber v-model="cost" :min="0" :max="100000" aria-label="Cost" /></label>
      <label class="keep"><input v-model="kept" type="checkbox" /> It stays</label>
      <p v-if="wrong" class="wrong wide" role="alert">{{ wrong }}</p>
      <p class="quiet wide">{{ NEVER }} {{ UNPLUGGED }}</p>
      <div class="end wide">
        <Button type="button" label="Cancel" severity="secondary" @click="emit('close')" /><Button
          type="submit"
          label="Log it"
          :disabled="nothing || !!wrong" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.form {
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0.8rem 1rem;
}
.wide {
  grid-column: 1 / -1;
}
label {
  display: grid;
  gap: 0.25rem;
  color: var(--ink-2);
  align-content: start;
}
.ear {
  display: flex;
  gap: 0.7rem;
  align-items: center;
  color: var(--ink-2);
}
.keep {
  display: flex;
  align-items: center;
  gap: 0.5rem;
  align-self: end;
  padding-bottom: 0.6rem;
}
table {
  border-collapse: collapse;
}
th {
  text-align: left;
  font-weight: 500;
  color: var(--ink-2);
  padding: 0.15rem 0.8rem 0.15rem 0;
}
td :deep(input) {
  width: 7rem;
}
.wrong {
  color: var(--fail);
}
.quiet {
  color: var(--ink-3);
  font-size: 0.86rem;
}
.end {
  display: flex;
  justify-content: flex-end;
  gap: 0.6rem;
}
</style>
