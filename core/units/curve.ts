/** A table of figures, rising in its first column. */
export type Curve = readonly (readonly [x: number, y: number])[]

/** What a table says at x: straight lines between its rows, its end rows beyond them. */
export function curveAt(rows: Curve, x: number): number {
  if (x <= rows[0]![0]) return rows[0]![1]
  for (let i = 1; i < rows.length; i++) {
    const [x0, y0] = rows[i - 1]!
    const [x1, y1] = rows[i]!
    if (x <= x1) return y0 + ((y1 - y0) * (x - x0)) / (x1 - x0)
  }
  return rows[rows.length - 1]![1]
}
