import { partName } from '../plan/names'
import type { Plan } from '../plan/schema'
import { durationWords } from '../units/clock'
import { TRIED_DAYS, type Filling, type Resting, type Starter } from './refill'
import type { PackSet } from './sets'
import { fixed } from '../units/number'

/** What fills, stays and lasts, in words. */

/** "2 packs of 10 Ah in turn, panels of 200 W" */
export function setWords({ way, packs, each, unit, panelW, panelFactor, refillH }: PackSet): string {
  const filled = refillH === undefined ? '' : ', one filled while another is used'
  const many = packs === 1 ? `one pack of ${each} ${unit}` : `${packs} packs of ${each} ${unit} ${way}${filled}`
  if (panelFactor === 1 || (panelW === 0 && panelFactor > 0)) return many
  return `${many}, ${panelFactor === 0 ? 'panels left at home' : `panels of ${Math.round(panelW)} W`}`
}

export function fillingWords({ fullH, listeningFullH, firstA, by }: Filling): string {
  const words = (h: number | null) => (h === null ? `not full in ${TRIED_DAYS} days` : `full in ${durationWords(h)}`)
  const atFirst = `${fixed(firstA, 1)} A at ${by === 'sun' ? 'best' : 'first'}`
  return `${words(fullH)} with the loads off, ${words(listeningFullH)} with them idle; ${atFirst}`
}

export function restingWords(plan: Plan, { part, idleH, halfGoneDays }: Resting): string {
  const lasts = idleH === null ? `lasts more than ${TRIED_DAYS} days` : `is used up in ${durationWords(idleH)}`
  const alone = halfGoneDays ? `; unplugged it loses half by itself in ${Math.round(halfGoneDays / 30)} months` : ''
  return `${partName(plan, part)}: with nothing that fills it and the loads idle it ${lasts}${alone}`
}

export function starterWords(plan: Plan, { part, amps, days, assumed }: Starter): string {
  const name = partName(plan, part)
  if (days === null) return `${name}: nothing is taken with the engine off`
  const of = assumed ? ' (a starter battery of 60 Ah assumed)' : ''
  return `${name}: ${fixed(amps, 2)} A with the engine off; after ${fixed(days, 1)} days it may not crank${of}`
}
