import { kindOf, type Part } from '../kinds/index'
import { ALONE } from '../kinds/kind'
import { CAUTIONS } from '../catalog/cautions'
import { nameOf } from '../plan/find'
import { siteOf, type Plan } from '../plan/schema'
import { prospectiveAtPost } from '../protection/prospective'
import { asGiven, fixed } from '../units/number'

/** Prospective short from which a bare post is a danger to hands and tools, A. */
const STRONG_A = 1000

/** Direct voltage from which a touch can kill, V (extra-low voltage, IEC 61140, rounded down). */
const TOUCH_V = 60

/** One line for each danger a plan holds; every sheet and screen that could get somebody hurt shows them. */
export function cautionsOf(plan: Plan): string[] {
  const own = plan.parts.flatMap(p => kindOf(p).cautions(p))
  const inOrder = (before: boolean) =>
    CAUTIONS.filter(c => c.beforeShorts === before).flatMap(c => own.find(o => o.id === c.id)?.line ?? [])
  return [
    ...inOrder(true),
    ...strongShorts(plan),
    ...inOrder(false),
    ...highVoltage(plan, plan.parts),
    'This sheet says what was planned and which checks it passed. Local codes and a licensed electrician decide.',
  ]
}

/** The dangers of one part, each in one line: what stands beside it on the path. */
export function cautionsAt(plan: Plan, part: Part): string[] {
  const own = kindOf(part)
    .cautions(part)
    .map(c => c.line)
  return [...own, ...strongShort(part), ...highVoltage(plan, [part])]
}

const strongShorts = (plan: Plan): string[] => plan.parts.flatMap(strongShort)

function strongShort(part: Part): string[] {
  const prospectiveA = prospectiveAtPost(part)
  if (prospectiveA === null || prospectiveA <= STRONG_A) return []
  const about = Math.round(prospectiveA / 100) * 100
  return [
    `${nameOf(part)} can drive about ${asGiven(about)} A into a short: isolate it first, take rings and watches off, ` +
      'insulate tools, cover live posts, have a second person near.',
  ]
}

function highVoltage(plan: Plan, parts: readonly Part[]): string[] {
  const { low } = siteOf(plan).ambientC
  const reached = parts.flatMap(part => {
    const kind = kindOf(part)
    if (kind.highestV) return [kind.highestV(part, low)]
    return kind.sources?.(part, 'charging', ALONE).map(s => s.emfV) ?? []
  })
  const highest = Math.max(0, ...reached)
  if (highest <= TOUCH_V) return []
  return [`Over 60 V DC (${fixed(highest, 0)} V): a touch can kill, and an arc does not go out by itself.`]
}
