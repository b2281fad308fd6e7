import { adapter } from './adapter'
import { battery } from './battery'
import { block } from './block'
import { breakerPart } from './breaker'
import { charger } from './charger'
import { controller } from './controller'
import { converter } from './converter'
import { gate } from './gate'
import { generator } from './generator'
import { inverter } from './inverter'
import { joint } from './joint'
import { load } from './load'
import { monitor } from './monitor'
import { panel } from './panel'
import { powerStation } from './powerStation'
import { radio } from './radio'
import { supply } from './supply'
import { trigger } from './trigger'
import { usbSource } from './usbSource'
import { vehicle } from './vehicle'

/** The one list of kinds: a new kind is its file and its line here. */
export const ALL = [
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
] as const
