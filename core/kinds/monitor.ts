import { z } from 'zod'
import { figure } from '../units/number'
import { amps, ampsAboveZero, commonFields, connectorId, id, voltsAboveZero } from './fields'
import type { PartKind } from './kind'

export const monitorSchema = z.strictObject({
  id,
  kind: z.literal('monitor'),
  style: z.enum(['voltmeter', 'alarm', 'lamp', 'shunt']).optional(),
  underV: voltsAboveZero.optional().describe('warns below'),
  overV: voltsAboveZero.optional().describe('warns above'),
  drawA: amps.optional(),
  shuntA: ampsAboveZero.optional(),
  terminal: connectorId.optional(),
  ...commonFields,
})
export type Monitor = z.infer<typeof monitorSchema>

export const monitor: PartKind<Monitor> = {
  kind: 'monitor',
  label: 'monitor',
  role: 'between',
  schema: monitorSchema,
  terminals: part => [{ id: part.id, connector: part.terminal }],
  standing: part => [{ at: part.id, law: 'current', value: part.drawA ?? 0.01 }],
  links: () => [],
  warns: ({ underV, overV }) => ({ underV, overV }),
  passes: () => [],
  intoShort: () => [],
  windows: () => [],
  limits: () => [],
  says: {
    box: part =>
      [
        part.style ?? '',
        [part.underV && `under ${figure(part.underV)} V`, part.overV && `over ${figure(part.overV)} V`]
          .filter(Boolean)
          .join(' · '),
      ].filter(Boolean),
    line: () => '',
  },
  noise: null,
  hookUp: () => ({ turn: 'between', live: 0 }),
  cautions: () => [],
  catalogue: [
    {
      id: 'voltmeter',
      label: 'Voltmeter',
      part: { kind: 'monitor', name: 'Voltmeter', style: 'voltmeter', drawA: 0.02, terminal: 'stack-15', massG: 30 },
      source: 'typical of the class',
    },
    {
      id: 'alarm',
      label: 'Low and high voltage alarm',
      part: {
        kind: 'monitor',
        name: 'Voltage alarm',
        style: 'alarm',
        underV: 12.0,
        overV: 15,
        drawA: 0.02,
        terminal: 'stack-15',
        massG: 40,
      },
      source: 'typical of the class',
    },
  ],
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    { path: 'style', label: 'Style', quantity: 'choice', choices: ['voltmeter', 'alarm', 'lamp', 'shunt'] },
    { path: 'underV', label: 'Warns below', quantity: 'voltage' },
    { path: 'overV', label: 'Warns above', quantity: 'voltage' },
    { path: 'shuntA', label: 'Shunt made for', quantity: 'current', when: part => part.style === 'shunt' },
    { path: 'drawA', label: 'Takes', quantity: 'current' },
    { path: 'terminal', label: 'Terminal', quantity: 'connector' },
  ],
}
