import { z } from 'zod'
import { figure } from '../units/number'
import { drawLine, sinkOf, windowAndDrawForm } from './draw'
import {
  ampsAboveZero,
  commonFields,
  connectorId,
  draw,
  id,
  supplyWindow,
  voltsAboveZero,
  watts,
  words,
} from './fields'
import type { PartKind, Sink } from './kind'

const powerW = z.number().gt(0).max(10000)

export const radioSchema = z.strictObject({
  id,
  kind: z.literal('radio'),
  supply: supplyWindow,
  draw,
  powerW: powerW.optional().describe('transmit power it is set to; with levels, the level used'),
  levels: z
    .array(z.strictObject({ powerW, activeA: ampsAboveZero }))
    .min(1)
    .max(50)
    .optional()
    .describe('current at each transmit power'),
  fullPowerAboveV: voltsAboveZero.optional(),
  powerAtVolts: z
    .array(z.strictObject({ volts: voltsAboveZero, powerW: watts }))
    .min(2)
    .max(50)
    .optional(),
  internalBattery: z
    .strictObject({
      chemistry: words.optional(),
      capacityAh: z.number().gt(0).max(1000).optional(),
      chargesAboveV: voltsAboveZero.optional(),
    })
    .optional(),
  bands: z.array(words).max(40).optional().describe('bands it is used on, as 20 m'),
  follows: id.optional().describe('an amplifier that draws only with this radio'),
  terminal: connectorId.optional(),
  ...commonFields,
})
export type Radio = z.infer<typeof radioSchema>

/** Current of a radio on a level, A; null where no level of that power is listed. */
export function levelAmps(radio: Radio, power = radio.powerW): number | null {
  return radio.levels?.find(l => l.powerW === power)?.activeA ?? null
}

const CLASS = 'typical of the class'
const window15 = { minV: 11.7, nominalV: 13.8, maxV: 15.9 }

function radioSink(part: Radio, active: boolean, power?: number): Sink {
  const leveled = active ? levelAmps(part, power) : null
  return leveled !== null && part.draw.model === 'constant-current'
    ? { at: part.id, law: 'current', value: leveled }
    : sinkOf(part.id, part.draw, part.supply, active)
}

export const radio: PartKind<Radio> = {
  kind: 'radio',
  label: 'radio',
  role: 'load',
  schema: radioSchema,
  terminals: part => [{ id: part.id, connector: part.terminal }],
  sink: radioSink,
  links: () => [],
  passes: () => [],
  mentions: part => (part.follows === undefined ? [] : [{ field: 'follows', ids: part.follows }]),
  intoShort: () => [],
  windows: () => [],
  needs: part => ({ at: part.id, ...part.supply, field: 'supply' }),
  limits: () => [],
  levels: part => part.levels ?? [],
  transmits: true,
  says: {
    box: () => [],
    line: part => `${part.powerW ? `${figure(part.powerW)} W · ` : ''}${drawLine(radioSink(part, true))}`,
  },
  noise: null,
  hookUp: () => ({ turn: 'load', live: 0 }),
  cautions: () => [],
  catalogue: [
    {
      id: 'hf-100',
      label: 'HF radio, 100 W',
      source: CLASS,
      part: {
        kind: 'radio',
        name: 'HF radio',
        supply: window15,
        draw: { model: 'constant-current', idleA: 1.2, activeA: 21 },
        powerW: 100,
        levels: [
          { powerW: 100, activeA: 21 },
          { powerW: 80, activeA: 18.5 },
          { powerW: 50, activeA: 14 },
          { powerW: 25, activeA: 10 },
        ],
        terminal: 'inlet-4',
      },
    },
    {
      id: 'vhf-50',
      label: 'VHF radio, 50 W',
      source: CLASS,
      part: {
        kind: 'radio',
        name: 'VHF radio',
        supply: window15,
        draw: { model: 'constant-current', idleA: 0.6, activeA: 11 },
        powerW: 50,
        levels: [
          { powerW: 50, activeA: 11 },
          { powerW: 25, activeA: 7 },
          { powerW: 10, activeA: 4.5 },
        ],
        terminal: 'lead-t2',
      },
    },
    {
      id: 'hf-20',
      label: 'Portable HF radio, 20 W',
      source: CLASS,
      part: {
        kind: 'radio',
        name: 'Portable HF radio',
        supply: { minV: 11, nominalV: 13.8, maxV: 15 },
        draw: { model: 'constant-current', idleA: 0.4, activeA: 4 },
        powerW: 20,
        terminal: 'stack-30',
      },
    },
    {
      id: 'cw-5',
      label: 'Trail CW radio, 5 W',
      source: CLASS,
      part: {
        kind: 'radio',
        name: 'Trail CW radio',
        supply: { minV: 9, nominalV: 12, maxV: 14 },
        draw: { model: 'constant-current', idleA: 0.06, activeA: 0.9 },
        powerW: 5,
        terminal: 'barrel-5521',
      },
    },
    {
      id: 'qrp-10',
      label: 'Portable all-mode radio, 10 W',
      source: CLASS,
      part: {
        kind: 'radio',
        name: 'Portable radio',
        supply: { minV: 9, nominalV: 13.8, maxV: 15.9 },
        draw: { model: 'constant-current', idleA: 0.5, activeA: 3 },
        powerW: 10,
        terminal: 'barrel-5525',
      },
    },
  ],
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    ...windowAndDrawForm,
    { path: 'powerW', label: 'Transmit power', quantity: 'power' },
    { path: 'fullPowerAboveV', label: 'Full power above', quantity: 'voltage' },
    { path: 'terminal', label: 'Terminal', quantity: 'connector' },
  ],
  lists: [
    {
      path: 'levels',
      label: 'Power levels',
      one: 'level',
      fresh: () => ({ powerW: 50, activeA: 12 }),
      fields: [
        { path: 'powerW', label: 'Power', quantity: 'power' },
        { path: 'activeA', label: 'Current', quantity: 'current' },
      ],
    },
  ],
}
