import { fixed } from '#core/units/number'
/** Kilohertz as a waterfall shows them, without the unit. */
export const khz = (hz: number, digits = 1) => fixed(hz / 1000, digits)
