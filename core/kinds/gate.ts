import { z } from 'zod'
import { isCharging } from '../battery/emf'
import { figure } from '../units/number'
import { CHEMISTRY_IDS } from '../catalog/chemistries'
import { CHEMISTRY_CHOICES, noiseForm, profilesList } from './commonForm'
import { chargeOutput, chargesToV, UNSET_CHARGE_V } from './charging'
import { CONVERTER_EFFICIENCY } from './converter'
import {
  amps,
  ampsAboveZero,
  chargeProfiles,
  commonFields,
  connectorId,
  hertz,
  id,
  noise,
  volts,
  voltsAboveZero,
} from './fields'
import type { Around, PartKind, Transfer } from './kind'

export const gateSchema = z.strictObject({
  id,
  kind: z.literal('gate'),
  forwardDropV: volts.optional().describe('from either input to the output; unsaid: 0.05'),
  maxA: ampsAboveZero.optional(),
  transferV: voltsAboveZero.optional().describe('changes over to the battery when the supply falls under this'),
  gapMs: z.number().min(0).max(10000).optional().describe('time without output while it changes over'),
  chargeAmps: z.array(ampsAboveZero).max(20).optional().describe('charge currents it can be set to'),
  chargeA: amps.optional().describe('the one it is set to; unsaid: it does not charge'),
  chemistries: chargeProfiles.optional(),
  set: z.enum(CHEMISTRY_IDS as [string, ...string[]]).optional(),
  lockOut: z.boolean().optional(),
  switchingHz: hertz.optional(),
  noise: noise.optional(),
  supply: connectorId.optional(),
  battery: connectorId.optional(),
  out: connectorId.optional(),
  panel: connectorId.optional().describe('where it has a panel input'),
  ...commonFields,
})
export type Gate = z.infer<typeof gateSchema>

/** What a short behind a gate is fed through, Ω: its transistors or contacts, closed (typical of the class). */
const GATE_FAULT_OHM = 0.002

/** Forward drop of a gate with transistors for diodes (typical of the class). */
export const GATE_DROP_V = 0.05

const isFed = (terminal: string, around: Around) =>
  around(terminal).some(a =>
    ['supply', 'battery', 'vehicle', 'powerStation', 'converter', 'usbSource'].includes(a.part.kind),
  )

/** What it charges its battery with; null where it does not say its amps. */
const chargeOf = (part: Gate) =>
  part.chargeA
    ? chargeOutput(`${part.id}.battery`, part, {
        maxA: part.chargeA,
        field: 'chargeA',
        ...(part.chargeAmps && { choicesA: part.chargeAmps }),
      })
    : null

export const gate: PartKind<Gate> = {
  kind: 'gate',
  label: 'source gate',
  role: 'between',
  schema: gateSchema,
  entry: part => `${part.id}.battery`,
  terminals: part => [
    { id: `${part.id}.supply`, connector: part.supply },
    { id: `${part.id}.battery`, connector: part.battery },
    { id: `${part.id}.out`, connector: part.out, ratedA: part.maxA },
    ...(part.panel ? [{ id: `${part.id}.panel`, connector: part.panel }] : []),
  ],
  // The supply carries the station while the mains is there, which is when batteries are charged; else the battery
  // does.
  transfers: (part, state, around) => {
    const [first, second] = isCharging(state) ? ['supply', 'battery'] : ['battery', 'supply']
    const from = [first, second].map(t => `${part.id}.${t}`).find(t => isFed(t, around))
    if (from === undefined) return []
    const way: Transfer = {
      from,
      to: `${part.id}.out`,
      relation: 'follows-input',
      takes: 'current',
      setV: 0,
      dropV: part.forwardDropV ?? GATE_DROP_V,
      idleW: 0,
      efficiency: 1,
    }
    const output = chargeOf(part)
    if (!output || !isCharging(state) || from !== `${part.id}.supply`) return [way]
    // One that does not say to what it is set charges all the same, and takes from its supply what it gives.
    const stage: Transfer = { ...way, to: output.at, relation: 'any', takes: 'power', setV: chargesToV(output, around) }
    return [way, { ...stage, efficiency: CONVERTER_EFFICIENCY, mostA: output.maxA }]
  },
  charge: chargeOf,
  switching: part => (part.switchingHz === undefined ? null : { hz: part.switchingHz, what: 'charging stage' }),
  links: () => [],
  passes: part =>
    ['supply', 'battery'].map(side => ({ from: `${part.id}.${side}`, to: `${part.id}.out`, faultOhm: GATE_FAULT_OHM })),
  // What it passes on comes by its passes; what its charging stage makes is its own.
  intoShort: part => {
    const output = chargeOf(part)
    if (!output) return []
    const { at, absorptionV, maxA } = output
    return [{ at, by: 'charging', kind: 'limited', volts: absorptionV ?? UNSET_CHARGE_V, amps: maxA, sure: false }]
  },
  windows: () => [],
  limits: () => [],
  says: { box: () => [], line: part => (part.chargeA ? `charges ${figure(part.chargeA)} A` : '') },
  noise: { odds: 1 },
  hookUp: () => ({ turn: 'between', live: 0 }),
  cautions: () => [],
  catalogue: [
    {
      id: 'gate-40',
      label: 'Source gate 40 A, charges with 1–10 A',
      source: 'typical of the class',
      part: {
        kind: 'gate',
        name: 'Source gate',
        maxA: 40,
        forwardDropV: 0.05,
        transferV: 13,
        gapMs: 1,
        chargeAmps: [1, 4, 7, 10],
        chargeA: 4,
        set: 'lifepo4',
        chemistries: {
          lifepo4: { absorptionV: 14.4, floatV: 13.5 },
          agm: { absorptionV: 14.5, floatV: 13.6 },
          gel: { absorptionV: 14.1, floatV: 13.6 },
        },
        supply: 'stack-45',
        battery: 'stack-45',
        out: 'stack-45',
        massG: 260,
      },
    },
    {
      id: 'gate-relay-30',
      label: 'Changeover relay 30 A',
      source: 'typical of the class',
      part: {
        kind: 'gate',
        name: 'Changeover relay',
        maxA: 30,
        forwardDropV: 0.01,
        transferV: 11,
        gapMs: 20,
        supply: 'screw',
        battery: 'screw',
        out: 'screw',
        massG: 120,
      },
    },
  ],
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    { path: 'forwardDropV', label: 'Drops', quantity: 'voltage' },
    { path: 'maxA', label: 'Current, most', quantity: 'current' },
    { path: 'transferV', label: 'Changes over below', quantity: 'voltage' },
    { path: 'gapMs', label: 'Gap while it changes, ms', quantity: 'count' },
    { path: 'chargeA', label: 'Charges with', quantity: 'current' },
    { path: 'set', label: 'Set to', quantity: 'choice', choices: CHEMISTRY_CHOICES },
    { path: 'chargeAmps', label: 'Charge currents it has', quantity: 'currents', more: true },
    { path: 'lockOut', label: 'Cold charge cut-off', quantity: 'yes' },
    { path: 'switchingHz', label: 'Switching frequency', quantity: 'frequency' },
    { path: 'supply', label: 'Supply terminal', quantity: 'connector', more: true },
    { path: 'battery', label: 'Battery terminal', quantity: 'connector', more: true },
    { path: 'out', label: 'Output terminal', quantity: 'connector', more: true },
    { path: 'panel', label: 'Panel terminal', quantity: 'connector', more: true },
    ...noiseForm,
  ],
  lists: [profilesList('chemistries')],
  between: ['battery', 'out'],
}
