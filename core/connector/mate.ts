import { connector, CROSS_MATES, FALSE_FITS } from '../catalog/connectors'

export interface PlanEnd {
  connector: string
  sex?: 'plug' | 'socket'
}

export type Mating = { mates: true; ratedA: number | null } | { mates: false; why: string }

const isPair = (pair: readonly [string, string], a: string, b: string) =>
  (pair[0] === a && pair[1] === b) || (pair[0] === b && pair[1] === a)

/** Rating of two contacts together: the smaller one decides, A; null where the wire decides. */
function smallerRating(a: number | null, b: number | null): number | null {
  if (a === null || b === null) return a ?? b
  return Math.min(a, b)
}

/**
 * Whether a lead's end goes onto a terminal. Unsaid sexes are taken to fit.
 * @returns with `why` in words when it does not.
 */
export function mate(end: PlanEnd, terminal: PlanEnd): Mating {
  const a = connector(end.connector)
  const b = connector(terminal.connector)
  if (a.gendered && a.family === b.family && end.sex && end.sex === terminal.sex) {
    return { mates: false, why: `both are the ${end.sex} of a ${a.label}` }
  }
  const same = a.family === b.family && !['bare', 'post', 'screw'].includes(a.family)
  const sameScrew = a.id === b.id && a.id !== 'bare'
  if (same || sameScrew || CROSS_MATES.some(pair => isPair(pair, a.id, b.id))) {
    return { mates: true, ratedA: smallerRating(a.ratedA, b.ratedA) }
  }
  const trap = FALSE_FITS.find(fit => isPair(fit.pair, a.id, b.id))
  if (trap) return { mates: false, why: trap.why }
  if (a.family.startsWith('ring-m') && b.family.startsWith('ring-m')) {
    return { mates: false, why: 'the ring and the stud differ in size' }
  }
  return { mates: false, why: 'they are different families' }
}

export const CONTACT_STATES = ['new', 'aged', 'oxidised'] as const

/** One contact that somebody fitted, as far as they say how it is. */
export interface FittedContact {
  connector: string
  contact?: (typeof CONTACT_STATES)[number]
  /** Measured, a pole. */
  contactOhm?: number
}

/** Resistance of a contact today, Ω a pole: as measured, or its class's, new unless it is said to be aged. */
export function contactOhmNow({ connector: id, contact, contactOhm }: FittedContact): number {
  const c = connector(id)
  return contactOhm ?? (contact === 'aged' || contact === 'oxidised' ? c.agedOhm : c.newOhm)
}

/** Resistance of a contact once it has aged, Ω a pole: never less than what was measured on it. */
export function contactOhmAged(fitted: FittedContact): number {
  return Math.max(connector(fitted.connector).agedOhm, fitted.contactOhm ?? 0)
}

/**
 * The resistance of one mating in the loop, Ω: both poles, at the lead end's family; of a stripped end, the screw's.
 */
export function matingLoopOhm(end: FittedContact | undefined): number {
  return end ? 2 * contactOhmNow(end) : 0
}
