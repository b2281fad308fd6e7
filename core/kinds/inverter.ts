import { z } from 'zod'
import { INVERTER_CAUTION } from '../catalog/cautions'
import { efficiencyList, hasOneEfficiency, noiseForm } from './commonForm'
import { efficiencyAt } from './charging'
import { commonFields, connectorId, efficiency, fraction, hertz, id, inputWindow, noise, watts, words } from './fields'
import { drawLine } from './draw'
import type { PartKind, Sink } from './kind'
import { asGiven } from '../units/number'

const wattsAboveZero = z.number().gt(0).max(100000)

export const inverterSchema = z.strictObject({
  id,
  kind: z.literal('inverter'),
  input: inputWindow,
  ratedW: wattsAboveZero,
  surgeW: wattsAboveZero.optional(),
  efficiency: efficiency.optional().describe('unsaid: 0.88'),
  idleW: watts.optional(),
  acLoads: z
    .array(
      z.strictObject({
        name: words,
        watts,
        surgeW: watts.optional(),
        powerFactor: fraction.optional().describe('unsaid: 1'),
        part: id.optional().describe('the charger or supply that hangs on it'),
      }),
    )
    .max(50)
    .optional(),
  switchingHz: hertz.optional(),
  noise: noise.optional(),
  follows: id.optional().describe('is on only with this part'),
  in: connectorId.optional(),
  ...commonFields,
})
export type Inverter = z.infer<typeof inverterSchema>

/** For want of its own figure (typical of the class). */
export const INVERTER_EFFICIENCY = 0.88

/** What hangs on an inverter of which its owner has not yet said it: all that it is rated for. */
export const allRated = (ratedW: number) => [{ name: 'All it is rated for', watts: ratedW }]

/** Whether nobody has said what hangs on it: the most of it may still be chosen. */
export const isLoadAssumed = ({ acLoads, ratedW }: Inverter): boolean =>
  acLoads?.length === 1 && acLoads[0]!.name === allRated(ratedW)[0]!.name

/** All that hangs on its AC side, W. */
export function acWatts(inverter: Inverter): number {
  return (inverter.acLoads ?? []).reduce((sum, l) => sum + l.watts, 0)
}

/** Apparent power of all that hangs on its AC side, VA: what its output stage has to carry. */
export function acVA(inverter: Inverter): number {
  return (inverter.acLoads ?? []).reduce((sum, l) => sum + l.watts / (l.powerFactor ?? 1), 0)
}

/** Most its AC side takes for a moment: the largest inrush with everything else running, W. */
export function acSurgeW(inverter: Inverter): number {
  const all = acWatts(inverter)
  return Math.max(all, ...(inverter.acLoads ?? []).map(l => all - l.watts + Math.max(l.surgeW ?? l.watts, l.watts)))
}

const row = (ratedW: number, idleW: number, massG: number) => ({
  kind: 'inverter' as const,
  name: `Inverter ${asGiven(ratedW)} W`,
  input: { minV: 10.5, maxV: 15.5 },
  ratedW,
  surgeW: 2 * ratedW,
  efficiency: 0.88,
  idleW,
  acLoads: allRated(ratedW),
  switchingHz: 50e3,
  in: 'ring-m8',
  massG,
})

/** Volts by which an inverter's watts become amps: a 12 V system under load. */
const INVERTER_V = 12

function inverterSink(part: Inverter, active: boolean): Sink {
  const outW = active ? acWatts(part) : 0
  const efficiency = efficiencyAt(part.efficiency ?? INVERTER_EFFICIENCY, { amps: 0, watts: outW })
  return { at: part.id, law: 'power', value: (part.idleW ?? 0) + outW / efficiency }
}

export const inverter: PartKind<Inverter> = {
  kind: 'inverter',
  label: 'inverter',
  role: 'load',
  schema: inverterSchema,
  entry: part => `${part.id}.in`,
  terminals: (part, used) => [
    { id: `${part.id}.in`, connector: part.in },
    ...(used.includes(part.id) ? [{ id: part.id, connector: part.in }] : []),
  ],
  links: part => [{ a: part.id, b: `${part.id}.in`, ohm: 0 }],
  sink: inverterSink,
  switching: part => ({ hz: part.switchingHz, what: 'high-frequency stage' }),
  passes: () => [],
  mentions: part => [
    ...(part.follows === undefined ? [] : [{ field: 'follows', ids: part.follows }]),
    ...(part.acLoads ?? []).flatMap((l, i) =>
      l.part === undefined ? [] : [{ field: `acLoads.${i}.part`, ids: l.part }],
    ),
  ],
  intoShort: () => [],
  windows: () => [],
  needs: part => ({ at: part.id, ...part.input, field: 'input' }),
  limits: () => [],
  transmits: false,
  says: { box: () => [], line: part => drawLine(inverterSink(part, true)) },
  noise: { odds: 3, hasMains: true },
  worksWithA: part => part.ratedW / INVERTER_V,
  hookUp: () => ({ turn: 'load', live: 0 }),
  cautions: () => [INVERTER_CAUTION],
  catalogue: [
    { id: 'inverter-300', label: 'Inverter 300 W', part: row(300, 6, 1200), source: 'typical of the class' },
    { id: 'inverter-600', label: 'Inverter 600 W', part: row(600, 9, 2300), source: 'typical of the class' },
    { id: 'inverter-1200', label: 'Inverter 1200 W', part: row(1200, 14, 4200), source: 'typical of the class' },
  ],
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    { path: 'input.minV', label: 'Input, least', quantity: 'voltage' },
    { path: 'input.maxV', label: 'Input, most', quantity: 'voltage' },
    { path: 'input.nominalV', label: 'Input, nominal', quantity: 'voltage', more: true },
    { path: 'ratedW', label: 'Rated power', quantity: 'power' },
    { path: 'surgeW', label: 'For a moment', quantity: 'power' },
    { path: 'efficiency', label: 'Efficiency', quantity: 'fraction', when: hasOneEfficiency },
    { path: 'idleW', label: 'Takes idle', quantity: 'power' },
    { path: 'switchingHz', label: 'Switching frequency', quantity: 'frequency' },
    { path: 'in', label: 'In', quantity: 'connector' },
    { path: 'follows', label: 'On only with', quantity: 'part', more: true },
    ...noiseForm,
  ],
  lists: [
    {
      path: 'acLoads',
      label: 'What hangs on it',
      one: 'AC load',
      fresh: () => ({ name: 'AC load', watts: 60 }),
      fields: [
        { path: 'name', label: 'Name', quantity: 'text' },
        { path: 'watts', label: 'Running', quantity: 'power' },
        { path: 'surgeW', label: 'Starting', quantity: 'power' },
        { path: 'powerFactor', label: 'Power factor', quantity: 'fraction' },
        { path: 'part', label: 'That is', quantity: 'part' },
      ],
    },
    efficiencyList('outW'),
  ],
}
