<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Patch } from '#core/edit/patch'
import type { MendWay } from '#core/mend/mend'
import type { MendAim } from '#core/mend/tally'
import type { Fault } from '#core/plan/faults'
import type { Plan } from '#core/plan/schema'
import { counted } from '#core/units/words'
import { useShelf } from '../stores/shelf'
import { useMend } from './useMend'
import WayColumn from './WayColumn.vue'
import Dialog from '../shell/focusedDialog'

/** Whole ways to a plan with nothing left to mend, side by side; one is taken as one step. */
const visible = defineModel<boolean>('visible', { required: true })
const props = defineProps<{ plan: Plan; edit: (patch: Patch, label: string) => Fault[] }>()
const shelf = useShelf()

const aims: { id: MendAim; label: string }[] = [
  { id: 'change', label: 'least change' },
  { id: 'weight', label: 'least weight' },
  { id: 'cost', label: 'least cost' },
]
const aim = ref<MendAim>('change')
const ownedOnly = ref(false)
const wrong = ref('')
const { result, isBusy, tried, problem, look, cancel } = useMend()

watch(
  [visible, aim, ownedOnly],
  () => {
    if (visible.value) void look(props.plan, { for: aim.value, shelf: shelf.items, ownedOnly: ownedOnly.value })
    else cancel()
  },
  { immediate: true },
)

/** Steps that are in every way: what sets one apart from the others stands out. */
const shared = computed(() => {
  const [first, ...others] = (result.value?.ways ?? []).map(w => new Set(w.steps.map(s => s.label)))
  return new Set(others.length ? [...first!].filter(label => others.every(o => o.has(label))) : first)
})

function take(way: MendWay) {
  wrong.value = props.edit(way.patch, `mend all: ${way.title}`)[0]?.wrong ?? ''
  if (!wrong.value) visible.value = false
}
</script>

<template>
  <Dialog
    v-model:visible="visible"
    modal
    header="Mend all"
    :style="{ width: '70rem', maxWidth: '96vw' }"
    :draggable="false"
    dismissable-mask>
    <div class="ask">
      <SelectButton
        v-model="aim"
        :options="aims"
        option-label="label"
        option-value="id"
        :allow-empty="false"
        size="small"
        aria-label="What is to be least" />
      <label class="check"><input v-model="ownedOnly" type="checkbox" /> only with what the shelf has</label>
    </div>
    <div v-if="isBusy" class="busy" role="status">
      <span>Looking for ways: {{ counted(tried, 'plan') }} tried…</span>
      <button class="plain" @click="cancel">Stop</button>
    </div>
    <p v-else-if="problem" class="wrong" role="alert">{{ problem }}</p>
    <p v-else-if="!result" class="quiet">Stopped. Choose what is to be least to look again.</p>
    <p v-else-if="result.isClean" class="calm">Nothing to mend: every check in the list passed in every condition.</p>
    <template v-else>
      <div class="ways">
        <WayColumn v-for="way in result.ways" :key="way.id" :way="way" :shared="shared" @take="take(way)" />
      </div>
      <div v-if="result.reasons.length" class="none" role="alert">
        <b>{{ result.ways.length ? 'Not all of it can be mended.' : 'No way was found.' }}</b>
        <ul>
          <li v-for="reason in result.reasons" :key="reason">{{ reason }}</li>
        </ul>
      </div>
      <div v-else-if="!result.ways.length" class="none">
        <b>No change that Wireman knows mends what is left:</b>
        <ul>
          <li v-for="l in result.left" :key="l.title" :title="l.message">{{ l.title }}</li>
        </ul>
      </div>
    </template>
    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
  </Dialog>
</template>

<style scoped>
.ask {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem 1rem;
  align-items: center;
  margin-bottom: 0.9rem;
}
.check {
  display: flex;
  gap: 0.4rem;
  align-items: center;
}
.ways {
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(17rem, 1fr));
  gap: 1rem;
  align-items: stretch;
}
.busy {
  display: flex;
  gap: 1rem;
  align-items: center;
  min-height: 8rem;
  color: var(--ink-2);
}
.quiet {
  color: var(--ink-3);
}
.calm {
  color: var(--pass);
}
.wrong {
  color: var(--fail);
}
.none {
  border: 1.5px solid var(--fail);
  border-radius: 8px;
  padding: 0.6rem 0.9rem;
  margin-top: 1rem;
}
.none b {
  color: var(--fail);
}
.none ul {
  margin: 0.3rem 0 0;
  padding-left: 1.1rem;
}
</style>
