import { setField } from '../edit/set'
import { addDcCharger } from '../fixes/charge'
import { propose, type Proposal } from '../fixes/proposal'
import { conditionWords } from '../circuit/conditions'
import { judgedLimit } from '../kinds/batteryLimits'
import { chargersOf } from '../kinds/charging'
import { kindOf } from '../kinds/index'
import { nameOf } from '../plan/find'
import type { Study } from '../study/study'
import { amps } from '../units/show'
import { severityAt, type Check, type Found } from './check'
import { batteries, part, batteryAt, outputOf } from './batteries'
import { fixed } from '../units/number'

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
      const from = givingIn(study, battery.id, condition)
      return [
        {
          severity: severityAt('danger', limit, chargeA),
          limit: [battery.id, 'maxChargeA'],
          place: battery.id,
          also: from.map(p => p.id),
          condition,
          title: `${nameOf(battery)} charged with ${amps(chargeA)}`,
          message:
            `${amps(chargeA)} flows into ${nameOf(battery)} with ${conditionWords(study.plan, condition)}, from ` +
            `${from.map(nameOf).join(' and ')}; it takes ${amps(limit.amps)} ` +
            `(${fixed(limit.amps / battery.capacityAh, 1)} C)${limit.assumed ? `, ${limit.assumed}` : ''}.`,
          numbers: { chargeA, maxChargeA: limit.amps },
        },
      ]
    }),
  fixes(found, study) {
    const { chargeA, maxChargeA } = found.numbers as { chargeA: number; maxChargeA: number }
    const alone = found.also!.flatMap(id => {
      const now = outputOf(study, id)
      return now ? held(study, found, id, maxChargeA - (chargeA - now.maxA)) : held(study, found, id, maxChargeA)
    })
    return [...alone, ...heldTogether(study, found)]
  },
}

/** A source made to give a battery no more than so much: a device by its setting, another through a charger. */
function held(study: Study, found: Found, id: string, mostA: number): Proposal[] {
  if (mostA <= 0) return []
  if (outputOf(study, id)) return ofCurrent(study, id, a => a <= mostA + 1e-9, 'largest')
  const battery = batteryAt(study, found.place)
  const source = part(study, id)
  const lead = study.leadsOf(id).find(l => l.to === battery.id || l.from === id)
  const between = lead && addDcCharger(study.plan, lead, { source, battery, mostA })
  return between ? [between] : []
}

/** Several sources of which none alone is too much: each held to its share of what the battery takes. */
function heldTogether(study: Study, found: Found): Proposal[] {
  const ids = found.also!
  const limitA = found.numbers.maxChargeA!
  const wishA = (id: string) => outputOf(study, id)?.maxA ?? limitA
  const share = limitA / ids.reduce((sum, id) => sum + wishA(id), 0)
  const each = ids.flatMap(id => held(study, found, id, share * wishA(id)).slice(0, 1))
  if (ids.length < 2 || each.length < ids.length) return []
  const label = each.map((p, i) => `${nameOf(part(study, ids[i]!))}: ${p.label}`).join('; ')
  const patch = each.flatMap(p => p.patch)
  return [propose(label, patch)]
}

/** The sources that give on a battery's wire in a condition. */
function givingIn(study: Study, batteryId: string, condition: string) {
  const { network } = study.solved
  const wire = network.component[network.nodeOf.get(batteryId)!]
  const flows = study.point(condition)?.sources ?? []
  const ids = flows.filter(s => s.amps > 1e-6 && network.component[s.node] === wire).map(s => s.partId)
  return [...new Set(ids)].filter(id => id !== batteryId).map(id => part(study, id))
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
  const another = `A ${chosen} A ${kindOf(device).label}`
  const inItsPlace = prefer === 'largest' ? `${another}, or limit it to that` : `${another} in its place`
  return [
    propose(
      choicesA ? `Set ${nameOf(device)} to ${chosen} A` : inItsPlace,
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
          title: `${amps(chargeA)} of charge does not keep up with ${amps(idleA)}`,
          message:
            `All idle the station takes ${amps(idleA)}; ` +
            `${devices.map(d => nameOf(part(study, d.partId))).join(' and ')} ` +
            `${devices.length > 1 ? 'give' : 'gives'} ${amps(chargeA)}.`,
          numbers: { chargeA, idleA },
        },
      ]
    }),
  fixes: (found, study) => ofCurrent(study, found.place, a => a >= found.numbers.idleA!, 'least'),
}
