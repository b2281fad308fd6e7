import { restedVolts } from '../battery/emf'
import { fittingEnds, identified } from '../edit/add'
import { heal } from '../edit/between'
import { freshEnd } from '../edit/ends'
import { tryPatch } from '../edit/patch'
import { graphOf } from '../graph/graph'
import { battery as batteryKind, type Battery } from '../kinds/battery'
import { ampsAbout } from '../kinds/draw'
import { isLoad, kindOf, partsOf, type PartOf } from '../kinds/index'
import { trigger } from '../kinds/trigger'
import { usbSource } from '../kinds/usbSource'
import { freeId, partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import { batteriesOf, scaled } from './batteries'
import { withLead, type SchoolRule } from './rule'
import { asGiven, fixed } from '../units/number'

/** What a small station in the field runs on. */
export const portable: SchoolRule = {
  shown: plan => {
    const hasUsb = partsOf(plan.parts, 'usbSource').length > 0
    const hasPack = batteriesOf(plan).length > 0
    if (hasUsb === hasPack) return ['pack', 'usb-bank']
    return hasUsb ? ['usb-bank'] : ['pack']
  },
  build: (plan, choice) => (choice === 'pack' ? packForUsb(plan) : usbForPack(plan)),
  does: 'one put in the place of the other, with its trigger',
}

/** A small pack in the place of a USB bank: about as many watt-hours, the triggers out. */
function packForUsb(plan: Plan): Plan | { why: string } {
  const [bankPart] = partsOf(plan.parts, 'usbSource')
  if (!bankPart) return { why: 'There is no USB bank.' }
  const wh = bankPart.energyWh ?? 74
  const rows = batteryKind.catalogue.filter(r => r.part.chemistry === 'lifepo4')
  const like = { ...rows[0]!.part, id: bankPart.id } as Battery
  const pack = scaled(like, Math.ceil(wh / 12.8) / like.capacityAh)
  const made = { ...pack, name: `Lithium pack ${asGiven(pack.capacityAh)} Ah` }
  const placed: Plan = { ...plan, parts: plan.parts.map(p => (p.id === bankPart.id ? made : p)) }
  const triggers = partsOf(plan.parts, 'trigger')
  const healed = triggers.reduce<Plan | null>((now, t) => {
    const patch = now && heal(now, t.id, `${t.id}.in`, `${t.id}.out`)
    return patch ? tryPatch(now!, patch) : null
  }, placed)
  if (!healed) return { why: 'A trigger does not stand between two leads.' }
  // A USB cable's wires carry no twelve volts of a pack.
  return healed.leads
    .filter(l => [l.from, l.to].some(t => partIdOf(t) === made.id))
    .reduce((now, l) => {
      const ends = { ...l.ends, ...fittingEnds(now, l.from, l.to) }
      return withLead(now, l.id, { conductor: { awg: 16, insulationC: 105 }, ends, name: 'pack lead' })
    }, healed)
}

/** Watts that a USB bank gives at 12 V and 3 A. */
const USB_W = 36

function usbForPack(plan: Plan): Plan | { why: string } {
  const [pack, ...others] = batteriesOf(plan)
  const leadsOf = pack ? graphOf(plan).leadsOf(pack.id) : []
  if (!pack || others.length || leadsOf.length !== 1) return { why: 'It takes one pack with one lead.' }
  const takenA = plan.parts.filter(isLoad).reduce((sum, p) => sum + ampsAbout(kindOf(p).sink!(p, true)), 0)
  const takenW = takenA * restedVolts(pack, 0.5)
  if (takenW > USB_W)
    return { why: `The loads take ${fixed(takenW, 0)} W, and a USB bank gives ${asGiven(USB_W)} W at 12 V.` }
  const bankRow = usbSource.catalogue.find(r => r.id === 'usb-bank-96')!.part
  const made = { ...structuredClone(bankRow), id: pack.id } as PartOf<'usbSource'>
  const placed: Plan = { ...plan, parts: plan.parts.map(p => (p.id === pack.id ? made : p)) }
  const asks = identified(placed, trigger.catalogue.find(r => r.id === 'trigger-12')!.part, 'trg') as PartOf<'trigger'>
  const main = leadsOf[0]!
  const side = partIdOf(main.from) === pack.id ? 'from' : 'to'
  const withTrigger: Plan = { ...placed, parts: [...placed.parts, asks] }
  const moved = withLead(withTrigger, main.id, {
    [side]: `${asks.id}.out`,
    ends: { ...main.ends, [side]: freshEnd(asks.out!) },
    inline: (main.inline ?? []).filter(i => i.kind !== 'fuse'),
  })
  const cable: Lead = {
    id: freeId(plan, 'usb'),
    name: 'USB cable',
    from: made.id,
    to: `${asks.id}.in`,
    lengthM: 0.5,
    conductor: { awg: 22, insulationC: 80 },
    ends: { from: freshEnd('usb-c'), to: freshEnd('usb-c') },
  }
  return { ...moved, leads: [...moved.leads, cable] }
}
