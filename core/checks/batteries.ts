import { chemistry } from '../catalog/chemistries'
import { setField } from '../edit/set'
import { propose, type Proposal } from '../fixes/proposal'
import { chargersOf } from '../kinds/charging'
import { kindOf, partsOf, type PartOf } from '../kinds/index'
import type { ChargeOutput } from '../kinds/kind'
import { partById } from '../plan/find'
import type { Study } from '../study/study'

/** Batteries and what fills them, as the checks of charging see them. */

type Battery = PartOf<'battery'>

export const batteries = (study: Study) => partsOf(study.plan.parts, 'battery').filter(b => b.charged !== 'elsewhere')

export const controllers = (study: Study) => partsOf(study.plan.parts, 'controller')

/** Every charging device on a battery, as part and output. */
export const pairs = (study: Study) =>
  batteries(study).flatMap(battery =>
    chargersOf(battery.id, study.around).map(({ partId, output }) => ({
      battery,
      device: part(study, partId),
      output,
    })),
  )

export const part = (study: Study, id: string) => partById(study.plan, id)!

export const batteryAt = (study: Study, id: string) => part(study, id) as Battery

/** How a device charges. */
export const outputOf = (study: Study, deviceId: string): ChargeOutput | null => {
  const device = part(study, deviceId)
  return kindOf(device).charge?.(device, study.around) ?? null
}

export function setTo(study: Study, deviceId: string, battery: Battery): Proposal | null {
  const now = outputOf(study, deviceId)
  const { chemistry: wanted } = battery
  if (!now?.profiles[wanted] || now.chemistry === wanted) return null
  const label = `Set ${study.name(part(study, deviceId))} to ${chemistry(wanted).label}`
  return propose(label, setField(study.plan, deviceId, now.fields.set, wanted))
}
