import { counterpart, identified } from '../edit/add'
import { freshEnd } from '../edit/ends'
import { graphOf } from '../graph/graph'
import { charger } from '../kinds/charger'
import { controller } from '../kinds/controller'
import { converter } from '../kinds/converter'
import { inverter } from '../kinds/inverter'
import { AC_CHARGE_V, AC_EFFICIENCY } from '../kinds/charging'
import { partsOf, type PartOf } from '../kinds/index'
import { freeId, nameOf, partById, partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import { withLead, without, type SchoolRule } from './rule'
import { asGiven } from '../units/number'

/** How batteries are charged: from a vehicle by one device or two, from the sun by one or several. */

export const vehicleCharge: SchoolRule = {
  shown: plan => {
    if (!partsOf(plan.parts, 'vehicle').length) return ['dc-dc', 'inverter']
    if (dcCharger(plan)) return ['dc-dc']
    return chargerOnInverter(plan) ? ['inverter'] : ['dc-dc', 'inverter']
  },
  build: (plan, choice) => (choice === 'inverter' ? byInverter(plan) : byDcCharger(plan)),
  does: 'one DC-DC charger, or an inverter with a mains charger on it',
}

const dcCharger = (plan: Plan) => partsOf(plan.parts, 'converter').find(c => c.charges)
const chargerOnInverter = (plan: Plan) => {
  const ids = partsOf(plan.parts, 'inverter').map(i => i.id)
  return partsOf(plan.parts, 'charger').find(c => c.fedBy !== undefined && ids.includes(c.fedBy))
}

/** A lead with another terminal at its end, fitted to it. */
function landed(
  plan: Plan,
  lead: Lead,
  from: string,
  onto: { terminal: string; connector?: string | undefined },
): Plan {
  const end = lead.from === from ? 'from' : 'to'
  const ends = { ...lead.ends, ...(onto.connector && { [end]: freshEnd(counterpart(onto.connector)) }) }
  return withLead(plan, lead.id, { [end]: onto.terminal, ends })
}

function byInverter(plan: Plan): Plan | { why: string } {
  const old = dcCharger(plan)
  if (!old) return { why: 'There is no DC-DC charger from a vehicle.' }
  const { leadsAt } = graphOf(plan)
  const [[feeds], [fills]] = [leadsAt(`${old.id}.in`), leadsAt(`${old.id}.out`)]
  if (!feeds || !fills) return { why: `${nameOf(old)} is not wired on both its sides.` }
  const row = charger.catalogue.find(r => r.part.maxA >= old.maxOutA) ?? charger.catalogue.at(-1)!
  const acW = (AC_CHARGE_V * row.part.maxA) / AC_EFFICIENCY
  const inverterRow = inverter.catalogue.find(r => r.part.ratedW >= acW)!
  const inv = identified(plan, inverterRow.part, 'inv') as PartOf<'inverter'>
  const ac = { ...(identified(plan, row.part, 'ac') as PartOf<'charger'>), fedBy: inv.id, set: old.charges!.set }
  const load = { name: nameOf(ac), watts: Math.ceil(acW), part: ac.id }
  const parts = [...plan.parts, { ...inv, acLoads: [load] }, ac] as Plan['parts']
  const first = landed({ ...plan, parts }, feeds, `${old.id}.in`, { terminal: `${inv.id}.in`, connector: inv.in })
  return without(landed(first, fills, `${old.id}.out`, { terminal: ac.id, connector: ac.terminal }), [old.id])
}

function byDcCharger(plan: Plan): Plan | { why: string } {
  const old = chargerOnInverter(plan)
  if (!old) return { why: 'No mains charger hangs on an inverter.' }
  const inv = partsOf(plan.parts, 'inverter').find(i => i.id === old.fedBy)!
  const { leadsOf } = graphOf(plan)
  const [[feeds], [fills]] = [leadsOf(inv.id), leadsOf(old.id)]
  if (!feeds || !fills) return { why: `${nameOf(inv)} or ${nameOf(old)} is not wired.` }
  if ((inv.acLoads ?? []).some(l => l.part !== old.id)) return { why: `${nameOf(inv)} feeds other things too.` }
  const row = converter.catalogue.find(r => r.id === 'dcdc-charger-20')!.part
  const made = identified(plan, row, 'dcdc') as PartOf<'converter'>
  const dcdc = { ...made, charges: { ...made.charges!, ...(old.set && { set: old.set }) } }
  const placed: Plan = { ...plan, parts: [...plan.parts, dcdc] }
  const invAt = [feeds.from, feeds.to].find(t => partIdOf(t) === inv.id)!
  const first = landed(placed, feeds, invAt, { terminal: `${dcdc.id}.in`, connector: dcdc.in })
  return without(landed(first, fills, old.id, { terminal: `${dcdc.id}.out`, connector: dcdc.out }), [inv.id, old.id])
}

export const controllers: SchoolRule = {
  shown: plan => {
    const n = partsOf(plan.parts, 'controller').length
    if (!n) return ['one-large', 'several-small']
    return n > 1 ? ['several-small'] : ['one-large']
  },
  build: (plan, choice) => (choice === 'several-small' ? halved(plan) : merged(plan)),
  does: 'controllers and their leads are made so',
}

type Panel = PartOf<'panel'>

/** Two controllers, each with half of the panels it is made of, on leads like those of the one. */
function halved(plan: Plan): Plan | { why: string } {
  const [one, ...others] = partsOf(plan.parts, 'controller')
  if (!one || others.length) return { why: 'It takes one controller.' }
  const { leadsAt } = graphOf(plan)
  const [[sun], [fills]] = [leadsAt(`${one.id}.panel`), leadsAt(`${one.id}.battery`)]
  const panel = partsOf(plan.parts, 'panel').find(p => sun && [sun.from, sun.to].some(t => partIdOf(t) === p.id))
  const n = panel?.members?.length ?? 0
  if (!panel || !sun || !fills || n < 2 || n % 2)
    return { why: 'It takes a panel that lists an even number of members.' }
  const half = halfOf(panel)
  const row = controller.catalogue.find(
    r => r.part.type === one.type && r.part.maxChargeA >= one.maxChargeA / 2 && r.part.maxPanelV >= half.openCircuitV,
  )
  const { id: _own, ...like } = row ? { ...row.part, id: '' } : one
  const small = { ...like, ...(one.chemistries && { chemistries: one.chemistries }), ...(one.set && { set: one.set }) }
  const second = identified(plan, { ...small, name: 'Second controller' } as Omit<PartOf<'controller'>, 'id'>, one.id)
  const secondPanel = { ...half, id: freeId(plan, panel.id), name: `${nameOf(panel)}, second half` }
  const first = { ...small, id: one.id, ...(one.name && { name: one.name }) } as PartOf<'controller'>
  const parts = plan.parts.map(p => {
    if (p.id === one.id) return first
    return p.id === panel.id ? half : p
  })
  const renamed = (l: Lead, stem: string): Lead => {
    const at = (t: string) =>
      t.replace(new RegExp(`^${one.id}\\b`), second.id).replace(new RegExp(`^${panel.id}\\b`), secondPanel.id)
    const id = freeId(plan, `${l.id}-${stem}`)
    return { ...l, id, name: `${nameOf(l)}, second`, from: at(l.from), to: at(l.to) }
  }
  const leads = [...plan.leads, renamed(sun, 'b'), renamed(fills, 'b')]
  return { ...plan, parts: [...parts, second, secondPanel] as Plan['parts'], leads }
}

/** Half of a panel's members: half the volts of one string, half the amps of several. */
function halfOf(panel: Panel): Panel {
  const members = panel.members!
  const strings = new Set(members.map(m => m.string ?? 1)).size
  const kept = members.slice(0, members.length / 2)
  const [volts, amps] = strings > 1 ? [1, 0.5] : [0.5, 1]
  return {
    ...panel,
    members: kept,
    openCircuitV: panel.openCircuitV * volts,
    maxPowerV: panel.maxPowerV * volts,
    shortCircuitA: panel.shortCircuitA * amps,
    maxPowerA: panel.maxPowerA * amps,
    ...(panel.massG !== undefined && { massG: panel.massG / 2 }),
  }
}

/** One controller in the place of two that fill the same battery: the second's panel joins the first's. */
function merged(plan: Plan): Plan | { why: string } {
  const [one, two, ...others] = partsOf(plan.parts, 'controller')
  if (!one || !two || others.length) return { why: 'It takes two controllers.' }
  const { leadsAt } = graphOf(plan)
  const panelOn = (id: string) => {
    const lead = leadsAt(`${id}.panel`)[0]
    const panel = lead && partsOf(plan.parts, 'panel').find(p => [lead.from, lead.to].some(t => partIdOf(t) === p.id))
    return panel ? { lead: lead!, panel } : null
  }
  const [a, b] = [panelOn(one.id), panelOn(two.id)]
  const fills = leadsAt(`${two.id}.battery`)[0]
  if (!a || !b || !fills) return { why: 'Each controller needs a panel and a battery of its own.' }
  if (Math.abs(a.panel.openCircuitV - b.panel.openCircuitV) > 0.05 * a.panel.openCircuitV)
    return { why: `${nameOf(a.panel)} and ${nameOf(b.panel)} are of different volts: one controller cannot hold both.` }
  const needsA = one.maxChargeA + two.maxChargeA
  const row = controller.catalogue.find(r => r.part.type === one.type && r.part.maxChargeA >= needsA)
  if (!row) return { why: `No ${one.type.toUpperCase()} controller of the catalogue gives ${asGiven(needsA)} A.` }
  const kept = { chemistries: one.chemistries, set: one.set, name: one.name }
  const large = { ...row.part, ...kept, id: one.id } as PartOf<'controller'>
  const members = [a, b].flatMap(({ panel }, s) =>
    (panel.members ?? [{ name: nameOf(panel) }]).map(m => ({ ...m, string: 2 * (m.string ?? 1) - 1 + s })),
  )
  const both: Panel = {
    ...a.panel,
    members,
    shortCircuitA: a.panel.shortCircuitA + b.panel.shortCircuitA,
    maxPowerA: a.panel.maxPowerA + b.panel.maxPowerA,
  }
  const swapped: Plan = {
    ...plan,
    parts: plan.parts.map(p => {
      if (p.id === one.id) return large
      return p.id === a.panel.id ? both : p
    }),
  }
  const gone = without(swapped, [two.id, b.panel.id, b.lead.id, fills.id])
  return partById(gone, one.id) ? gone : { why: 'The first controller is gone.' }
}
