import { z } from 'zod'
import { battery, batterySchema } from './battery'
import { block, blockSchema } from './block'
import { joint, jointSchema } from './joint'
import { load, loadSchema } from './load'
import { radio, radioSchema } from './radio'
import { supply, supplySchema } from './supply'
import type { PartKind } from './kind'

/** The one list of kinds: a new kind is its file and a line in each of these two. */
export const partSchema = z.discriminatedUnion('kind', [batterySchema, supplySchema, blockSchema, jointSchema, radioSchema, loadSchema])
const kinds = [battery, supply, block, joint, radio, load]

export type Part = z.infer<typeof partSchema>
export type KindName = Part['kind']
export const KINDS = new Map(kinds.map(k => [k.kind as string, k as unknown as PartKind<Part>]))

/** What the program knows of a part's kind. */
export function kindOf(part: Part): PartKind<Part> {
  return KINDS.get(part.kind)!
}
