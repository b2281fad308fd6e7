import { CONNECTORS } from '../../core/catalog/connectors'
import { FUSE_TYPE_IDS } from '../../core/catalog/fuses'
import { SCHOOLS } from '../../core/catalog/schools'
import { counterpart } from '../../core/edit/add'
import { KINDS, type Part } from '../../core/kinds/index'
import { readPlan } from '../../core/plan/faults'
import type { Plan } from '../../core/plan/schema'

/**
 * Stations that nobody would plan, and some that somebody might: any kinds of parts, figures off by a factor, leads
 * of any
 * thickness between any terminals, fuses of any size anywhere.
 */

export interface Dice {
  /** 0 … 1 */
  roll: () => number
  chance: (share: number) => boolean
  of: <T>(list: readonly T[]) => T
  /** Between two, evenly in their logarithm. */
  between: (low: number, high: number) => number
}

/** Repeatable: the same seed rolls the same. */
export function dice(seed: number): Dice {
  let state = (seed * 2654435761) >>> 0
  const roll = () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
  return {
    roll,
    chance: share => roll() < share,
    of: list => list[Math.floor(roll() * list.length)]!,
    between: (low, high) => Number((low * (high / low) ** roll()).toPrecision(3)),
  }
}

type Loose = Record<string, unknown>

/** A figure in so many is off by up to a factor of three. */
const OFF_SHARE = 0.12

function shaken(d: Dice, value: unknown, key = ''): unknown {
  if (Array.isArray(value)) return value.map(v => shaken(d, v))
  if (typeof value === 'object' && value !== null)
    return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, shaken(d, v, k)]))
  const whole = ['seriesCells', 'count', 'turns', 'cores', 'stages', 'string'].includes(key)
  if (typeof value !== 'number' || whole || !d.chance(OFF_SHARE)) return value
  return Number((value * d.between(0.33, 3)).toPrecision(3))
}

/** What a part may say beside its catalogue's figures. */
const SAYS: Record<string, (d: Dice) => Loose> = {
  battery: d => ({
    ...(d.chance(0.3) && { charged: d.of(['in-place', 'elsewhere']) }),
    ...(d.chance(0.3) && {
      bms: { continuousA: d.between(5, 200), peakA: d.between(20, 400), maxChargeA: d.between(2, 100) },
    }),
    ...(d.chance(0.3) && { lockOut: true }),
    ...(d.chance(0.2) && { stopV: d.between(10, 13) }),
    ...(d.chance(0.3) && {
      members: [1, 2].map(() => ({ string: d.of([1, 2]), restedV: d.between(12, 14), ageYears: d.of([1, 5]) })),
    }),
  }),
  vehicle: d => ({ ...(d.chance(0.3) && { fuse: { type: 'blade', ratedA: d.of([10, 15, 20]) } }) }),
  supply: d => ({ ...(d.chance(0.3) && { floating: d.chance(0.5), adjustable: { minV: 11, maxV: 15 } }) }),
  inverter: d => ({
    acLoads: [{ name: 'kettle', watts: d.between(20, 900), surgeW: d.between(20, 3000), powerFactor: d.of([0.6, 1]) }],
  }),
  gate: d => ({
    ...(d.chance(0.5) && { transferV: d.between(11, 15), gapMs: d.of([0, 5, 60]) }),
    ...(d.chance(0.5) && { chargeA: d.of([1, 4, 10]) }),
  }),
  monitor: d => ({
    ...(d.chance(0.6) && { underV: d.between(9, 14), overV: d.between(13, 17), shuntA: d.of([5, 50]) }),
  }),
  controller: d => ({ ...(d.chance(0.4) && { lowVoltageCutV: d.between(10, 13.5), loadTimerH: d.of([2, 8]) }) }),
  radio: d => ({
    ...(d.chance(0.2) && { internalBattery: { capacityAh: 2, chargesAboveV: d.between(10, 15) } }),
    ...(d.chance(0.3) && {
      powerAtVolts: [
        { volts: 10, powerW: 40 },
        { volts: 13.8, powerW: 100 },
      ],
    }),
    ...(d.chance(0.2) && { grounded: true }),
  }),
  load: d => ({ ...(d.chance(0.3) && { control: d.of(['thermostat', 'ignition']) }) }),
  converter: d => ({ ...(d.chance(0.3) && { isolated: true, adjustable: { minV: 5, maxV: 28 } }) }),
}

/**
 * The kinds that stations are rolled of, and of the catalogue of each its first rows. A kind or a row that came since
 * is not among them: it would roll every station anew, and with it all that is recorded of them. It goes through every
 * engine by itself, and is rolled where it is asked for.
 */
const ROLLED: Record<'source' | 'between' | 'load', Record<string, number>> = {
  source: { battery: 7, supply: 4, vehicle: 2, panel: 4, usbSource: 2, powerStation: 1 },
  between: {
    ...{ generator: 1, block: 3, joint: 2, adapter: 3, breaker: 4, monitor: 2, controller: 4, charger: 3 },
    ...{ converter: 8, trigger: 4, gate: 2 },
  },
  load: { radio: 5, load: 5, inverter: 3 },
}
const ROWS: Record<string, number> = { ...ROLLED.source, ...ROLLED.between, ...ROLLED.load }

/** The rows of a role of which stations are rolled, by their ids. */
export const rolledRows = (role: keyof typeof ROLLED): string[] =>
  Object.keys(ROLLED[role]).flatMap(kind =>
    KINDS.get(kind)!
      .catalogue.slice(0, ROWS[kind])
      .map(row => row.id),
  )

