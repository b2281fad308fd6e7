/** Whether packs go into a box. */

export type Sides = readonly [number, number, number]

/** Packs of which nobody says the sides fill so much of a box. */
const BOX_FILLED = 0.8
const MM3_PER_LITRE = 1e6
/** The ways to lay a brick. */
const TURNS = [
  [0, 1, 2],
  [0, 2, 1],
  [1, 0, 2],
  [1, 2, 0],
  [2, 0, 1],
  [2, 1, 0],
] as const

/** How many packs, laid all alike, go into a box. Turned against each other, sometimes one more does. */
export function inRows(packMm: Sides, boxMm: Sides): number {
  const along = (turn: (typeof TURNS)[number]) =>
    turn.reduce<number>((n, side, i) => n * Math.floor(boxMm[i]! / packMm[side]! + 1e-9), 1)
  return Math.max(...TURNS.map(along))
}

/** @param packMm its sides; null where nobody says them: then its volume tells @param litres of all packs */
export function goIn(packs: number, packMm: Sides | null, litres: number, boxMm: Sides): boolean {
  if (packMm) return inRows(packMm, boxMm) >= packs
  return litres <= (BOX_FILLED * boxMm[0] * boxMm[1] * boxMm[2]) / MM3_PER_LITRE
}
