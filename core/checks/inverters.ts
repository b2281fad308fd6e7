import { solveMatrix } from '../circuit/matrix'
import { conditionWords } from '../circuit/conditions'
import { partAmps } from '../circuit/point'
import { setField, setFields } from '../edit/set'
import { propose } from '../fixes/proposal'
import { acSurgeW, acVA, acWatts, allRated, type Inverter } from '../kinds/inverter'
import { asKind, kindOf, partsOf, type Part } from '../kinds/index'
import { batteryLimit } from '../kinds/batteryLimits'
import { partById } from '../plan/find'
import { partName } from '../plan/names'
import type { Plan } from '../plan/schema'
import type { Study } from '../study/study'
import { against, amps, volts, watts } from '../units/show'
import type { Check, Found } from './check'
import { asGiven, fixed } from '../units/number'
import { anA, capital, someOf } from '../units/words'

/** What hangs on an inverter beside its own list: chargers and supplies that say they are fed by it, as AC loads. */
function fedBy(plan: Plan, inverter: Inverter) {
  const listed = new Set((inverter.acLoads ?? []).map(l => l.part))
  return plan.parts
    .filter(p => asKind(p, 'charger')?.fedBy === inverter.id && !listed.has(p.id))
    .map(p => ({ name: partName(plan, p.id), watts: inputW(p) }))
}

const inputW = (part: Part | undefined) => (part && kindOf(part).acInputW?.(part)) || 0

/** The inverter with all that really hangs on it: what a part takes counts where its line says less. */
function loaded(plan: Plan, inverter: Inverter): Inverter {
  const listed = (inverter.acLoads ?? []).map(l => ({
    ...l,
    watts: Math.max(l.watts, inputW(l.part === undefined ? undefined : partById(plan, l.part))),
  }))
  return { ...inverter, acLoads: [...listed, ...fedBy(plan, inverter)] }
}

/** Sizes that inverters are sold in, W. */
const SOLD_W = [300, 600, 1000, 1500, 2000, 3000] as const

export const inverterLoad: Check = {
  id: 'inverter-load',
  severities: ['fail'],
  looksAt: 'what hangs on the AC side of each inverter, running and starting, chargers fed by it included',
  title: 'Inverter asked for more than it gives',
  why:
    'Motors and heaters take several times their running power when they start, and what has a poor power factor ' +
    'more ' +
    'current than its watts say; over its surge an inverter trips or fails.',
  source: "the inverter's label (ratedW, surgeW)",
  find: study =>
    partsOf(study.plan.parts, 'inverter').flatMap((inverter): Found[] => {
      const all = loaded(study.plan, inverter)
      const runVA = acVA(all)
      const startW = acSurgeW(all)
      const surgeW = inverter.surgeW ?? inverter.ratedW
      if (runVA <= inverter.ratedW && startW <= surgeW) return []
      const over = runVA > inverter.ratedW
      const apparent = runVA > acWatts(all) ? ` (${fixed(runVA, 0)} VA by their power factors)` : ''
      return [
        {
          severity: 'fail',
          limit: [inverter.id, over ? 'ratedW' : 'surgeW'],
          place: inverter.id,
          condition: null,
          title:
            `${study.name(inverter)} asked for ${fixed(over ? runVA : startW, 0)} ` +
            `${over && apparent ? 'VA' : 'W'}`,
          message:
            `What hangs on ${study.name(inverter)} (${someOf(all.acLoads!.map(l => l.name))}) takes ` +
            `${against(watts, acWatts(all), inverter.ratedW)} running${apparent} and ` +
            `${against(watts, startW, surgeW)} starting; it gives ` +
            `${asGiven(inverter.ratedW)} W, ${asGiven(surgeW)} W for a moment.`,
          numbers: { runW: acWatts(all), runVA, startW, ratedW: inverter.ratedW, surgeW },
        },
      ]
    }),
  fixes: (found, study) => {
    const size = SOLD_W.find(w => w >= found.numbers.runVA! && 2 * w >= found.numbers.startW!)
    return size
      ? [
          {
            label: capital(anA(`${asGiven(size)} W inverter in its place`)),
            patch: setFields(study.plan, found.place, { ratedW: size, surgeW: 2 * size }),
          },
        ]
      : []
  },
}

/** With a soft start a compressor takes this many times its running power (typical of the class). */
const SOFT_START = 1.5

/** The plan at the moment in which the largest load of an inverter starts with all else running. */
function starting(study: Study, inverter: Inverter, startW: number) {
  const all = study.solved.points.map(p => p.condition).filter(c => c.loadState === 'all')
  const at = study.plan.parts.indexOf(inverter)
  const parts = study.plan.parts.with(at, { ...inverter, acLoads: [{ name: 'starting', watts: startW }] })
  return solveMatrix({ ...study.plan, parts }, all)
}

