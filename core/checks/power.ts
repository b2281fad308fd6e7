import { conditionWords } from '../circuit/conditions'
import { arrivalSpan, solvedPoints, type Extreme } from '../circuit/matrix'
import { partAmps } from '../circuit/point'
import { setField } from '../edit/set'
import { largerPart } from '../fixes/parts'
import { propose, type Proposal } from '../fixes/proposal'
import { turnDownAny } from '../fixes/power'
import { asKind, kindOf, partsOf as ofKind, type KindName, type PartOf } from '../kinds/index'
import { delivered, requestOn, usbSource } from '../kinds/usbSource'
import { partById } from '../plan/find'
import type { Part } from '../kinds/index'
import { against, amps, volts } from '../units/show'
import type { Check, Found } from './check'
import type { Study } from '../study/study'
import { asGiven, rounded } from '../units/number'

const partsOf = <K extends KindName>(study: Study, kind: K) => ofKind(study.plan.parts, kind)

export const converterInput: Check = {
  id: 'converter-input',
  severities: ['fail'],
  looksAt: "all; the voltage at each converter's input in every corner",
  title: "Input outside a converter's window",
  why:
    'Under its window a converter cuts out, comes back when its load is gone and cuts out again, often at the ' +
    'moment of transmitting; over it, it is destroyed.',
  source: "the converter's data sheet (input window)",
  find: study =>
    partsOf(study, 'converter').flatMap((converter): Found[] => {
      const span = study.arrival(`${converter.id}.in`)
      if (!span) return []
      const { minV, maxV } = converter.input
      const low = span.low.value < minV - 1e-6
      if (!low && span.high.value <= maxV + 1e-6) return []
      const { value, condition } = low ? span.low : span.high
      const idle = study.points.find(p => p.condition.id === condition.replace(/\/.*/, '/idle'))
      const node = study.solved.network.nodeOf.get(`${converter.id}.in`)!
      const cutsOut = low && idle && idle.volts[node]! >= minV
      return [
        {
          severity: 'fail',
          limit: [converter.id, low ? 'input.minV' : 'input.maxV'],
          place: converter.id,
          condition,
          title: cutsOut
            ? `${study.name(converter)} cuts out under load`
            : `${volts(value)} at the input of ${study.name(converter)}`,
          message:
            `${against(volts, value, value < minV ? minV : maxV)} reaches the input of ${study.name(converter)} with ` +
            `${conditionWords(study.plan, condition)}; it works from ${volts(minV)} to ` +
            `${volts(maxV)}.${cutsOut ? ' Idle it starts again, so it goes on and off.' : ''}`,
          numbers: { inV: value, minV, maxV },
        },
      ]
    }),
  fixes: (found, study) => {
    const converter = partById(study.plan, found.place) as PartOf<'converter'>
    const { inV, minV } = found.numbers as { inV: number; minV: number }
    const wider = {
      minV: Math.floor(Math.min(inV, converter.input.minV)),
      maxV: Math.ceil(Math.max(inV, converter.input.maxV)),
    }
    return [
      inV < minV
        ? turnDownAny(study.plan, solved => {
            const span = arrivalSpan(solved, `${converter.id}.in`)
            return span !== null && span.low.value >= converter.input.minV
          })
        : null,
      propose(
        `A converter that works from ${wider.minV} to ${asGiven(wider.maxV)} V`,
        setField(study.plan, converter.id, 'input', wider),
      ),
    ].filter(p => p !== null)
  },
}

