import { CONTACT_STATES } from '../connector/mate'
import { FUSE_TYPE_CHOICES } from '../kinds/commonForm'
import type { FormField } from '../kinds/kind'
import type { Inline } from '../kinds/inline'

/** All that can be entered of a lead, of its ends, and of what is wired into it. */

export const leadForm: readonly FormField[] = [
  { path: 'name', label: 'Name', quantity: 'text' },
  { path: 'conductor', label: 'Conductor', quantity: 'conductor' },
  { path: 'lengthM', label: 'Length, one way', quantity: 'length' },
  { path: 'from', label: 'From', quantity: 'terminal', must: true },
  { path: 'to', label: 'To', quantity: 'terminal', must: true },
  { path: 'sheathed', label: 'Lies in a sheath', quantity: 'yes' },
  { path: 'conductor.insulationC', label: 'Insulation stands', quantity: 'temperature', more: true },
  {
    path: 'conductor.material',
    label: 'Of',
    quantity: 'choice',
    choices: [
      { id: 'copper', label: 'copper' },
      { id: 'cca', label: 'copper-clad aluminium' },
    ],
    more: true,
  },
  {
    path: 'return',
    label: 'Comes back by',
    quantity: 'choice',
    choices: [
      { id: 'conductor', label: 'its own conductor' },
      { id: 'chassis', label: "the vehicle's chassis" },
    ],
    more: true,
  },
  {
    path: 'chassisOhm',
    label: 'Resistance of the chassis',
    quantity: 'resistance',
    when: lead => lead.return === 'chassis',
    more: true,
  },
  { path: 'bundledConductors', label: 'Conductors lying together', quantity: 'count', more: true },
  { path: 'note', label: 'Note', quantity: 'note', more: true },
]

/** Of each end; where the end is not said yet it begins as a bare one. */
export const endForm: readonly FormField[] = [
  { path: 'connector', label: 'Connector', quantity: 'connector' },
  {
    path: 'method',
    label: 'Method',
    quantity: 'choice',
    choices: ['crimp', 'crimp+solder', 'solder', 'screw'],
  },
  { path: 'contact', label: 'Contact looks', quantity: 'choice', choices: CONTACT_STATES, more: true },
  { path: 'contactOhm', label: 'Measured, a pole', quantity: 'resistance', more: true },
  { path: 'sex', label: 'Is a', quantity: 'choice', choices: ['plug', 'socket'], more: true },
  { path: 'polarityMarked', label: 'Polarity metered and marked', quantity: 'yes', more: true },
]

const LEGS = [
  { id: 'positive', label: 'positive leg' },
  { id: 'negative', label: 'negative leg' },
  { id: 'both', label: 'both legs' },
]
const atM: FormField = { path: 'atM', label: 'At', quantity: 'length' }
const ohm: FormField = { path: 'ohm', label: 'Resistance', quantity: 'resistance', more: true }
const note: FormField = { path: 'note', label: 'Note', quantity: 'note', more: true }
const rated: FormField = { path: 'ratedA', label: 'Rated', quantity: 'current' }
const legs: FormField = { path: 'legs', label: 'In the', quantity: 'choice', choices: LEGS, more: true }
const closed: FormField = { path: 'closed', label: 'On', quantity: 'yes' }

/** Of each kind of thing wired into a lead. */
export const itemForms: Readonly<Record<Inline['kind'], readonly FormField[]>> = {
  fuse: [{ path: 'type', label: 'Class', quantity: 'choice', choices: FUSE_TYPE_CHOICES }, rated, atM, legs, ohm, note],
  breaker: [
    rated,
    atM,
    closed,
    legs,
    { path: 'ratedV', label: 'Breaks up to, volts', quantity: 'voltage', more: true },
    { path: 'breakingA', label: 'Breaks up to, amps', quantity: 'current', more: true },
    ohm,
    note,
  ],
  switch: [
    rated,
    atM,
    closed,
    { path: 'by', label: 'Worked', quantity: 'choice', choices: [{ id: 'engine', label: 'by the engine: a relay' }] },
    ohm,
    note,
  ],
  dropper: [
    { path: 'count', label: 'Diodes', quantity: 'count' },
    { path: 'stripe', label: 'Stripe toward', quantity: 'choice', choices: ['from', 'to'] },
    rated,
    atM,
    { path: 'labelled', label: 'Lead says that it holds a diode', quantity: 'yes', more: true },
    { path: 'saturationA', label: 'Saturation current', quantity: 'number', more: true },
    { path: 'emission', label: 'Emission coefficient', quantity: 'number', more: true },
    { path: 'seriesOhm', label: 'Series resistance', quantity: 'resistance', more: true },
    note,
  ],
  meter: [rated, atM, { ...ohm, label: 'Shunt' }, note],
  choke: [
    { path: 'turns', label: 'Turns', quantity: 'count' },
    { path: 'cores', label: 'Cores', quantity: 'count' },
    { path: 'material', label: 'Material', quantity: 'text', more: true },
    atM,
    note,
  ],
}
