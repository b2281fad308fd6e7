import { formOf } from '../../core/kinds/formOf'
import { KINDS, type Part } from '../../core/kinds/index'
import { ALONE, type FormField, type FormList, type PartKind } from '../../core/kinds/kind'
import { tried } from './someOf'

/** What every kind says of each part of its catalogue, member by member: whole answers, as in `recorded.ts`. */

/** Arguments that members are asked with beside the part. */
const STATES = ['full', 'nominal', 'low', 'charging', 'bulk', 'engine-on', 'engine-off'] as const
const named = (id: string) => id.toUpperCase()

/** A part as the catalogue has it, and with what it may say beside. */
const variantsOf = (kind: PartKind<never>): Part[] =>
  kind.catalogue.flatMap((row, i) => {
    const part = { ...(row.part as object), id: 'x' } as unknown as Part
    return i ? [part] : [part, { ...part, ...BESIDE } as unknown as Part]
  })

/** Fields that some kinds have and others do not; a kind that does not know one does not look at it. */
const BESIDE = {
  name: undefined,
  internalOhm: 0.02,
  efficiency: [
    { outA: 2, outW: 20, efficiency: 0.8 },
    { outA: 10, outW: 200, efficiency: 0.9 },
  ],
  adjustable: { minV: 11, maxV: 15 },
  feeds: ['a', 'b'],
  fedBy: 'a',
  follows: 'a',
  fuelHours: 4,
  closed: false,
  charged: 'elsewhere',
  bms: { continuousA: 20, peakA: 40, maxChargeA: 10 },
  members: [
    { string: 1, restedV: 13, ageYears: 1 },
    { string: 2, restedV: 12.9, ageYears: 3 },
  ],
  lockOut: true,
  stopV: 11.5,
  massG: 100,
  figures: { internalOhm: { from: 'guess' } },
  lowVoltageCutV: 11.4,
  loadTimerH: 6,
  chargeA: 3,
  transferV: 12.5,
  gapMs: 40,
  underV: 11,
  overV: 15,
  internalBattery: { capacityAh: 2, chargesAboveV: 12 },
  grounded: true,
  control: 'thermostat',
  idleW: 4,
  switchingHz: 90000,
} as const

const lineOf =
  (part: Part) =>
  ({ path, label, quantity, choices, when, more, must, within }: FormField) => ({
    path,
    label,
    quantity,
    choices,
    more,
    must,
    when: when && tried(() => when(part as never)),
    within: within && [within.path, tried(() => within.fresh(3))],
  })

const listOf = (part: Part) => (list: FormList) => ({
  ...list,
  fields: list.fields.map(lineOf(part)),
  fresh: tried(() => list.fresh(part as never)),
  keyed: list.keyed && tried(() => list.keyed!.choices(part as never)),
})

/** Members that are asked with the part alone, with a state, or with how cold it gets. */
const OF_PART = [
  'entry',
  'links',
  'passes',
  'opens',
  'mentions',
  'intoShort',
  'windows',
  'starter',
  'loadCut',
  'warns',
] as const
const OF_PART_TOO = ['settingFor', 'acInputW', 'switching', 'worksWithA', 'stock', 'cautions', 'sourceStates'] as const
const OF_LOAD = [
  'needs',
  'levels',
  'ownPack',
  'withIgnition',
  'autoOffA',
  'takesSun',
  'charge',
  'limits',
  'store',
] as const
const OF_STATE = ['sources', 'transfers', 'standing'] as const

function saysOf(kind: PartKind<never>, part: Part) {
  const ask = (name: string, ...more: unknown[]) => {
    const member = (kind as unknown as Record<string, unknown>)[name]
    return typeof member === 'function' ? tried(() => (member as (...a: unknown[]) => unknown)(part, ...more)) : member
  }
  const each = (names: readonly string[], ...more: unknown[]) =>
    Object.fromEntries(names.map(name => [name, ask(name, ...more)]))
  const form = formOf(part)
  return {
    terminals: [
      ask('terminals', []),
      ask('terminals', ['x', 'x.2', 'x.in', 'x.p1']),
      ask('nextTerminal', ['x', 'x.2']),
    ],
    ...each([...OF_PART, ...OF_PART_TOO]),
    ...each(OF_LOAD, ALONE),
    states: STATES.map(state => each(OF_STATE, state, ALONE)),
    sinks: [true, false].map(active => ask('sink', active)),
    transmits: [8, 11, 12.5, 13.8].map(volts => ask('transmitShare', volts)),
    cold: [-30, 0, 20].map(c => [ask('highestV', c), ask('hookUp', c)]),
    sized: [0.5, 3].map(factor => ask('sized', factor)),
    rests: [11, 13].map(volts => ask('restingAt', volts)),
    along: form.fields.map(({ path }) => ask('goesAlong', path, 12)),
    says: [tried(() => kind.says.box(part as never, named)), tried(() => kind.says.line(part as never))],
    form: { fields: form.fields.map(lineOf(part)), lists: form.lists.map(listOf(part)) },
  }
}

const plain = ({ label, role, entry: _entry, between, ports, noise, runsOn, stores, transmits }: PartKind<never>) => ({
  label,
  role,
  between,
  ports,
  noise,
  runsOn,
  stores,
  transmits,
})

export const RECORDED_KINDS: Record<string, () => unknown> = {
  kinds: () =>
    Object.fromEntries(
      [...KINDS].map(([id, kind]) => {
        const own = kind as unknown as PartKind<never>
        return [id, { ...plain(own), parts: variantsOf(own).map(part => saysOf(own, part)) }]
      }),
    ),
}
