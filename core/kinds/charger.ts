import { z } from 'zod'
import { MAINS_CAUTION } from '../catalog/cautions'
import { chemistry, CHEMISTRY_IDS } from '../catalog/chemistries'
import { asGiven, figure } from '../units/number'
import { CHEMISTRY_CHOICES, noiseForm, profilesList } from './commonForm'
import { AC_CHARGE_V, AC_EFFICIENCY, chargeOutput, profileOf, UNSET_CHARGE_V } from './charging'
import { ampsAboveZero, chargeProfiles, commonFields, connectorId, fraction, hertz, id, noise } from './fields'
import type { PartKind } from './kind'

export const chargerSchema = z.strictObject({
  id,
  kind: z.literal('charger'),
  chemistries: chargeProfiles.optional(),
  set: z
    .enum(CHEMISTRY_IDS as [string, ...string[]])
    .optional()
    .describe('the chemistry it is set to'),
  maxA: ampsAboveZero.describe('current it charges with'),
  stages: z.int().min(1).max(8).optional().describe('1: it never goes down to a float voltage'),
  efficiency: fraction.optional().describe('from its AC side; unsaid: 0.85'),
  fedBy: id.optional().describe('the inverter or generator its AC side hangs on; unsaid: the mains'),
  lockOut: z.boolean().optional().describe("it does not charge under the battery's lowest temperature"),
  switchingHz: hertz.optional(),
  noise: noise.optional(),
  terminal: connectorId.optional(),
  ...commonFields,
})
export type Charger = z.infer<typeof chargerSchema>

const row = (maxA: number, massG: number, switchingHz: number) => ({
  kind: 'charger' as const,
  name: `Mains charger ${asGiven(maxA)} A`,
  maxA,
  stages: 3,
  set: 'lifepo4',
  switchingHz,
  terminal: 'ring-m6',
  massG,
  chemistries: {
    lifepo4: { absorptionV: 14.4, floatV: 13.5 },
    agm: { absorptionV: 14.6, floatV: 13.6 },
    gel: { absorptionV: 14.1, floatV: 13.6 },
    flooded: { absorptionV: 14.6, floatV: 13.4 },
  },
})

export const charger: PartKind<Charger> = {
  kind: 'charger',
  label: 'mains charger',
  runsOn: 'mains',
  role: 'between',
  schema: chargerSchema,
  terminals: part => [{ id: part.id, connector: part.terminal }],
  // One of a single stage goes on at the voltage it fills with.
  charge: part => {
    const output = chargeOutput(part.id, part, { maxA: part.maxA, field: 'maxA' })
    return part.stages === 1 ? { ...output, floatV: output.absorptionV } : output
  },
  switching: part => ({ hz: part.switchingHz, what: 'mains stage' }),
  links: () => [],
  passes: () => [],
  mentions: part => (part.fedBy === undefined ? [] : [{ field: 'fedBy', ids: part.fedBy }]),
  intoShort: part => [
    {
      at: part.id,
      by: 'charging',
      kind: 'limited',
      volts: profileOf(part.chemistries, part.set).absorptionV ?? UNSET_CHARGE_V,
      amps: part.maxA,
      sure: false,
    },
  ],
  windows: () => [],
  limits: () => [],
  acInputW: part =>
    ((profileOf(part.chemistries, part.set).absorptionV ?? AC_CHARGE_V) * part.maxA) /
    (part.efficiency ?? AC_EFFICIENCY),
  says: {
    box: part => [`${figure(part.maxA)} A${part.set ? ` · ${chemistry(part.set).label}` : ''}`],
    line: () => '',
  },
  stands: () => 'fills',
  noise: { odds: 2, hasMains: true },
  worksWithA: part => part.maxA,
  hookUp: part => ({ turn: 'between', live: 0, wakes: `Plug ${part.name ?? part.id} in and switch it on.` }),
  cautions: part => (part.fedBy === undefined ? [MAINS_CAUTION] : []),
  catalogue: [
    { id: 'charger-5', label: 'Mains charger 12 V, 5 A', part: row(5, 500, 100e3), source: 'typical of the class' },
    { id: 'charger-10', label: 'Mains charger 12 V, 10 A', part: row(10, 900, 100e3), source: 'typical of the class' },
    { id: 'charger-20', label: 'Mains charger 12 V, 20 A', part: row(20, 1600, 65e3), source: 'typical of the class' },
  ],
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    { path: 'set', label: 'Set to', quantity: 'choice', choices: CHEMISTRY_CHOICES },
    { path: 'maxA', label: 'Charges with', quantity: 'current' },
    { path: 'stages', label: 'Stages', quantity: 'count' },
    { path: 'fedBy', label: 'Its AC side hangs on', quantity: 'part' },
    { path: 'efficiency', label: 'Efficiency', quantity: 'fraction', more: true },
    { path: 'switchingHz', label: 'Switching frequency', quantity: 'frequency' },
    { path: 'lockOut', label: 'Cold charge cut-off', quantity: 'yes' },
    { path: 'terminal', label: 'Terminal', quantity: 'connector' },
    ...noiseForm,
  ],
  lists: [profilesList('chemistries')],
}
