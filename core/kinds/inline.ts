import { z } from 'zod'
import { FUSE_TYPE_IDS } from '../catalog/fuses'
import { fuseOhm } from '../fuse/fuse'
import { ampsAboveZero, id, ohms, voltsAboveZero, words } from './fields'
import { asGiven } from '../units/number'

/** What is wired into a lead, at a distance from its `from` end. */

const place = {
  id,
  atM: z.number().min(0).max(1000).optional().describe("from the lead's from end; unsaid: at that end"),
  note: words.optional(),
}
/** What a breaker says that it can break, beside its class. */
export const breakerFields = {
  ratedV: voltsAboveZero.optional().describe('highest direct voltage it may break; unsaid: 32 V'),
  breakingA: ampsAboveZero.optional().describe('largest current it can break; unsaid: 1 kA'),
}
const legs = z.enum(['positive', 'negative', 'both'])

export const fuseSchema = z.strictObject({
  ...place,
  kind: z.literal('fuse'),
  type: z
    .enum(FUSE_TYPE_IDS as [string, ...string[]])
    .optional()
    .describe('unsaid: blade'),
  ratedA: ampsAboveZero,
  legs: legs.optional().describe('unsaid: positive'),
  ohm: ohms.optional(),
})

export const breakerSchema = z.strictObject({
  ...place,
  kind: z.literal('breaker'),
  ratedA: ampsAboveZero,
  legs: legs.optional(),
  ohm: ohms.optional(),
  closed: z.boolean().optional().describe('unsaid: closed'),
  ...breakerFields,
})

export const switchSchema = z.strictObject({
  ...place,
  kind: z.literal('switch'),
  by: z.literal('engine').optional().describe('a relay: closed while the engine runs, open else'),
  ratedA: ampsAboveZero.optional(),
  ohm: ohms.optional(),
  closed: z.boolean().optional().describe('unsaid: closed'),
})

export const dropperSchema = z.strictObject({
  ...place,
  kind: z.literal('dropper'),
  count: z.int().min(1).max(8).optional().describe('diodes in series; unsaid: 1'),
  ratedA: ampsAboveZero.optional().describe('unsaid: 1 A'),
  labelled: z.boolean().optional().describe('the lead says that it holds a diode'),
  stripe: z
    .enum(['from', 'to'])
    .optional()
    .describe('end of the lead the stripe points to: toward the load; unsaid: to'),
  saturationA: z.number().gt(0).max(1).optional(),
  emission: z.number().gt(0.5).max(5).optional(),
  seriesOhm: ohms.optional(),
})

export const meterSchema = z.strictObject({
  ...place,
  kind: z.literal('meter'),
  ohm: ohms.optional().describe('its shunt; unsaid: 1 mΩ'),
  ratedA: ampsAboveZero.optional(),
})

export const chokeSchema = z.strictObject({
  ...place,
  kind: z.literal('choke'),
  turns: z.int().min(1).max(40),
  cores: z.int().min(1).max(20),
  material: words.optional().describe('as MnZn, initial permeability 1500'),
})

/** Shunt of a watt meter in a lead (typical of the class), Ω. */
export const METER_OHM = 0.001

export const inlineSchema = z.discriminatedUnion('kind', [
  fuseSchema,
  breakerSchema,
  switchSchema,
  dropperSchema,
  meterSchema,
  chokeSchema,
])
export type Inline = z.infer<typeof inlineSchema>
export type Dropper = z.infer<typeof dropperSchema>

/** A 1 A silicon rectifier: saturation current, emission coefficient, series resistance (typical of the class). */
export const SILICON_1A = { saturationA: 7.03e-9, emission: 1.81, seriesOhm: 0.034 }

/** The exponential law of one diode of a dropper. A larger one is taken as that many 1 A junctions side by side. */
export function diodeLaw(dropper: Dropper): { saturationA: number; emission: number; seriesOhm: number } {
  const scale = dropper.ratedA ?? 1
  return {
    saturationA: dropper.saturationA ?? SILICON_1A.saturationA * scale,
    emission: dropper.emission ?? SILICON_1A.emission,
    seriesOhm: dropper.seriesOhm ?? SILICON_1A.seriesOhm / scale,
  }
}

/** Resistance of an item in the loop, both legs counted, Ω; of a dropper that of its diodes' silicon alone. */
export function inlineLoopOhm(item: Inline): number {
  switch (item.kind) {
    case 'fuse':
    case 'breaker':
      return fuseOhm(item) * (item.legs === 'both' ? 2 : 1)
    case 'switch':
      return item.ohm ?? 0
    case 'meter':
      return item.ohm ?? METER_OHM
    case 'choke':
      return 0
    case 'dropper':
      return diodeLaw(item).seriesOhm * (item.count ?? 1)
  }
}

/** What to call an item: "fuse 20 A", "watt meter". */
export function inlineWords(item: Inline): string {
  switch (item.kind) {
    case 'fuse':
    case 'breaker':
      return `${item.kind} ${asGiven(item.ratedA)} A`
    case 'switch':
      return item.by ? 'relay' : 'switch'
    case 'meter':
      return 'watt meter'
    case 'dropper':
      return `diode${(item.count ?? 1) > 1 ? ` × ${item.count}` : ''}`
    default:
      return item.kind
  }
}
