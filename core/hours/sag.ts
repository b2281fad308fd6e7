import { isLoad, kindOf, needs } from '../kinds/index'
import type { Plan } from '../plan/schema'
import type { Course } from './run'
import { fixed } from '../units/number'

/** What falling volts cost a transmitter over an event. */
export interface Sag {
  part: string
  /** Volts while transmitting, at their highest and lowest before anything fails. */
  highV: number
  lowV: number
  /** Of its power at the highest, at the lowest; as decibels, 0 or below. */
  db: number
  /** It does not say how its power goes with the voltage: taken as its square, from its nominal volts on. */
  assumed: boolean
}

/** The transmit power that each radio of a plan gives up as its packs empty, while it is still on the air. */
export function sagOf(plan: Plan, { timeline, ends }: Course): Sag[] {
  const onAir = timeline.filter(m => !ends || m.h < ends.atH)
  return plan.parts.filter(isLoad).flatMap(part => {
    const kind = kindOf(part)
    if (!kind.transmits) return []
    const volts = onAir.map(m => m.volts[part.id]!).filter(v => v > 0)
    if (volts.length < 2) return []
    const [highV, lowV] = [Math.max(...volts), Math.min(...volts)]
    const { nominalV = 13.8 } = needs(part)
    const said = kind.transmitShare?.(part, lowV) ?? null
    const share = (v: number) => kind.transmitShare?.(part, v) ?? Math.min(1, (v / nominalV) ** 2)
    return [{ part: part.id, highV, lowV, db: 10 * Math.log10(share(lowV) / share(highV)), assumed: said === null }]
  })
}

/** Less than this is seldom noticed (practice: an S-unit is 6 dB). */
export const SELDOM_NOTICED_DB = 1.5
const INSTEAD = 'a converter would cost 5 to 10 % of the energy and be one more source of noise'

/** What a loss means to whoever listens. */
export function sagWords(name: string, { highV, lowV, db, assumed }: Sag): string {
  const loss = -db
  const from = `${name} transmits at ${fixed(highV, 1)} V to ${fixed(lowV, 1)} V`
  if (loss < 0.05) return `${from}: its power stays`
  const worth = loss < SELDOM_NOTICED_DB ? `seldom noticed; ${INSTEAD}` : 'heard'
  return `${from}, ${fixed(loss, 1)} dB less at the end${assumed ? ' (power as volts squared)' : ''}: ${worth}`
}
