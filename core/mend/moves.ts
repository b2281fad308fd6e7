import type { Patch } from '../edit/patch'

/** What a change touches of what the operator wants, told by the fields it sets. */
export type Touches = 'power' | 'place' | 'use' | 'gear'

const POWER = /^\/parts\/\d+\/(powerW|draw\/activeA)$/
const PLACE = /^\/leads\/\d+\/lengthM$/
const USE = /^\/parts\/\d+\/(usableFraction|stopV|charged)$/

/** Power given up, a thing moved, used otherwise; or gear alone: wire, fuses, contacts, parts, settings. */
export function touches(patch: Patch): Touches {
  const paths = patch.map(op => op.path)
  if (paths.some(p => POWER.test(p))) return 'power'
  if (paths.some(p => PLACE.test(p)) && !addsParts(patch)) return 'place'
  return paths.some(p => USE.test(p)) ? 'use' : 'gear'
}

/** A part put into a lead cuts its length in two: nothing is moved by that. */
const addsParts = (patch: Patch) => patch.some(op => op.op === 'add' && op.path === '/parts/-')
