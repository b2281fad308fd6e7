import { kindOf, KINDS } from '../kinds/index'
import { ALONE } from '../kinds/kind'
import { nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'

/** What stands for anything that is not the station's own: a neighbour's device, the site itself. */
export const OUTSIDE = 'outside'

/** What stands for anything here that the plan does not name: a telephone's charger, a lamp. */
export const OTHER = 'other'

/** What stands for the receiver itself: a spurious response, its own converter, its display. */
export const RECEIVER = 'receiver'

/** What is no part of the plan. */
const BESIDES: readonly string[] = [OUTSIDE, OTHER, RECEIVER]
export const isPart = (device: string) => !BESIDES.includes(device)

/** A part of the plan that may make noise: everything that switches, and what may have a converter inside. */
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

/** Prior odds of what is no part. */
const STRANGE = 'strange'
const BESIDE_ODDS: ReadonlyMap<string, number> = new Map([
  [OUTSIDE, 1],
  [OTHER, 0.6],
  [RECEIVER, 0.4],
  [STRANGE, 1],
])

/** Prior odds of a kind to be the noisy one. */
export const kindOdds = (kind: string) => BESIDE_ODDS.get(kind) ?? KINDS.get(kind)?.noise?.odds ?? 0

/** Every kind that may make noise, with its odds, the likeliest first. */
export const noisyKinds = () =>
  [...KINDS.values()]
    .flatMap(k => (k.noise ? [{ kind: k.kind as string, label: k.label, odds: k.noise.odds }] : []))
    .sort((a, b) => b.odds - a.odds)

/** Parts that may make noise and are called, in the plan's file, as what is no part is called here. */
const namesakes = (plan: Plan) => plan.parts.filter(p => !isPart(p.id) && kindOf(p).noise)

/** What of a plan cannot be weighed, in words. */
export const unweighedWords = (plan: Plan): string[] =>
  namesakes(plan).map(
    p =>
      `${nameOf(p)} is not weighed: its id in the plan's file is “${p.id}”, which stands here for what is no part of ` +
      'the plan. Give it another id there.',
  )

/** The switching parts of a plan. */
export function suspectsOf(plan: Plan): Suspect[] {
  return plan.parts.flatMap((part): Suspect[] => {
    const kind = kindOf(part)
    if (!kind.noise || !isPart(part.id)) return []
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

const beside = (id: string, name: string): Suspect => ({
  id,
  name,
  kind: id,
  hasMains: false,
  charges: false,
  needsSun: false,
})

/** A thing that findings speak of and the plan does not have. It may have an AC side. */
export const strange = (id: string): Suspect => ({ ...beside(id, id), kind: STRANGE, hasMains: true })

export const outside = beside(OUTSIDE, 'something outside the station')
export const besides: readonly Suspect[] = [
  beside(OTHER, 'something here that is not in the plan'),
  beside(RECEIVER, 'the receiver itself'),
  outside,
]
