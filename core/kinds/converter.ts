import { z } from 'zod'
import { isCharging } from '../battery/emf'
import { chemistry, CHEMISTRY_IDS } from '../catalog/chemistries'
import { figure } from '../units/number'
import { CHEMISTRY_CHOICES, efficiencyList, hasOneEfficiency, noiseForm, profilesList, rangeForm } from './commonForm'
import { chargeOutput, profileOf } from './charging'
import {
  ampsAboveZero,
  chargeProfiles,
  commonFields,
  connectorId,
  efficiency,
  hertz,
  id,
  inputWindow,
  noise,
  volts,
  voltsAboveZero,
  watts,
} from './fields'
import type { PartKind, Transfer } from './kind'

export const converterSchema = z.strictObject({
  id,
  kind: z.literal('converter'),
  topology: z.enum(['buck', 'boost', 'buck-boost']),
  input: inputWindow,
  outV: voltsAboveZero,
  adjustable: z
    .strictObject({ minV: voltsAboveZero, maxV: voltsAboveZero })
    .optional()
    .describe('range its output can be set to'),
  maxOutA: ampsAboveZero,
  efficiency: efficiency.optional().describe('unsaid: 0.9'),
  idleW: watts.optional(),
  dropoutV: volts
    .optional()
    .describe(
      'buck: what its input must be above its output; boost: what its diode drops when the input is above its ' +
        'output; unsaid: 0.5',
    ),
  charges: z
    .strictObject({ chemistries: chargeProfiles, set: z.enum(CHEMISTRY_IDS as [string, ...string[]]).optional() })
    .optional()
    .describe('a DC-DC charger: its output charges a battery, with maxOutA'),
  ignition: z.boolean().optional().describe('DC-DC charger: it works only with the engine running'),
  lockOut: z.boolean().optional().describe("DC-DC charger: it does not charge under the battery's lowest temperature"),
  switchingHz: hertz.optional(),
  noise: noise.optional(),
  isolated: z.boolean().optional(),
  in: connectorId.optional(),
  out: connectorId.optional(),
  ...commonFields,
})
export type Converter = z.infer<typeof converterSchema>

/** For want of their own figures (typical of the class). */
export const CONVERTER_EFFICIENCY = 0.9
export const CONVERTER_DROPOUT_V = 0.5

const RELATION = { buck: 'at-most-input', boost: 'at-least-input', 'buck-boost': 'any' } as const

function transferOf(part: Converter): Transfer {
  return {
    from: `${part.id}.in`,
    to: `${part.id}.out`,
    relation: RELATION[part.topology],
    takes: 'power',
    setV: part.outV,
    dropV: part.dropoutV ?? CONVERTER_DROPOUT_V,
    idleW: part.idleW ?? 0,
    efficiency: part.efficiency ?? CONVERTER_EFFICIENCY,
    mostA: part.maxOutA,
  }
}

const CLASS = 'typical of the class'
const row = (
  topology: Converter['topology'],
  name: string,
  input: Converter['input'],
  outV: number,
  maxOutA: number,
  idleW: number,
  switchingHz: number,
  massG: number,
  connector: string,
) => ({
  kind: 'converter' as const,
  name,
  topology,
  input,
  outV,
  maxOutA,
  efficiency: 0.92,
  idleW,
  switchingHz,
  in: connector,
  out: connector,
  massG,
})

const charges = (part: Record<string, unknown>) => part.charges !== undefined

