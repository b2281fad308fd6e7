import { z } from 'zod'
import { describe, expect, it } from 'vitest'
import { compile } from '../../../core/circuit/network'
import { KINDS, type Part } from '../../../core/kinds/index'
import { ALONE, type PartKind, type Source, type Terminal, type Transfer } from '../../../core/kinds/kind'
import type { Store } from '../../../core/kinds/store'
import { planOf } from '../../data/engines'
import { PHYSICS, physicsBroken } from '../../data/physics/index'

/** Every kind, and those that a newcomer might get wrong: what breaks a rule of physics is told. */

const rows = [...KINDS.values()].flatMap(kind =>
  kind.catalogue.map(row => [row.id, kind, { ...structuredClone(row.part), id: 'x' } as unknown as Part] as const),
)

/** A battery on every terminal that the part has, so that whatever turns on what stands around it is there. */
function amidBatteries(part: Part, ends: readonly Terminal[]) {
  const pack = { kind: 'battery', chemistry: 'lifepo4', seriesCells: 4, capacityAh: 100, internalOhm: 0.01 }
  const leads = ends.map(({ id }, n) => ({
    ...{ id: `l${n}`, from: `b${n}`, to: id, lengthM: 1, conductor: { awg: 10 } },
  }))
  const plan = planOf([...ends.map((_, n) => ({ ...pack, id: `b${n}`, terminal: 'ring-m8' })), part], leads)
  return compile(plan).around
}

describe('every kind', () => {
  it.each(rows)('%s keeps to physics, alone and with a battery on each of its terminals', (_, kind, part) => {
    expect(physicsBroken({ kind, part, around: ALONE })).toEqual([])
    expect(physicsBroken({ kind, part, around: amidBatteries(part, kind.terminals(part, [])) })).toEqual([])
  })
})

type Kind = PartKind<Part>
type Changed = Partial<Record<keyof Kind, unknown>>

const NOTHING: Changed = {
  kind: 'madeUp',
  label: 'made up',
  schema: z.any(),
  links: () => [],
  passes: () => [],
  intoShort: () => [],
  windows: () => [],
  limits: () => [],
  noise: null,
  hookUp: () => ({ turn: 'between', live: 0 }),
}
const part = { id: 'x' } as Part
const out: Source = { at: 'x.out', emfV: 13.8, ohm: 0.1, leastA: 0, mostA: 20 }
const short = { at: 'x.out', by: 'itself', kind: 'emf', emfV: 13.8, ohm: 0.1 }
const cells = {
  capacity: 100,
  efficiency: 0.9,
  chargeEfficiency: 0.98,
  coldShare: () => 0.9,
  sourcesAt: (charge: number) => [{ ...out, emfV: 12 + charge }],
} as unknown as Store

/** Gives power by itself, and holds some. */
const source: Changed = {
  ...NOTHING,
  role: 'source',
  terminals: () => [{ id: 'x.out' }],
  sources: () => [out],
  store: () => cells,
  intoShort: () => [short],
  windows: () => [{ at: 'x.out', minV: 10, nominalV: 12, maxV: 15, field: 'maxV' }],
  limits: () => [{ of: 'gives', continuousA: 20, peakA: 25, fields: ['ratedA'] }],
  highestV: () => 13.8,
  hookUp: () => ({ turn: 'gives', live: 3 }),
}

const way: Transfer = {
  ...{ from: 'x.in', to: 'x.out', relation: 'at-most-input', takes: 'power' },
  ...{ setV: 9, dropV: 1, idleW: 0.1, efficiency: [{ efficiency: 0.9 }], mostA: 10 },
}
const diode = { saturationA: 1e-9, emission: 1.8, seriesOhm: 0, count: 1 }
/** Takes at one terminal and gives at another, where a battery may be charged. */
const between: Changed = {
  ...NOTHING,
  role: 'between',
  terminals: () => [{ id: 'x.in' }, { id: 'x.out' }],
  links: () => [{ a: 'x.out', b: 'x.inner', ohm: 0.1, diode }],
  passes: () => [{ from: 'x.in', to: 'x.out', faultOhm: 0.1 }],
  transfers: () => [way],
  standing: () => [{ at: 'x.in', law: 'power', value: 0.2 }],
  charge: () => ({ at: 'x.out', absorptionV: 14.4, floatV: 13.6, maxA: 10 }),
  noise: { odds: 1 },
}

/** Takes power. */
const load: Changed = {
  ...NOTHING,
  role: 'load',
  terminals: () => [{ id: 'x' }],
  needs: () => ({ at: 'x', minV: 11, maxV: 15, field: 'supply' }),
  sink: () => ({ at: 'x', law: 'ohm', value: 12 }),
}

const broken = (sound: Changed, change: Changed) =>
  physicsBroken({ kind: { ...sound, ...change } as unknown as Kind, part, around: ALONE })

/** A sound kind of which one thing is said otherwise. */
const giving = (more: Partial<Source>): Mistake => [source, { sources: () => [{ ...out, ...more }] }]
const shorting = (more: object): Mistake => [source, { intoShort: () => [{ ...short, ...more }] }]
const storing = (more: object): Mistake => [source, { store: () => ({ ...cells, ...more }) }]
const passing = (more: Partial<Transfer>): Mistake => [between, { transfers: () => [{ ...way, ...more }] }]
const linking = (more: object): Mistake => [between, { links: () => [{ a: 'x.in', b: 'x.i', ohm: 0, ...more }] }]
const limited = (more: object): Mistake => [
  source,
  { limits: () => [{ of: 'gives', continuousA: 20, fields: [], ...more }] },
]
type Mistake = [of: Changed, change: Changed]

