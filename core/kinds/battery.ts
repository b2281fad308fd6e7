import { z } from 'zod'
import { absorptionVolts, batteryEmf, isCharging, restedVolts, TAIL_PER_AH, type BatteryFacts } from '../battery/emf'
import { chemistryCaution } from '../catalog/cautions'
import { chemistry, CHEMISTRY_IDS } from '../catalog/chemistries'
import { packKey } from '../catalog/stockKeys'
import { asGiven, figure, fixed } from '../units/number'
import { CHEMISTRY_CHOICES, lifeForm } from './commonForm'
import {
  amps,
  ampsAboveZero,
  celsius,
  commonFields,
  connectorId,
  fraction,
  id,
  lifeFields,
  ohms,
  voltsAboveZero,
  words,
} from './fields'
import { batteryLimit } from './batteryLimits'
import { batterySized, storeOf } from './batteryStore'
import type { PartKind } from './kind'

export const batterySchema = z.strictObject({
  id,
  kind: z.literal('battery'),
  chemistry: z.enum(CHEMISTRY_IDS as [string, ...string[]]),
  seriesCells: z.int().min(1).max(100).describe('lead-acid: 6 for a 12 V block'),
  capacityAh: z.number().gt(0).max(100000),
  internalOhm: ohms,
  continuousA: ampsAboveZero.optional(),
  peakA: ampsAboveZero.optional(),
  maxChargeA: ampsAboveZero.optional(),
  lowTempChargeC: celsius.optional(),
  bms: z
    .strictObject({
      continuousA: ampsAboveZero.optional(),
      peakA: ampsAboveZero.optional(),
      maxChargeA: ampsAboveZero.optional(),
      lowTempChargeC: celsius.optional(),
    })
    .optional()
    .describe("limits of the battery management system, apart from the cells' own"),
  usableFraction: fraction.optional(),
  stopV: voltsAboveZero.optional().describe('the owner stops here, rested volts'),
  absorptionV: voltsAboveZero.optional().describe('voltage it is held at while charging'),
  curve: z
    .array(z.strictObject({ soc: z.number().min(0).max(1), volts: voltsAboveZero }))
    .min(2)
    .max(100)
    .optional()
    .describe("the owner's own rested curve of the whole battery"),
  members: z
    .array(
      z.strictObject({
        id: id.optional(),
        name: words.optional(),
        string: z
          .int()
          .min(1)
          .max(20)
          .optional()
          .describe('members of one string are in series; strings are in parallel; unsaid: 1'),
        chemistry: z.enum(CHEMISTRY_IDS as [string, ...string[]]).optional(),
        seriesCells: z.int().min(1).max(100).optional(),
        capacityAh: z.number().gt(0).max(100000).optional(),
        internalOhm: ohms.optional(),
        restedV: voltsAboveZero.optional().describe('measured at rest before joining'),
        ageYears: z.number().min(0).max(100).optional(),
        fused: z.boolean().optional().describe('its string has a fuse of its own'),
      }),
    )
    .min(1)
    .max(40)
    .optional()
    .describe('the packs this battery is made of; the figures above are those of the whole'),
  mostInSeries: z
    .int()
    .min(1)
    .max(20)
    .optional()
    .describe('packs in series that the maker of the management system allows'),
  ventilated: z.boolean().optional().describe('flooded cells: the gas is led outdoors'),
  lockOut: z.boolean().optional().describe('a cold cut-off keeps it from being charged under its lowest temperature'),
  heaterW: z
    .number()
    .gt(0)
    .max(5000)
    .optional()
    .describe('it warms itself with so much of what charges it, before it takes a charge'),
  charged: z.enum(['in-place', 'elsewhere']).optional().describe('elsewhere: no load ever sees the charging voltage'),
  terminal: connectorId.optional(),
  outlets: z
    .array(z.strictObject({ id, connector: connectorId.optional(), ratedA: amps.optional() }))
    .min(1)
    .max(20)
    .optional(),
  ...lifeFields,
  ...commonFields,
})
export type Battery = z.infer<typeof batterySchema>

const CLASS = 'typical of the class'
const lithium = (capacityAh: number, internalOhm: number, terminal: string, massG: number) => ({
  kind: 'battery' as const,
  name: `Lithium pack ${asGiven(capacityAh)} Ah`,
  chemistry: 'lifepo4',
  seriesCells: 4,
  capacityAh,
  internalOhm,
  continuousA: capacityAh,
  peakA: 2 * capacityAh,
  maxChargeA: capacityAh / 2,
  terminal,
  massG,
})
const leadAcid = (chemistry: 'agm' | 'flooded', capacityAh: number, internalOhm: number, massG: number) => ({
  kind: 'battery' as const,
  name: `${chemistry === 'agm' ? 'AGM' : 'Flooded'} battery ${asGiven(capacityAh)} Ah`,
  chemistry,
  seriesCells: 6,
  capacityAh,
  internalOhm,
  continuousA: capacityAh / 2,
  peakA: capacityAh * 2,
  maxChargeA: capacityAh / 5,
  terminal: 'ring-m8',
  massG,
})

