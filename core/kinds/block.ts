import { z } from 'zod'
import { fuseOhm } from '../fuse/fuse'
import { FUSE_TYPE_CHOICES } from './commonForm'
import { ampsAboveZero, commonFields, connectorId, id, portFuse } from './fields'
import { totalLimit, type PartKind, type Terminal } from './kind'

export const blockSchema = z.strictObject({
  id,
  kind: z.literal('block'),
  ratedA: ampsAboveZero.optional().describe('total of all ports'),
  feed: connectorId.optional(),
  ports: z
    .array(
      z.strictObject({
        id,
        fuse: portFuse.optional(),
        connector: connectorId.optional(),
        ratedA: ampsAboveZero.optional(),
      }),
    )
    .min(1)
    .max(100),
  ...commonFields,
})
export type Block = z.infer<typeof blockSchema>

const CLASS = 'typical of the class'
const blade = (ratedA: number) => ({ type: 'blade', ratedA })
const fused = (connector: string, feed: string, ratedA: number, fuses: number[], massG: number) => ({
  kind: 'block' as const,
  name: 'Fused block',
  ratedA,
  feed,
  ports: fuses.map((a, i) => ({ id: `p${i + 1}`, fuse: blade(a), connector })),
  massG,
})

/** What a port's fuse begins as where it had none. */
const portFuseHolder = { path: 'fuse', fresh: (ratedA: unknown) => ({ type: 'blade', ratedA }) }

export const block: PartKind<Block> = {
  kind: 'block',
  label: 'distribution block',
  role: 'between',
  schema: blockSchema,
  entry: part => `${part.id}.feed`,
  terminals: part => [
    { id: `${part.id}.feed`, connector: part.feed, fields: { connector: 'feed' } },
    ...part.ports.map((p, i): Terminal => ({
      id: `${part.id}.${p.id}`,
      connector: p.connector,
      ratedA: p.ratedA,
      fields: { connector: `ports.${i}.connector`, opener: `ports.${i}.fuse` },
      ...(p.fuse && { opener: { kind: 'fuse', ...p.fuse } }),
    })),
  ],
  links: part =>
    part.ports.map(p => ({ a: `${part.id}.feed`, b: `${part.id}.${p.id}`, ohm: p.fuse ? fuseOhm(p.fuse) : 0 })),
  passes: () => [],
  ports: { field: 'ports', reserved: ['feed'], distributes: true },
  intoShort: () => [],
  windows: () => [],
  limits: part => totalLimit(part.ratedA),
  says: { box: () => [], line: () => '' },
  noise: null,
  hookUp: () => ({ turn: 'between', live: 0 }),
  cautions: () => [],
  catalogue: [
    {
      id: 'block-stack-5',
      label: 'Fused block, 5 stacking ports, 40 A',
      part: fused('stack-45', 'stack-45', 40, [30, 15, 10, 5, 3], 220),
      source: CLASS,
    },
    {
      id: 'block-stack-8',
      label: 'Fused block, 8 stacking ports, 40 A',
      part: fused('stack-45', 'stack-45', 40, [30, 20, 15, 10, 7.5, 5, 5, 3], 300),
      source: CLASS,
    },
    {
      id: 'block-screw-6',
      label: 'Fused block, 6 screw ports, 100 A',
      part: fused('screw', 'ring-m5', 100, [30, 20, 15, 10, 5, 3], 260),
      source: CLASS,
    },
  ],
  lists: [
    {
      path: 'ports',
      label: 'Ports',
      one: 'port',
      fresh: () => ({}),
      fields: [
        { path: 'id', label: 'Name', quantity: 'text' },
        { path: 'fuse.ratedA', label: 'Fuse', quantity: 'current', within: portFuseHolder },
        { path: 'fuse.type', label: 'Class', quantity: 'choice', choices: FUSE_TYPE_CHOICES },
        { path: 'connector', label: 'Connector', quantity: 'connector' },
        { path: 'ratedA', label: 'Rated', quantity: 'current', more: true },
        { path: 'fuse.ohm', label: 'Fuse resistance', quantity: 'resistance', more: true },
      ],
    },
  ],
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    { path: 'ratedA', label: 'Rated total', quantity: 'current' },
    { path: 'feed', label: 'Feed connector', quantity: 'connector' },
  ],
}
