import { kindOf, type Part } from '../kinds/index'
import { nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'

/** What stands for anything that is not the station's own: a neighbour's device, the site itself. */
export const OUTSIDE = 'outside'

/** A part of the plan that may make noise: everything that switches. */
export interface Device {
  id: string
  name: string
  kind: Part['kind'] | typeof OUTSIDE
  switchingHz?: number
  /** Largest current it works with, A; its noise may begin somewhere below. */
  mostA?: number
  /** Has an AC side, by which noise can leave. */
  hasMains: boolean
  /** Puts current into a battery: it starts a charge, and needs sun or a hungry battery to work hard. */
  charges: boolean
  /** Needs sun to work. */
  needsSun: boolean
}

/** Prior odds of a kind to be the noisy one, from what operators report of the classes: how hard it switches, how little it is filtered. */
export const KIND_ODDS: Partial<Record<Part['kind'], number>> = {
  controller: 3,
  inverter: 3,
  converter: 2,
  charger: 2,
  gate: 1,
  supply: 1,
  powerStation: 1,
  usbSource: 1,
  trigger: 0.7,
  generator: 0.5,
}
export const kindOdds = (kind: Device['kind']) => (kind === OUTSIDE ? 1 : (KIND_ODDS[kind] ?? 0))

const HAS_MAINS: ReadonlySet<string> = new Set(['charger', 'supply', 'inverter'])

/** Volts by which an inverter's watts become amps: a 12 V system under load. */
const INVERTER_V = 12

function mostAmps(part: Part): number | undefined {
  switch (part.kind) {
    case 'controller':
      return part.maxChargeA
    case 'charger':
      return part.maxA
    case 'converter':
      return part.maxOutA
    case 'inverter':
      return part.ratedW / INVERTER_V
    case 'supply':
      return part.continuousA
    default:
      return undefined
  }
}

/** The switching parts of a plan. */
export function devicesOf(plan: Plan): Device[] {
  return plan.parts
    .filter(p => kindOdds(p.kind) > 0)
    .map(part => {
      const kind = kindOf(part)
      const switchingHz = kind.switching?.(part)?.hz
      const mostA = mostAmps(part)
      return {
        id: part.id,
        name: nameOf(part),
        kind: part.kind,
        ...(switchingHz !== undefined && { switchingHz }),
        ...(mostA !== undefined && { mostA }),
        hasMains: HAS_MAINS.has(part.kind),
        charges:
          part.kind === 'controller' ||
          part.kind === 'charger' ||
          (part.kind === 'converter' && part.charges !== undefined) ||
          (part.kind === 'gate' && part.chargeA !== undefined),
        needsSun: part.kind === 'controller',
      }
    })
}

export const outside: Device = {
  id: OUTSIDE,
  name: 'something outside the station',
  kind: OUTSIDE,
  hasMains: false,
  charges: false,
  needsSun: false,
}
