import { z } from 'zod'
import { figure } from '../units/number'
import { drawAlong, drawLine, nominalVolts, sinkAmps, sinkOf, windowAndDrawForm } from './draw'
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
import type { OwnPack } from './store'

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
    .min(1)
    .max(50)
    .optional()
    .describe('measured transmit power at voltages, straight lines between'),
  internalBattery: z
    .strictObject({
      chemistry: words.optional(),
      capacityAh: z.number().gt(0).max(1000).optional(),
      chargesAboveV: voltsAboveZero.optional(),
      nominalV: voltsAboveZero.optional().describe('of its cells together'),
      powerW: powerW.optional().describe('the most it transmits on its own pack'),
      fullInH: z.number().gt(0).max(1000).optional().describe('hours that its inlet takes to fill it'),
      chargedInUse: z.boolean().optional().describe('it charges while it is used; unsaid: it does'),
    })
    .optional()
    .describe('a pack of its own, on which it goes on'),
  bands: z.array(words).max(40).optional().describe('bands it is used on, as 20 m'),
  follows: id.optional().describe('an amplifier that draws only with this radio'),
  dataTo: id.optional().describe('the computer it hangs on by a USB or data lead'),
  terminal: connectorId.optional(),
  ...commonFields,
})
export type Radio = z.infer<typeof radioSchema>

/** Current of a radio on a level, A; null where no level of that power is listed. */
export function levelAmps(radio: Radio, power = radio.powerW): number | null {
  return radio.levels?.find(l => l.powerW === power)?.activeA ?? null
}

/**
 * Share of a radio's full transmit power at a voltage, by what was measured on it, or by its fullPowerAboveV; null
 * where
 * it says neither.
 */
export function powerShare(radio: Radio, volts: number): number | null {
  const points = [...(radio.powerAtVolts ?? [])].sort((a, b) => a.volts - b.volts)
  const fullW = Math.max(0, ...points.map(p => p.powerW))
  if (fullW > 0) return measuredW(points, volts) / fullW
  if (radio.fullPowerAboveV === undefined) return null
  return Math.min(1, (volts / radio.fullPowerAboveV) ** 2)
}

function measuredW(points: { volts: number; powerW: number }[], volts: number): number {
  const above = points.findIndex(p => p.volts >= volts)
  if (above < 0) return points.at(-1)!.powerW
  if (above === 0) return points[0]!.powerW
  const [a, b] = [points[above - 1]!, points[above]!]
  return a.powerW + ((b.powerW - a.powerW) * (volts - a.volts)) / (b.volts - a.volts)
}

const CLASS = 'typical of the class'
const window15 = { minV: 11.7, nominalV: 13.8, maxV: 15.9 }

function radioSink(part: Radio, active: boolean, power?: number): Sink {
  const leveled = active ? levelAmps(part, power) : null
  return leveled !== null && part.draw.model === 'constant-current'
    ? { at: part.id, law: 'current', value: leveled }
    : sinkOf(part.id, part.draw, part.supply, active)
}

function ownPack({ internalBattery }: Radio): string {
  if (!internalBattery) return ''
  const { chemistry, capacityAh } = internalBattery
  return ` · own pack${chemistry ? ` ${chemistry}` : ''}${capacityAh ? ` ${figure(capacityAh)} Ah` : ''}`
}

/** What a radio's inlet takes for a watt-hour put into its pack (typical of small chargers). */
const OWN_PACK_EFFICIENCY = 0.85

