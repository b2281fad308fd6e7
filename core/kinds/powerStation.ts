import { z } from 'zod'
import { figure } from '../units/number'
import type { SourceState } from '../battery/emf'
import { lifeForm } from './commonForm'
import { amps, ampsAboveZero, commonFields, connectorId, id, lifeFields, ohms, voltsAboveZero } from './fields'
import type { PartKind, Source } from './kind'
import { grown } from './sized'
import { bankOf } from './store'

export const powerStationSchema = z.strictObject({
  id,
  kind: z.literal('powerStation'),
  energyWh: z.number().gt(0).max(100000).optional(),
  autoOffA: amps.optional().describe('goes to sleep below this'),
  ports: z
    .array(
      z.strictObject({
        id,
        mode: z.enum(['regulated', 'follows-battery']).describe('holds its volts, or gives what its battery has'),
        volts: voltsAboveZero.describe('regulated: what it holds; follows-battery: when full'),
        emptyV: voltsAboveZero.optional().describe('follows-battery: when nearly empty'),
        ratedA: ampsAboveZero,
        ohm: ohms.optional(),
        connector: connectorId.optional(),
      }),
    )
    .min(1)
    .max(20),
  ...lifeFields,
  ...commonFields,
})
export type PowerStation = z.infer<typeof powerStationSchema>

type Port = PowerStation['ports'][number]
function portVolts(port: Port, state: SourceState): number {
  if (port.mode === 'regulated') return port.volts
  const empty = port.emptyV ?? port.volts
  if (state === 'low' || state === 'bulk') return empty
  return state === 'nominal' ? (port.volts + empty) / 2 : port.volts
}

const sourcesOf = (part: PowerStation, volts: (port: Port) => number): Source[] =>
  part.ports.map(p => ({
    at: `${part.id}.${p.id}`,
    emfV: volts(p),
    ohm: p.ohm ?? 0.02,
    leastA: 0,
    mostA: p.ratedA,
  }))

/** A port that follows its battery, straight between its two figures. */
const voltsAtCharge = (port: Port, charge: number) =>
  port.mode === 'regulated' ? port.volts : (port.emptyV ?? port.volts) * (1 - charge) + port.volts * charge

export const powerStation: PartKind<PowerStation> = {
  kind: 'powerStation',
  label: 'power station',
  role: 'source',
  schema: powerStationSchema,
  entry: part => `${part.id}.${part.ports[0]!.id}`,
  terminals: part => part.ports.map(p => ({ id: `${part.id}.${p.id}`, connector: p.connector, ratedA: p.ratedA })),
  sourceStates: part => (part.ports.some(p => p.mode === 'follows-battery') ? ['full', 'nominal', 'low'] : ['nominal']),
  sources: (part, state) => sourcesOf(part, p => portVolts(p, state)),
  store: part =>
    part.energyWh === undefined
      ? null
      : bankOf(part.energyWh, charge => sourcesOf(part, p => voltsAtCharge(p, charge)), part),
  sized: (part, factor) => grown(part, ['energyWh'], factor),
  links: () => [],
  passes: () => [],
  ports: { field: 'ports', reserved: [], distributes: false },
  intoShort: part =>
    part.ports.map(p => ({
      at: `${part.id}.${p.id}`,
      by: 'itself',
      kind: 'limited',
      volts: p.volts,
      amps: p.ratedA,
      sure: true,
    })),
  windows: () => [],
  // Each of its ports has a limit of its own.
  limits: () => [],
  autoOffA: part => part.autoOffA,
  says: { box: part => [part.energyWh ? `${figure(part.energyWh)} Wh` : ''], line: () => '' },
  noise: { odds: 1 },
  hookUp: part => ({ turn: 'gives', live: 1, wakes: `Switch the ports of ${part.name ?? part.id} on.` }),
  cautions: () => [],
  catalogue: [
    {
      id: 'power-station-500',
      label: 'Power station 500 Wh',
      source: 'typical of the class',
      part: {
        kind: 'powerStation',
        name: 'Power station',
        energyWh: 500,
        autoOffA: 0.1,
        massG: 6500,
        ports: [
          { id: 'socket', mode: 'regulated', volts: 13.2, ratedA: 10, connector: 'accessory-12v' },
          { id: 'barrel', mode: 'regulated', volts: 13.2, ratedA: 5, connector: 'barrel-5521' },
        ],
      },
    },
  ],
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    { path: 'energyWh', label: 'Energy', quantity: 'energy' },
    { path: 'autoOffA', label: 'Goes to sleep below', quantity: 'current' },
    ...lifeForm,
  ],
  lists: [
    {
      path: 'ports',
      label: 'Ports',
      one: 'port',
      fresh: part => ({
        id: `p${((part.ports as unknown[] | undefined)?.length ?? 0) + 1}`,
        mode: 'regulated',
        volts: 13.2,
        ratedA: 10,
      }),
      fields: [
        { path: 'id', label: 'Name', quantity: 'text' },
        { path: 'mode', label: 'Its volts', quantity: 'choice', choices: ['regulated', 'follows-battery'], must: true },
        { path: 'volts', label: 'Volts (full)', quantity: 'voltage' },
        { path: 'emptyV', label: 'Volts nearly empty', quantity: 'voltage' },
        { path: 'ratedA', label: 'At most', quantity: 'current' },
        { path: 'ohm', label: 'Resistance', quantity: 'resistance' },
        { path: 'connector', label: 'Connector', quantity: 'connector' },
      ],
    },
  ],
}
