import { chemistry } from '../catalog/chemistries'
import { DC_CHARGERS_A } from '../catalog/dcChargers'
import { putBetween } from '../edit/between'
import type { LeadEnd } from '../edit/items'
import { tryPatch, type Patch } from '../edit/patch'
import { hasDevice } from '../graph/device'
import { controller } from '../kinds/controller'
import { converter } from '../kinds/converter'
import { asKind, type Part, type PartOf } from '../kinds/index'
import { openCircuitVolts } from '../kinds/panel'
import { partIdOf } from '../plan/find'
import { partName } from '../plan/names'
import type { Lead, Plan } from '../plan/schema'
import { largestFuseOf } from '../protection/zones'
import { addFuse } from './fuse'
import type { Proposal } from './proposal'
import { asGiven } from '../units/number'

/** What a battery is charged through, put into the lead that charges it without. */

type Battery = PartOf<'battery'>
type Profiles = Partial<Record<string, { absorptionV: number }>> | undefined

/** The end of a lead that lands on a part. */
const endAt = (lead: Lead, part: Part): LeadEnd | undefined =>
  (['from', 'to'] as const).find(end => lead[end] === part.id)

/** Whether a device has a setting for a battery, of its own system voltage. */
function suits(profiles: Profiles, battery: Battery): boolean {
  const range = chemistry(battery.chemistry).absorptionV
  const said = profiles?.[battery.chemistry]?.absorptionV
  if (!range || said === undefined) return false
  return said > (range[0] - 0.02) * battery.seriesCells && said < (range[1] + 0.02) * battery.seriesCells
}

/** A charge controller between a panel and a battery, set for it, that stands the coldest day's voltage. */
export function addController(plan: Plan, lead: Lead, panel: PartOf<'panel'>, battery: Battery): Proposal | null {
  const coldV = openCircuitVolts(panel, plan.site?.ambientC?.low ?? 0)
  const row = controller.catalogue.find(
    r => r.part.type === 'mppt' && r.part.maxPanelV > coldV && suits(r.part.chemistries, battery),
  )
  const fedAt = endAt(lead, panel)
  if (!row || !fedAt || lead.return === 'chassis') return null
  const into = { leadId: lead.id, fedAt }
  const made = putBetween(plan, into, { ...row.part, set: battery.chemistry, lockOut: true } as never, 'ctl')
  return made && before(plan, battery, { ...made, amps: row.part.maxChargeA }, row)
}

/**
 * A DC-DC charger between a vehicle or a supply and a battery: the largest whose current the battery takes. On a
 * vehicle it starts with the engine.
 */
export function addDcCharger(
  plan: Plan,
  lead: Lead,
  { source, battery, mostA }: { source: Part; battery: Battery; mostA: number },
): Proposal | null {
  const rows = converter.catalogue
    .filter(r => r.part.charges && suits(r.part.charges.chemistries, battery))
    .sort((a, b) => b.part.maxOutA - a.part.maxOutA)
  const row = rows.find(r => r.part.maxOutA <= mostA) ?? smaller(rows.at(-1), mostA)
  const isVehicle = asKind(source, 'vehicle') !== null
  const fedAt = endAt(lead, source)
  if (!row || !fedAt || lead.return === 'chassis' || !(isVehicle || asKind(source, 'supply'))) return null
  const set = { ...row.part.charges!, set: battery.chemistry }
  const part = { ...row.part, charges: set, ...(isVehicle && { ignition: true }), lockOut: true }
  const made = putBetween(plan, { leadId: lead.id, fedAt }, part as never, 'dcdc')
  return made && before(plan, battery, { ...made, amps: row.part.maxOutA }, row)
}

type Row = (typeof converter.catalogue)[number]

/** A charger like one of the catalogue's, of a smaller current. */
function smaller(row: Row | undefined, mostA: number): Row | null {
  const maxOutA = DC_CHARGERS_A.filter(a => a <= mostA).at(-1)
  return row && maxOutA !== undefined
    ? { ...row, label: `DC-DC charger, ${asGiven(maxOutA)} A`, part: { ...row.part, maxOutA } }
    : null
}

/** A device in the lead to a battery, with a fuse at the battery where the lead on from it has none. */
function before(
  plan: Plan,
  battery: Battery,
  { patch, id, amps }: { patch: Patch; id: string; amps: number },
  row: { label: string; part: { massG?: number | undefined } },
): Proposal {
  const next = tryPatch(plan, patch)
  const onward = next?.leads.find(l => endAt(l, battery) && [l.from, l.to].some(t => partIdOf(t) === id))
  const fuse =
    next && onward && !hasDevice(onward)
      ? addFuse(next, onward, endAt(onward, battery)!, {
          continuousA: amps,
          conductorAmps: largestFuseOf(next, onward),
          source: battery,
        })
      : null
  const cost = row.part.massG === undefined ? '' : `${asGiven(row.part.massG)} g`
  return {
    label: `${row.label}, before ${partName(plan, battery.id)}${fuse ? ', with a fuse at its post' : ''}`,
    patch: [...patch, ...(fuse?.patch ?? [])],
    cost,
  }
}
