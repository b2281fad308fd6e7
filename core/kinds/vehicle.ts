import { z } from 'zod'
import { isCharging } from '../battery/emf'
import { fuseOhm } from '../fuse/fuse'
import { figure } from '../units/number'
import { FUSE_TYPE_CHOICES } from './commonForm'
import { amps, commonFields, connectorId, id, ohms, portFuse, voltsAboveZero } from './fields'
import type { PartKind } from './kind'

export const vehicleSchema = z.strictObject({
  id,
  kind: z.literal('vehicle'),
  engineOnV: voltsAboveZero,
  engineOffV: voltsAboveZero,
  alternatorSpareA: amps.optional().describe('what the alternator has left over for the station'),
  internalOhm: ohms,
  starterAh: z.number().gt(0).max(10000).optional().describe('its starter battery; unsaid: 60'),
  fuse: portFuse.optional().describe("the vehicle's own fuse behind this terminal, as an accessory socket has one"),
  terminal: connectorId.optional(),
  ...commonFields,
})
export type Vehicle = z.infer<typeof vehicleSchema>

/** Of a car; a van's is larger (typical). */
const USUAL_STARTER_AH = 60

/** Where its battery and alternator stand: behind its own fuse, where it says one. */
const originOf = (part: Vehicle) => (part.fuse ? `${part.id}.behind` : part.id)

/** What a fuse begins as where none is said: the class that vehicles have. */
const ownFuse = { path: 'fuse', fresh: (ratedA: unknown) => ({ type: 'blade', ratedA }) }

const hasFuse = (part: Record<string, unknown>) => part.fuse !== undefined

export const vehicle: PartKind<Vehicle> = {
  kind: 'vehicle',
  label: 'vehicle',
  runsOn: 'engine',
  starter: part => ({ ah: part.starterAh ?? USUAL_STARTER_AH, assumed: part.starterAh === undefined }),
  role: 'source',
  schema: vehicleSchema,
  terminals: part => [
    {
      id: part.id,
      connector: part.terminal,
      ...(part.fuse && { opener: { kind: 'fuse', ...part.fuse }, fields: { opener: 'fuse' } }),
    },
  ],
  sourceStates: () => ['engine-on', 'engine-off'],
  // Where a plan has a battery, its engine runs while that one is charged. Beyond what the alternator has left over
  // the starter battery gives too.
  store: () => null,
  sources: (part, state) => {
    const { internalOhm: ohm, alternatorSpareA: mostA } = part
    const at = originOf(part)
    const starter = { at, emfV: part.engineOffV, ohm }
    if (!isCharging(state) && state !== 'engine-on') return [starter]
    const alternator = { at, emfV: part.engineOnV, ohm, leastA: 0 }
    return mostA === undefined
      ? [alternator]
      : [
          { ...alternator, mostA },
          { ...starter, leastA: 0 },
        ]
  },
  links: part => (part.fuse ? [{ a: originOf(part), b: part.id, ohm: fuseOhm(part.fuse) }] : []),
  passes: () => [],
  intoShort: part => [{ at: originOf(part), by: 'itself', kind: 'emf', emfV: part.engineOnV, ohm: part.internalOhm }],
  windows: () => [],
  limits: () => [],
  says: { box: () => ['engine on, engine off'], line: () => '' },
  noise: null,
  hookUp: part => ({
    turn: 'gives',
    live: 2,
    meter: `Meter ${part.name ?? part.id}: red on +, ${figure(part.engineOffV, 3)} V with the engine off.`,
  }),
  cautions: () => [],
  catalogue: [
    {
      id: 'vehicle-12',
      label: 'Vehicle, 12 V',
      part: {
        kind: 'vehicle',
        name: 'Vehicle',
        engineOnV: 14.2,
        engineOffV: 12.5,
        alternatorSpareA: 40,
        internalOhm: 0.008,
        terminal: 'ring-m8',
      },
      source: 'typical of the class',
    },
    {
      id: 'vehicle-socket',
      label: 'Vehicle, accessory socket',
      part: {
        kind: 'vehicle',
        name: 'Accessory socket',
        engineOnV: 14.2,
        engineOffV: 12.5,
        alternatorSpareA: 10,
        internalOhm: 0.03,
        terminal: 'accessory-12v',
      },
      source: 'typical of the class',
    },
  ],
  form: [
    { path: 'name', label: 'Name', quantity: 'text' },
    { path: 'engineOnV', label: 'Engine on', quantity: 'voltage' },
    { path: 'engineOffV', label: 'Engine off', quantity: 'voltage' },
    { path: 'alternatorSpareA', label: 'Alternator spare', quantity: 'current' },
    { path: 'internalOhm', label: 'Internal resistance', quantity: 'resistance' },
    { path: 'starterAh', label: 'Starter battery', quantity: 'charge', more: true },
    { path: 'fuse.ratedA', label: "The vehicle's own fuse", quantity: 'current', within: ownFuse },
    { path: 'fuse.type', label: 'Class of that fuse', quantity: 'choice', choices: FUSE_TYPE_CHOICES, when: hasFuse },
    { path: 'fuse.ohm', label: 'Resistance of that fuse', quantity: 'resistance', when: hasFuse, more: true },
    { path: 'terminal', label: 'Terminal', quantity: 'connector' },
  ],
}
