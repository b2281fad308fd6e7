import { z } from 'zod'
import { CHEMISTRY_IDS } from '../catalog/chemistries'
import { CONNECTOR_IDS } from '../catalog/connectors'
import { FUSE_TYPE_IDS } from '../catalog/fuses'

/** The small schemas that every kind is made of. Units are in the field's name; limits are stated here once. */

export const id = z
  .string()
  .regex(/^[A-Za-z0-9_-]{1,40}$/)
  .meta({ right: 'letters, digits, - and _, at most 40' })
/** Something that can be read: not of spaces and control characters alone, and without the letter that is none. */
export const words = z
  .string()
  .max(200)
  .regex(/^(?![\s\S]*\0)(?:$|[\s\S]*[^\s\p{C}])/u)
  .meta({ right: 'words that can be read' })
export const volts = z.number().min(0).max(1000)
export const voltsAboveZero = z.number().min(0.001).max(1000)
export const amps = z.number().min(0).max(10000)
export const ampsAboveZero = z.number().gt(0).max(10000)
export const watts = z.number().min(0).max(100000)
export const ohms = z.number().min(0).max(1000)
export const ohmsAboveZero = z.number().gt(0).max(100000)
export const celsius = z.number().min(-90).max(200)
/** What insulation stands: the poorest plastic to the best of fluorine, °C. */
export const insulationC = z.number().min(40).max(300)
export const fraction = z.number().gt(0).max(1)
export const connectorId = z.enum(CONNECTOR_IDS as [string, ...string[]])
export const sex = z.enum(['plug', 'socket'])

/** What every part may also say. */
/** How long what stores energy lasts; unsaid: as is typical of its class. */
export const lifeFields = {
  cycleLife: z.int().min(1).max(100000).optional().describe('full cycles it lasts'),
  lifeYears: z.number().gt(0).max(60).optional().describe('years it lasts in gentle use'),
}

/** When a device's own lamp or display says something, and what: "green, two blinks". */
const sight = words.optional()
export const showsField = z
  .strictObject({
    on: sight.describe('fed, and nothing asked of it'),
    active: sight.describe('transmitting, or at work'),
    charging: sight,
    full: sight.describe('what it charges is full'),
    low: sight.describe('its battery is low'),
    fault: sight.describe('something is wrong'),
  })
  .optional()
  .describe('what its own lamps, icons or display show, as its manual says')

export const commonFields = {
  name: words.optional(),
  massG: z.number().min(0).max(1e7).optional(),
  sizeMm: z.array(z.number().gt(0).max(1e5)).length(3).optional(),
  cost: z.number().min(0).max(1e7).optional(),
  bought: words.optional(),
  zone: id.optional().describe('a place of site.zones with its own temperatures'),
  nearAntennaLead: z.boolean().optional().describe('lies beside an antenna lead'),
  grounded: z.boolean().optional().describe('its case or negative is bonded to the station ground'),
  shows: showsField,
  note: z.string().max(2000).optional(),
  figures: z
    .record(
      z.string().max(80),
      z.strictObject({
        from: z.enum(['manual', 'label', 'measured', 'guess']).optional(),
        limit: z.enum(['recommended', 'absolute']).optional(),
      }),
    )
    .optional()
    .describe(
      'for a field of this part, as internalOhm or supply.maxV: where its figure came from, and which kind of ' +
        'limit it is',
    ),
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
    idleOhm: ohmsAboveZero.optional(),
    activeOhm: ohmsAboveZero.optional(),
    idleW: watts.optional(),
    activeW: watts.optional(),
    idleA: amps.optional(),
    activeA: amps.optional(),
  }),
])

export type Draw = z.infer<typeof draw>
export type SupplyWindow = z.infer<typeof supplyWindow>

export const hertz = z.number().gt(0).max(1e9)

/** What is known of a device's noise. */
export const noise = z.strictObject({
  quietUpToA: amps.optional().describe('tested quiet up to this current'),
  bands: z.array(words).max(40).optional().describe('bands it was heard on, as 30 m'),
  note: words.optional(),
})

/** Charging voltages by chemistry, for the whole battery, V. */
export const chargeProfiles = z.partialRecord(
  z.enum(CHEMISTRY_IDS as [string, ...string[]]),
  z.strictObject({ absorptionV: voltsAboveZero, floatV: voltsAboveZero.nullable().optional() }),
)
export type ChargeProfiles = z.infer<typeof chargeProfiles>

/** Input window of a converter or inverter, V. */
export const inputWindow = z.strictObject({ minV: volts, nominalV: voltsAboveZero.optional(), maxV: voltsAboveZero })

/** Efficiency at full load, or by output: points of amps (converter) or watts (inverter). */
export const efficiency = z.union([
  fraction,
  z
    .array(z.strictObject({ outA: amps.optional(), outW: watts.optional(), efficiency: fraction }))
    .min(1)
    .max(50),
])
export type Efficiency = z.infer<typeof efficiency>
