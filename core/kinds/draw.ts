import { figure, roundedTo } from '../units/number'
import type { Draw, SupplyWindow } from './fields'
import type { FormField, Sink } from './kind'

/**
 * Resistance of a resistive draw, Ω, from ohms, or from watts or amps at the nominal voltage. Infinity: takes nothing.
 */
export function resistiveOhm(
  draw: Extract<Draw, { model: 'resistive' }>,
  state: 'idle' | 'active',
  nominalV: number,
): number {
  const ohm = draw[`${state}Ohm`]
  const watts = draw[`${state}W`]
  const amps = draw[`${state}A`]
  if (ohm !== undefined) return ohm
  if (watts !== undefined) return watts > 0 ? nominalV ** 2 / watts : Infinity
  return amps ? nominalV / amps : Infinity
}

/** Nominal voltage of a window, V: as said, or its middle. */
export function nominalVolts(window: SupplyWindow): number {
  return window.nominalV ?? (window.minV + window.maxV) / 2
}

/** What a draw takes at a terminal. */
export function sinkOf(at: string, draw: Draw, window: SupplyWindow, active: boolean): Sink {
  switch (draw.model) {
    case 'constant-current':
      return { at, law: 'current', value: active ? draw.activeA : draw.idleA }
    case 'constant-power':
      return { at, law: 'power', value: active ? draw.activeW : draw.idleW }
    case 'resistive':
      return { at, law: 'ohm', value: resistiveOhm(draw, active ? 'active' : 'idle', nominalVolts(window)) }
  }
}

/** Current that a sink takes at a voltage, A. */
export function sinkAmps({ law, value }: Pick<Sink, 'law' | 'value'>, volts: number): number {
  if (law === 'current') return value
  return law === 'power' ? value / volts : volts / value
}

/** Current of a draw on a 12 V system, A: for choosing a fuse before anything is solved. */
export const ampsAbout = (sink: Sink) => sinkAmps(sink, 12)

/** What a load takes, in a word: "21 A", "30 W", "3.6 Ω". */
export function drawLine({ law, value }: Sink): string {
  if (law === 'current') return `${figure(value, 2)} A`
  return law === 'power' ? `${figure(value)} W` : `${figure(value, 2)} Ω`
}

type Shape = Record<string, unknown> & { draw?: { model?: string } }
const isModel = (model: string) => (part: Record<string, unknown>) => (part as Shape).draw?.model === model

const MODEL_CHOICES = [
  { id: 'constant-current', label: 'amps' },
  { id: 'constant-power', label: 'watts' },
  { id: 'resistive', label: 'ohms' },
] as const

/** The same draw told by another law: alike at the nominal voltage. */
export function drawAs(model: Draw['model'], draw: Draw, window: SupplyWindow): Draw {
  const volts = nominalVolts(window)
  const tidy = (value: number) => roundedTo(value, 4)
  const amps = (active: boolean) => sinkAmps(sinkOf('', draw, window, active), volts)
  const [idle, active] = [amps(false), amps(true)]
  if (model === 'constant-current') return { model, idleA: tidy(idle), activeA: tidy(active) }
  return { model, idleW: tidy(idle * volts), activeW: tidy(active * volts) }
}

/** What goes along where the law of a draw is chosen by hand. */
export const drawAlong = (
  part: { draw: Draw; supply: SupplyWindow },
  path: string,
  value: unknown,
): Record<string, unknown> | null =>
  path === 'draw.model' ? { draw: drawAs(value as Draw['model'], part.draw, part.supply) } : null

/** Form lines for a supply window and a draw, shared by radios and loads. */
export const windowAndDrawForm: readonly FormField[] = [
  { path: 'supply', label: 'Supply, as its manual says', quantity: 'window' },
  { path: 'supply.minV', label: 'Needs at least', quantity: 'voltage' },
  { path: 'supply.nominalV', label: 'Nominal', quantity: 'voltage' },
  { path: 'supply.maxV', label: 'Stands at most', quantity: 'voltage' },
  { path: 'draw.model', label: 'Takes the same', quantity: 'choice', choices: MODEL_CHOICES, must: true },
  { path: 'draw.idleA', label: 'Idle current', quantity: 'current', when: isModel('constant-current') },
  { path: 'draw.activeA', label: 'Active current', quantity: 'current', when: isModel('constant-current') },
  { path: 'draw.idleW', label: 'Idle power', quantity: 'power', when: isModel('constant-power') },
  { path: 'draw.activeW', label: 'Active power', quantity: 'power', when: isModel('constant-power') },
  { path: 'draw.idleW', label: 'Idle power', quantity: 'power', when: isModel('resistive') },
  { path: 'draw.activeW', label: 'Active power', quantity: 'power', when: isModel('resistive') },
  { path: 'draw.idleOhm', label: 'Idle resistance', quantity: 'resistance', when: isModel('resistive'), more: true },
  {
    path: 'draw.activeOhm',
    label: 'Active resistance',
    quantity: 'resistance',
    when: isModel('resistive'),
    more: true,
  },
  { path: 'draw.idleA', label: 'Idle current', quantity: 'current', when: isModel('resistive'), more: true },
  { path: 'draw.activeA', label: 'Active current', quantity: 'current', when: isModel('resistive'), more: true },
]
