import { z } from 'zod'
import { ampsAboveZero, commonFields, connectorId, id, ohms } from './fields'
import { totalLimit, type PartKind } from './kind'

export const jointSchema = z.strictObject({
  id,
  kind: z.literal('joint'),
  style: z.enum(['pair', 'splice', 'harness', 'busbar']).optional(),
  connector: connectorId
    .optional()
    .describe('what its ways take; the contacts counted are those of the leads that land on it'),
  contactOhm: ohms
    .optional()
    .describe('its own resistance per pole from one way to another, beyond the contacts of the leads'),
  ratedA: ampsAboveZero.optional(),
  ...commonFields,
})
export type Joint = z.infer<typeof jointSchema>

const LETTERS = 'abcdefghijklmnopqrstuvwxyz'.split('')

/** Ways are named by letters and grow as leads land on them; there are always two. */
export const isWay = (name: string) => /^[a-z]$/.test(name)

function ways(part: Joint, used: readonly string[]): string[] {
  const landed = used
    .filter(t => t.startsWith(`${part.id}.`))
    .map(t => t.slice(part.id.length + 1))
    .filter(isWay)
  return [...new Set(['a', 'b', ...landed])].sort()
}

export const joint: PartKind<Joint> = {
  kind: 'joint',
  label: 'joint',
  role: 'between',
  schema: jointSchema,
  entry: part => `${part.id}.a`,
  terminals: (part, used) =>
    ways(part, used).map(w => ({
      id: `${part.id}.${w}`,
      connector: part.connector,
      fields: { connector: 'connector' },
    })),
  // A star round an inner node: half of the resistance of a passage, both poles, in each arm.
  links: (part, used) =>
    ways(part, used).map(w => ({ a: `${part.id}`, b: `${part.id}.${w}`, ohm: part.contactOhm ?? 0 })),
  nextTerminal: (part, used) => {
    const next = LETTERS.find(w => !used.includes(`${part.id}.${w}`))
    return next === undefined ? null : `${part.id}.${next}`
  },
  passes: () => [],
  intoShort: () => [],
  windows: () => [],
  limits: part => totalLimit(part.ratedA),
  says: { box: () => [], line: () => '' },
  noise: null,
  hookUp: () => ({ turn: 'between', live: 0 }),
  cautions: () => [],
  catalogue: [
    {
      id: 'joint-y',
      label: 'Y-harness, stacking 45 A',
      part: { kind: 'joint', name: 'Y-harness', style: 'harness', connector: 'stack-45' },
      source: 'typical of the class',
    },
    {
      id: 'joint-busbar',
      label: 'Busbar, M6 studs',
      part: { kind: 'joint', name: 'Busbar', style: 'busbar', connector: 'ring-m6', ratedA: 150 },
      source: 'typical of the class',
    },
  ],
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    { path: 'style', label: 'Style', quantity: 'choice', choices: ['pair', 'splice', 'harness', 'busbar'] },
    { path: 'connector', label: 'Connector', quantity: 'connector' },
    { path: 'contactOhm', label: 'Own resistance, a pole', quantity: 'resistance' },
    { path: 'ratedA', label: 'Rated current', quantity: 'current' },
  ],
  between: ['a', 'b'],
}
