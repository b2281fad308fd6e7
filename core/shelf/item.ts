import { z } from 'zod'
import { CONNECTOR_IDS } from '../catalog/connectors'
import { FUSE_TYPE_IDS } from '../catalog/fuses'
import { id, words, insulationC } from '../kinds/fields'

/** What an operator owns. One line of the shelf, one row of its CSV. */

const connector = z.enum(CONNECTOR_IDS as [string, ...string[]])
const common = {
  id,
  name: words.optional(),
  cost: z.number().min(0).max(1e6).optional().describe('of one piece, or of one metre'),
  note: words.optional(),
  madeUp: z.boolean().optional().describe('came with the sample stations: nobody owns it'),
}
const count = z.number().min(0).max(1e6)

export const shelfItemSchema = z.discriminatedUnion('what', [
  z.strictObject({
    ...common,
    what: z.literal('conductor'),
    awg: z.union([z.int().min(-3).max(40), z.enum(['1/0', '2/0', '3/0', '4/0'])]).optional(),
    mm2: z.number().gt(0).max(1000).optional(),
    insulationC: insulationC.optional(),
    metres: z.number().min(0).max(1e5).describe('of single conductor; a pair counts twice'),
  }),
  z.strictObject({ ...common, what: z.literal('contact'), connector, count }),
  z.strictObject({
    ...common,
    what: z.literal('fuse'),
    type: z.enum(FUSE_TYPE_IDS as [string, ...string[]]),
    ratedA: z.number().gt(0).max(10000),
    count,
  }),
  z.strictObject({
    ...common,
    what: z.literal('adapter'),
    a: connector,
    b: connector,
    ratedA: z.number().gt(0).max(10000).optional(),
    count,
  }),
  z.strictObject({
    ...common,
    what: z.literal('pack'),
    chemistry: words,
    seriesCells: z.int().min(1).max(100),
    capacityAh: z.number().gt(0).max(1e5),
    count,
  }),
])
export type ShelfItem = z.infer<typeof shelfItemSchema>
export const shelfSchema = z.array(shelfItemSchema).max(2000)

/** What of a shelf counts for a plan: made-up things for made-up stations only. */
export const shelfFor = (plan: { madeUp?: boolean }, shelf: readonly ShelfItem[]): readonly ShelfItem[] =>
  plan.madeUp ? shelf : shelf.filter(i => !i.madeUp)

/** What the rest of the core asks of a shelf. */
export function owned(shelf: readonly ShelfItem[]) {
  return {
    adapters: shelf.filter((i): i is Extract<ShelfItem, { what: 'adapter' }> => i.what === 'adapter' && i.count >= 1),
    contacts: new Map(
      shelf.flatMap(i => (i.what === 'contact' && i.count >= 1 ? [[i.connector, i.count] as const] : [])),
    ),
    conductors: shelf.filter(
      (i): i is Extract<ShelfItem, { what: 'conductor' }> => i.what === 'conductor' && i.metres > 0,
    ),
  }
}
