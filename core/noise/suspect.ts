import { kindOf, KINDS } from '../kinds/index'
import { ALONE } from '../kinds/kind'
import { nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'

/** What stands for anything that is not the station's own: a neighbour's device, the site itself. */
export const OUTSIDE = 'outside'

/** A part of the plan that may make noise: everything that switches. */
export interface Suspect {
  id: string
  name: string
  kind: string
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

/** Prior odds of a kind to be the noisy one. */
export const kindOdds = (kind: string) => (kind === OUTSIDE ? 1 : (KINDS.get(kind)?.noise?.odds ?? 0))

/** Every kind that may make noise, with its odds, the likeliest first. */
export const noisyKinds = () =>
  [...KINDS.values()]
    .flatMap(k => (k.noise ? [{ kind: k.kind as string, label: k.label, odds: k.noise.odds }] : []))
    .sort((a, b) => b.odds - a.odds)

/** The switching parts of a plan. */
export function suspectsOf(plan: Plan): Suspect[] {
  return plan.parts.flatMap((part): Suspect[] => {
    const kind = kindOf(part)
    if (!kind.noise) return []
    const switchingHz = kind.switching?.(part)?.hz
    const mostA = kind.worksWithA?.(part)
    return [
      {
        id: part.id,
        name: nameOf(part),
        kind: part.kind,
        ...(switchingHz !== undefined && { switchingHz }),
        ...(mostA !== undefined && { mostA }),
        hasMains: kind.noise.hasMains ?? false,
        charges: Boolean(kind.charge?.(part, ALONE)),
        needsSun: kind.noise.needsSun ?? false,
      },
    ]
  })
}

export const outside: Suspect = {
  id: OUTSIDE,
  name: 'something outside the station',
  kind: OUTSIDE,
  hasMains: false,
  charges: false,
  needsSun: false,
}
