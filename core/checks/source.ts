import { setField } from '../edit/set'
import { batteryLimit } from '../kinds/battery'
import { conditionWords } from '../circuit/conditions'
import { compile } from '../circuit/network'
import { sourcesIn } from '../circuit/placed'
import { partAmps } from '../circuit/point'
import { solvedPoints, type SolvedPlan } from '../circuit/matrix'
import { largerPart } from '../fixes/parts'
import { propose, type Proposal } from '../fixes/proposal'
import { turnDownAny } from '../fixes/power'
import { addItem, setItem } from '../edit/items'
import { isClosed, isSwitch } from '../graph/device'
import { asKind, gives, kindOf, partsOf, type Part } from '../kinds/index'
import { nameOf, partById, partIdOf } from '../plan/find'
import { amps, volts } from '../units/show'
import { guessed, type Check, type Found } from './check'
import { chargeOn } from './charging'
import type { Study } from '../study/study'

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
          place: battery.id,
          condition,
          title: `${nameOf(battery)} over its peak current`,
          message:
            `${amps(value)} is drawn from ${nameOf(battery)} with ${conditionWords(study.plan, condition)}; its ` +
            `peak is ${amps(limit)}.` +
            guessed(study.plan, [[battery.id, 'peakA']]),
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
  severities: ['fail'],
  looksAt: 'all; the largest current out of each battery',
  title: 'Battery asked for more than its continuous current',
  why:
    'A transmission lasts minutes, so the continuous rating counts: over it the cells heat, and a management ' +
    'system cuts off within seconds to minutes.',
  source: "the battery's data sheet (continuousA, C-rate, BMS limits)",
  find: study =>
    batteries(study).flatMap((battery): Found[] => {
      const limit = batteryLimit(battery, 'continuousA')
      const peak = batteryLimit(battery, 'peakA')
      const { value, condition } = study.partAmps(battery)
      if (limit === undefined || value <= limit || (peak !== undefined && value > peak)) return []
      return [
        {
          severity: 'fail',
          place: battery.id,
          condition,
          title: `${nameOf(battery)} over its continuous current`,
          message:
            `${amps(value)} is drawn from ${nameOf(battery)} (${(value / battery.capacityAh).toFixed(1)} C) ` +
            `with ${conditionWords(study.plan, condition)}; it may give ${amps(limit)} for long.` +
            guessed(study.plan, [[battery.id, 'continuousA']]),
          numbers: { amps: value, continuousA: limit, cRate: value / battery.capacityAh },
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
          title: `${nameOf(battery)} is taken under half`,
          message:
            `${nameOf(battery)} is planned to ${(100 * used).toFixed(0)} % of its capacity; a lead-acid battery ` +
            'lasts longer if it keeps half.',
          numbers: { usableFraction: used },
        },
      ]
    }),
  fixes: (found, study) => [
    { ...propose('Stop at half', setField(study.plan, found.place, 'usableFraction', 0.5)), cost: 'fewer hours' },
  ],
}

