import { z } from 'zod'
import { CONTACT_STATES } from '../connector/mate'
import { celsius, connectorId, fraction, id, insulationC, ohms, sex, words } from '../kinds/fields'
import { SCHOOLS, school, type SchoolId } from '../catalog/schools'
import { partSchema } from '../kinds/index'
import { inlineSchema } from '../kinds/inline'

/** The one definition of the plan's open format, `wireman-plan` version 1. Types and the JSON Schema come from it. */

export const FORMAT = 'wireman-plan'
export const VERSION = 1

/** Limits of a plan; beyond them it is refused in words. */
export const MOST_PARTS = 2000
export const MOST_LEADS = 4000

const temperatures = z.strictObject({ low: celsius, typical: celsius, high: celsius })

export const conductorSchema = z.strictObject({
  awg: z.union([z.int().min(-3).max(40), z.enum(['1/0', '2/0', '3/0', '4/0'])]).optional(),
  mm2: z.number().gt(0).max(1000).optional(),
  insulationC: insulationC.optional(),
  material: z.enum(['copper', 'cca']).optional(),
})
export type Conductor = z.infer<typeof conductorSchema>

const endSchema = z.strictObject({
  connector: connectorId,
  method: z.enum(['crimp', 'crimp+solder', 'solder', 'screw']).optional(),
  sex: sex.optional(),
  polarityMarked: z.boolean().optional().describe('metered and marked'),
  contact: z.enum(CONTACT_STATES).optional().describe('how this one looks; unsaid: new, and judged as it will age'),
  contactOhm: ohms.optional().describe('measured on this one, a pole'),
})

export const leadSchema = z
  .strictObject({
    id,
    name: words.optional(),
    from: z.string().max(90),
    to: z.string().max(90),
    lengthM: z.number().gt(0).max(1000).describe('one way'),
    conductor: conductorSchema,
    ends: z.strictObject({ from: endSchema.optional(), to: endSchema.optional() }).optional(),
    inline: z.array(inlineSchema).max(50).optional(),
    return: z
      .enum(['conductor', 'chassis'])
      .optional()
      .describe("chassis: the current comes back through the vehicle's chassis"),
    chassisOhm: ohms.optional(),
    sheathed: z.boolean().optional(),
    bundledConductors: z
      .int()
      .min(1)
      .max(24)
      .optional()
      .describe('loaded conductors lying together, this pair counted; unsaid: 2'),
    note: z.string().max(2000).optional(),
  })
  .meta({ id: 'lead' })
export type Lead = z.infer<typeof leadSchema>

/** Schools that have no field of their own: one optional choice each. */
const schoolFields = Object.fromEntries(
  SCHOOLS.filter(s => s.id !== 'ampacity' && s.id !== 'fuseDistance').map(s => [
    s.id,
    z
      .enum(s.choices.map(c => c.id) as [string, ...string[]])
      .optional()
      .describe(s.question),
  ]),
) as Record<Exclude<SchoolId, 'ampacity' | 'fuseDistance'>, z.ZodOptional<z.ZodEnum<Record<string, string>>>>

const siteSchema = z
  .strictObject({
    ambientC: temperatures.optional().describe('unsaid: −5, 20, 40'),
    ampacity: z.enum(['open', 'enclosed']).optional().describe('school of ampacity; unsaid: open'),
    fuseDistance: z.enum(['strict', 'sheathed']).optional().describe('school of fuse distance; unsaid: strict'),
    schools: z.strictObject(schoolFields).optional().describe('the other choices on which people are of two minds'),
    ground: z
      .enum(['common', 'none'])
      .optional()
      .describe('whether cases and battery negative are bonded at one point; unsaid: not known'),
    bands: z.array(words).max(40).optional().describe('bands the station is used on, as 20 m'),
    dropShare: fraction.optional().describe("the most a radio's path may drop, of its nominal voltage; unsaid: 0.03"),
    zones: z
      .array(z.strictObject({ id, ambientC: temperatures }))
      .max(100)
      .optional(),
    note: z.string().max(2000).optional(),
  })
  .meta({ id: 'site' })
export type Site = z.infer<typeof siteSchema>

export const loadStateSchema = z
  .strictObject({
    id,
    name: words.optional(),
    active: z.array(z.union([id, z.strictObject({ part: id, powerW: z.number().gt(0).optional() })])).max(MOST_PARTS),
  })
  .meta({ id: 'loadState' })
export type LoadState = z.infer<typeof loadStateSchema>

export const variantSchema = z.strictObject({
  id,
  name: words,
  without: z.array(id).max(MOST_PARTS).optional().describe('parts and leads that this way does not have'),
  parts: z.array(partSchema).max(MOST_PARTS).optional().describe('parts that are its own, or other here'),
  leads: z.array(leadSchema).max(MOST_LEADS).optional().describe('leads that are its own, or other here'),
  site: siteSchema.optional().describe('the site, where it is another'),
  loadStates: z.array(loadStateSchema).max(100).optional().describe('load states, where they are others'),
})
export type Variant = z.infer<typeof variantSchema>

export const planSchema = z.strictObject({
  format: z.literal(FORMAT),
  version: z.literal(VERSION),
  name: words,
  note: z.string().max(2000).optional(),
  madeUp: z.boolean().optional().describe('a sample station: it may count on the made-up things of a shelf'),
  site: siteSchema.optional(),
  parts: z.array(partSchema).max(MOST_PARTS),
  leads: z.array(leadSchema).max(MOST_LEADS),
  loadStates: z.array(loadStateSchema).max(100).optional(),
  hookUp: z.array(id).max(MOST_LEADS).optional().describe("the owner's own order of connecting leads, first to last"),
  variants: z
    .array(variantSchema)
    .max(20)
    .optional()
    .describe('other ways of the same station: what is the same is said once, above'),
})
export type Plan = z.infer<typeof planSchema>

export const DEFAULT_AMBIENT_C = { low: -5, typical: 20, high: 40 } as const
export const DEFAULT_DROP_SHARE = 0.03

/** The site with what it leaves unsaid filled in. */
export function siteOf(plan: Plan) {
  return {
    ambientC: plan.site?.ambientC ?? DEFAULT_AMBIENT_C,
    ampacity: plan.site?.ampacity ?? ('open' as const),
    fuseDistance: plan.site?.fuseDistance ?? ('strict' as const),
    dropShare: plan.site?.dropShare ?? DEFAULT_DROP_SHARE,
  }
}

/** The side a plan takes, as it says or by default. */
export function schoolOf(plan: Plan, schoolId: SchoolId): string {
  const site = plan.site
  const own = { ampacity: site?.ampacity, fuseDistance: site?.fuseDistance }
  const said =
    schoolId in own ? own[schoolId as keyof typeof own] : site?.schools?.[schoolId as keyof typeof schoolFields]
  return said ?? school(schoolId).unsaid
}

/** Temperatures where a lead lies: the hottest and coldest of its two parts' zones, the site's where they name none. */
export function ambientOf(plan: Plan, lead: Lead): { low: number; typical: number; high: number } {
  const site = plan.site?.ambientC ?? DEFAULT_AMBIENT_C
  if (!plan.site?.zones?.length) return site
  const places = [lead.from, lead.to].map(terminal => {
    const part = plan.parts.find(p => p.id === terminal.split('.')[0])
    return plan.site!.zones!.find(z => z.id === part?.zone)?.ambientC ?? site
  })
  return {
    low: Math.min(...places.map(p => p.low)),
    typical: Math.max(...places.map(p => p.typical)),
    high: Math.max(...places.map(p => p.high)),
  }
}
