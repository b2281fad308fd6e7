/**
 * What conductor costs, for comparing: typical retail of flexible tinned copper, no shop's price. A plan's or shelf's
 * own figures go first.
 */

/** Money a metre and conductor: making and selling it, and its copper by the gram. */
export const CONDUCTOR_COST = { perM: 0.35, perGram: 0.022 } as const

/** A fuse with its holder, and a pair of contacts. */
export const FUSE_COST = 4
export const CONTACT_COST = 1.5

/** A short adapter, made or bought (typical). */
export const ADAPTER_COST = 9