export const converterDropout: Check = {
  id: 'converter-dropout',
  severities: ['caution'],
  looksAt: 'all; each step-down and step-up converter against its input',
  title: 'Converter that no longer holds its output',
  why:
    'A step-down converter cannot give more than it gets, a step-up one not less: outside its range its output ' +
    'follows its input, and the voltage one paid for is gone.',
  source: 'the topology: buck out ≤ in, boost out ≥ in',
  find: study =>
    partsOf(study, 'converter').flatMap((converter): Found[] => {
      if (converter.charges) return []
      const worst = study.points
        .flatMap(p =>
          p.transfers
            .filter(t => t.partId === converter.id)
            .map(t => ({ outV: t.outV, inV: p.volts[t.fromNode]!, condition: p.condition.id })),
        )
        .reduce<{ outV: number; inV: number; condition: string } | null>(
          (a, b) => (!a || Math.abs(b.outV - converter.outV) > Math.abs(a.outV - converter.outV) ? b : a),
          null,
        )
      if (!worst || Math.abs(worst.outV - converter.outV) < 0.01) return []
      return [
        {
          severity: 'caution',
          place: converter.id,
          condition: worst.condition,
          title: `${study.name(converter)} gives ${volts(worst.outV)}, not ${volts(converter.outV)}`,
          message:
            `With ${conditionWords(study.plan, worst.condition)} ${study.name(converter)} (${converter.topology}) ` +
            `gets ${volts(worst.inV)} and gives ${volts(worst.outV)} instead of ${volts(converter.outV)}.`,
          numbers: { inV: worst.inV, outV: worst.outV, setV: converter.outV },
        },
      ]
    }),
  fixes: (found, study) => [
    propose(
      'A step-up-and-down (buck-boost) converter in its place',
      setField(study.plan, found.place, 'topology', 'buck-boost'),
    ),
  ],
}

export const usbVoltage: Check = {
  id: 'usb-voltage',
  severities: ['fail'],
  looksAt: 'all; what each trigger asks of its source',
  title: 'USB source does not have the voltage asked for',
  why:
    'A USB source offers a few voltages. Asked for one it lacks, it gives the next lower one: a 12 V trigger on a ' +
    'bank without 12 V delivers 9 V.',
  source: 'USB power delivery: 5, 9, 15, 20 V; 12 V is optional',
  find: study =>
    partsOf(study, 'usbSource').flatMap((source): Found[] =>
      study.around(source.id).flatMap(({ part, terminal }): Found[] => {
        const trigger = asKind(part, 'trigger')
        if (!trigger || !terminal.endsWith('.in')) return []
        const given = delivered(source, trigger.requestV)
        if (Math.abs(given.volts - trigger.requestV) < 0.01) return []
        return [
          {
            severity: 'fail',
            place: part.id,
            also: [source.id],
            condition: null,
            title: `${study.name(part)} gets ${asGiven(given.volts)} V, not ${asGiven(trigger.requestV)} V`,
            message:
              `${study.name(part)} asks for ${asGiven(trigger.requestV)} V; ${study.name(source)} offers ` +
              `${source.voltages.map(o => asGiven(o.volts)).join(', ')} V and gives ${asGiven(given.volts)} V.`,
            numbers: { requestV: trigger.requestV, givenV: given.volts },
          },
        ]
      }),
    ),
  fixes: (found, study) => usbProposals(study, found.also![0]!),
}

/**
 * A bank that has the voltage its trigger asks for, or a trigger that asks for the next one the bank has: that alone
 * where the bank gives what is asked and it is too little.
 */
export function usbProposals(study: Study, sourceId: string): Proposal[] {
  const source = asKind(partById(study.plan, sourceId), 'usbSource')
  const trigger = source && study.around(source.id).flatMap(a => asKind(a.part, 'trigger') ?? [])[0]
  if (!source || !trigger) return []
  const wanted = trigger.requestV
  const isGiven = delivered(source, wanted).volts === wanted
  const other = isGiven
    ? undefined
    : usbSource.catalogue.find(r => delivered({ ...r.part, id: 'x' }, wanted).volts === wanted)
  const next = source.voltages
    .map(o => o.volts)
    .filter(v => v > wanted)
    .sort((a, b) => a - b)[0]
  const asks = next && setField(study.plan, trigger.id, 'requestV', next)
  return [
    ...(other
      ? [propose(`${other.label} in its place`, setField(study.plan, source.id, 'voltages', other.part.voltages))]
      : []),
    ...(asks ? [propose(`A trigger that asks for ${asGiven(next!)} V`, asks)] : []),
  ]
}

