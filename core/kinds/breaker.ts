import { z } from 'zod'
import { asGiven, figure } from '../units/number'
import { fuseOhm } from '../fuse/fuse'
import { ampsAboveZero, commonFields, connectorId, id, ohms } from './fields'
import { breakerFields } from './inline'
import type { Opener, PartKind } from './kind'

export const breakerPartSchema = z.strictObject({
  id,
  kind: z.literal('breaker'),
  ratedA: ampsAboveZero,
  ohm: ohms.optional(),
  closed: z.boolean().optional().describe('unsaid: closed'),
  ...breakerFields,
  terminal: connectorId.optional().describe('of both its sides'),
  ...commonFields,
})
export type BreakerPart = z.infer<typeof breakerPartSchema>

const row = (ratedA: number) => ({
  kind: 'breaker' as const,
  name: `Breaker ${asGiven(ratedA)} A`,
  ratedA,
  terminal: 'ring-m6',
  massG: 130,
})

const openerOf = ({ ratedA, ohm, ratedV, breakingA }: BreakerPart): Opener => ({
  kind: 'breaker',
  type: 'thermal',
  ratedA,
  ...(ohm !== undefined && { ohm }),
  ...(ratedV !== undefined && { ratedV }),
  ...(breakingA !== undefined && { breakingA }),
})

/** A breaker with studs of its own, between two leads; one in the middle of a lead is an inline item. */
export const breakerPart: PartKind<BreakerPart> = {
  kind: 'breaker',
  label: 'breaker',
  role: 'between',
  schema: breakerPartSchema,
  entry: part => `${part.id}.a`,
  terminals: part => [
    { id: `${part.id}.a`, connector: part.terminal },
    { id: `${part.id}.b`, connector: part.terminal, fields: { opener: '' }, opener: openerOf(part) },
  ],
  links: part => (part.closed === false ? [] : [{ a: `${part.id}.a`, b: `${part.id}.b`, ohm: fuseOhm(part) }]),
  passes: () => [],
  opens: part => ({
    words: `${part.name ?? part.id} (${asGiven(part.ratedA)} A)`,
    ends: [`${part.id}.a`, `${part.id}.b`],
    closed: { ...part, closed: true },
  }),
  intoShort: () => [],
  windows: () => [],
  limits: () => [],
  says: { box: () => [], line: part => `${figure(part.ratedA)} A${part.closed === false ? ', off' : ''}` },
  noise: null,
  hookUp: () => ({ turn: 'between', live: 0 }),
  cautions: () => [],
  catalogue: [30, 50, 80, 100].map(a => ({
    id: `breaker-${a}`,
    label: `Breaker ${asGiven(a)} A, M6 studs`,
    part: row(a),
    source: 'typical of the class',
  })),
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    { path: 'ratedA', label: 'Rated', quantity: 'current' },
    { path: 'ratedV', label: 'Breaks up to, volts', quantity: 'voltage' },
    { path: 'breakingA', label: 'Breaks up to, amps', quantity: 'current' },
    { path: 'ohm', label: 'Resistance', quantity: 'resistance', more: true },
    { path: 'closed', label: 'On', quantity: 'yes' },
    { path: 'terminal', label: 'Terminals', quantity: 'connector' },
  ],
  between: ['a', 'b'],
}