function part(d: Dice, kind: string, id: string): Loose {
  const row = d.of(KINDS.get(kind)!.catalogue.slice(0, ROWS[kind]))
  const says = SAYS[kind]?.(d) ?? {}
  const guess = d.chance(0.1) && { figures: { internalOhm: { from: 'guess' }, maxV: { limit: 'recommended' } } }
  // What hangs on an inverter is told above, and draws no dice twice.
  const { acLoads: _, ...own } = row.part as Loose
  return { ...(shaken(d, own) as Loose), ...says, ...guess, id }
}

const AWGS = [4, 6, 8, 10, 12, 14, 16, 18, 20, 22]
const RATED_A = [1, 3, 5, 7.5, 10, 15, 20, 25, 30, 40, 60, 100]

function item(d: Dice, id: string, lengthM: number): Loose {
  const at = { id, atM: Number((lengthM * d.roll()).toFixed(3)) }
  const legs = d.of(['positive', 'positive', 'positive', 'negative', 'both'])
  const kind = d.of(['fuse', 'fuse', 'fuse', 'fuse', 'breaker', 'switch', 'dropper', 'meter', 'choke'])
  switch (kind) {
    case 'fuse':
      return { ...at, kind, type: d.of(FUSE_TYPE_IDS), ratedA: d.of(RATED_A), legs }
    case 'breaker':
      return { ...at, kind, ratedA: d.of(RATED_A), closed: d.chance(0.8) }
    case 'switch':
      return { ...at, kind, closed: d.chance(0.8), ...(d.chance(0.5) && { ratedA: d.of(RATED_A) }) }
    case 'dropper':
      return { ...at, kind, count: d.of([1, 2]), ratedA: d.of([1, 3, 20]), stripe: d.of(['from', 'to']) }
    case 'meter':
      return { ...at, kind, ...(d.chance(0.5) && { ratedA: d.of(RATED_A) }) }
    default:
      return { ...at, kind: 'choke', turns: 4, cores: 2 }
  }
}

function leadBetween(d: Dice, id: string, from: Terminal, to: Terminal): Loose {
  const lengthM = d.between(0.1, 25)
  const end = (t: Terminal) => ({
    connector: t.connector && d.chance(0.8) ? counterpart(t.connector) : d.of(CONNECTORS).id,
    method: 'crimp',
    ...(d.chance(0.1) && { contact: d.of(['new', 'aged', 'oxidised']), contactOhm: d.between(0.0003, 0.05) }),
  })
  const insulationC = d.of([undefined, 70, 105, 200])
  const items = d.chance(0.65) ? d.of([1, 1, 2]) : 0
  return {
    id,
    from: from.id,
    to: to.id,
    lengthM,
    conductor: {
      ...(d.chance(0.8) ? { awg: d.of(AWGS) } : { mm2: d.of([1, 2.5, 6, 16]) }),
      ...(insulationC && { insulationC }),
    },
    ends: { from: end(from), to: end(to) },
    ...(items && { inline: Array.from({ length: items }, (_, i) => item(d, `${id}i${i}`, lengthM)) }),
    ...(d.chance(0.05) && { return: 'chassis' }),
    ...(d.chance(0.1) && { bundledConductors: d.of([4, 8]) }),
  }
}

interface Terminal {
  id: string
  connector?: string
}

const terminalsOf = (p: Loose, used: string[]): Terminal[] => KINDS.get(p.kind as string)!.terminals(p as Part, used)

function site(d: Dice): Loose {
  const low = d.of([-20, -5, 0, 10])
  return {
    ambientC: { low, typical: low + 15, high: low + d.of([20, 40, 60]) },
    ampacity: d.of(['open', 'enclosed']),
    fuseDistance: d.of(['strict', 'sheathed']),
    ...(d.chance(0.3) && { ground: d.of(['common', 'none']) }),
    ...(d.chance(0.5) && { bands: ['20 m', '40 m'] }),
    schools: Object.fromEntries(
      SCHOOLS.filter(s => s.id !== 'ampacity' && s.id !== 'fuseDistance' && d.chance(0.3)).map(s => [
        s.id,
        d.of(s.choices.map(c => c.id as string)),
      ]),
    ),
  }
}

/** A plan for a seed; null where the rolled figures make none that can be read. `kind`: one part that it has. */
export function randomPlan(seed: number, kind?: string): Plan | null {
  const d = dice(seed)
  const pick = (role: keyof typeof ROLLED, most: number) =>
    Array.from({ length: 1 + Math.floor(d.roll() * most) }, () => d.of(Object.keys(ROLLED[role])))
  const kinds = [
    ...pick('source', 2),
    ...(kind ? [kind] : []),
    ...pick('between', 3).filter(() => d.chance(0.7)),
    ...pick('load', 3),
  ]
  const parts = kinds.map((k, i) => part(d, k, `${k.slice(0, 3)}${i}`))
  const leads: Loose[] = []
  const used: string[] = []
  const land = (a: Terminal, b: Terminal) => {
    used.push(a.id, b.id)
    leads.push(leadBetween(d, `l${leads.length + 1}`, a, b))
  }
  parts.forEach((p, i) => {
    const own = terminalsOf(p, used)
    const others = parts.slice(0, i).flatMap(o => terminalsOf(o, used))
    if (own.length && others.length) land(d.of(others), d.of(own))
  })
  for (let extra = 0; extra < 3; extra++) {
    const all = parts.flatMap(p => terminalsOf(p, used))
    const [a, b] = [d.of(all), d.of(all)]
    if (all.length > 1 && d.chance(0.35) && a.id !== b.id) land(a, b)
  }
  const read = readPlan({ format: 'wireman-plan', version: 1, name: `random ${seed}`, site: site(d), parts, leads })
  return read.ok ? read.plan : null
}
