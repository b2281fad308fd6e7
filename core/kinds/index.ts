import { z } from 'zod'
import { ALL } from './all'
import type { PartKind, Window } from './kind'

type SchemaOf<K> = K extends { schema: infer S } ? S : never
export type Part = z.infer<SchemaOf<(typeof ALL)[number]>>
export type KindName = Part['kind']
export type PartOf<K extends KindName> = Extract<Part, { kind: K }>

const schemas = ALL.map(kind => kind.schema) as unknown as [
  z.core.$ZodTypeDiscriminable,
  ...z.core.$ZodTypeDiscriminable[],
]
export const partSchema = z.discriminatedUnion('kind', schemas).meta({ id: 'part' }) as unknown as z.ZodType<Part>

export const KINDS = new Map(ALL.map(k => [k.kind as string, k as unknown as PartKind<Part>]))

/** What the program knows of a part's kind. */
export function kindOf(part: Part): PartKind<Part> {
  return KINDS.get(part.kind)!
}

/** Parts of one kind, for a rule whose subject that kind is. */
export function partsOf<K extends KindName>(parts: readonly Part[], kind: K): PartOf<K>[] {
  return parts.filter((p): p is PartOf<K> => p.kind === kind)
}

/** A part as one of a kind, null where it is another: for a rule whose subject that kind is. */
export function asKind<K extends KindName>(part: Part | undefined, kind: K): PartOf<K> | null {
  return part?.kind === kind ? (part as PartOf<K>) : null
}

/** Whether a part gives power to what is joined to it by itself. */
export function gives(part: Part): boolean {
  return kindOf(part).role === 'source'
}

/** Whether a part runs an engine: its states are those of the engine. */
export const hasEngine = (part: Part): boolean => kindOf(part).sourceStates?.(part).includes('engine-on') ?? false

/** A part that ends the path and takes power: it may be on only with another. */
export type LoadPart = Part & { follows?: string }

export function isLoad(part: Part): part is LoadPart {
  return kindOf(part).role === 'load'
}

/** What a load needs where it is fed, V. */
export function needs(load: LoadPart): Window {
  return kindOf(load).needs!(load)
}

/** Terminal at which a load takes its power. */
export function takesAt(load: Part): string {
  return kindOf(load).sink!(load, false).at
}