/** What its own pack holds and does. */
function ownPackOf(part: Radio): OwnPack | 'unknown' | null {
  const { capacityAh, nominalV, chargesAboveV, powerW: mostW, fullInH, chargedInUse } = part.internalBattery ?? {}
  if (!part.internalBattery) return null
  if (capacityAh === undefined || nominalV === undefined) return 'unknown'
  const wh = capacityAh * nominalV
  const volts = nominalVolts(part.supply)
  const watts = (sink: Sink) => sinkAmps(sink, volts) * volts
  const [idleW, fullW] = [watts(radioSink(part, false)), watts(radioSink(part, true))]
  const share = mostW !== undefined && part.powerW ? Math.min(1, mostW / part.powerW) : 1
  return {
    wh,
    idleW,
    fullW: idleW + share * Math.max(0, fullW - idleW),
    backAtV: chargesAboveV ?? volts,
    chargesAboveV: chargesAboveV ?? part.supply.minV,
    fillW: fullInH === undefined ? 0 : wh / OWN_PACK_EFFICIENCY / fullInH,
    fillV: volts,
    fillPerHour: fullInH === undefined ? 0 : 1 / fullInH,
    chargedInUse: chargedInUse !== false,
    ...(mostW !== undefined && { mostW }),
  }
}

/** The level a radio is set to, by its place in the list; -1 where it lists none of that power. */
const levelUsed = (part: Radio) => (part.levels ?? []).findIndex(l => l.powerW === part.powerW)

export const radio: PartKind<Radio> = {
  kind: 'radio',
  label: 'radio',
  role: 'load',
  schema: radioSchema,
  terminals: part => [{ id: part.id, connector: part.terminal }],
  sink: radioSink,
  links: () => [],
  passes: () => [],
  mentions: part =>
    (['follows', 'dataTo'] as const).flatMap(field => {
      const ids = part[field]
      return ids === undefined ? [] : [{ field, ids }]
    }),
  intoShort: () => [],
  windows: () => [],
  needs: part => ({ at: part.id, ...part.supply, field: 'supply' }),
  limits: () => [],
  levels: part => part.levels ?? [],
  // The current of the level in use is what is edited, wherever it is typed.
  goesAlong: (part, path, value) => {
    const law = drawAlong(part, path, value)
    if (law) return law
    const used = levelUsed(part)
    if (path === 'draw.activeA' && used >= 0) return { [`levels.${used}.activeA`]: value }
    if (path === `levels.${used}.activeA` && part.draw.model === 'constant-current') return { 'draw.activeA': value }
    const chosen = path === 'powerW' && part.levels?.find(l => l.powerW === value)
    return chosen && part.draw.model === 'constant-current' ? { 'draw.activeA': chosen.activeA } : {}
  },
  transmits: true,
  ownPack: ownPackOf,
  transmitShare: powerShare,
  says: {
    box: () => [],
    line: part =>
      `${part.powerW ? `${figure(part.powerW)} W · ` : ''}${drawLine(radioSink(part, true))}${ownPack(part)}`,
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
    { path: 'bands', label: 'Used on', quantity: 'words', more: true },
    { path: 'follows', label: 'Draws only with', quantity: 'part', more: true },
    { path: 'internalBattery.chemistry', label: 'Own pack is', quantity: 'text', more: true },
    { path: 'internalBattery.capacityAh', label: 'Own pack', quantity: 'charge', more: true },
    { path: 'internalBattery.chargesAboveV', label: 'Own pack charges above', quantity: 'voltage', more: true },
    { path: 'internalBattery.nominalV', label: 'Own pack, volts', quantity: 'voltage', more: true },
    { path: 'internalBattery.powerW', label: 'Most power on its own pack', quantity: 'power', more: true },
    { path: 'internalBattery.fullInH', label: 'Own pack is full after, hours', quantity: 'count', more: true },
    { path: 'internalBattery.chargedInUse', label: 'Own pack charges in use', quantity: 'yes', more: true },
    { path: 'dataTo', label: 'Data lead to', quantity: 'part', more: true },
    { path: 'terminal', label: 'Terminal', quantity: 'connector' },
  ],
  lists: [
    {
      path: 'powerAtVolts',
      label: 'Power measured at voltages',
      one: 'point',
      fresh: () => ({ volts: 12, powerW: 50 }),
      fields: [
        { path: 'volts', label: 'Voltage', quantity: 'voltage' },
        { path: 'powerW', label: 'Power', quantity: 'power' },
      ],
    },
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
