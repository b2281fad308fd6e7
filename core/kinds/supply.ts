import { z } from 'zod'
import { isCharging } from '../battery/emf'
import { MAINS_CAUTION } from '../catalog/cautions'
import { asGiven, figure } from '../units/number'
import { noiseForm, rangeForm } from './commonForm'
import { AC_EFFICIENCY } from './charging'
import { ampsAboveZero, commonFields, connectorId, hertz, id, noise, ohms, voltsAboveZero } from './fields'
import { kindOf } from './index'
import type { PartKind } from './kind'

export const supplySchema = z.strictObject({
  id,
  kind: z.literal('supply'),
  setV: voltsAboveZero,
  adjustable: z
    .strictObject({ minV: voltsAboveZero, maxV: voltsAboveZero })
    .optional()
    .describe('range its output can be set to'),
  continuousA: ampsAboveZero,
  peakA: ampsAboveZero.optional(),
  outputOhm: ohms.optional().describe('unsaid: it holds its set voltage at its terminals'),
  floating: z.boolean().optional().describe('its output is free of the mains earth'),
  switchingHz: hertz.optional().describe('unsaid: a transformer, or not known'),
  noise: noise.optional(),
  terminal: connectorId.optional(),
  ...commonFields,
})
export type Supply = z.infer<typeof supplySchema>

const CLASS = 'typical of the class'
const mains = (continuousA: number, peakA: number, terminal: string, massG: number) => ({
  kind: 'supply' as const,
  name: `Mains supply ${asGiven(continuousA)} A`,
  setV: 13.8,
  continuousA,
  peakA,
  outputOhm: 0.01,
  terminal,
  massG,
})

export const supply: PartKind<Supply> = {
  kind: 'supply',
  label: 'mains supply',
  runsOn: 'mains',
  role: 'source',
  schema: supplySchema,
  terminals: part => [{ id: part.id, connector: part.terminal }],
  // On a battery's wire it charges: the station's other states are those in which the mains is away.
  store: () => null,
  sources: (part, state, around) => {
    if (around(part.id).some(a => kindOf(a.part).stores) && !isCharging(state)) return []
    const mostA = part.peakA ?? part.continuousA
    return [{ at: part.id, emfV: part.setV, ohm: part.outputOhm ?? 0, leastA: 0, mostA }]
  },
  switching: part => (part.switchingHz === undefined ? null : { hz: part.switchingHz, what: 'mains stage' }),
  links: () => [],
  passes: () => [],
  intoShort: part => [
    {
      at: part.id,
      by: 'itself',
      kind: 'limited',
      volts: part.setV,
      amps: part.peakA ?? part.continuousA,
      sure: false,
    },
  ],
  windows: () => [],
  limits: part => [
    {
      of: 'gives',
      continuousA: part.continuousA,
      ...(part.peakA !== undefined && { peakA: part.peakA }),
      fields: ['continuousA', 'peakA'],
    },
  ],
  acInputW: part => (part.setV * part.continuousA) / AC_EFFICIENCY,
  says: {
    box: part => [
      `set to ${figure(part.setV, 2)} V`,
      `${figure(part.continuousA)} A${part.peakA ? ` · ${figure(part.peakA)} A brief` : ''}`,
    ],
    line: () => '',
  },
  noise: { odds: 1, hasMains: true },
  worksWithA: part => part.continuousA,
  hookUp: part => ({
    turn: 'gives',
    live: 1,
    wakes: `Plug ${part.name ?? part.id} in and switch it on.`,
    meter: `Meter ${part.name ?? part.id}, unloaded: red on +, ${figure(part.setV, 3)} V. Then off again.`,
  }),
  cautions: () => [MAINS_CAUTION],
  catalogue: [
    { id: 'supply-10', label: 'Mains supply 13.8 V, 10 A', part: mains(10, 12, 'post-4mm', 1500), source: CLASS },
    { id: 'supply-23', label: 'Mains supply 13.8 V, 23 A', part: mains(23, 25, 'screw', 2300), source: CLASS },
    { id: 'supply-30', label: 'Mains supply 13.8 V, 30 A', part: mains(30, 32, 'screw', 2800), source: CLASS },
    { id: 'supply-45', label: 'Mains supply 13.8 V, 45 A', part: mains(45, 50, 'ring-m6', 3900), source: CLASS },
  ],
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    { path: 'setV', label: 'Output set to', quantity: 'voltage' },
    ...rangeForm(),
    { path: 'continuousA', label: 'Continuous current', quantity: 'current' },
    { path: 'peakA', label: 'Peak current', quantity: 'current' },
    { path: 'outputOhm', label: 'Output resistance', quantity: 'resistance' },
    { path: 'switchingHz', label: 'Switching frequency', quantity: 'frequency' },
    { path: 'floating', label: 'Free of the mains earth', quantity: 'yes' },
    { path: 'terminal', label: 'Terminal', quantity: 'connector' },
    ...noiseForm,
  ],
}
