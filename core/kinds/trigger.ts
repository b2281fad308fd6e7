import { z } from 'zod'
import { asGiven, figure } from '../units/number'
import { ampsAboveZero, commonFields, connectorId, id, voltsAboveZero } from './fields'
import type { PartKind } from './kind'

export const triggerSchema = z.strictObject({
  id,
  kind: z.literal('trigger'),
  requestV: voltsAboveZero.describe('the voltage it asks for'),
  maxA: ampsAboveZero,
  in: connectorId.optional(),
  out: connectorId.optional(),
  ...commonFields,
})
export type Trigger = z.infer<typeof triggerSchema>

const row = (requestV: number) => ({
  kind: 'trigger' as const,
  name: `${asGiven(requestV)} V trigger`,
  requestV,
  maxA: 3,
  in: 'usb-c',
  out: 'barrel-5521',
  massG: 15,
})

export const trigger: PartKind<Trigger> = {
  kind: 'trigger',
  label: 'USB trigger',
  role: 'between',
  schema: triggerSchema,
  entry: part => `${part.id}.in`,
  terminals: part => [
    { id: `${part.id}.in`, connector: part.in },
    { id: `${part.id}.out`, connector: part.out, ratedA: part.maxA },
  ],
  links: part => [{ a: `${part.id}.in`, b: `${part.id}.out`, ohm: 0 }],
  passes: () => [],
  intoShort: () => [],
  windows: () => [],
  limits: () => [],
  says: { box: () => [], line: part => `asks ${figure(part.requestV)} V` },
  noise: { odds: 0.7 },
  hookUp: () => ({ turn: 'between', live: 0 }),
  cautions: () => [],
  catalogue: [9, 12, 15, 20].map(v => ({
    id: `trigger-${v}`,
    label: `USB trigger, asks for ${asGiven(v)} V`,
    part: row(v),
    source: 'USB power delivery, typical of the class',
  })),
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    { path: 'requestV', label: 'Asks for', quantity: 'voltage' },
    { path: 'maxA', label: 'Current, most', quantity: 'current' },
    { path: 'in', label: 'In', quantity: 'connector' },
    { path: 'out', label: 'Out', quantity: 'connector' },
  ],
  between: ['in', 'out'],
}
