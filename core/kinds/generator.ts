import { z } from 'zod'
import { GENERATOR_CAUTION } from '../catalog/cautions'
import { figure } from '../units/number'
import { commonFields, id } from './fields'
import type { PartKind } from './kind'

export const generatorSchema = z.strictObject({
  id,
  kind: z.literal('generator'),
  ratedW: z.number().gt(0).max(100000),
  feeds: z.array(id).max(50).optional().describe('supplies and chargers that hang on it'),
  fuelHours: z.number().gt(0).max(1000).optional().describe('at a quarter of its load'),
  ...commonFields,
})
export type Generator = z.infer<typeof generatorSchema>

/** It has no DC terminals: it stands in the plan for what hangs on it. */
export const generator: PartKind<Generator> = {
  kind: 'generator',
  label: 'generator',
  role: 'between',
  schema: generatorSchema,
  terminals: () => [],
  links: () => [],
  passes: () => [],
  mentions: part => [{ field: 'feeds', ids: part.feeds ?? [] }],
  intoShort: () => [],
  windows: () => [],
  limits: () => [],
  says: {
    box: (part, named) => [
      `${figure(part.ratedW)} W${part.fuelHours ? ` · ${figure(part.fuelHours)} h a filling` : ''}`,
      part.feeds?.length ? `feeds ${part.feeds.map(named).join(', ')}` : '',
    ],
    line: () => '',
  },
  stands: () => 'alone',
  noise: { odds: 0.5 },
  hookUp: () => ({ turn: 'between', live: 0 }),
  cautions: () => [GENERATOR_CAUTION],
  catalogue: [
    {
      id: 'generator-1000',
      label: 'Generator 1 kW',
      part: { kind: 'generator', name: 'Generator', ratedW: 1000, fuelHours: 5 },
      source: 'typical of the class',
    },
  ],
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    { path: 'ratedW', label: 'Rated power', quantity: 'power' },
    { path: 'feeds', label: 'What hangs on it', quantity: 'parts' },
    { path: 'fuelHours', label: 'Hours a tank', quantity: 'count' },
  ],
}
