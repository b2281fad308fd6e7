import { z } from 'zod'
import { isCharging } from '../battery/emf'
import { PANEL_CAUTION } from '../catalog/cautions'
import { figure, fixed } from '../units/number'
import { ampsAboveZero, commonFields, connectorId, id, voltsAboveZero, words } from './fields'
import { profileOf } from './charging'
import { grown } from './sized'
import type { PartKind, Source } from './kind'

const perDegree = z.number().min(-0.02).max(0.02)

export const panelSchema = z.strictObject({
  id,
  kind: z.literal('panel'),
  openCircuitV: voltsAboveZero.describe('of the whole string, at 25 °C'),
  shortCircuitA: ampsAboveZero,
  maxPowerV: voltsAboveZero,
  maxPowerA: ampsAboveZero,
  voltsPerC: perDegree.optional().describe('change of its open-circuit voltage per °C, as a fraction; unsaid: −0.003'),
  ampsPerC: perDegree
    .optional()
    .describe('change of its short-circuit current per °C, as a fraction; unsaid: not counted'),
  members: z
    .array(
      z.strictObject({
        id: id.optional(),
        name: words.optional(),
        string: z
          .int()
          .min(1)
          .max(50)
          .optional()
          .describe('members of one string are in series; strings are in parallel; unsaid: 1'),
        openCircuitV: voltsAboveZero.optional(),
        shortCircuitA: ampsAboveZero.optional(),
        maxPowerV: voltsAboveZero.optional(),
        maxPowerA: ampsAboveZero.optional(),
        fused: z.boolean().optional().describe('its string has a fuse of its own'),
      }),
    )
    .min(1)
    .max(100)
    .optional()
    .describe('the panels it is made of; the figures above are those of the whole'),
  terminal: connectorId.optional(),
  ...commonFields,
})
export type Panel = z.infer<typeof panelSchema>

/** Relative change of the open-circuit voltage of silicon per °C (typical of the class). */
export const SILICON_PER_C = { volts: -0.003 } as const

/** Sun on a bright cold day and its reflection give more than a panel's label (NFPA 70, 690.8). */
export const SUN_FACTOR = 1.25

/** Open-circuit voltage at a cell temperature, V: Voc · (1 + β·(T − 25)). */
export function openCircuitVolts(panel: Panel, cellC: number): number {
  return panel.openCircuitV * (1 + (panel.voltsPerC ?? SILICON_PER_C.volts) * (cellC - 25))
}

/** Cells in full sun are this much warmer than the air (typical of a panel with air behind it), °C. */
export const CELLS_WARMER_C = 30

/**
 * Short-circuit current in full sun on the hottest day of a site, A: Isc · (1 + α·(T − 25)), where the panel says α;
 * unsaid, the sun's own margin holds it.
 */
export function hotShortCircuitA(panel: Panel, airC: number): number {
  const factor = 1 + (panel.ampsPerC ?? 0) * (airC + CELLS_WARMER_C - 25)
  return panel.shortCircuitA * Math.max(1, factor)
}

/** Straight lines through short circuit, best point and open circuit, in full sun. */
const curveOf = ({ shortCircuitA, maxPowerV, maxPowerA, openCircuitV }: Panel): Pick<Source, 'curve'> => ({
  curve: [
    [0, shortCircuitA],
    [maxPowerV, maxPowerA],
    [openCircuitV, 0],
  ],
})

const CLASS = 'typical of the class'
const folding = (
  name: string,
  openCircuitV: number,
  shortCircuitA: number,
  maxPowerV: number,
  maxPowerA: number,
  massG: number,
) => ({ kind: 'panel' as const, name, openCircuitV, shortCircuitA, maxPowerV, maxPowerA, terminal: 'pv-single', massG })

