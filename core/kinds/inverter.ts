import { z } from 'zod'
import { efficiencyAt } from './charging'
import { commonFields, connectorId, efficiency, hertz, id, inputWindow, noise, watts, words } from './fields'
import type { PartKind } from './kind'

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

/** All that hangs on its AC side, W. */
export function acWatts(inverter: Inverter): number {
  return (inverter.acLoads ?? []).reduce((sum, l) => sum + l.watts, 0)
}

/** Most its AC side takes for a moment: the largest inrush with everything else running, W. */
export function acSurgeW(inverter: Inverter): number {
  const all = acWatts(inverter)
  return Math.max(all, ...(inverter.acLoads ?? []).map(l => all - l.watts + Math.max(l.surgeW ?? l.watts, l.watts)))
}

const row = (ratedW: number, idleW: number, massG: number) => ({
  kind: 'inverter' as const,
  name: `Inverter ${ratedW} W`,
  input: { minV: 10.5, maxV: 15.5 },
  ratedW,
  surgeW: 2 * ratedW,
  efficiency: 0.88,
  idleW,
  switchingHz: 50e3,
  in: 'ring-m8',
  massG,
})

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
  window: part => ({ at: part.id, window: part.input }),
  sink: (part, active) => {
    const outW = active ? acWatts(part) : 0
    return {
      at: part.id,
      law: 'power',
      value: (part.idleW ?? 0) + outW / efficiencyAt(part.efficiency ?? INVERTER_EFFICIENCY, { amps: 0, watts: outW }),
    }
  },
  switching: part => ({ hz: part.switchingHz, what: 'its high-frequency stage' }),
  catalogue: [
    { id: 'inverter-300', label: 'Inverter 300 W', part: row(300, 6, 1200), source: 'typical of the class' },
    { id: 'inverter-600', label: 'Inverter 600 W', part: row(600, 9, 2300), source: 'typical of the class' },
    { id: 'inverter-1200', label: 'Inverter 1200 W', part: row(1200, 14, 4200), source: 'typical of the class' },
  ],
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    { path: 'input.minV', label: 'Input, least', quantity: 'voltage' },
    { path: 'input.maxV', label: 'Input, most', quantity: 'voltage' },
    { path: 'ratedW', label: 'Rated power', quantity: 'power' },
    { path: 'surgeW', label: 'For a moment', quantity: 'power' },
    { path: 'efficiency', label: 'Efficiency', quantity: 'fraction', when: part => !Array.isArray(part.efficiency) },
    { path: 'idleW', label: 'Takes idle', quantity: 'power' },
    { path: 'switchingHz', label: 'Switching frequency', quantity: 'frequency' },
    { path: 'in', label: 'In', quantity: 'connector' },
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
      ],
    },
  ],
}
