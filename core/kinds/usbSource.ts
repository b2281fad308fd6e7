import { z } from 'zod'
import { figure } from '../units/number'
import { lifeForm, rangeForm } from './commonForm'
import { amps, ampsAboveZero, commonFields, connectorId, id, lifeFields, voltsAboveZero } from './fields'
import type { Around, PartKind, Source } from './kind'
import { grown } from './sized'
import { bankOf } from './store'
import { trigger } from './trigger'

export const usbSourceSchema = z.strictObject({
  id,
  kind: z.literal('usbSource'),
  voltages: z
    .array(z.strictObject({ volts: voltsAboveZero, amps: ampsAboveZero }))
    .min(1)
    .max(20)
    .describe('what it offers'),
  adjustable: z.strictObject({ minV: voltsAboveZero, maxV: voltsAboveZero, amps: ampsAboveZero }).optional(),
  energyWh: z.number().gt(0).max(100000).optional(),
  autoOffA: amps.optional().describe('goes to sleep below this'),
  terminal: connectorId.optional(),
  ...lifeFields,
  ...commonFields,
})
export type UsbSource = z.infer<typeof usbSourceSchema>

/** Gives what nobody asks for, V. */
export const USB_DEFAULT_V = 5

/**
 * What it gives when asked for a voltage: that one, else the next lower it offers; with the current that goes with it.
 */
export function delivered(source: UsbSource, requestV: number): { volts: number; amps: number } {
  const { adjustable } = source
  const fixed = [...source.voltages].sort((a, b) => a.volts - b.volts)
  const exact = fixed.find(o => Math.abs(o.volts - requestV) < 0.01)
  if (exact) return exact
  if (adjustable && requestV >= adjustable.minV && requestV <= adjustable.maxV)
    return { volts: requestV, amps: adjustable.amps }
  return fixed.filter(o => o.volts <= requestV).at(-1) ?? fixed[0]!
}

/** The highest voltage that the triggers on it ask for, V; what it gives unasked where there is none. */
export function requestOn(source: UsbSource, around: Around): number {
  const asked = around(source.id).flatMap(({ part }) => (part.kind === 'trigger' ? [part.requestV] : []))
  return asked.length ? Math.max(...asked) : USB_DEFAULT_V
}

const offers = (amps12: number | null) => [
  { volts: 5, amps: 3 },
  { volts: 9, amps: 3 },
  ...(amps12 === null ? [] : [{ volts: 12, amps: amps12 }]),
  { volts: 15, amps: 3 },
  { volts: 20, amps: 3.25 },
]

/** What an adjustable range begins as, where its current is said first. */
const adjustable = { path: 'adjustable', fresh: (amps: unknown) => ({ minV: 5, maxV: 5, amps }) }

function sourceOf(part: UsbSource, around: Around): Source[] {
  const { volts, amps } = delivered(part, requestOn(part, around))
  return [{ at: part.id, emfV: volts, ohm: 0, leastA: 0, mostA: amps }]
}

export const usbSource: PartKind<UsbSource> = {
  kind: 'usbSource',
  label: 'USB power bank',
  role: 'source',
  schema: usbSourceSchema,
  terminals: part => [{ id: part.id, connector: part.terminal }],
  sources: (part, _state, around) => sourceOf(part, around),
  store: (part, around) =>
    part.energyWh === undefined ? null : bankOf(part.energyWh, () => sourceOf(part, around), part),
  sized: (part, factor) => grown(part, ['energyWh'], factor),
  links: () => [],
  passes: () => [],
  intoShort: part => [
    {
      at: part.id,
      by: 'itself',
      kind: 'limited',
      volts: Math.max(...part.voltages.map(v => v.volts), part.adjustable?.maxV ?? 0),
      amps: Math.max(...part.voltages.map(v => v.amps), part.adjustable?.amps ?? 0),
      sure: true,
    },
  ],
  windows: () => [],
  limits: (part, around) => [
    {
      of: 'gives',
      continuousA: delivered(part, requestOn(part, around)).amps,
      fields: ['voltages', 'adjustable'],
      judgedBy: 'usb-current',
    },
  ],
  autoOffA: part => part.autoOffA,
  says: {
    box: part => [
      part.voltages.map(v => v.volts).join(', ') + ' V',
      part.energyWh ? `${figure(part.energyWh)} Wh` : '',
    ],
    line: () => '',
  },
  noise: { odds: 1 },
  hookUp: () => ({ turn: 'gives', live: 1 }),
  cautions: () => [],
  catalogue: [
    {
      id: 'usb-bank-74',
      label: 'USB bank 74 Wh, without 12 V',
      part: {
        kind: 'usbSource',
        name: 'USB bank',
        voltages: offers(null),
        energyWh: 74,
        autoOffA: 0.1,
        terminal: 'usb-c',
        massG: 360,
      },
      source: 'USB power delivery, typical of the class',
    },
    {
      id: 'usb-bank-96',
      label: 'USB bank 96 Wh, with 12 V',
      part: {
        kind: 'usbSource',
        name: 'USB bank',
        voltages: offers(3),
        energyWh: 96,
        autoOffA: 0.08,
        terminal: 'usb-c',
        massG: 480,
      },
      source: 'USB power delivery, typical of the class',
    },
  ],
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    ...rangeForm({ amps: 3 }),
    { path: 'adjustable.amps', label: 'Adjustable: gives', quantity: 'current', within: adjustable, more: true },
    { path: 'energyWh', label: 'Energy', quantity: 'energy' },
    { path: 'autoOffA', label: 'Goes to sleep below', quantity: 'current' },
    ...lifeForm,
    { path: 'terminal', label: 'Terminal', quantity: 'connector' },
  ],
  lists: [
    {
      path: 'voltages',
      label: 'Voltages it offers',
      one: 'voltage',
      fresh: () => ({ volts: 12, amps: 3 }),
      fields: [
        { path: 'volts', label: 'Offers', quantity: 'voltage' },
        { path: 'amps', label: 'At most', quantity: 'current' },
      ],
    },
  ],
}

/**
 * The catalogue's trigger that asks a USB source for the highest voltage it offers up to a limit, V; null for a source
 * of another kind, which gives without being asked.
 */
export function askedBy(source: { kind: string }, mostV: number): string | null {
  if (source.kind !== 'usbSource') return null
  const offered = new Set((source as UsbSource).voltages.map(v => v.volts))
  const rows = trigger.catalogue.filter(r => offered.has(r.part.requestV))
  const fitting = rows.filter(r => r.part.requestV <= mostV).sort((a, b) => b.part.requestV - a.part.requestV)
  return (fitting[0] ?? rows[0])?.id ?? null
}
