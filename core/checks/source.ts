import { setField } from '../edit/set'
import { batteryLimit, judgedLimit } from '../kinds/batteryLimits'
import { conditionWords } from '../circuit/conditions'
import { sourcesIn } from '../circuit/placed'
import { partAmps } from '../circuit/point'
import type { OperatingPoint, SourceFlow } from '../circuit/operatingPoint'
import { solvedPoints, type SolvedPlan } from '../circuit/matrix'
import { largerPart } from '../fixes/parts'
import { propose, type Proposal } from '../fixes/proposal'
import { turnDownAny } from '../fixes/power'
import { asKind, kindOf, partsOf, type Part } from '../kinds/index'
import { partById } from '../plan/find'
import type { Limit } from '../kinds/kind'
import { against, amps, volts } from '../units/show'
import { severityAt, type Check, type Found } from './check'
import { chargeOn } from './otherChargers'
import type { Study } from '../study/study'
import { fixed } from '../units/number'

const mostAmps = (solved: SolvedPlan, part: Part) =>
  Math.max(0, ...solvedPoints(solved).map(p => partAmps(solved.network, p, part)))

/** The two ways out of asking a source for too much: transmit with less, or a larger source. */
function lessOrLarger(
  study: Study,
  part: Part,
  { limitA, neededA }: { limitA: number; neededA: number },
  limitOf: (candidate: Record<string, unknown>) => number,
): Proposal[] {
  const battery = asKind(part, 'battery')
  return [
    turnDownAny(study.plan, solved => mostAmps(solved, part) <= limitA),
    largerPart(study.plan, part.id, c => limitOf(c) >= neededA && (!battery || c.chemistry === battery.chemistry)),
  ].filter((p): p is Proposal => p !== null)
}

const batteries = (study: Study) => partsOf(study.plan.parts, 'battery')

export const batteryPeak: Check = {
  id: 'battery-peak',
  severities: ['fail'],
  looksAt: 'all; the largest current out of each battery',
  title: 'Battery asked for more than its peak current',
  why:
    'Amp-hours are half of the answer; the other half is what it may give at once. Over its peak current the ' +
    "battery's management system cuts off, and the whole station goes dark.",
  source: "the battery's data sheet (peakA, BMS limits)",
  find: study =>
    batteries(study).flatMap((battery): Found[] => {
      const limit = batteryLimit(battery, 'peakA')
      const { value, condition } = study.partAmps(battery)
      if (limit === undefined || value <= limit) return []
      return [
        {
          severity: 'fail',
          limit: [battery.id, 'peakA'],
          place: battery.id,
          condition,
          title: `${study.name(battery)} over its peak current`,
          message:
            `${against(amps, value, limit)} is drawn from ${study.name(battery)} with ` +
            `${conditionWords(study.plan, condition)}; its ` +
            `peak is ${amps(limit)}.`,
          numbers: { amps: value, peakA: limit },
        },
      ]
    }),
  fixes: (found, study) =>
    lessOrLarger(
      study,
      partById(study.plan, found.place)!,
      { limitA: found.numbers.peakA!, neededA: found.numbers.amps! },
      c => Number(c.peakA),
    ),
}

export const batteryContinuous: Check = {
  id: 'battery-continuous',
  severities: ['fail', 'caution'],
  looksAt: 'all; the largest current out of each battery',
  title: 'Battery asked for more than its continuous current',
  why:
    'A transmission lasts minutes, so the continuous rating counts: over it the cells heat, and a management ' +
    'system cuts off within seconds to minutes.',
  source: "the battery's data sheet (continuousA, C-rate, BMS limits)",
  find: study =>
    batteries(study).flatMap((battery): Found[] => {
      const limit = judgedLimit(battery, 'continuousA')
      const peak = batteryLimit(battery, 'peakA')
      const { value, condition } = study.partAmps(battery)
      if (!limit || value <= limit.amps || (peak !== undefined && value > peak)) return []
      return [
        {
          severity: severityAt('fail', limit, value),
          limit: [battery.id, 'continuousA'],
          place: battery.id,
          condition,
          title: `${study.name(battery)} over its continuous current`,
          message:
            `${against(amps, value, limit.amps)} is drawn from ${study.name(battery)} ` +
            `(${fixed(value / battery.capacityAh, 1)} C) ` +
            `with ${conditionWords(study.plan, condition)}; it may give ${amps(limit.amps)} for ` +
            `long${limit.assumed ? ` (${limit.assumed})` : ''}.`,
          numbers: { amps: value, continuousA: limit.amps, cRate: value / battery.capacityAh },
        },
      ]
    }),
  fixes: (found, study) =>
    lessOrLarger(
      study,
      partById(study.plan, found.place)!,
      { limitA: found.numbers.continuousA!, neededA: found.numbers.amps! },
      c => Number(c.continuousA),
    ),
}

