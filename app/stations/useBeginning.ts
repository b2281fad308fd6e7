import { computed, reactive, type ComputedRef } from 'vue'
import { beginPlan, canBeFilled } from '#core/plan/beginning'
import { readPlan } from '#core/plan/faults'
import type { Conductor, Plan } from '#core/plan/schema'
import { activeAmps, catalogueOf, chosenPart, startingSources, type Chosen } from '#core/plan/starter'
import { KINDS, type Part } from '#core/kinds/index'
import { readConductor } from '#core/units/conductor'
import { readQuantity } from '#core/units/quantity'
import { usePreferences } from '../stores/preferences'

/** The answers from which a station begins, as they are typed, and the plan they make. */
export interface Answered {
  name: string
  /** How many of each row of the catalogue. */
  counts: Record<string, number>
  /** Loads told from their manuals. */
  own: Omit<Part, 'id'>[]
  source: string
  mains: string | null
  sun: string | null
  vehicle: string | null
  length: string
  conductor: string
}

const rowsOf = (kind: string) =>
  KINDS.get(kind)!.catalogue.map(row => ({ id: row.id, label: row.label, part: row.part as Omit<Part, 'id'> }))

/** What can be chosen. */
export const OFFERED = {
  loads: catalogueOf('load'),
  sources: startingSources(),
  mains: rowsOf('supply'),
  sun: rowsOf('panel'),
  vehicle: rowsOf('vehicle'),
}

/** A supply has so much to spare beside what everything takes at once. */
const SPARE = 1.15

export interface Beginnings {
  answers: Answered
  /** Whether what it starts from can be filled by something beside it. */
  isStore: ComputedRef<boolean>
  loads: ComputedRef<Chosen[]>
  /** What everything takes at once, A. */
  totalA: ComputedRef<number>
  lengthWrong: ComputedRef<string>
  conductorWrong: ComputedRef<string>
  plan: ComputedRef<Plan | null>
  /** The least supply of the catalogue that carries everything. */
  fittingSupply: () => string
}

export function useBeginning(): Beginnings {
  const { chosen } = usePreferences()
  const answers = reactive<Answered>({
    name: 'My station',
    counts: { 'hf-100': 1 },
    own: [],
    source: 'lifepo4-50',
    mains: null,
    sun: null,
    vehicle: null,
    length: chosen.units.length === 'ft' ? '6 ft' : '2 m',
    conductor: chosen.units.conductor === 'mm2' ? '6 mm2' : '10 AWG',
  })
  const source = computed(() => chosenPart(answers.source, 'src'))
  const isStore = computed(() => source.value !== null && canBeFilled(source.value))
  const loads = computed<Chosen[]>(() => [
    ...OFFERED.loads.flatMap(l => Array.from({ length: answers.counts[l.id] ?? 0 }, () => l.id)),
    ...answers.own,
  ])
  const totalA = computed(() => loads.value.reduce<number>((sum, l) => sum + activeAmps(chosenPart(l, 'x')!), 0))
  const length = computed(() => readQuantity(answers.length, 'length', chosen.units))
  const lengthWrong = computed(() => {
    if (!length.value.ok) return length.value.wrong
    return length.value.value > 0 && length.value.value <= 1000 ? '' : 'above 0 and at most 1000 m'
  })
  const conductor = computed(() => readConductor(answers.conductor, chosen.units))
  const conductorWrong = computed(() => (conductor.value.ok ? '' : conductor.value.wrong))

  const plan = computed<Plan | null>(() => {
    if (lengthWrong.value || !length.value.ok || !conductor.value.ok || !loads.value.length) return null
    const made = beginPlan({
      name: answers.name.trim() || 'My station',
      loads: loads.value,
      source: answers.source,
      ...(isStore.value && answers.mains && { mains: answers.mains }),
      ...(isStore.value && answers.sun && { sun: answers.sun }),
      ...(isStore.value && answers.vehicle && { vehicle: answers.vehicle }),
      lengthM: length.value.value,
      conductor: conductor.value.value as Conductor,
    })
    const { ampacity, fuseDistance } = chosen
    const read = made && readPlan({ ...made, site: { ...made.site, ampacity, fuseDistance } })
    return read?.ok ? read.plan : null
  })

  function fittingSupply(): string {
    const fits = OFFERED.mains.find(s => 'continuousA' in s.part && Number(s.part.continuousA) >= SPARE * totalA.value)
    return (fits ?? OFFERED.mains.at(-1)!).id
  }
  return { answers, isStore, loads, totalA, lengthWrong, conductorWrong, plan, fittingSupply }
}