export const inverterSurge: Check = {
  id: 'inverter-surge',
  severities: ['fail'],
  looksAt: 'all active, at the moment the largest AC load starts',
  title: 'A start pulls the inverter or the battery off',
  why:
    'For a second a starting compressor takes several times its power out of the battery: the voltage at the ' +
    'inverter ' +
    "falls under its window, or the battery's management system sees a short and opens.",
  source: "the inverter's input window; the battery's peak current",
  find: study =>
    partsOf(study.plan.parts, 'inverter').flatMap((inverter): Found[] => {
      const all = loaded(study.plan, inverter)
      const [runW, startW] = [acWatts(all), acSurgeW(all)]
      const span = study.arrival(inverter.id)
      if (startW <= runW || !span || span.low.value < inverter.input.minV) return []
      const { points, network } = starting(study, inverter, startW)
      const at = { severity: 'fail' as const, place: inverter.id }
      const node = network.nodeOf.get(inverter.id)!
      const name = study.name(inverter)
      for (const point of [...points].reverse()) {
        const words = conditionWords(study.plan, point.condition.id)
        const condition = point.condition.id
        if (point.status !== 'ok')
          return [
            {
              ...at,
              condition,
              title: `${name} goes off as its load starts`,
              message: `${fixed(startW, 0)} W for the start on ${name} cannot be carried with ${words}.`,
              numbers: { startW, runW },
            },
          ]
        const inV = point.volts[node]!
        if (inV < inverter.input.minV)
          return [
            {
              ...at,
              condition,
              title: `${name} goes off as its load starts`,
              message:
                `The start takes ${fixed(startW, 0)} W from ${name}: with ${words} its input falls to ` +
                `${against(volts, inV, inverter.input.minV)}, and it works from ${volts(inverter.input.minV)}.`,
              numbers: { startW, runW, inV, minV: inverter.input.minV },
            },
          ]
        for (const { part } of study.around(`${inverter.id}.in`)) {
          const battery = asKind(part, 'battery')
          const peakA = battery ? batteryLimit(battery, 'peakA') : undefined
          if (!battery || peakA === undefined) continue
          const value = partAmps(network, point, battery)
          if (value > peakA + 1e-9)
            return [
              {
                ...at,
                also: [battery.id],
                condition,
                title: `A start on ${name} trips ${study.name(battery)}`,
                message:
                  `The start takes ${fixed(startW, 0)} W from ${name}, ${against(amps, value, peakA)} from ` +
                  `${study.name(battery)} with ${words}; it gives ${amps(peakA)} for a moment.`,
                numbers: { startW, runW, amps: value, peakA },
              },
            ]
        }
      }
      return []
    }),
  fixes: (found, study) => {
    const inverter = asKind(partById(study.plan, found.place), 'inverter')!
    const loads = inverter.acLoads ?? []
    const worst = loads.reduce(
      (a, l, i) => ((l.surgeW ?? 0) - l.watts > (loads[a]!.surgeW ?? 0) - loads[a]!.watts ? i : a),
      0,
    )
    const load = loads[worst]
    if (!load?.surgeW) return []
    const label = `A soft start for ${load.name}`
    return [
      propose(label, setField(study.plan, inverter.id, `acLoads.${worst}.surgeW`, Math.round(SOFT_START * load.watts))),
    ]
  },
}

export const inverterUnsaid: Check = {
  id: 'inverter-unsaid',
  severities: ['note'],
  looksAt: 'what hangs on the AC side of each inverter, chargers fed by it included',
  title: 'Nothing is said to hang on an inverter',
  why:
    'An inverter takes what its AC side takes. With nothing on it in the plan, lead, fuse and battery are judged for ' +
    'its idle current alone.',
  source: "the inverter's label (ratedW)",
  find: study =>
    partsOf(study.plan.parts, 'inverter').flatMap((inverter): Found[] => {
      if (acWatts(loaded(study.plan, inverter)) > 0) return []
      const { value: inW } = kindOf(inverter).sink!({ ...inverter, acLoads: allRated(inverter.ratedW) }, true)
      const ratedA = inW / (study.arrival(inverter.id)?.low.value ?? inverter.input.minV)
      return [
        {
          severity: 'note',
          place: inverter.id,
          condition: null,
          title: `Nothing is said to hang on ${study.name(inverter)}`,
          message:
            `${study.name(inverter)} is judged idle, at ${fixed(inverter.idleW ?? 0, 0)} W: nothing is said ` +
            `to hang on it. All of its ${asGiven(inverter.ratedW)} W would take some ${amps(ratedA)}.`,
          numbers: { ratedW: inverter.ratedW, ratedA },
        },
      ]
    }),
  fixes: (found, study) => {
    const inverter = asKind(partById(study.plan, found.place), 'inverter')!
    const patch = setField(study.plan, inverter.id, 'acLoads', allRated(inverter.ratedW))
    return [propose(`Judge it with all it is rated for, ${asGiven(inverter.ratedW)} W`, patch)]
  },
}
