<script setup lang="ts">
import { ref } from 'vue'
import type { Suspect } from '#core/noise/suspect'
import type { SurveyRow } from '#core/noise/survey/survey'
import Dialog from '../shell/focusedDialog'

/** One state of a survey: which devices are on and how hard they work, the antenna, the feed, who listened. */
const props = defineProps<{ row: SurveyRow; devices: Suspect[]; canDrop: boolean }>()
const emit = defineEmits<{ take: [row: SurveyRow]; drop: [id: string]; close: [] }>()
const states = ref(Object.fromEntries(props.devices.map(d => [d.id, props.row.devices[d.id]?.state ?? 'off'])))
const amps = ref<Record<string, number | null>>(
  Object.fromEntries(props.devices.map(d => [d.id, props.row.devices[d.id]?.currentA ?? null])),
)
const antenna = ref(props.row.antenna)
const feed = ref(props.row.feed)
const who = ref(props.row.who ?? '')
const allowedBy = ref(props.row.allowedBy ?? null)
function take() {
  const { name, who: _who, allowedBy: _by, ...row } = props.row
  const devices = Object.fromEntries(
    props.devices
      .filter(d => states.value[d.id] !== 'off')
      .map(d => [
        d.id,
        {
          state: states.value[d.id]!,
          ...(states.value[d.id] === 'working' && amps.value[d.id] !== null && { currentA: amps.value[d.id]! }),
        },
      ]),
  )
  // A name given beforehand holds only while the state is what it said.
  const same = JSON.stringify(devices) === JSON.stringify(props.row.devices)
  emit('take', {
    ...row,
    ...(name && same && { name }),
    devices,
    antenna: antenna.value,
    feed: feed.value,
    ...(who.value.trim() && { who: who.value.trim() }),
    ...(allowedBy.value && { allowedBy: allowedBy.value }),
  })
}
</script>

<template>
  <Dialog
    :visible="true"
    modal
    header="What is on"
    :style="{ width: '33rem', maxWidth: '95vw' }"
    @update:visible="emit('close')">
    <form class="form" @submit.prevent="take">
      <div v-for="d in devices" :key="d.id" class="device">
        <span>{{ d.name }}</span><SelectButton
          v-model="states[d.id]"
          :options="['off', 'idle', 'working']"
          :allow-empty="false"
          size="small"
          :aria-label="d.name" /><label v-if="states[d.id] === 'working'"
          >at
          <InputNumber
            v-model="amps[d.id]"
            :min="0"
            :max="1000"
            :max-fraction-digits="1"
            size="small"
            :aria-label="`${d.name}, A`" />
          A</label
        >
      </div>
      <SelectButton
        v-model="antenna"
        :options="[
          { id: 'antenna', label: 'antenna' },
          { id: 'dummy', label: 'dummy load' },
        ]"
        option-label="label"
        option-value="id"
        :allow-empty="false"
        size="small"
        aria-label="Antenna" />
      <SelectButton
        v-model="feed"
        :options="[
          { id: 'shared', label: 'radio on the shared lead' },
          { id: 'own-battery', label: 'on a battery of its own' },
        ]"
        option-label="label"
        option-value="id"
        :allow-empty="false"
        size="small"
        aria-label="Feed" />
      <div class="device">
        <span>Possible by</span
        ><SelectButton v-model="allowedBy" :options="['sun', 'load', 'mains']" size="small" aria-label="Possible by" />
      </div>
      <label class="who">Heard by <InputText v-model="who" size="small" /></label>
      <div class="end">
        <Button v-if="canDrop" type="button" label="Remove" severity="secondary" @click="emit('drop', row.id)" /><Button
          type="submit"
          label="Take it" />
      </div>
    </form>
  </Dialog>
</template>

<style scoped>
.form {
  display: grid;
  gap: 0.8rem;
  justify-items: start;
}
.device {
  display: grid;
  grid-template-columns: 9.5rem auto auto;
  gap: 0.7rem;
  align-items: center;
}
.device label,
.who {
  display: flex;
  gap: 0.4rem;
  align-items: center;
  color: var(--ink-2);
}
.device :deep(input) {
  width: 4.5rem;
}
.end {
  display: flex;
  justify-content: flex-end;
  gap: 0.6rem;
  width: 100%;
}
@media (max-width: 560px) {
  .device {
    grid-template-columns: 1fr;
    gap: 0.3rem;
  }
}
</style>
