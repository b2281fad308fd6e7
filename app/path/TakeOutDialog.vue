<script setup lang="ts">
import { computed, ref } from 'vue'
import { hangsOn, takeOut, takeOutOnto, takersFor } from '#core/edit/takeOut'
import type { Patch } from '#core/edit/patch'
import { leadById, partIdOf } from '#core/plan/find'
import { partName } from '#core/plan/names'
import type { Plan } from '#core/plan/schema'
import Dialog from '../shell/focusedDialog'

/** Before a part goes that others hang on: what becomes of them. */
const props = defineProps<{ plan: Plan; id: string }>()
const emit = defineEmits<{ take: [patch: Patch, label: string]; close: [] }>()

const name = computed(() => partName(props.plan, props.id))
const loads = computed(() =>
  hangsOn(props.plan, props.id).map(leadId => {
    const { from, to } = leadById(props.plan, leadId)!
    return partName(props.plan, partIdOf(partIdOf(from) === props.id ? to : from))
  }),
)
const takers = computed(() => takersFor(props.plan, props.id).map(id => ({ id, label: partName(props.plan, id) })))
const onto = ref(takers.value[0]?.id ?? null)
const move = () => emit('take', takeOutOnto(props.plan, props.id, onto.value!), `remove ${name.value}, its loads moved`)
const drop = () => emit('take', takeOut(props.plan, props.id), `remove ${name.value}`)
</script>

<template>
  <Dialog
    visible
    modal
    :header="`Remove ${name}`"
    :style="{ width: '30rem', maxWidth: '96vw' }"
    :draggable="false"
    @update:visible="emit('close')">
    <p>
      On it hang <b>{{ loads.join(', ') }}</b>. Where do they go?
    </p>
    <p v-if="takers.length" class="way">
      <Select v-model="onto" :options="takers" option-label="label" option-value="id" size="small" aria-label="Onto" />
      <Button label="Move them there" size="small" @click="move" />
    </p>
    <p class="way">
      <Button label="Leave them unfed" severity="secondary" size="small" @click="drop" />
      <button class="plain" @click="emit('close')">Keep {{ name }}</button>
    </p>
  </Dialog>
</template>

<style scoped>
.way {
  display: flex;
  gap: 0.6rem;
  margin-top: 0.8rem;
  align-items: center;
  flex-wrap: wrap;
}
</style>
