<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { isLoad } from '#core/kinds/index'
import { nameOf } from '#core/plan/find'
import { shelfFor } from '#core/shelf/item'
import type { Patch } from '#core/edit/patch'
import type { Fault } from '#core/plan/faults'
import type { Plan } from '#core/plan/schema'
import type { Aim, Relaxed, SizeResult, Stock } from '#core/size/size'
import { fixed } from '#core/units/number'
import { useShelf } from '../stores/shelf'
import { useStation } from '../stores/station'
import Dialog from '../shell/focusedDialog'

/** Sizes conductors and fuses at once, and shows what would change before it is taken. */
const visible = defineModel<boolean>('visible', { required: true })
const props = defineProps<{ plan: Plan; edit: (patch: Patch, label: string) => Fault[] }>()
const station = useStation()
const shelf = useShelf()

const aims: { id: Aim; label: string }[] = [
  { id: 'weight', label: 'least weight' },
  { id: 'cost', label: 'least cost' },
  { id: 'drop', label: 'least drop' },
]
const aim = ref<Aim>('weight')
const row = ref<string>('all')
const ownedOnly = ref(false)
/** Limits that are let go, for this plan as it stands. */
const relaxed = ref<Relaxed[]>([])
watch(
  () => props.plan,
  () => (relaxed.value = []),
)
const rows = computed(() => [
  { id: 'all', label: 'the whole plan' },
  ...props.plan.parts.filter(isLoad).map(p => ({ id: p.id, label: `the way to ${nameOf(p)}` })),
])
const PROVEN =
  'Proven least: with each fuse no larger than its own wire carries, no other sizes pass every limit with less.'
const NOT_PROVEN =
  'A good choice, not proven least: no tree of one source, a stock ran short, a short asked for more, or other fuses ' +
  'might help.'

const wrong = ref('')
const result = shallowRef<SizeResult | null>(null)
const took = ref(0)
watch(
  [visible, aim, row, ownedOnly, relaxed, () => props.plan],
  async () => {
    if (!visible.value) return
    result.value = null
    const owned = ownedOnly.value
      ? shelfFor(props.plan, shelf.items).flatMap((i): Stock[] =>
          i.what === 'conductor'
            ? [
                {
                  conductor: {
                    ...(i.awg !== undefined && { awg: i.awg }),
                    ...(i.mm2 !== undefined && { mm2: i.mm2 }),
                    ...(i.insulationC !== undefined && { insulationC: i.insulationC }),
                  },
                  metres: i.metres,
                  ...(i.cost !== undefined && { costPerM: i.cost }),
                },
              ]
            : [],
        )
      : undefined
    const asked = `${aim.value}${row.value}${ownedOnly.value}${relaxed.value.join()}`
    const start = performance.now()
    const made = await station.core
      .call('size', props.plan, {
        for: aim.value,
        ...(row.value !== 'all' && { row: row.value }),
        ...(owned && { owned }),
        ...(relaxed.value.length && { relax: relaxed.value }),
      })
      .catch((error: Error) => {
        wrong.value = error.message
        return null
      })
    if (asked !== `${aim.value}${row.value}${ownedOnly.value}${relaxed.value.join()}`) return
    result.value = made
    took.value = performance.now() - start
  },
  { immediate: true },
)

function take() {
  if (!result.value?.patch) return
  const faults = props.edit(result.value.patch, `sized for ${aims.find(a => a.id === aim.value)!.label}`)
  wrong.value = faults[0]?.wrong ?? ''
  if (!faults.length) visible.value = false
}
const kilos = (g: number) => (g >= 1000 ? `${fixed(g / 1000, 2)} kg` : `${fixed(g, 0)} g`)
</script>

<template>
  <Dialog
    v-model:visible="visible"
    modal
    header="Size it"
    :style="{ width: '38rem' }"
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
      <Select
        v-model="row"
        :options="rows"
        option-label="label"
        option-value="id"
        size="small"
        aria-label="What is sized" />
      <label class="check"><input v-model="ownedOnly" type="checkbox" /> only conductors from the shelf</label>
    </div>
    <p v-if="!result" class="quiet">Working it out…</p>
    <template v-else-if="result.plan && result.after">
      <table class="totals">
        <thead>
          <tr>
            <th />
            <th class="n">now</th>
            <th class="n">then</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <td>conductors weigh</td>
            <td class="n">{{ kilos(result.before.grams) }}</td>
            <td class="n">
              <b>{{ kilos(result.after.grams) }}</b>
            </td>
          </tr>
          <tr>
            <td>and cost, typical</td>
            <td class="n">{{ fixed(result.before.cost, 0) }}</td>
            <td class="n">
              <b>{{ fixed(result.after.cost, 0) }}</b>
            </td>
          </tr>
          <tr>
            <td>worst share lost in the wires</td>
            <td class="n">{{ fixed(100 * result.before.worstDropShare, 1) }} %</td>
            <td class="n">
              <b>{{ fixed(100 * result.after.worstDropShare, 1) }} %</b>
            </td>
          </tr>
        </tbody>
      </table>
      <h3>
        {{
          result.changes.length
            ? `${result.changes.length} change${result.changes.length > 1 ? 's' : ''}`
            : 'Nothing to change: this is it already'
        }}
      </h3>
      <ul class="changes">
        <li v-for="c in result.changes" :key="c.words">{{ c.words }}</li>
      </ul>
      <p class="quiet">
        {{ result.exact ? PROVEN : NOT_PROVEN }}
      </p>
    </template>
    <div v-else class="none" role="alert">
      <b>Nothing fits.</b>
      <ul>
        <li v-for="o in result.obstacles" :key="o">{{ o }}</li>
      </ul>
      <template v-if="result.yields">
        <p>{{ result.yields.words }}.</p>
        <Button
          :label="result.yields.relax === 'share' ? 'Let the share go here' : 'Let those contacts be'"
          severity="secondary"
          size="small"
          @click="relaxed = [...relaxed, result.yields.relax]" />
      </template>
    </div>
    <p v-if="wrong" class="wrong">{{ wrong }}</p>
    <template #footer>
      <Button label="Take it" :disabled="!result?.patch?.length" @click="take" />
    </template>
  </Dialog>
</template>

<style scoped>
.ask {
  display: flex;
  flex-wrap: wrap;
  gap: 0.6rem;
  align-items: center;
  margin-bottom: 0.9rem;
}
.check {
  display: flex;
  gap: 0.4rem;
  align-items: center;
}
.totals {
  border-collapse: collapse;
  width: 100%;
}
th {
  font-weight: 600;
  color: var(--ink-3);
  font-size: 0.86rem;
}
td,
th {
  padding: 0.22rem 0.5rem;
  border-bottom: 1px solid var(--line);
}
td:first-child {
  padding-left: 0;
}
.n {
  text-align: right;
}
h3 {
  font-size: 0.95rem;
  margin: 0.9rem 0 0.3rem;
}
.changes {
  margin: 0;
  padding-left: 1.1rem;
  max-height: 14rem;
  overflow: auto;
}
.quiet {
  color: var(--ink-3);
  margin-top: 0.6rem;
}
.none {
  border: 1.5px solid var(--fail);
  border-radius: 8px;
  padding: 0.6rem 0.9rem;
}
.none b {
  color: var(--fail);
}
.none ul {
  margin: 0.3rem 0 0;
  padding-left: 1.1rem;
}
.wrong {
  color: var(--fail);
}
</style>
