import { z } from 'zod'
import { drawAlong, drawLine, sinkOf, windowAndDrawForm } from './draw'
import { commonFields, connectorId, draw, id, supplyWindow } from './fields'
import type { PartKind } from './kind'

export const loadSchema = z.strictObject({
  id,
  kind: z.literal('load'),
  supply: supplyWindow,
  draw,
  follows: id.optional().describe('draws only with this part'),
  control: z.enum(['thermostat', 'ignition']).optional().describe('what switches it by itself'),
  terminal: connectorId.optional(),
  ...commonFields,
})
export type Load = z.infer<typeof loadSchema>

const CLASS = 'typical of the class'

export const load: PartKind<Load> = {
  kind: 'load',
  label: 'load',
  role: 'load',
  schema: loadSchema,
  terminals: part => [{ id: part.id, connector: part.terminal }],
  sink: (part, active) => sinkOf(part.id, part.draw, part.supply, active),
  links: () => [],
  passes: () => [],
  mentions: part => (part.follows === undefined ? [] : [{ field: 'follows', ids: part.follows }]),
  intoShort: () => [],
  windows: () => [],
  needs: part => ({ at: part.id, ...part.supply, field: 'supply' }),
  limits: () => [],
  transmits: false,
  withIgnition: part => part.control === 'ignition',
  runsByItself: part => part.control === 'thermostat',
  says: {
    box: () => [],
    line: part => {
      const by = part.control === undefined ? '' : ` · by ${part.control}`
      return `${drawLine(sinkOf(part.id, part.draw, part.supply, true))}${by}`
    },
  },
  // A computer, a lamp, a pump with its converter inside: seldom, and then nobody looks there.
  noise: { odds: 0.5 },
  hookUp: () => ({ turn: 'load', live: 0 }),
  cautions: () => [],
  catalogue: [
    {
      id: 'computer-30',
      label: 'Logging computer on 12 V, 30 W',
      source: CLASS,
      part: {
        kind: 'load',
        name: 'Logging computer',
        supply: { minV: 10, nominalV: 12, maxV: 15 },
        draw: { model: 'constant-power', idleW: 18, activeW: 30 },
        terminal: 'barrel-5525',
      },
    },
    {
      id: 'lamps-12',
      label: 'LED lamps, 12 W',
      source: CLASS,
      part: {
        kind: 'load',
        name: 'Lamps',
        supply: { minV: 10, nominalV: 12, maxV: 15 },
        draw: { model: 'constant-power', idleW: 12, activeW: 12 },
        terminal: 'screw',
      },
    },
    {
      id: 'router-10',
      label: 'Network hub, 10 W',
      source: CLASS,
      part: {
        kind: 'load',
        name: 'Network hub',
        supply: { minV: 9, nominalV: 12, maxV: 16 },
        draw: { model: 'constant-power', idleW: 6, activeW: 10 },
        terminal: 'barrel-5521',
      },
    },
    {
      id: 'heater-40',
      label: 'Heated pad, 40 W',
      source: CLASS,
      part: {
        kind: 'load',
        name: 'Heated pad',
        supply: { minV: 10, nominalV: 12, maxV: 15 },
        draw: { model: 'resistive', idleW: 0, activeW: 40 },
        terminal: 'two-pole-bullet',
      },
    },
    {
      id: 'fridge-45',
      label: 'Compressor fridge, 45 W',
      source: CLASS,
      part: {
        kind: 'load',
        name: 'Fridge',
        supply: { minV: 10.4, nominalV: 12, maxV: 17 },
        draw: { model: 'constant-power', idleW: 1, activeW: 45 },
        control: 'thermostat',
        terminal: 'screw',
      },
    },
  ],
  goesAlong: (part, path, value) => drawAlong(part, path, value) ?? {},
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    ...windowAndDrawForm,
    { path: 'follows', label: 'Draws only with', quantity: 'part', more: true },
    { path: 'control', label: 'Switched by', quantity: 'choice', choices: ['thermostat', 'ignition'] },
    { path: 'terminal', label: 'Terminal', quantity: 'connector' },
  ],
}
