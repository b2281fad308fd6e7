import { DC_CHARGERS_A } from '../catalog/dcChargers'
import { inTurn } from '../edit/patch'
import { setField } from '../edit/set'
import { addDcCharger } from '../fixes/charge'
import { propose, type Proposal } from '../fixes/proposal'
import { conditionWords } from '../circuit/conditions'
import { judgedLimit } from '../kinds/batteryLimits'
import { chargersOf } from '../kinds/charging'
import { asKind, type PartOf } from '../kinds/index'
import { leadsOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import type { Study } from '../study/study'
import { against, amps } from '../units/show'
import { severityAt, type Check, type Found } from './check'
import { batteries, part, batteryAt, outputOf } from './batteries'
import { asGiven, fixed } from '../units/number'

/** How fast a battery is charged: faster than it takes, or too slowly to keep up. */

export const chargeCurrent: Check = {
  id: 'charge-current',
  severities: ['danger', 'caution'],
  looksAt: 'charging from low; what really flows into each battery from all that is wired to it',
  title: 'Battery charged faster than it may be',
  why:
    'Lithium cells charged too fast plate metal and can short inside; lead-acid gases and warms. A small pack ' +
    'wants a small charge current, and an alternator or a supply gives a low battery all it has.',
  source: "the battery's data sheet (maxChargeA, BMS limit); unsaid: a cautious class value",
  find: study =>
    batteries(study).flatMap((battery): Found[] => {
      const limit = judgedLimit(battery, 'maxChargeA')
      const { value, condition } = study.partAmps(battery, 'least')
      const chargeA = -value
      if (!limit || chargeA <= limit.amps + 1e-6) return []
      const from = wiredIn(study, battery.id, condition)
        .filter(s => s.gives)
        .map(s => part(study, s.id))
      return [
        {
          severity: severityAt('danger', limit, chargeA),
          limit: [battery.id, 'maxChargeA'],
          place: battery.id,
          also: from.map(p => p.id),
          condition,
          title: `${study.name(battery)} charged with ${amps(chargeA)}`,
          message:
            `${against(amps, chargeA, limit.amps)} flows into ${study.name(battery)} ` +
            `with ${conditionWords(study.plan, condition)}, from ` +
            `${from.map(study.name).join(' and ')}; it takes ${amps(limit.amps)} ` +
            `(${fixed(limit.amps / battery.capacityAh, 1)} C)${limit.assumed ? `, ${limit.assumed}` : ''}.`,
          numbers: { chargeA, maxChargeA: limit.amps },
        },
      ]
    }),
  fixes(found, study) {
    const { chargeA, maxChargeA } = found.numbers as { chargeA: number; maxChargeA: number }
    const battery = batteryAt(study, found.place)
    const alone = found
      .also!.map(id => {
        const ownA = outputOf(study, id)?.maxA
        const mostA = ownA === undefined ? maxChargeA : maxChargeA - (chargeA - ownA)
        return { id, mostA, keeps: mostA / (ownA ?? chargeA) }
      })
      // A panel's 6 A held to 1 A is a panel wasted, where 20 A from a vehicle held to 15 A would do.
      .sort((a, b) => b.keeps - a.keeps)
      .flatMap(({ id, mostA }) => held(study, study.plan, { id, mostA, battery }))
    return [...alone, ...heldTogether(study, found)]
  },
}

interface Holding {
  id: string
  mostA: number
  battery: PartOf<'battery'>
}

/** A source made to give a battery no more than so much: a device by its setting, another through a charger. */
function held(study: Study, plan: Plan, { id, mostA, battery }: Holding): Proposal[] {
  if (mostA <= 0) return []
  if (outputOf(study, id)) return ofCurrent(study, id, a => a <= mostA + 1e-9, 'largest')
  const source = part(study, id)
  const lead = leadsOf(plan, id).find(l => [l.from, l.to].includes(id))
  const between = lead && addDcCharger(plan, lead, { source, battery, mostA })
  return between ? [between] : []
}

/**
 * Several sources of which none alone is too much: each held to its share of what the battery takes, those as well that
 * give nothing only while another holds a higher voltage.
 */
function heldTogether(study: Study, found: Found): Proposal[] {
  const limitA = found.numbers.maxChargeA!
  const all = wiredIn(study, found.place, found.condition!).map(({ id }) => sharing(study, id, limitA))
  const least = all.reduce((sum, s) => sum + (s.sizes[0] ?? Infinity), 0)
  if (all.length < 2 || least > limitA) return []
  const given = shared(all, limitA)
  const changed = all.flatMap(({ id, wishA }, i) => (given[i]! < wishA ? [{ id, toA: given[i]! }] : []))
  if (changed.length < 2) return []
  const battery = batteryAt(study, found.place)
  const labels: string[] = []
  const edits = changed.map(({ id, toA }) => (plan: Plan) => {
    const [made] = held(study, plan, { id, mostA: toA, battery })
    if (made) labels.push(outputOf(study, id) ? made.label : `${study.name(part(study, id))}: ${made.label}`)
    return made?.patch ?? []
  })
  const patch = inTurn(study.plan, ...edits)
  return labels.length === changed.length ? [propose(labels.join('; '), patch)] : []
}

/** A source beside others: what it would give by itself, and what it can be held to, least first, A. */
interface Sharing {
  id: string
  wishA: number
  sizes: readonly number[]
}

function sharing(study: Study, id: string, limitA: number): Sharing {
  const now = outputOf(study, id)
  if (!now) return { id, wishA: Infinity, sizes: DC_CHARGERS_A.filter(a => a <= limitA) }
  return { id, wishA: now.maxA, sizes: [...(now.choicesA ?? SOLD_A).filter(a => a < now.maxA), now.maxA] }
}

/** What each gives of a limit that the least of all keep to: raised by turns, who has least of its wish first. */
function shared(all: readonly Sharing[], limitA: number): number[] {
  const step = all.map(() => 0)
  const amps = () => all.map((s, i) => s.sizes[step[i]!]!)
  const total = () => amps().reduce((sum, a) => sum + a, 0)
  const share = (i: number) => all[i]!.sizes[step[i]!]! / Math.min(all[i]!.wishA, limitA)
  const canRise = (i: number) => {
    const next = all[i]!.sizes[step[i]! + 1]
    return next !== undefined && total() - all[i]!.sizes[step[i]!]! + next <= limitA + 1e-9
  }
  for (;;) {
    const [next] = [...all.keys()].filter(canRise).sort((i, j) => share(i) - share(j))
    if (next === undefined) return amps()
    step[next]!++
  }
}

/** The sources on a battery's wire in a condition, with what they give there. */
function wiredIn(study: Study, batteryId: string, condition: string) {
  const { network } = study.solved
  const wire = network.component[network.nodeOf.get(batteryId)!]
  const flows = (study.point(condition)?.sources ?? []).filter(s => network.component[s.node] === wire)
  const ids = [...new Set(flows.map(s => s.partId))].filter(id => !asKind(part(study, id), 'battery'))
  return ids.map(id => ({ id, gives: flows.some(s => s.partId === id && s.amps > 1e-6) }))
}

/** Charge currents that devices are sold with, A. */
const SOLD_A = [0.5, 1, 2, 3, 4, 5, 8, 10, 15, 20, 30] as const

/**
 * A device made to charge with a current that fits: set to one of its choices, or another of that size in its place.
 */
function ofCurrent(
  study: Study,
  deviceId: string,
  fits: (amps: number) => boolean,
  prefer: 'largest' | 'least',
): Proposal[] {
  const device = part(study, deviceId)
  const { fields, choicesA } = outputOf(study, deviceId)!
  const fitting = (choicesA ?? SOLD_A).filter(fits)
  const chosen = prefer === 'largest' ? fitting.at(-1) : fitting[0]
  if (chosen === undefined) return []
  const another =
    prefer === 'largest'
      ? `Limit ${study.name(device)} to ${asGiven(chosen)} A, or put one of that size in its place`
      : `One of ${asGiven(chosen)} A in place of ${study.name(device)}`
  return [
    propose(
      choicesA ? `Set ${study.name(device)} to ${asGiven(chosen)} A` : another,
      setField(study.plan, deviceId, fields.current, chosen),
    ),
  ]
}

export const chargeRateLow: Check = {
  id: 'charge-rate-low',
  severities: ['caution'],
  looksAt: 'charging, all idle',
  title: 'Charges too slowly to keep up',
  why:
    'What the station takes while it only listens goes on day and night; a charge current below it never fills ' +
    'the battery.',
  source: 'charge current against the idle draw',
  find: study =>
    batteries(study).flatMap((battery): Found[] => {
      const devices = chargersOf(battery.id, study.around)
      const chargeA = devices.reduce((sum, d) => sum + d.output.maxA, 0)
      const idle = study.point('charging/idle')
      if (!devices.length || !idle || idle.status !== 'ok') return []
      const idleA = study.batteryIdleA(battery.id)
      // One that has nothing to give, as a controller without its panel, is no slow one.
      if (idleA === null || chargeA <= 0 || chargeA >= idleA) return []
      return [
        {
          severity: 'caution',
          place: devices[0]!.partId,
          also: [battery.id],
          condition: 'charging/idle',
          title: `${against(amps, chargeA, idleA)} of charge does not keep up with ${amps(idleA)}`,
          message:
            `All idle the station takes ${against(amps, idleA, chargeA)}; ` +
            `${devices.map(d => study.name(part(study, d.partId))).join(' and ')} ` +
            `${devices.length > 1 ? 'give' : 'gives'} ${amps(chargeA)}.`,
          numbers: { chargeA, idleA },
        },
      ]
    }),
  fixes: (found, study) => ofCurrent(study, found.place, a => a >= found.numbers.idleA!, 'least'),
}
