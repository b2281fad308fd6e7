import { OF_GIVING } from './giving'
import { OF_LIMITS } from './limits'
import { OF_PASSING } from './passing'
import type { Said } from './said'
import { OF_SHORTS } from './shorts'
import { OF_TERMINALS } from './terminals'

/**
 * What a kind says of itself, held to physics and to what everything else takes from it: no energy out of nothing, no
 * resistance below zero, nothing that feeds a short and is silent about it.
 */
const RULES = [...OF_TERMINALS, ...OF_GIVING, ...OF_SHORTS, ...OF_PASSING, ...OF_LIMITS]

/** The rules in words. */
export const PHYSICS = RULES.map(rule => rule.says)

/** Every rule that a part breaks, with what of it does: "it gives no more than it takes: x.in to x.out". */
export function physicsBroken(said: Said): string[] {
  return RULES.flatMap(({ says, broken }) => [...new Set(broken(said))].map(what => `${says}: ${what}`))
}