export const supplyOverload: Check = {
  id: 'supply-overload',
  severities: ['fail'],
  looksAt: 'all; the largest current out of each source that says what it gives in all',
  title: 'Supply asked for more than it gives',
  why: 'Over its rating a supply limits its current or shuts down: its voltage falls, and every radio on it drops out.',
  source: "the supply's data sheet (continuousA, peakA)",
  find: study =>
    study.sources.flatMap((part): Found[] => {
      const limit = kindOf(part)
        .limits(part, study.around)
        .find(l => l.of === 'gives' && l.judgedBy === undefined)
      if (!limit) return []
      const { continuousA, peakA } = limit
      const { value, condition } = study.partAmps(part)
      // Too much only because a gate charges from it as well: that is another finding.
      const chargeA = chargeOn(study, part.id)
      if (value <= continuousA || (chargeA > 0 && value - chargeA <= continuousA)) return []
      const falls = peakA === undefined || value > peakA ? ': its voltage would fall' : ''
      return [
        {
          severity: 'fail',
          place: part.id,
          condition,
          title: `${nameOf(part)} asked for ${amps(value)}`,
          message:
            `${amps(value)} is drawn from ${nameOf(part)} with ${conditionWords(study.plan, condition)}; ` +
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

const placedOf = (study: Study, part: Part) => {
  const states = study.solved.points.map(p => p.condition.source)
  return sourcesIn(study.solved.network, states.includes('nominal') ? 'nominal' : states[0]!).filter(
    s => s.partId === part.id,
  )
}
const nominalEmf = (study: Study, part: Part) => placedOf(study, part)[0]?.emfV ?? 0
const nominalOhm = (study: Study, part: Part) => placedOf(study, part)[0]?.ohm ?? 0

/** Sources with a way between them, in groups. */
function joinedSources(study: Study): Part[][] {
  const { network } = study.solved
  const groups = new Map<number, Part[]>()
  for (const part of study.plan.parts) {
    for (const { node } of placedOf(study, part)) {
      const r = network.component[node]!
      if (!groups.get(r)?.includes(part)) groups.set(r, [...(groups.get(r) ?? []), part])
    }
  }
  return [...groups.values()].filter(g => g.length > 1)
}

/** Ratio of nominal voltages from which two sources are two systems: 12 V against 24 V, not 12.3 against 13.8. */
const OTHER_SYSTEM = 1.3

export const sourcesJoined: Check = {
  id: 'sources-joined',
  severities: ['danger', 'caution', 'note'],
  looksAt: 'all; every two sources with a way between them',
  title: 'Sources joined',
  why:
    'The one with the higher voltage feeds the other. A supply may be damaged by it, a pack may be charged faster ' +
    'than it stands, and packs joined while unlike each other even out with a rush of current.',
  source: "Kirchhoff's laws on the plan; domain practice for parallel packs",
  find: study =>
    joinedSources(study).map((group): Found => {
      const nominal = group.map(part => nominalEmf(study, part))
      const highest = Math.max(...nominal)
      const lowest = Math.min(...nominal)
      const names = group.map(nameOf)
      const place = group[group.length - 1]!.id
      const also = group.slice(0, -1).map(p => p.id)
      if (highest / lowest > OTHER_SYSTEM) {
        return {
          severity: 'danger',
          place,
          also,
          condition: null,
          title: 'Two system voltages on one node',
          message:
            `${names.join(' and ')} are joined, at ${nominal.map(volts).join(' and ')}: two system voltages on ` +
            'one node.',
          numbers: { highestV: highest, lowestV: lowest },
        }
      }
      const fed = group.map(part => ({ part, ...study.partAmps(part, 'least') })).sort((a, b) => a.value - b.value)[0]!
      if (fed.value < -0.01) {
        const pack = asKind(fed.part, 'battery')
        const charge = pack ? batteryLimit(pack, 'maxChargeA') : undefined
        const from = group.filter(p => p !== fed.part)
        const tooFast = charge !== undefined && -fed.value > charge
        return {
          severity: tooFast ? 'danger' : 'caution',
          place: fed.part.id,
          also: group.map(p => p.id).filter(id => id !== fed.part.id),
          condition: fed.condition,
          title: `${nameOf(fed.part)} is fed backwards`,
          message:
            `${amps(-fed.value)} flows into ${nameOf(fed.part)} with ${conditionWords(study.plan, fed.condition)}, ` +
            `from ${from.map(nameOf).join(' and ')}.` +
            (tooFast ? ` It may be charged with ${amps(charge)} at most.` : ''),
          numbers: { backA: -fed.value, ...(charge !== undefined && { maxChargeA: charge }) },
        }
      }
      const ohms = group.reduce((sum, p) => sum + nominalOhm(study, p), 0)
      return {
        severity: 'note',
        place,
        also,
        condition: null,
        title: `${names.join(' and ')} stand in parallel`,
        message:
          `${names.join(' and ')} are joined in parallel. Compare their voltages before they are ` +
          `joined${ohms > 0 ? `: a difference of 0.2 V drives ${amps(0.2 / ohms)} at first` : ''}.`,
        numbers: ohms > 0 ? { surgePerFifthVoltA: 0.2 / ohms } : {},
      }
    }),
  fixes: (found, study) => {
    // Opening the way: a switch at the post of the source that is fed.
    const lead = study.plan.leads.find(l => l.from === found.place || l.to === found.place)
    if (!lead || found.severity === 'note') return []
    const end = lead.from === found.place ? 'from' : 'to'
    return [
      {
        label: `A switch in ${nameOf(lead)}, open while the other feeds`,
        patch: addItem(study.plan, lead.id, { kind: 'switch', closed: false }, { end, fromEndM: 0 }),
      },
    ]
  },
}

export const island: Check = {
  id: 'island',
  severities: ['fail', 'note'],
  looksAt: 'all; every part against the sources',
  title: 'Not fed',
  why:
    'No source reaches it, so no voltage arrives there: a lead is missing, lands on the wrong terminal, or a ' +
    'switch is open.',
  source: "the plan's topology",
  find: study => {
    const { network, plan } = study.solved
    const landed = new Set(plan.leads.flatMap(l => [partIdOf(l.from), partIdOf(l.to)]))
    const nodesOf = (id: string) => network.graph.terminalsOf(id).map(t => network.nodeOf.get(t.id)!)
    return plan.parts.flatMap((part): Found[] => {
      const kind = kindOf(part)
      if (gives(part)) {
        if (landed.has(part.id) || plan.parts.length === 1) return []
        return [
          {
            severity: 'note',
            place: part.id,
            condition: null,
            title: `${nameOf(part)} feeds nothing`,
            message: `No lead lands on ${nameOf(part)}.`,
            numbers: {},
          },
        ]
      }
      const nodes = nodesOf(part.id)
      if (!nodes.length || !nodes.every(v => network.unfed[v])) return []
      const why = landed.has(part.id) ? wayWords(study, part.id) : 'no lead lands on it'
      return [
        {
          severity: kind.sink ? 'fail' : 'note',
          place: part.id,
          condition: null,
          title: `${nameOf(part)} is not fed`,
          message: `No source reaches ${nameOf(part)}: ${why}.`,
          numbers: {},
        },
      ]
    })
  },
  fixes: (found, study) => {
    const lead = study.leadsOf(found.place).find(l => !isClosed(l))
    const item = lead?.inline?.find(i => isSwitch(i) && i.closed === false)
    return lead && item
      ? [{ label: 'Close the switch', patch: setItem(study.plan, lead.id, item.id, { closed: true }) }]
      : []
  },
}

const wayWords = (study: Study, partId: string) =>
  behindOpenSwitch(study, partId) ? 'a switch or breaker on its way is open' : 'its leads reach no source'

/** Whether a part would be fed with every switch and breaker closed. */
function behindOpenSwitch(study: Study, partId: string): boolean {
  const closed = study.plan.leads.map(l =>
    l.inline ? { ...l, inline: l.inline.map(i => (isSwitch(i) ? { ...i, closed: true } : i)) } : l,
  )
  const parts = study.plan.parts.map(p => kindOf(p).opens?.(p).closed ?? p)
  const network = compile({ ...study.plan, parts, leads: closed })
  const terminal = network.graph.terminalsOf(partId)[0]!.id
  return !network.unfed[network.nodeOf.get(terminal)!]
}