export const converter: PartKind<Converter> = {
  kind: 'converter',
  label: 'converter',
  role: 'between',
  schema: converterSchema,
  entry: part => `${part.id}.in`,
  terminals: part => [
    { id: `${part.id}.in`, connector: part.in },
    { id: `${part.id}.out`, connector: part.out, ratedA: part.maxOutA },
  ],
  // A DC-DC charger works while the station is charged; else it only idles.
  transfers: (part, state) => {
    if (!part.charges) return [transferOf(part)]
    const { absorptionV } = profileOf(part.charges.chemistries, part.charges.set)
    return isCharging(state) && absorptionV !== null ? [{ ...transferOf(part), setV: absorptionV }] : []
  },
  standing: (part, state) => {
    const idles = part.charges && !isCharging(state)
    return idles ? [{ at: `${part.id}.in`, law: 'power', value: part.idleW ?? 0 }] : []
  },
  charge: part =>
    part.charges
      ? chargeOutput(
          `${part.id}.out`,
          { ...part.charges, lockOut: part.lockOut },
          { maxA: part.maxOutA, field: 'maxOutA' },
          'charges.',
        )
      : null,
  switching: part => ({ hz: part.switchingHz, what: 'power stage' }),
  links: () => [],
  passes: part => [{ from: `${part.id}.in`, to: `${part.id}.out`, faultOhm: null }],
  intoShort: part => [
    { at: `${part.id}.out`, by: 'input', kind: 'limited', volts: part.outV, amps: part.maxOutA, sure: true },
  ],
  windows: part => [{ at: `${part.id}.in`, ...part.input, field: 'input', judgedBy: 'converter-input' }],
  limits: () => [],
  says: {
    box: part => [
      `charges ${figure(part.maxOutA)} A`,
      part.charges?.set ? `set to ${chemistry(part.charges.set).label}` : '',
    ],
    line: part => (part.charges ? `charges ${figure(part.maxOutA)} A` : `${part.topology} ${figure(part.outV)} V`),
  },
  stands: part => (part.charges ? 'fills' : 'inPath'),
  noise: { odds: 2 },
  worksWithA: part => part.maxOutA,
  hookUp: () => ({ turn: 'between', live: 0 }),
  cautions: () => [],
  catalogue: [
    {
      id: 'buck-5',
      label: 'Step-down (buck) to 5 V, 5 A',
      part: row('buck', 'Step-down 5 V', { minV: 8, maxV: 32 }, 5, 5, 0.2, 300e3, 60, 'screw'),
      source: CLASS,
    },
    {
      id: 'buck-12',
      label: 'Step-down (buck) to 12 V, 10 A',
      part: row('buck', 'Step-down 12 V', { minV: 13, maxV: 36 }, 12, 10, 0.4, 180e3, 220, 'screw'),
      source: CLASS,
    },
    {
      id: 'buck-138-30',
      label: 'Step-down (buck) 24 V to 13.8 V, 30 A',
      part: row('buck', 'Step-down 13.8 V', { minV: 18, maxV: 32 }, 13.8, 30, 0.6, 150e3, 950, 'screw'),
      source: CLASS,
    },
    {
      id: 'buck-138-60',
      label: 'Step-down (buck) 24 V to 13.8 V, 60 A',
      part: row('buck', 'Step-down 13.8 V', { minV: 18, maxV: 32 }, 13.8, 60, 1.1, 120e3, 1900, 'ring-m6'),
      source: CLASS,
    },
    {
      id: 'buckboost-138-10',
      label: 'Step-up-and-down (buck-boost) 13.8 V, 10 A',
      part: row('buck-boost', 'Regulator 13.8 V', { minV: 9, maxV: 20 }, 13.8, 10, 0.8, 150e3, 320, 'stack-45'),
      source: CLASS,
    },
    {
      id: 'buckboost-138-25',
      label: 'Step-up-and-down (buck-boost) 13.8 V, 25 A',
      part: row('buck-boost', 'Regulator 13.8 V', { minV: 9, maxV: 20 }, 13.8, 25, 1.5, 120e3, 900, 'stack-45'),
      source: CLASS,
    },
    {
      id: 'boost-138-25',
      label: 'Step-up (boost) 13.8 V, 25 A',
      part: row('boost', 'Booster 13.8 V', { minV: 10.5, maxV: 15 }, 13.8, 25, 1, 110e3, 700, 'stack-45'),
      source: CLASS,
    },
    {
      id: 'dcdc-charger-20',
      label: 'DC-DC charger, vehicle to battery, 20 A',
      source: CLASS,
      part: {
        ...row('buck-boost', 'DC-DC charger', { minV: 11, maxV: 16 }, 14.4, 20, 0.5, 130e3, 1100, 'ring-m6'),
        charges: {
          chemistries: {
            lifepo4: { absorptionV: 14.4, floatV: 13.5 },
            agm: { absorptionV: 14.6, floatV: 13.6 },
            gel: { absorptionV: 14.1, floatV: 13.6 },
            flooded: { absorptionV: 14.6, floatV: 13.4 },
          },
          set: 'lifepo4',
        },
      },
    },
  ],
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    { path: 'topology', label: 'Topology', quantity: 'choice', choices: ['buck', 'boost', 'buck-boost'], must: true },
    { path: 'input.minV', label: 'Input, least', quantity: 'voltage' },
    { path: 'input.maxV', label: 'Input, most', quantity: 'voltage' },
    { path: 'input.nominalV', label: 'Input, nominal', quantity: 'voltage', more: true },
    { path: 'outV', label: 'Output', quantity: 'voltage' },
    ...rangeForm(),
    { path: 'maxOutA', label: 'Output current, most', quantity: 'current' },
    { path: 'efficiency', label: 'Efficiency', quantity: 'fraction', when: hasOneEfficiency },
    { path: 'idleW', label: 'Takes idle', quantity: 'power' },
    {
      path: 'charges.set',
      label: 'Set to',
      quantity: 'choice',
      choices: CHEMISTRY_CHOICES,
      when: charges,
    },
    { path: 'switchingHz', label: 'Switching frequency', quantity: 'frequency' },
    { path: 'isolated', label: 'Isolated', quantity: 'yes' },
    { path: 'dropoutV', label: 'Needs above its output', quantity: 'voltage', more: true },
    { path: 'ignition', label: 'Only with the engine', quantity: 'yes', when: charges, more: true },
    { path: 'lockOut', label: 'Cold charge cut-off', quantity: 'yes', when: charges, more: true },
    ...noiseForm,
    { path: 'in', label: 'In', quantity: 'connector' },
    { path: 'out', label: 'Out', quantity: 'connector' },
  ],
  lists: [{ ...profilesList('charges.chemistries'), label: 'Charges batteries to' }, efficiencyList('outA')],
  between: ['in', 'out'],
}