export const panel: PartKind<Panel> = {
  kind: 'panel',
  label: 'solar panel',
  role: 'source',
  schema: panelSchema,
  terminals: part => [{ id: part.id, connector: part.terminal }],
  // On a controller it stands at its best point while that works, or is drawn down to the battery by a switch; open
  // else. Without one it gives what its curve says.
  store: () => null,
  sources: (part, state, around) => {
    const controller = around(part.id).find(a => a.part.kind === 'controller' && a.terminal.endsWith('.panel'))?.part
    if (controller?.kind !== 'controller') return [{ at: part.id, emfV: part.openCircuitV, ohm: 0, ...curveOf(part) }]
    const { absorptionV } = profileOf(controller.chemistries, controller.set)
    const pulledDown = controller.type === 'pwm' ? absorptionV : null
    const chargingV = pulledDown === null ? part.maxPowerV : Math.min(pulledDown, part.maxPowerV)
    return [{ at: part.id, emfV: isCharging(state) ? chargingV : part.openCircuitV, ohm: 0 }]
  },
  needsController: true,
  // More of the same side by side: their volts stay.
  sized: (part, factor) => ({
    ...grown(part, ['shortCircuitA', 'maxPowerA'], factor),
    ...(part.members && { members: part.members.map(m => grown(m, ['shortCircuitA', 'maxPowerA'], factor)) }),
  }),
  links: () => [],
  passes: () => [],
  intoShort: part => [
    {
      at: part.id,
      by: 'itself',
      kind: 'limited',
      volts: part.openCircuitV,
      amps: SUN_FACTOR * part.shortCircuitA,
      sure: true,
    },
  ],
  windows: () => [],
  limits: () => [],
  highestV: openCircuitVolts,
  says: {
    box: part => [`${figure(part.maxPowerV * part.maxPowerA, 0)} W · ${figure(part.openCircuitV)} V open`],
    line: () => '',
  },
  noise: null,
  hookUp: (part, lowestC) => ({
    turn: 'sun',
    live: 2,
    wakes: `Uncover ${part.name ?? part.id}.`,
    meter:
      "Meter the panel's lead, uncovered for a moment: red on +, " +
      `under ${fixed(openCircuitVolts(part, lowestC), 0)} V open. The battery is already on the controller.`,
    caution: 'Live in any light: cover it, and never open it under load.',
  }),
  cautions: () => [PANEL_CAUTION],
  catalogue: [
    {
      id: 'panel-50',
      label: 'Folding panel 50 W',
      part: folding('Folding panel', 22.5, 3, 18.5, 2.7, 2600),
      source: CLASS,
    },
    {
      id: 'panel-100',
      label: 'Folding panel 100 W',
      part: folding('Folding panel', 24, 5.6, 20, 5, 4200),
      source: CLASS,
    },
    {
      id: 'panel-200',
      label: 'Rigid panel 200 W',
      part: folding('Rigid panel', 24.5, 10.5, 20.5, 9.8, 11000),
      source: CLASS,
    },
    {
      id: 'panel-2x100',
      label: 'Two folding panels 100 W in series',
      source: CLASS,
      part: { ...folding('Two folding panels', 48, 5.6, 40, 5, 8400), members: [{ string: 1 }, { string: 1 }] },
    },
  ],
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    { path: 'openCircuitV', label: 'Open-circuit voltage', quantity: 'voltage' },
    { path: 'shortCircuitA', label: 'Short-circuit current', quantity: 'current' },
    { path: 'maxPowerV', label: 'Voltage at most power', quantity: 'voltage' },
    { path: 'maxPowerA', label: 'Current at most power', quantity: 'current' },
    { path: 'voltsPerC', label: 'Open-circuit voltage per °C', quantity: 'number', more: true },
    { path: 'ampsPerC', label: 'Short-circuit current per °C', quantity: 'number', more: true },
    { path: 'terminal', label: 'Terminal', quantity: 'connector' },
  ],
  lists: [
    {
      path: 'members',
      label: 'Panels it is made of',
      one: 'panel',
      fresh: () => ({ string: 1 }),
      fields: [
        { path: 'name', label: 'Name', quantity: 'text' },
        { path: 'string', label: 'String (same: in series)', quantity: 'count' },
        { path: 'openCircuitV', label: 'Open-circuit voltage', quantity: 'voltage' },
        { path: 'shortCircuitA', label: 'Short-circuit current', quantity: 'current' },
        { path: 'maxPowerV', label: 'Voltage at most power', quantity: 'voltage' },
        { path: 'maxPowerA', label: 'Current at most power', quantity: 'current' },
        { path: 'fused', label: 'String fused', quantity: 'yes' },
      ],
    },
  ],
}
