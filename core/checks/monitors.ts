import { setField } from '../edit/set'
import { conditionWords, type LoadPart } from '../circuit/conditions'
import { propose } from '../fixes/proposal'
import { asKind, isLoad, needs, partsOf, type PartOf } from '../kinds/index'
import { partById } from '../plan/find'
import type { Study } from '../study/study'
import { against, amps, volts } from '../units/show'
import type { Check, Found } from './check'
import { asGiven } from '../units/number'

type Monitor = PartOf<'monitor'>

/** Loads on a monitor's own wire. */
const watched = (study: Study, monitor: Monitor): LoadPart[] => [
  ...new Set(study.around(monitor.id).flatMap(({ part }) => (isLoad(part) ? [part] : []))),
]

/** The load that stops first as the voltage falls, and the one that is harmed first as it rises. */
const first = (loads: LoadPart[], before: (a: LoadPart, b: LoadPart) => boolean) =>
  loads.reduce<LoadPart | null>((best, l) => (!best || before(l, best) ? l : best), null)

export const monitorThreshold: Check = {
  id: 'monitor-threshold',
  severities: ['caution'],
  looksAt: 'all; thresholds of alarms and lamps against what stands there and what the loads on the wire stand',
  title: 'Alarm that comes too late, or always',
  why:
    'An alarm set under what a radio needs speaks when the radio is already off; one that speaks at every charge, or ' +
    'all day, is switched off and then tells nothing.',
  source: "the loads' manuals (supply windows)",
  find: study =>
    partsOf(study.plan.parts, 'monitor').flatMap((monitor): Found[] => {
      const span = study.arrival(monitor.id)
      if (!span) return []
      const loads = watched(study, monitor)
      const lowest = first(loads, (a, b) => needs(a).minV > needs(b).minV)
      const highest = first(loads, (a, b) => needs(a).maxV < needs(b).maxV)
      const { underV, overV } = monitor
      const found = (title: string, message: string, condition: string | null, numbers: Record<string, number>) => [
        { severity: 'caution' as const, place: monitor.id, condition, title, message, numbers },
      ]
      const name = study.name(monitor)
      if (underV !== undefined && span.high.value < underV)
        return found(
          `${name} warns all the time`,
          `${name} warns below ${volts(underV)}; no more than ${volts(span.high.value)} ever stands there.`,
          span.high.condition,
          { underV, highestV: span.high.value },
        )
      if (underV !== undefined && lowest && underV < needs(lowest).minV)
        return found(
          `${name} warns too late for ${study.name(lowest)}`,
          `${name} warns below ${volts(underV)}; ${study.name(lowest)} on the same wire needs ` +
            `${against(volts, needs(lowest).minV, underV)} and is off by then.`,
          span.low.condition,
          { underV, minV: needs(lowest).minV },
        )
      if (overV !== undefined && highest && overV > needs(highest).maxV)
        return found(
          `${name} warns too late for ${study.name(highest)}`,
          `${name} warns above ${volts(overV)}; ${study.name(highest)} on the same wire stands ` +
            `${against(volts, needs(highest).maxV, overV)}.`,
          span.high.condition,
          { overV, maxV: needs(highest).maxV },
        )
      if (overV !== undefined && span.high.value > overV && (!highest || span.high.value <= needs(highest).maxV))
        return found(
          `${name} warns where nothing is wrong`,
          `${volts(span.high.value)} stands at ${name} with ${conditionWords(study.plan, span.high.condition)}, ` +
            'which ' +
            `all loads on the wire stand; it warns above ${volts(overV)}.`,
          span.high.condition,
          { overV, highestV: span.high.value },
        )
      return []
    }),
  fixes: (found, study) => {
    const { underV, minV, maxV, highestV } = found.numbers
    const monitor = partById(study.plan, found.place) as Monitor
    const loads = watched(study, monitor)
    const stands = first(loads, (a, b) => needs(a).maxV < needs(b).maxV)
    const to = (field: 'underV' | 'overV', value: number) =>
      propose(`Set ${study.name(monitor)} to ${volts(value)}`, setField(study.plan, monitor.id, field, value))
    if (minV !== undefined) return [to('underV', Math.ceil(10 * minV - 1e-6) / 10)]
    if (maxV !== undefined) return [to('overV', Math.floor(10 * maxV + 1e-6) / 10)]
    const needsV = Math.max(0, ...loads.map(l => needs(l).minV))
    if (underV !== undefined) return needsV ? [to('underV', Math.ceil(10 * needsV - 1e-6) / 10)] : []
    const above = Math.ceil(10 * highestV! + 1e-6) / 10
    return [to('overV', stands ? Math.min(Math.floor(10 * needs(stands).maxV + 1e-6) / 10, above + 0.2) : above + 0.2)]
  },
}

/** Shunts are sold for, A. */
const SHUNTS_A = [20, 50, 100, 200, 300, 500] as const

export const monitorShunt: Check = {
  id: 'monitor-shunt',
  severities: ['caution'],
  looksAt: 'all; what a shunt meter has to carry',
  title: 'Shunt under the current of its battery',
  why: 'A shunt is a resistor of its rated amps: over them it reads wrong, drifts and heats.',
  source: "the meter's label (shuntA)",
  find: study =>
    partsOf(study.plan.parts, 'monitor').flatMap((monitor): Found[] => {
      if (monitor.shuntA === undefined) return []
      const onWire = study.around(monitor.id).flatMap(({ part }) => asKind(part, 'battery') ?? [])
      const most = onWire
        .map(b => ({ b, ...study.partAmps(b) }))
        .reduce<{ b: PartOf<'battery'>; value: number; condition: string } | null>(
          (a, x) => (!a || x.value > a.value ? x : a),
          null,
        )
      if (!most || most.value <= monitor.shuntA + 1e-9) return []
      return [
        {
          severity: 'caution',
          place: monitor.id,
          also: [most.b.id],
          condition: most.condition,
          title: `${against(amps, most.value, monitor.shuntA)} through a shunt for ${amps(monitor.shuntA)}`,
          message:
            `${study.name(most.b)} gives ${against(amps, most.value, monitor.shuntA)} with ` +
            `${conditionWords(study.plan, most.condition)}; the shunt ` +
            `of ${study.name(monitor)} is made for ${amps(monitor.shuntA)}.`,
          numbers: { amps: most.value, shuntA: monitor.shuntA },
        },
      ]
    }),
  fixes: (found, study) => {
    const size = SHUNTS_A.find(a => a >= found.numbers.amps!)
    return size ? [propose(`A shunt for ${asGiven(size)} A`, setField(study.plan, found.place, 'shuntA', size))] : []
  },
}