/** Cells of a chemistry whose half-charged rested voltage comes nearest to one; a lead-acid block has six or none. */
function cellsFor(chemistryId: string, halfV: number): number {
  const cellV = restedVolts({ chemistry: chemistryId, seriesCells: 1 } as BatteryFacts, 0.5)
  const cells = Math.max(1, Math.round(halfV / cellV))
  const isBlock = ['agm', 'gel', 'flooded'].includes(chemistryId) && cells > 4
  return isBlock ? Math.max(6, 6 * Math.round(cells / 6)) : cells
}

const shortChemistry = (part: Battery) => chemistry(part.chemistry).label.replace(' lead-acid', '')

export const battery: PartKind<Battery> = {
  kind: 'battery',
  label: 'battery',
  role: 'source',
  schema: batterySchema,
  terminals: part =>
    part.outlets
      ? part.outlets.map(o => ({ id: `${part.id}.${o.id}`, connector: o.connector, ratedA: o.ratedA }))
      : [{ id: part.id, connector: part.terminal }],
  links: part => (part.outlets ?? []).map(o => ({ a: part.id, b: `${part.id}.${o.id}`, ohm: 0 })),
  sourceStates: part =>
    absorptionVolts(part) === null ? ['full', 'nominal', 'low'] : ['charging', 'bulk', 'full', 'nominal', 'low'],
  // One that is charged elsewhere goes on as it is while others charge.
  sources: (part, state) => {
    const elsewhere = part.charged === 'elsewhere'
    const emfV = batteryEmf(part, elsewhere && isCharging(state) ? 'full' : state)
    const tail = state === 'charging' && !elsewhere && { leastA: -TAIL_PER_AH * part.capacityAh }
    return [{ at: part.id, emfV, ohm: part.internalOhm, ...tail }]
  },
  stores: true,
  store: storeOf,
  sized: batterySized,
  restingAt: (part, volts) => ({
    ...part,
    curve: [
      { soc: 0, volts: Math.min(volts, restedVolts(part, 0)) },
      { soc: 1, volts },
    ],
  }),
  passes: () => [],
  ports: { field: 'outlets', reserved: [], distributes: false },
  intoShort: part => [
    {
      at: part.id,
      by: 'itself',
      kind: 'emf',
      emfV: restedVolts(part, 1),
      ohm: part.internalOhm,
      ...(part.bms?.peakA !== undefined && { tripA: part.bms.peakA }),
    },
  ],
  settingFor: part => (part.charged === 'elsewhere' ? null : part),
  windows: () => [],
  limits: part => {
    const continuousA = batteryLimit(part, 'continuousA')
    const peakA = batteryLimit(part, 'peakA')
    if (continuousA === undefined && peakA === undefined) return []
    const most = { continuousA: continuousA ?? peakA!, ...(peakA !== undefined && { peakA }) }
    return [{ of: 'gives', ...most, fields: ['continuousA', 'peakA', 'bms'], judgedBy: 'battery-continuous' }]
  },
  says: {
    box: part =>
      [
        `${shortChemistry(part)}${part.seriesCells > 1 ? ` ${part.seriesCells}S` : ''} · ${figure(part.capacityAh)} Ah`,
        [part.continuousA && `${figure(part.continuousA)} A`, part.peakA && `${figure(part.peakA)} A brief`]
          .filter(Boolean)
          .join(' · '),
      ].filter(Boolean),
    line: () => '',
  },
  stock: part => ({ key: packKey(part) }),
  noise: null,
  hookUp: part => ({
    turn: 'gives',
    live: 3,
    meter:
      `Meter ${part.name ?? part.id}: red on +, about ${fixed(restedVolts(part, 1), 1)} V rested when full; ` +
      `under ${fixed(restedVolts(part, 0), 1)} V do not connect it.`,
    ...(part.chemistry === 'flooded' && {
      caution: 'Flooded cells: ventilate, no sparks; negative of the chassis last.',
    }),
  }),
  cautions: part => chemistryCaution(part.chemistry),
  // As many cells as make about the same voltage in the new chemistry.
  goesAlong: (part, path, value) =>
    path === 'chemistry' ? { seriesCells: cellsFor(value as string, restedVolts(part, 0.5)) } : {},
  catalogue: [
    { id: 'lifepo4-12', label: 'LiFePO4 4 cells, 12 Ah', part: lithium(12, 0.03, 'stack-30', 1500), source: CLASS },
    { id: 'lifepo4-20', label: 'LiFePO4 4 cells, 20 Ah', part: lithium(20, 0.02, 'stack-30', 2600), source: CLASS },
    { id: 'lifepo4-50', label: 'LiFePO4 4 cells, 50 Ah', part: lithium(50, 0.012, 'ring-m6', 5800), source: CLASS },
    { id: 'lifepo4-100', label: 'LiFePO4 4 cells, 100 Ah', part: lithium(100, 0.006, 'ring-m8', 11000), source: CLASS },
    { id: 'agm-40', label: 'AGM 12 V, 40 Ah', part: leadAcid('agm', 40, 0.012, 14000), source: CLASS },
    { id: 'agm-100', label: 'AGM 12 V, 100 Ah', part: leadAcid('agm', 100, 0.005, 29000), source: CLASS },
    { id: 'flooded-110', label: 'Flooded 12 V, 110 Ah', part: leadAcid('flooded', 110, 0.006, 25000), source: CLASS },
  ],
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    { path: 'chemistry', label: 'Chemistry', quantity: 'choice', choices: CHEMISTRY_CHOICES, must: true },
    { path: 'seriesCells', label: 'Cells in series', quantity: 'count' },
    { path: 'capacityAh', label: 'Capacity', quantity: 'charge' },
    { path: 'internalOhm', label: 'Internal resistance', quantity: 'resistance' },
    { path: 'continuousA', label: 'Continuous current', quantity: 'current' },
    { path: 'peakA', label: 'Peak current', quantity: 'current' },
    { path: 'usableFraction', label: 'Usable fraction', quantity: 'fraction' },
    { path: 'stopV', label: 'Stop at (rested)', quantity: 'voltage' },
    { path: 'maxChargeA', label: 'Charge current, most', quantity: 'current' },
    { path: 'absorptionV', label: 'Held at while charging', quantity: 'voltage', more: true },
    { path: 'lowTempChargeC', label: 'No charge below', quantity: 'temperature', more: true },
    { path: 'bms.continuousA', label: 'BMS: continuous', quantity: 'current', more: true },
    { path: 'bms.peakA', label: 'BMS: for a moment', quantity: 'current', more: true },
    { path: 'bms.maxChargeA', label: 'BMS: charge, most', quantity: 'current', more: true },
    { path: 'bms.lowTempChargeC', label: 'BMS: no charge below', quantity: 'temperature', more: true },
    { path: 'mostInSeries', label: 'Packs in series, most', quantity: 'count', more: true },
    { path: 'ventilated', label: 'Gas led outdoors', quantity: 'yes', when: part => part.chemistry === 'flooded' },
    { path: 'lockOut', label: 'Cold charge cut-off', quantity: 'yes' },
    { path: 'heaterW', label: 'Heater of its own', quantity: 'power', more: true },
    { path: 'charged', label: 'Charged', quantity: 'choice', choices: ['in-place', 'elsewhere'] },
    ...lifeForm,
    { path: 'terminal', label: 'Terminal', quantity: 'connector' },
  ],
  lists: [
    {
      path: 'members',
      label: 'Packs it is made of',
      one: 'pack',
      fresh: () => ({ string: 1 }),
      fields: [
        { path: 'name', label: 'Name', quantity: 'text' },
        { path: 'string', label: 'String (same: in series)', quantity: 'count' },
        { path: 'capacityAh', label: 'Capacity', quantity: 'charge' },
        { path: 'seriesCells', label: 'Cells', quantity: 'count' },
        { path: 'restedV', label: 'Rests at', quantity: 'voltage' },
        { path: 'ageYears', label: 'Years old', quantity: 'count' },
        { path: 'chemistry', label: 'Chemistry', quantity: 'choice', choices: CHEMISTRY_CHOICES },
        { path: 'internalOhm', label: 'Internal resistance', quantity: 'resistance' },
        { path: 'fused', label: 'String fused', quantity: 'yes' },
      ],
    },
    {
      path: 'curve',
      label: 'Own rested curve',
      one: 'point',
      more: true,
      begins: [
        { soc: 0, volts: 11.6 },
        { soc: 1, volts: 13.2 },
      ],
      fresh: () => ({ soc: 0.5, volts: 12.4 }),
      fields: [
        { path: 'soc', label: 'Charge', quantity: 'fraction' },
        { path: 'volts', label: 'Rests at', quantity: 'voltage' },
      ],
    },
    {
      path: 'outlets',
      label: 'Outlets',
      one: 'outlet',
      fresh: part => ({ id: `o${((part.outlets as unknown[] | undefined)?.length ?? 0) + 1}` }),
      fields: [
        { path: 'id', label: 'Name', quantity: 'text' },
        { path: 'connector', label: 'Connector', quantity: 'connector' },
        { path: 'ratedA', label: 'Gives at most', quantity: 'current' },
      ],
    },
  ],
}
