/** Kilohertz as a waterfall shows them, without the unit. */
export const khz = (hz: number, digits = 1) => (hz / 1000).toFixed(digits)
