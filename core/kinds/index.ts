import { z } from 'zod'
import { adapter, adapterSchema } from './adapter'
import { battery, batterySchema } from './battery'
import { block, blockSchema } from './block'
import { breakerPart, breakerPartSchema } from './breaker'
import { charger, chargerSchema } from './charger'
import { controller, controllerSchema } from './controller'
import { converter, converterSchema } from './converter'
import { gate, gateSchema } from './gate'
import { generator, generatorSchema } from './generator'
import { inverter, inverterSchema } from './inverter'
import { joint, jointSchema } from './joint'
import { load, loadSchema } from './load'
import { monitor, monitorSchema } from './monitor'
import { panel, panelSchema } from './panel'
import { powerStation, powerStationSchema } from './powerStation'
import { radio, radioSchema } from './radio'
import { supply, supplySchema } from './supply'
import { trigger, triggerSchema } from './trigger'
import { usbSource, usbSourceSchema } from './usbSource'
import { vehicle, vehicleSchema } from './vehicle'
import type { SupplyWindow } from './fields'
import type { PartKind } from './kind'

/** The one list of kinds: a new kind is its file and a line in each of these two. */
export const partSchema = z.discriminatedUnion('kind', [
  batterySchema,
  supplySchema,
  vehicleSchema,
  panelSchema,
  usbSourceSchema,
  powerStationSchema,
  generatorSchema,
  blockSchema,
  jointSchema,
  adapterSchema,
  breakerPartSchema,
  monitorSchema,
  controllerSchema,
  chargerSchema,
  converterSchema,
  triggerSchema,
  gateSchema,
  radioSchema,
  loadSchema,
  inverterSchema,
])
const kinds = [
  battery,
  supply,
  vehicle,
  panel,
  usbSource,
  powerStation,
  generator,
  block,
  joint,
  adapter,
  breakerPart,
  monitor,
  controller,
  charger,
  converter,
  trigger,
  gate,
  radio,
  load,
  inverter,
]

export type Part = z.infer<typeof partSchema>
export type KindName = Part['kind']
export type PartOf<K extends KindName> = Extract<Part, { kind: K }>
export const KINDS = new Map(kinds.map(k => [k.kind as string, k as unknown as PartKind<Part>]))

/** What the program knows of a part's kind. */
export function kindOf(part: Part): PartKind<Part> {
  return KINDS.get(part.kind)!
}

/** What a load needs at its terminal, V. */
export function needs(load: PartOf<'radio' | 'load' | 'inverter'>): SupplyWindow {
  return load.kind === 'inverter' ? load.input : load.supply
}

/** Whether a part gives power to what is joined to it: a source, or the output of a converter. */
export function gives(part: Part): boolean {
  return kindOf(part).sources !== undefined
}

/** Whether a part ends the path: it takes power as a load does. */
export function isLoad(part: Part): part is PartOf<'radio' | 'load' | 'inverter'> {
  return kindOf(part).role === 'load'
}
