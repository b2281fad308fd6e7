import { z } from 'zod'
import { connector } from '../catalog/connectors'
import { ADAPTER_COST } from '../catalog/prices'
import { adapterKey } from '../catalog/stockKeys'
import { ampsAboveZero, commonFields, connectorId, id, ohms } from './fields'
import { SILICON_1A } from './inline'
import type { PartKind } from './kind'

export const adapterSchema = z.strictObject({
  id,
  kind: z.literal('adapter'),
  a: connectorId,
  b: connectorId,
  ohm: ohms.optional().describe('its own wire, both poles, beyond the contacts of what is plugged into it'),
  ratedA: ampsAboveZero.optional(),
  dropper: z
    .strictObject({ count: z.int().min(1).max(8).optional(), ratedA: ampsAboveZero.optional() })
    .optional()
    .describe('a diode inside it, passing from a to b'),
  labelled: z.boolean().optional().describe('it says that it holds a diode'),
  ...commonFields,
})
export type Adapter = z.infer<typeof adapterSchema>

export const adapter: PartKind<Adapter> = {
  kind: 'adapter',
  label: 'adapter',
  role: 'between',
  schema: adapterSchema,
  entry: part => `${part.id}.a`,
  terminals: part => [
    { id: `${part.id}.a`, connector: part.a, ratedA: part.ratedA },
    { id: `${part.id}.b`, connector: part.b, ratedA: part.ratedA },
  ],
  links: part => {
    const { dropper } = part
    const scale = dropper?.ratedA ?? 1
    return [
      {
        a: `${part.id}.a`,
        b: `${part.id}.b`,
        ohm: part.ohm ?? 0.002,
        ...(dropper && {
          diode: {
            saturationA: SILICON_1A.saturationA * scale,
            emission: SILICON_1A.emission,
            seriesOhm: SILICON_1A.seriesOhm / scale,
            count: dropper.count ?? 1,
          },
        }),
      },
    ]
  },
  passes: () => [],
  intoShort: () => [],
  windows: () => [],
  limits: () => [],
  says: { box: () => [], line: part => (part.dropper ? 'holds a diode' : '') },
  stock: part => ({
    key: adapterKey(part.a, part.b),
    what: `adapter ${connector(part.a).label} to ${connector(part.b).label}`,
    cost: ADAPTER_COST,
  }),
  noise: null,
  hookUp: () => ({ turn: 'between', live: 0 }),
  cautions: () => [],
  catalogue: [
    {
      id: 'adapter-stack-barrel',
      label: 'Adapter, stacking 30 A to barrel 5.5/2.1',
      part: { kind: 'adapter', name: 'Adapter', a: 'stack-30', b: 'barrel-5521', ohm: 0.005, ratedA: 5, massG: 15 },
      source: 'typical of the class',
    },
    {
      id: 'adapter-diode',
      label: 'Adapter with a dropper diode, barrel 5.5/2.1',
      part: {
        kind: 'adapter',
        name: 'Diode adapter',
        a: 'barrel-5521',
        b: 'barrel-5521',
        ohm: 0.005,
        ratedA: 3,
        dropper: { count: 1, ratedA: 3 },
        labelled: true,
        massG: 15,
      },
      source: 'typical of the class',
    },
    {
      id: 'adapter-pack',
      label: 'Adapter, pack plug to stacking 45 A',
      part: { kind: 'adapter', name: 'Adapter', a: 'pack-t', b: 'stack-45', ohm: 0.002, ratedA: 45, massG: 30 },
      source: 'typical of the class',
    },
  ],
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    { path: 'a', label: 'Connector a', quantity: 'connector' },
    { path: 'b', label: 'Connector b', quantity: 'connector' },
    { path: 'ohm', label: 'Own resistance', quantity: 'resistance' },
    { path: 'ratedA', label: 'Rated current', quantity: 'current' },
    { path: 'dropper.count', label: 'Diodes in it', quantity: 'count', more: true },
    { path: 'dropper.ratedA', label: 'Diode rated', quantity: 'current', more: true },
    { path: 'labelled', label: 'Labelled: holds a diode', quantity: 'yes', when: part => part.dropper !== undefined },
  ],
  between: ['a', 'b'],
}
