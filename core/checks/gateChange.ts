import { isCharging } from '../battery/emf'
import { conditionWords, type LoadPart } from '../circuit/conditions'
import { setField } from '../edit/set'
import { propose } from '../fixes/proposal'
import { asKind, isLoad, needs, partsOf } from '../kinds/index'
import type { Study } from '../study/study'
import { against, volts } from '../units/show'
import type { Check, Found } from './check'
import { someOf } from '../units/words'

/** When a gate or relay changes over to its battery, and what its loads see of it. */

const loadsBehind = (study: Study, gateId: string): LoadPart[] =>
  study.around(`${gateId}.out`).flatMap(({ part }) => (isLoad(part) ? [part] : []))

/** Lowest and highest voltage at a gate's supply side while the mains is there. */
function supplySpan(study: Study, gateId: string) {
  const node = study.solved.network.nodeOf.get(`${gateId}.supply`)
  const points = study.points.filter(p => isCharging(p.condition.source))
  if (node === undefined || !points.length) return null
  const lowest = points.reduce((a, b) => (b.volts[node]! < a.volts[node]! ? b : a))
  const highestV = Math.max(...points.map(p => p.volts[node]!))
  return { lowV: lowest.volts[node]!, condition: lowest.condition.id, highV: highestV }
}

export const gateTransfer: Check = {
  id: 'gate-transfer',
  severities: ['fail', 'caution'],
  looksAt: 'charging, when the mains is there; and what the loads need as the supply fails',
  title: 'Gate that changes over at the wrong voltage',
  why:
    'Set above what the supply brings, a gate runs the station off its battery with the mains present, until the ' +
    'battery is flat; set under what the loads need, they are off before it changes over.',
  source: "the gate's manual (transfer voltage); the loads' supply windows",
  find: study =>
    partsOf(study.plan.parts, 'gate').flatMap((gate): Found[] => {
      const { transferV } = gate
      const span = supplySpan(study, gate.id)
      if (transferV === undefined || !span || span.highV === 0) return []
      const at = { place: gate.id, condition: span.condition }
      if (span.lowV < transferV) {
        const always = span.highV < transferV
        return [
          {
            ...at,
            severity: 'fail',
            title: `${study.name(gate)} leaves the mains${always ? '' : ' under load'}`,
            message:
              `${study.name(gate)} changes over to its battery under ${volts(transferV)}; with ` +
              `${conditionWords(study.plan, span.condition)} its supply brings ` +
              `${against(volts, span.lowV, transferV)}` +
              `${always ? ', and never more than that' : ''}.`,
            numbers: { transferV, lowV: span.lowV },
          },
        ]
      }
      const neediest = loadsBehind(study, gate.id).reduce<LoadPart | null>(
        (a, b) => (!a || needs(b).minV > needs(a).minV ? b : a),
        null,
      )
      if (!neediest || transferV >= needs(neediest).minV) return []
      return [
        {
          ...at,
          severity: 'caution',
          also: [neediest.id],
          title: `${study.name(gate)} changes over too late for ${study.name(neediest)}`,
          message:
            `As its supply fails ${study.name(gate)} waits until ${volts(transferV)}; ${study.name(neediest)} needs ` +
            `${against(volts, needs(neediest).minV, transferV)} and is off by then.`,
          numbers: { transferV, lowV: span.lowV, minV: needs(neediest).minV },
        },
      ]
    }),
  fixes: (found, study) => {
    const { lowV } = found.numbers
    const behind = loadsBehind(study, found.place)
    if (!behind.length) return []
    const least = Math.max(...behind.map(l => needs(l).minV))
    const between = Math.round(10 * (least + (lowV! - least) / 2)) / 10
    return between > least && between < lowV!
      ? [propose(`Change over under ${volts(between)}`, setField(study.plan, found.place, 'transferV', between))]
      : []
  },
}

/** What a device rides through on its own capacitors, ms (typical of the class). */
const RIDES_THROUGH_MS = 10

export const gateGap: Check = {
  id: 'gate-gap',
  severities: ['caution'],
  looksAt: 'the moment in which a gate changes over',
  title: 'Nothing on the output while it changes over',
  why:
    'A relay leaves its output open for some hundredths of a second: computers restart, radios drop out of a ' +
    'contact. ' +
    'A gate of transistors or diodes does not.',
  source: `the gate's manual (gapMs); devices ride through about ${RIDES_THROUGH_MS} ms`,
  find: study =>
    partsOf(study.plan.parts, 'gate').flatMap((gate): Found[] => {
      if (gate.gapMs === undefined || gate.gapMs <= RIDES_THROUGH_MS) return []
      const dropped = loadsBehind(study, gate.id).filter(l => !asKind(l, 'radio')?.internalBattery)
      if (!dropped.length) return []
      return [
        {
          severity: 'caution',
          place: gate.id,
          also: dropped.map(l => l.id),
          condition: null,
          title: `${study.name(gate)} drops its loads for ${gate.gapMs} ms`,
          message:
            `While ${study.name(gate)} changes over its output is open for ${gate.gapMs} ms: ` +
            `${someOf(dropped.map(study.name))} may restart.`,
          numbers: { gapMs: gate.gapMs },
        },
      ]
    }),
  fixes: (found, study) => [
    propose('A gate that changes over without a gap', setField(study.plan, found.place, 'gapMs', 0)),
  ],
}