export const batteryDepth: Check = {
  id: 'lead-acid-depth',
  severities: ['caution'],
  looksAt: "the battery's own stop",
  title: 'Lead-acid battery taken under half',
  why: 'A lead-acid battery taken below half charge loses much of its life with each such cycle.',
  source: 'practice for lead-acid batteries: half of the capacity is usable',
  find: study =>
    batteries(study).flatMap((battery): Found[] => {
      if (!['agm', 'gel', 'flooded'].includes(battery.chemistry)) return []
      const used = battery.usableFraction
      if (battery.stopV !== undefined || used === undefined || used <= 0.5) return []
      return [
        {
          severity: 'caution',
          place: battery.id,
          condition: null,
          title: `${study.name(battery)} is taken under half`,
          message:
            `${study.name(battery)} is planned to ${fixed(100 * used, 0)} % of its capacity; a lead-acid battery ` +
            'lasts longer if it keeps half.',
          numbers: { usableFraction: used },
        },
      ]
    }),
  fixes: (found, study) => [
    { ...propose('Stop at half', setField(study.plan, found.place, 'usableFraction', 0.5)), cost: 'fewer hours' },
  ],
}

/** Where a source gives all it can and no longer holds its voltage: the lowest that is left, V. */
function sinksAtLimit(study: Study, part: Part): { atV: number; condition: string } | null {
  let worst: { atV: number; condition: string } | null = null
  for (const point of study.points) {
    const flow = point.sources.find(s => s.partId === part.id && s.limit === 'gives-most')
    if (!flow || heldByAnother(study, point, flow)) continue
    const atV = point.volts[flow.node]!
    if (!worst || atV < worst.atV) worst = { atV, condition: point.condition.id }
  }
  return worst
}

/** Whether another source on the wire gives, and could give more: then they share, and the voltage holds. */
function heldByAnother(study: Study, point: OperatingPoint, { node, partId }: SourceFlow): boolean {
  const { component } = study.solved.network
  const others = point.sources.filter(s => s.partId !== partId && component[s.node] === component[node])
  return others.some(s => s.amps > 1e-6 && s.limit === undefined)
}

/** At its limit because it fills a battery: what that takes is judged at the battery. */
const fillsBattery = (study: Study, part: Part) => study.around(part.id).some(a => kindOf(a.part).stores)

function overLimit(study: Study, part: Part, limit: Limit, sunk: { atV: number; condition: string }): Found {
  const { continuousA, peakA } = limit
  const most = peakA ?? continuousA
  return {
    severity: 'fail',
    limit: [part.id, limit.fields.at(-1)!],
    place: part.id,
    condition: sunk.condition,
    title: `${study.name(part)} gives all of its ${amps(most)}`,
    message:
      `More than ${amps(most)} is asked of ${study.name(part)} with ${conditionWords(study.plan, sunk.condition)}: ` +
      `it gives that, and its voltage falls to ${volts(sunk.atV)}.`,
    numbers: { amps: most, atV: sunk.atV, continuousA, ...(peakA !== undefined && { peakA }) },
  }
}

export const supplyOverload: Check = {
  id: 'supply-overload',
  severities: ['fail'],
  looksAt: 'all; the largest current out of each part that says what it gives in all',
  title: 'Supply asked for more than it gives',
  why: 'Over its rating a supply limits its current or shuts down: its voltage falls, and every radio on it drops out.',
  source: "the supply's data sheet (continuousA, peakA)",
  find: study =>
    study.plan.parts.flatMap((part): Found[] => {
      const limit = kindOf(part)
        .limits(part, study.around)
        .find(l => l.of === 'gives' && l.judgedBy === undefined)
      if (!limit) return []
      const { continuousA, peakA } = limit
      const { value, condition } = study.partAmps(part)
      // Too much only because a gate charges from it as well: that is another finding.
      const chargeA = chargeOn(study, part.id)
      const sunkTo = sinksAtLimit(study, part)
      if (!sunkTo && (value <= continuousA || (chargeA > 0 && value - chargeA <= continuousA))) return []
      if (sunkTo && fillsBattery(study, part)) return []
      if (sunkTo) return [overLimit(study, part, limit, sunkTo)]
      const falls = peakA === undefined || value > peakA ? ': its voltage would fall' : ''
      return [
        {
          severity: 'fail',
          limit: [part.id, limit.fields[0]!],
          place: part.id,
          condition,
          title: `${study.name(part)} asked for ${amps(value)}`,
          message:
            `${against(amps, value, continuousA)} is drawn from ${study.name(part)} ` +
            `with ${conditionWords(study.plan, condition)}; ` +
            `it gives ${amps(continuousA)} for ` +
            `long${peakA === undefined ? '' : `, ${amps(peakA)} for a moment`}${falls}.`,
          numbers: { amps: value, continuousA, ...(peakA !== undefined && { peakA }) },
        },
      ]
    }),
  fixes: (found, study) => {
    const asked = { limitA: found.numbers.continuousA!, neededA: found.numbers.amps! }
    return lessOrLarger(study, partById(study.plan, found.place)!, asked, c => Number(c.continuousA))
  },
}

export const placedOf = (study: Study, part: Part) => {
  const states = study.solved.points.map(p => p.condition.source)
  return sourcesIn(study.solved.network, states.includes('nominal') ? 'nominal' : states[0]!).filter(
    s => s.partId === part.id,
  )
}

export const nominalEmf = (study: Study, part: Part) => placedOf(study, part)[0]?.emfV ?? 0

export const nominalOhm = (study: Study, part: Part) => placedOf(study, part)[0]?.ohm ?? 0