export const usbCurrent: Check = {
  id: 'usb-current',
  severities: ['fail'],
  looksAt: 'all; the current out of each USB source at the voltage it gives',
  title: 'USB source asked for more than it gives',
  why: 'A USB source gives 3 A at most unless the cable is marked for 5 A, and cuts off above it.',
  source: "USB power delivery; the source's label",
  find: study =>
    partsOf(study, 'usbSource').flatMap((source): Found[] => {
      const offer = delivered(source, requestOn(source, study.around))
      const { value, condition } = study.partAmps(source)
      if (value <= offer.amps + 1e-9) return []
      return [
        {
          severity: 'fail',
          place: source.id,
          condition,
          title: `${amps(value)} asked of ${study.name(source)}`,
          message:
            `${against(amps, value, offer.amps)} is drawn from ${study.name(source)} ` +
            `at ${asGiven(offer.volts)} V with ` +
            `${conditionWords(study.plan, condition)}; it gives ${amps(offer.amps)}.`,
          numbers: { amps: value, offeredA: offer.amps, offeredV: offer.volts },
        },
      ]
    }),
  fixes: (found, study) =>
    [
      turnDownAny(study.plan, solved => {
        const source = partById(solved.plan, found.place)!
        return solvedPoints(solved).every(p => partAmps(solved.network, p, source) <= found.numbers.offeredA!)
      }),
      largerPart(study.plan, found.place, c => {
        const offers = (c.voltages as { volts: number; amps: number }[] | undefined) ?? []
        return offers.some(o => o.volts === found.numbers.offeredV && o.amps >= found.numbers.amps!)
      }),
    ].filter(p => p !== null),
}

/** The least that a source gives; where a load has dropped out, that it takes nothing says nothing. */
function leastGiven({ solved, points }: Study, source: Part): Extreme | null {
  const given = points
    .filter(p => !p.condition.off)
    .map((p): Extreme => ({ value: partAmps(solved.network, p, source), condition: p.condition.id }))
  return given.reduce<Extreme | null>((least, one) => (!least || one.value < least.value ? one : least), null)
}

export const usbSleep: Check = {
  id: 'usb-sleep',
  severities: ['fail'],
  looksAt: 'all idle; banks and power stations that go to sleep below a current',
  title: 'Power bank goes to sleep at idle',
  why:
    'Many banks switch themselves off below a small current, as a receiver at rest draws: the radio goes dark ' +
    'while one listens.',
  source: "the bank's manual (autoOffA)",
  find: study =>
    study.sources.flatMap((source): Found[] => {
      const autoOffA = kindOf(source).autoOffA?.(source)
      if (autoOffA === undefined || !study.leadsOf(source.id).length) return []
      const least = leastGiven(study, source)
      if (!least || least.value >= autoOffA) return []
      const { value, condition } = least
      return [
        {
          severity: 'fail',
          place: source.id,
          condition,
          title: `${study.name(source)} goes to sleep`,
          message:
            `${against(amps, value, autoOffA)} is drawn from ${study.name(source)} with ` +
            `${conditionWords(study.plan, condition)}; below ` +
            `${amps(autoOffA)} it switches off.`,
          numbers: { amps: value, autoOffA },
        },
      ]
    }),
  fixes: (found, study) => {
    const source = partById(study.plan, found.place)!
    const usb = asKind(source, 'usbSource')
    const asked = usb ? delivered(usb, requestOn(usb, study.around)).volts : 12
    const keepW = Math.ceil(10 * (found.numbers.autoOffA! - found.numbers.amps!) * asked * 1.3) / 10
    const stays = propose(
      'A bank that stays on (or has a setting for it)',
      setField(study.plan, source.id, 'autoOffA', 0),
    )
    const near = study.around(source.id).map(a => a.part.id)
    const load = study.loads.find(l => near.includes(l.id) && 'draw' in l && l.draw.model === 'constant-current')
    if (!load || !('draw' in load) || load.draw.model !== 'constant-current') return [stays]
    const idleA = rounded(load.draw.idleA + keepW / asked, 3)
    const label = `A lamp of ${asGiven(keepW)} W beside ${study.name(load)} to keep it awake`
    return [
      stays,
      {
        ...propose(label, setField(study.plan, load.id, 'draw.idleA', idleA)),
        cost: `${asGiven(keepW)} W all the time`,
      },
    ]
  },
}