const fallsUpward = { sourcesAt: (charge: number) => [{ ...out, emfV: 13 - charge }] }
const fullerWhenLow = (_: Part, state: string) => [{ ...out, emfV: state === 'low' ? 13.1 : 13 }]
const noDiode = { diode: { saturationA: 0, emission: 1, seriesOhm: 0, count: 1 } }
const needsBackwards = { at: 'x', minV: 15, maxV: 11, field: 'supply' }
const nominalBeyond = { at: 'x.out', minV: 10, nominalV: 16, maxV: 15, field: 'maxV' }
const held = { at: 'x.out', absorptionV: 13, floatV: 14, maxA: 10 }

/** What a newcomer might say, by the rule that it breaks. */
const MISTAKES: Record<string, Mistake[]> = {
  'a terminal is called by its part': [[load, { terminals: () => [{ id: 'x' }, { id: 'y.out' }] }]],
  'two terminals have two names': [[load, { terminals: () => [{ id: 'x' }, { id: 'x' }] }]],
  'what it names is a terminal that it has': [
    [load, { entry: () => 'x.in' }],
    [between, { between: ['in', 'beyond'] }],
    [load, { sink: () => ({ at: 'x.motor', law: 'current', value: 1 }) }],
  ],
  'a resistance is none below zero, and ends': [
    linking({ ohm: -0.1 }),
    [between, { passes: () => [{ from: 'x.in', to: 'x.out', faultOhm: NaN }] }],
    giving({ ohm: -1 }),
    shorting({ ohm: 0 }),
  ],
  'a diode inside has a law': [linking(noDiode)],
  'an EMF is a voltage': [giving({ emfV: -1 })],
  'a fuller battery has no lower EMF': [[source, { sources: fullerWhenLow }]],
  // prettier-ignore
  'a source gives less at a higher voltage': [
    giving({ curve: [[10, 5], [12, 6]] }),
    giving({ curve: [[12, 6], [10, 5]] }),
  ],
  'a limit of what is taken is none of what is given, and the other way round': [giving({ mostA: -1 })],
  'nothing takes back what a source gives but what can hold it': [giving({ leastA: undefined })],
  'nothing stands higher than it says that it ever does': [[source, { highestV: () => 13.7 }]],
  'what is stored comes out no fuller than it went in': [
    storing({ efficiency: 1.1 }),
    storing({ chargeEfficiency: 1.1 }),
    storing({ capacity: 0 }),
    storing(fallsUpward),
  ],
  'what gives, gives into a short as well': [[source, { intoShort: () => [] }]],
  'into a short goes no less than what is given at work': [shorting({ kind: 'limited', volts: 13.8, amps: 19 })],
  'an EMF drives into a short all that it drives at rest': [
    [source, { sources: () => [{ ...out, ohm: 0.05, mostA: undefined }] }],
  ],
  'what is fed through it is fed in a short, or said to be held back': [[between, { passes: () => [] }]],
  'behind what it passes on things are live': [
    [between, { passes: () => [], charge: () => null, intoShort: () => [{ ...short, by: 'input' }] }],
  ],
  'what gives by itself is live while it is hooked up': [[source, { hookUp: () => ({ turn: 'gives', live: 0 }) }]],
  'it gives no more than it takes': [
    passing({ efficiency: 1.02 }),
    passing({ efficiency: [{ efficiency: 0.9 }, { efficiency: 90 }] }),
    passing({ efficiency: 0 }),
    passing({ takes: 'current', relation: 'any' }),
  ],
  'what it burns is none below zero': [passing({ idleW: -1 }), passing({ dropV: -0.5 })],
  'it passes something, from one terminal to another': [passing({ mostA: 0 })],
  'what takes, takes': [
    [load, { sink: () => ({ at: 'x', law: 'current', value: -1 }) }],
    [load, { sink: () => ({ at: 'x', law: 'ohm', value: 0 }) }],
    [between, { standing: () => [{ at: 'x.in', law: 'power', value: -0.2 }] }],
  ],
  'what charges has its power from somewhere': [[between, { transfers: undefined }]],
  'what changes power by switching may make noise': [
    [between, { noise: null }],
    [load, { switching: () => ({ hz: 5e4, what: 'stage' }) }],
  ],
  'the lowest voltage is under the highest': [
    [load, { needs: () => needsBackwards }],
    [source, { windows: () => [nominalBeyond] }],
  ],
  'a limit lets something pass, for a moment no less than for good': [
    limited({ peakA: 10 }),
    limited({ continuousA: 0 }),
  ],
  'a charge is held no higher than it ends': [[between, { charge: () => held }]],
}
const EACH = Object.entries(MISTAKES).flatMap(([rule, all]) =>
  all.map((mistake, n) => [rule, n + 1, ...mistake] as const),
)

describe('a kind with one mistake in it', () => {
  it.each(Object.entries({ source, between, load }))('has none yet: a %s that is sound breaks no rule', (_, sound) => {
    expect(broken(sound, {})).toEqual([])
  })
  it.each(EACH)('is told: %s (%i)', (rule, _, sound, change) => {
    expect(broken(sound, change).map(told => told.slice(0, told.lastIndexOf(':')))).toEqual([rule])
  })
  it('breaks each of the rules', () => expect(Object.keys(MISTAKES).sort()).toEqual([...PHYSICS].sort()))
})
