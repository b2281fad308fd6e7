import { z } from 'zod'
import { isCharging } from '../battery/emf'
import { chemistry, CHEMISTRY_IDS } from '../catalog/chemistries'
import { asGiven, figure } from '../units/number'
import { CHEMISTRY_CHOICES, noiseForm, profilesList } from './commonForm'
import { chargeOutput, profileOf, UNSET_CHARGE_V } from './charging'
import {
  amps,
  ampsAboveZero,
  chargeProfiles,
  commonFields,
  connectorId,
  hertz,
  id,
  noise,
  voltsAboveZero,
} from './fields'
import type { Around, PartKind } from './kind'
import type { Panel } from './panel'

export const controllerSchema = z.strictObject({
  id,
  kind: z.literal('controller'),
  type: z.enum(['pwm', 'mppt']),
  maxPanelV: voltsAboveZero.describe('the most its panel input stands'),
  maxPanelA: ampsAboveZero.optional(),
  maxChargeA: ampsAboveZero,
  maxLoadA: ampsAboveZero.optional(),
  chemistries: chargeProfiles.optional(),
  set: z
    .enum(CHEMISTRY_IDS as [string, ...string[]])
    .optional()
    .describe('the chemistry it is set to'),
  selfA: amps.optional(),
  lowVoltageCutV: voltsAboveZero.optional().describe('its load terminal opens below this'),
  lowVoltageReturnV: voltsAboveZero.optional().describe('its load terminal closes again above this'),
  loadTimerH: z.number().gt(0).max(24).optional().describe('its load terminal opens after so many hours'),
  lockOut: z.boolean().optional().describe("it does not charge under the battery's lowest temperature"),
  switchingHz: hertz.optional(),
  noise: noise.optional(),
  panel: connectorId.optional(),
  battery: connectorId.optional(),
  load: connectorId.optional(),
  ...commonFields,
})
export type Controller = z.infer<typeof controllerSchema>

/** A load terminal that opens at 11.1 V closes again at about 12.6 V (typical of the class). */
const RETURN_TO_CUT = 12.6 / 11.1

const cutAt = (belowV: number, closesV?: number) => ({
  belowV,
  closesV: closesV ?? belowV * RETURN_TO_CUT,
  ...(closesV === undefined && { closesAssumed: true }),
})

/** Share of the panel's power that an MPPT controller passes on (typical of the class). */
export const TRACKING_EFFICIENCY = 0.95

/** The panels wired to a controller. */
export function panelsOn(controller: Controller, around: Around): Panel[] {
  return around(`${controller.id}.panel`).flatMap(a => (a.part.kind === 'panel' ? [a.part] : []))
}

/** Current it takes from its panels in full sun, A. */
function panelAmps(controller: Controller, around: Around): number {
  return panelsOn(controller, around).reduce(
    (sum, p) => sum + (controller.type === 'pwm' ? p.shortCircuitA : p.maxPowerA),
    0,
  )
}

/** Largest charge current its panels and its own limit allow, A. */
function chargeAmps(controller: Controller, around: Around): number {
  const panels = panelsOn(controller, around)
  const { absorptionV } = profileOf(controller.chemistries, controller.set)
  if (!panels.length) return 0
  if (controller.type === 'pwm' || absorptionV === null)
    return Math.min(controller.maxChargeA, panelAmps(controller, around))
  // Low on charge the battery stands under its absorption voltage, and the same power is more current.
  return Math.min(controller.maxChargeA, trackedW(controller, around) / (0.87 * absorptionV))
}

/** What an MPPT controller has of its panels in full sun, W. */
const trackedW = (controller: Controller, around: Around): number =>
  TRACKING_EFFICIENCY * panelsOn(controller, around).reduce((sum, p) => sum + p.maxPowerV * p.maxPowerA, 0)

const CLASS = 'typical of the class'
const profiles = {
  lifepo4: { absorptionV: 14.4, floatV: 13.5 },
  agm: { absorptionV: 14.6, floatV: 13.6 },
  gel: { absorptionV: 14.1, floatV: 13.6 },
  flooded: { absorptionV: 14.6, floatV: 13.4 },
}
const row = (type: 'pwm' | 'mppt', maxChargeA: number, maxPanelV: number, switchingHz: number, massG: number) => ({
  kind: 'controller' as const,
  name: `Charge controller ${asGiven(maxChargeA)} A`,
  type,
  maxPanelV,
  maxPanelA: maxChargeA,
  maxChargeA,
  maxLoadA: maxChargeA,
  chemistries: profiles,
  set: 'lifepo4',
  selfA: 0.015,
  switchingHz,
  panel: 'screw',
  battery: 'screw',
  load: 'screw',
  massG,
})

