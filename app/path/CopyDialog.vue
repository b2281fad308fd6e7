<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { useToast } from 'primevue/usetoast'
import { branchOf, pasteBranch } from '#core/edit/branch'
import { applyEdit } from '#core/edit/patch'
import { nameOf } from '#core/plan/find'
import type { Plan } from '#core/plan/schema'
import { useStation } from '../stores/station'
import { stationsApi, type StationRow } from '../stores/stationsApi'
import Dialog from '../shell/focusedDialog'

/** A branch of the path, copied into another station or once more into this one. */
const props = defineProps<{ plan: Plan; ids: readonly string[] }>()
const emit = defineEmits<{ close: [] }>()
const station = useStation()
const toast = useToast()

const branch = computed(() => branchOf(props.plan, props.ids))
const names = computed(() => branch.value.parts.map(nameOf).join(', '))
const stations = ref<StationRow[]>([])
const to = ref(station.id)
const wrong = ref('')
onMounted(async () => {
  try {
    stations.value = await stationsApi.list()
  } catch (error) {
    wrong.value = (error as Error).message
  }
})
const label = computed(() => `copy ${names.value}`.slice(0, 200))

async function copy() {
  wrong.value = ''
  if (to.value === station.id) {
    const [fault] = station.edit(pasteBranch(props.plan, branch.value), label.value)
    if (fault) wrong.value = `${fault.wrong}; right would be ${fault.right}`
    else emit('close')
    return
  }
  try {
    const there = await stationsApi.read(to.value)
    const made = applyEdit(there.plan, pasteBranch(there.plan, branch.value))
    if (!made.ok) throw new Error(`${made.faults[0]!.wrong}; right would be ${made.faults[0]!.right}`)
    const saved = await stationsApi.save(there.id, there.revision, made.plan, label.value)
    if (saved.status === 'conflict') throw new Error('It was changed meanwhile. Copy once more.')
    toast.add({ severity: 'secondary', summary: `Copied to ${there.name}`, detail: names.value, life: 4000 })
    emit('close')
  } catch (error) {
    wrong.value = (error as Error).message
  }
}
</script>

<template>
  <Dialog
    visible
    modal
    header="Copy a branch"
    :style="{ width: '30rem', maxWidth: '96vw' }"
    :draggable="false"
    @update:visible="emit('close')">
    <p>
      <b>{{ names }}</b>, with the leads among them, to
    </p>
    <p class="way">
      <Select
        v-model="to"
        :options="stations"
        option-label="name"
        option-value="id"
        size="small"
        aria-label="Station to copy to" />
      <Button label="Copy" size="small" :disabled="!to" @click="copy" />
    </p>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
  </Dialog>
</template>

<style scoped>
.way {
  display: flex;
  gap: 0.6rem;
  margin-top: 0.8rem;
  align-items: center;
}
.wrong {
  color: var(--fail);
  margin-top: 0.6rem;
}
</style>
