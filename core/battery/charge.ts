/**
 * Charge, 0–1, at which something rests at a voltage: the lowest where its curve is flat.
 * @param rests volts at a charge
 */
export function chargeWhere(rests: (charge: number) => number, volts: number): number {
  let [low, high] = [0, 1]
  for (let n = 0; n < 40; n++) {
    const middle = (low + high) / 2
    if (rests(middle) < volts) low = middle
    else high = middle
  }
  return high
}