export const controller: PartKind<Controller> = {
  kind: 'controller',
  label: 'charge controller',
  role: 'between',
  schema: controllerSchema,
  entry: part => `${part.id}.battery`,
  between: ['panel', 'battery'],
  terminals: part => [
    { id: `${part.id}.panel`, connector: part.panel },
    { id: `${part.id}.battery`, connector: part.battery },
    { id: `${part.id}.load`, connector: part.load, ratedA: part.maxLoadA, ratedBy: 'load-terminal' },
  ],
  links: part => [{ a: `${part.id}.battery`, b: `${part.id}.load`, ohm: 0 }],
  standing: (part, state, around) => [
    { at: `${part.id}.battery`, law: 'current', value: part.selfA ?? 0 },
    { at: `${part.id}.panel`, law: 'current', value: isCharging(state) ? panelAmps(part, around) : 0 },
  ],
  charge: (part, around) => {
    const output = chargeOutput(`${part.id}.battery`, part, { maxA: chargeAmps(part, around), field: 'maxChargeA' })
    return part.type === 'mppt' ? { ...output, mostW: trackedW(part, around) } : output
  },
  takesSun: (part, around) => {
    const panels = panelsOn(part, around)
    const isTracking = part.type === 'mppt'
    if (!panels.length) return null
    return { takes: isTracking ? 'watts' : 'amps', panels, efficiency: isTracking ? TRACKING_EFFICIENCY : 1 }
  },
  loadCut: part => ({
    at: `${part.id}.load`,
    ...(part.lowVoltageCutV !== undefined && cutAt(part.lowVoltageCutV, part.lowVoltageReturnV)),
    ...(part.loadTimerH !== undefined && { afterH: part.loadTimerH }),
  }),
  switching: part => ({
    hz: part.switchingHz,
    what: part.type === 'mppt' ? 'tracking stage' : 'PWM stage',
  }),
  passes: () => [],
  intoShort: part => [
    {
      at: `${part.id}.battery`,
      by: 'charging',
      kind: 'limited',
      volts: profileOf(part.chemistries, part.set).absorptionV ?? UNSET_CHARGE_V,
      amps: part.maxChargeA,
      sure: false,
    },
  ],
  // The panels' cold voltage and their current are judged by panel-cold-voltage and panel-current, which know the
  // panels.
  windows: () => [],
  limits: () => [],
  says: {
    box: part => [
      `${part.type === 'mppt' ? 'MPPT' : 'PWM'} · ${figure(part.maxChargeA)} A`,
      `to ${figure(part.maxPanelV)} V${part.set ? ` · ${chemistry(part.set).label}` : ''}`,
    ],
    line: () => '',
  },
  stands: (part, used) => (used.includes(`${part.id}.load`) ? 'inPath' : 'fills'),
  noise: { odds: 3, needsSun: true, loadTerminal: 'load' },
  worksWithA: part => part.maxChargeA,
  hookUp: () => ({ turn: 'readsBattery', live: 0 }),
  cautions: () => [],
  catalogue: [
    {
      id: 'controller-pwm-10',
      label: 'Charge controller, PWM, 10 A',
      part: row('pwm', 10, 25, 300, 150),
      source: CLASS,
    },
    {
      id: 'controller-pwm-20',
      label: 'Charge controller, PWM, 20 A',
      part: row('pwm', 20, 50, 300, 220),
      source: CLASS,
    },
    {
      id: 'controller-mppt-15',
      label: 'Charge controller, MPPT, 75 V 15 A',
      part: row('mppt', 15, 75, 100e3, 500),
      source: CLASS,
    },
    {
      id: 'controller-mppt-30',
      label: 'Charge controller, MPPT, 100 V 30 A',
      part: row('mppt', 30, 100, 80e3, 1300),
      source: CLASS,
    },
  ],
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    { path: 'type', label: 'Type', quantity: 'choice', choices: ['pwm', 'mppt'], must: true },
    { path: 'set', label: 'Set to', quantity: 'choice', choices: CHEMISTRY_CHOICES },
    { path: 'maxPanelV', label: 'Panel voltage, most', quantity: 'voltage' },
    { path: 'maxPanelA', label: 'Panel current, most', quantity: 'current' },
    { path: 'maxChargeA', label: 'Charge current, most', quantity: 'current' },
    { path: 'maxLoadA', label: 'Load terminal, most', quantity: 'current' },
    { path: 'lowVoltageCutV', label: 'Load terminal opens below', quantity: 'voltage' },
    { path: 'lowVoltageReturnV', label: 'Load terminal closes again above', quantity: 'voltage' },
    { path: 'loadTimerH', label: 'Load timer, hours', quantity: 'count' },
    { path: 'selfA', label: 'Takes for itself', quantity: 'current' },
    { path: 'switchingHz', label: 'Switching frequency', quantity: 'frequency' },
    { path: 'lockOut', label: 'Cold charge cut-off', quantity: 'yes' },
    { path: 'panel', label: 'Panel terminal', quantity: 'connector', more: true },
    { path: 'battery', label: 'Battery terminal', quantity: 'connector', more: true },
    { path: 'load', label: 'Load terminal', quantity: 'connector', more: true },
    ...noiseForm,
  ],
  lists: [profilesList('chemistries')],
}
