import { computed, shallowRef, watch, type Ref } from 'vue'
import type { NamedPoint } from '#core/circuit/point'
import type { Staircase } from '#core/circuit/staircase'
import { isLoad as isLoadPart, kindOf, needs } from '#core/kinds/index'
import type { layoutPath } from '#core/picture/layout'
import type { Finding } from '#core/verdict/verdict'
import type { useStation } from '../stores/station'
import { asGiven, fixed } from '#core/units/number'

export interface StairsOptions {
  station: ReturnType<typeof useStation>
  layout: Readonly<Ref<ReturnType<typeof layoutPath> | null>>
  selected: Readonly<Ref<string | null>>
  finding: Readonly<Ref<Finding | null>>
  /** The condition chosen for the whole picture; put back to the worst when it has no operating point. */
  condition: Ref<string>
}

/** Which load is shown and in which condition: its staircase, and what arrives against what it needs. */
export function useStairs({ station, layout, selected, finding, condition }: StairsOptions) {
  const verdict = computed(() => station.judged?.verdict ?? null)

  /** The load whose staircase is shown: the one selected, else the one the finding speaks of, else the worst. */
  const shownLoad = computed(() => {
    const plan = station.plan
    if (!plan) return null
    const isLoad = (id: string | null | undefined) => plan.parts.some(p => p.id === id && kindOf(p).role === 'load')
    if (isLoad(selected.value)) return selected.value
    const rows = layout.value?.rows.filter(r => r.kind === 'load') ?? []
    const through = rows.find(r => selected.value !== null && r.chain.includes(selected.value))
    if (through) return through.id
    if (isLoad(finding.value?.place)) return finding.value!.place
    return verdict.value?.findings.map(f => f.place).find(isLoad) ?? rows[0]?.id ?? null
  })
  const shownSupply = computed(() => {
    const part = station.plan?.parts.find(p => p.id === shownLoad.value)
    return part && isLoadPart(part) ? part : null
  })
  const limit = computed<'minV' | 'maxV'>(() => {
    const over = verdict.value?.findings.some(f => f.check === 'arrival-over' && f.place === shownLoad.value)
    const under = verdict.value?.findings.some(f => f.check === 'arrival-under' && f.place === shownLoad.value)
    return over && !under ? 'maxV' : 'minV'
  })
  /** Condition of the staircase: the chosen one, or the load's own worst corner. */
  const shownCondition = computed(() => {
    if (condition.value !== 'worst') return condition.value
    const span = shownLoad.value ? verdict.value?.arrivals[shownLoad.value] : null
    if (!span) return null
    return limit.value === 'maxV' ? span.high.condition : span.low.condition
  })

  const point = shallowRef<NamedPoint | null>(null)
  const stairs = shallowRef<Staircase | null>(null)
  watch(
    [() => station.judged, condition, shownLoad, shownCondition],
    async ([judged]) => {
      if (!judged) return
      const [nextPoint, nextStairs] = await Promise.all([
        condition.value === 'worst' ? null : station.core.call('point', condition.value).catch(() => null),
        shownLoad.value && shownCondition.value
          ? station.core.call('stairs', shownLoad.value, shownCondition.value).catch(() => null)
          : null,
      ])
      if (judged !== station.judged) return
      point.value = nextPoint
      stairs.value = nextStairs
      if (condition.value !== 'worst' && !nextPoint) condition.value = 'worst'
    },
    { immediate: true },
  )

  const arrives = computed(() => {
    const load = shownSupply.value
    if (!load || !stairs.value) return null
    const volts = stairs.value.steps.at(-1)?.volts ?? stairs.value.emfV
    const { minV, maxV } = needs(load)
    const wants = limit.value === 'minV' ? `needs ${asGiven(minV)} V` : `stands ${asGiven(maxV)} V`
    return { bad: volts < minV - 1e-6 || volts > maxV + 1e-6, words: `${wants} · gets ${fixed(volts, 2)} V` }
  })

  return { shownLoad, shownSupply, limit, shownCondition, point, stairs, arrives }
}
