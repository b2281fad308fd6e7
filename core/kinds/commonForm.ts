import { CHEMISTRY_IDS, chemistry } from '../catalog/chemistries'
import { FUSE_TYPE_IDS, fuseClass } from '../catalog/fuses'
import type { Choice, FormField, FormList } from './kind'

/** Lines of forms that several kinds share. */

export const CHEMISTRY_CHOICES: readonly Choice[] = CHEMISTRY_IDS.map(id => ({ id, label: chemistry(id).label }))
export const FUSE_TYPE_CHOICES: readonly Choice[] = FUSE_TYPE_IDS.map(id => ({ id, label: fuseClass(id).label }))

/** What can be said of every part. */
export const commonForm: readonly FormField[] = [
  { path: 'note', label: 'Note', quantity: 'note', more: true },
  { path: 'massG', label: 'Mass', quantity: 'mass', more: true },
  { path: 'sizeMm', label: 'Size, mm', quantity: 'size', more: true },
  { path: 'cost', label: 'Cost', quantity: 'count', more: true },
  { path: 'bought', label: 'Bought', quantity: 'text', more: true },
  { path: 'zone', label: 'Stands in', quantity: 'zone', more: true },
  { path: 'nearAntennaLead', label: 'Beside an antenna lead', quantity: 'yes', more: true },
  { path: 'grounded', label: 'Bonded to the station ground', quantity: 'yes', more: true },
  { path: 'shows.on', label: 'Its lamp or display shows: on', quantity: 'text', more: true },
  { path: 'shows.active', label: 'Shows: at work', quantity: 'text', more: true },
  { path: 'shows.charging', label: 'Shows: charging', quantity: 'text', more: true },
  { path: 'shows.full', label: 'Shows: full', quantity: 'text', more: true },
  { path: 'shows.low', label: 'Shows: battery low', quantity: 'text', more: true },
  { path: 'shows.fault', label: 'Shows: a fault', quantity: 'text', more: true },
]

/** How long what stores energy lasts. */
export const lifeForm: readonly FormField[] = [
  { path: 'cycleLife', label: 'Lasts, full cycles', quantity: 'count', more: true },
  { path: 'lifeYears', label: 'Lasts, years', quantity: 'count', more: true },
]

/** What is known of a device's noise. */
export const noiseForm: readonly FormField[] = [
  { path: 'noise.quietUpToA', label: 'Tested quiet up to', quantity: 'current', more: true },
  { path: 'noise.bands', label: 'Heard on', quantity: 'words', more: true },
  { path: 'noise.note', label: 'About its noise', quantity: 'text', more: true },
]

/** Charging voltages, chemistry by chemistry. */
export const profilesList = (path: string): FormList => ({
  path,
  label: 'Charging voltages',
  one: 'chemistry',
  keyed: { label: 'Chemistry', choices: () => CHEMISTRY_CHOICES },
  fresh: () => ({ absorptionV: 14.4 }),
  fields: [
    { path: 'absorptionV', label: 'Absorption', quantity: 'voltage' },
    { path: 'floatV', label: 'Float', quantity: 'voltage' },
  ],
})

/** Efficiency by output, in place of one number. */
export const efficiencyList = (unit: 'outA' | 'outW'): FormList => ({
  path: 'efficiency',
  label: 'Efficiency by output',
  one: 'point',
  more: true,
  fresh: () => ({ [unit]: unit === 'outA' ? 10 : 100, efficiency: 0.9 }),
  fields: [
    unit === 'outA'
      ? { path: 'outA', label: 'At', quantity: 'current' }
      : { path: 'outW', label: 'At', quantity: 'power' },
    { path: 'efficiency', label: 'Efficiency', quantity: 'fraction' },
  ],
})

export const hasOneEfficiency = (part: Record<string, unknown>) => !Array.isArray(part.efficiency)

/** A range that a voltage can be set to. */
export function rangeForm(more: Record<string, unknown> = {}): FormField[] {
  const within = { path: 'adjustable', fresh: (volts: unknown) => ({ minV: volts, maxV: volts, ...more }) }
  return [
    { path: 'adjustable.minV', label: 'Adjustable from', quantity: 'voltage', within, more: true },
    { path: 'adjustable.maxV', label: 'Adjustable to', quantity: 'voltage', within, more: true },
  ]
}
