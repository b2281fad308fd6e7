import type { Day } from './trend'

/** A reading against the plan. Figures are null where the plan has no operating point. */
export interface Point {
  at: string
  condition: string
  id?: string
  day?: string
  unit: 'V' | 'A'
  expected: number | null
  /** With good joints, and charge, draw and meter as the readings of its day show them. */
  expectedHere: number | null
  tolerance: number | null
  read: number
  within: boolean
}

/** Every reading against the plan, in the order of the days. */
export const pointsOf = (days: readonly Day[]): Point[] =>
  days.flatMap(({ day, found }) =>
    found.readings.map((r, i): Point => {
      // Which way a clamp is held round a lead says nothing.
      const read = r.volts ?? Math.abs(r.amps!)
      const solved = Number.isFinite(found.expected[i]!)
      const [here, tolerance] = [found.expectedHere[i]!, found.tolerance[i]!]
      return {
        at: r.at,
        condition: r.condition,
        ...(r.id !== undefined && { id: r.id }),
        ...(day && { day }),
        unit: r.volts === undefined ? 'A' : 'V',
        expected: solved ? found.expected[i]! : null,
        expectedHere: solved ? here : null,
        tolerance: solved ? tolerance : null,
        read,
        within: solved && Math.abs(read - here) <= tolerance,
      }
    }),
  )
