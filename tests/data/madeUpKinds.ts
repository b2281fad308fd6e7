import { z } from 'zod'
import { totalLimit, type PartKind } from '../../core/kinds/kind'
import { bankOf } from '../../core/kinds/store'

/** Kinds that no file of the program knows, as a newcomer would write them. */

const NOTHING = {
  links: () => [],
  passes: () => [],
  windows: () => [],
  limits: () => [],
  says: { box: () => ['made up'], line: () => 'made up' },
  noise: null,
  cautions: () => [],
  form: [],
}

interface Bank {
  id: string
  kind: 'capacitorBank'
  maxV: number
  ratedA: number
}
/** Stores a little and stands a voltage; passes a current from a to b. */
const capacitorBank: PartKind<Bank> = {
  ...NOTHING,
  kind: 'capacitorBank',
  label: 'bank of capacitors',
  role: 'between',
  schema: z.strictObject({ id: z.string(), kind: z.literal('capacitorBank'), maxV: z.number(), ratedA: z.number() }),
  entry: part => `${part.id}.a`,
  terminals: part => [{ id: `${part.id}.a` }, { id: `${part.id}.b` }],
  between: ['a', 'b'],
  links: part => [{ a: `${part.id}.a`, b: `${part.id}.b`, ohm: 0.001 }],
  intoShort: part => [{ at: `${part.id}.b`, by: 'itself', kind: 'emf', emfV: part.maxV, ohm: 0.002 }],
  windows: part => [{ at: `${part.id}.a`, minV: 0, maxV: part.maxV, field: 'maxV', hurts: true }],
  limits: part => [{ of: 'passes', continuousA: part.ratedA, fields: ['ratedA'] }],
  noise: { odds: 5, hasMains: true },
  worksWithA: part => part.ratedA,
  switching: () => ({ hz: 50e3, what: 'balancer' }),
  hookUp: () => ({ turn: 'between', live: 3, meter: 'Discharge the bank first.', caution: 'It keeps its charge.' }),
  cautions: () => [{ id: 'mains', line: 'A made-up danger.', beforeShorts: true }],
  catalogue: [],
}

interface Windmill {
  id: string
  kind: 'windmill'
  volts: number
  mostA: number
  on?: string
}
/** A source that limits itself and says what it gives; names another part. */
const windmill: PartKind<Windmill> = {
  ...NOTHING,
  kind: 'windmill',
  label: 'windmill',
  role: 'source',
  store: () => null,
  schema: z.strictObject({
    id: z.string(),
    kind: z.literal('windmill'),
    volts: z.number(),
    mostA: z.number(),
    on: z.string().optional(),
  }),
  terminals: part => [{ id: `${part.id}.out` }],
  entry: part => `${part.id}.out`,
  sources: part => [{ at: `${part.id}.out`, emfV: part.volts, ohm: 0.05 }],
  intoShort: part => [
    { at: `${part.id}.out`, by: 'itself', kind: 'limited', volts: part.volts, amps: part.mostA, sure: true },
  ],
  limits: part => [{ of: 'gives', continuousA: part.mostA, fields: ['mostA'] }],
  mentions: part => (part.on === undefined ? [] : [{ field: 'on', ids: part.on }]),
  highestV: (part, lowestC) => (lowestC < 0 ? 4 * part.volts : part.volts),
  hookUp: () => ({ turn: 'gives', live: 2 }),
  catalogue: [],
}

interface Flywheel {
  id: string
  kind: 'flywheel'
  volts: number
}
/** Stores energy, and knows no chemistry to which a charger could be set. */
const flywheel: PartKind<Flywheel> = {
  ...NOTHING,
  kind: 'flywheel',
  label: 'flywheel',
  role: 'source',
  stores: true,
  store: part =>
    bankOf(20, charge => [{ at: `${part.id}.out`, emfV: part.volts * (0.9 + 0.1 * charge), ohm: 0.02, leastA: 0 }], {}),
  sourceStates: () => ['full', 'low'],
  schema: z.strictObject({ id: z.string(), kind: z.literal('flywheel'), volts: z.number() }),
  terminals: part => [{ id: `${part.id}.out`, connector: 'ring-m8' }],
  entry: part => `${part.id}.out`,
  sources: (part, state) => [
    { at: `${part.id}.out`, emfV: state === 'low' ? 0.9 * part.volts : part.volts, ohm: 0.02 },
  ],
  intoShort: part => [{ at: `${part.id}.out`, by: 'itself', kind: 'emf', emfV: part.volts, ohm: 0.02 }],
  hookUp: () => ({ turn: 'gives', live: 3 }),
  catalogue: [{ id: 'flywheel-14', label: 'Flywheel', part: { kind: 'flywheel', volts: 14 }, source: 'made up' }],
}

interface Beacon {
  id: string
  kind: 'beacon'
  minV: number
  maxV: number
  amps: number
  ratedA?: number
}
/** A load whose terminal is not named by its id alone. */
const beacon: PartKind<Beacon> = {
  ...NOTHING,
  kind: 'beacon',
  label: 'beacon',
  role: 'load',
  schema: z.strictObject({
    id: z.string(),
    kind: z.literal('beacon'),
    minV: z.number(),
    maxV: z.number(),
    amps: z.number(),
    ratedA: z.number().optional(),
  }),
  limits: part => totalLimit(part.ratedA),
  entry: part => `${part.id}.dc`,
  terminals: part => [{ id: `${part.id}.dc` }],
  needs: part => ({ at: `${part.id}.dc`, minV: part.minV, nominalV: 13, maxV: part.maxV, field: 'minV' }),
  sink: (part, active) => ({ at: `${part.id}.dc`, law: 'current', value: active ? part.amps : 0.1 }),
  transmits: true,
  intoShort: () => [],
  hookUp: () => ({ turn: 'load', live: 0 }),
  catalogue: [],
}

export interface Regulator {
  id: string
  kind: 'regulator'
  outV: number
  dropV: number
  idleW: number
  mostA: number
}
/** Burns what it does not pass on: takes the very current that it gives, and its own. */
const regulator: PartKind<Regulator> = {
  ...NOTHING,
  kind: 'regulator',
  label: 'linear regulator',
  role: 'between',
  schema: z.strictObject({
    id: z.string(),
    kind: z.literal('regulator'),
    outV: z.number(),
    dropV: z.number(),
    idleW: z.number(),
    mostA: z.number(),
  }),
  entry: part => `${part.id}.in`,
  passes: part => [{ from: `${part.id}.in`, to: `${part.id}.out`, faultOhm: null }],
  terminals: part => [{ id: `${part.id}.in` }, { id: `${part.id}.out` }],
  transfers: ({ id, outV: setV, dropV, idleW, mostA }) => [
    {
      ...{ from: `${id}.in`, to: `${id}.out`, relation: 'at-most-input', takes: 'current' },
      ...{ setV, dropV, idleW, efficiency: 1, mostA },
    },
  ],
  intoShort: part => [
    { at: `${part.id}.out`, by: 'input', kind: 'limited', volts: part.outV, amps: part.mostA, sure: false },
  ],
  limits: part => [{ of: 'gives', continuousA: part.mostA, fields: ['mostA'] }],
  hookUp: () => ({ turn: 'between', live: 0 }),
  catalogue: [],
}

export const MADE_UP = [capacitorBank, windmill, flywheel, beacon, regulator]
