import { z } from 'zod'
import { CONNECTOR_IDS } from '../catalog/connectors'
import { FUSE_TYPE_IDS } from '../catalog/fuses'

/** The small schemas that every kind is made of. Units are in the field's name; limits are stated here once. */

export const id = z.string().regex(/^[A-Za-z0-9_-]{1,40}$/).meta({ right: 'letters, digits, - and _, at most 40' })
export const words = z.string().max(200)
export const volts = z.number().min(0).max(1000)
export const voltsAboveZero = z.number().gt(0).max(1000)
export const amps = z.number().min(0).max(10000)
export const ampsAboveZero = z.number().gt(0).max(10000)
export const watts = z.number().min(0).max(100000)
export const ohms = z.number().min(0).max(1000)
export const ohmsAboveZero = z.number().gt(0).max(100000)
export const celsius = z.number().min(-90).max(200)
export const fraction = z.number().gt(0).max(1)
export const connectorId = z.enum(CONNECTOR_IDS as [string, ...string[]])
export const sex = z.enum(['plug', 'socket'])

/** What every part may also say. */
export const commonFields = {
  name: words.optional(),
  massG: z.number().min(0).max(1e7).optional(),
  sizeMm: z.array(z.number().gt(0).max(1e5)).length(3).optional(),
  cost: z.number().min(0).max(1e7).optional(),
  bought: words.optional(),
  zone: id.optional().describe('a place of site.zones with its own temperatures'),
  note: z.string().max(2000).optional(),
  figures: z.record(z.string().max(80), z.strictObject({
    from: z.enum(['manual', 'label', 'measured', 'guess']).optional(),
    limit: z.enum(['recommended', 'absolute']).optional(),
  })).optional().describe('for a field of this part, as internalOhm or supply.maxV: where its figure came from, and which kind of limit it is'),
}

export const portFuse = z.strictObject({
  type: z.enum(FUSE_TYPE_IDS as [string, ...string[]]),
  ratedA: ampsAboveZero,
  ohm: ohms.optional(),
})

/** Supply window of a radio or load, V. */
export const supplyWindow = z.strictObject({
  minV: volts,
  nominalV: voltsAboveZero.optional(),
  maxV: voltsAboveZero,
})

/** What a radio or load takes, idle and active. Watts and amps of a resistive draw hold at the nominal voltage. */
export const draw = z.discriminatedUnion('model', [
  z.strictObject({ model: z.literal('constant-current'), idleA: amps, activeA: amps }),
  z.strictObject({ model: z.literal('constant-power'), idleW: watts, activeW: watts }),
  z.strictObject({
    model: z.literal('resistive'),
    idleOhm: ohmsAboveZero.optional(), activeOhm: ohmsAboveZero.optional(),
    idleW: watts.optional(), activeW: watts.optional(),
    idleA: amps.optional(), activeA: amps.optional(),
  }),
])

export type Draw = z.infer<typeof draw>
export type SupplyWindow = z.infer<typeof supplyWindow>
