import { z } from 'zod'
import { BANDS } from '../catalog/bands'
import { addItem } from '../edit/items'
import { setField, setSite } from '../edit/set'
import { transmittersOf } from '../circuit/conditions'
import { id, words } from '../kinds/fields'
import type { Patch } from '../edit/patch'
import { leadsOf, nameOf, partById, partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import type { Pair } from './belief'
import { windingFor } from './choke/winding'
import { NEVER, UNPLUGGED } from './words'
import { OTHER, OUTSIDE, RECEIVER, type Suspect } from './suspect'
import type { Receiver } from './level'
import type { Observation } from './observation'
import { GONE_DB, HEARD, WEAKER_DB, type Added, type Heard } from './setup'
import { levelOf } from './survey/survey'

export const CURES = [
  { id: 'choke', label: 'common-mode choke' },
  { id: 'distance', label: 'more distance' },
  { id: 'quieter-device', label: 'a quieter device' },
  { id: 'bond', label: 'case and battery negative bonded' },
  { id: 'from-battery', label: 'radio fed from the battery' },
  { id: 'lc-filter', label: 'LC filter in the DC lead' },
  { id: 'mains-filter', label: 'filter on the AC side' },
  { id: 'other-hours', label: 'charge when not listening' },
  { id: 'lower-current', label: 'lower current' },
  { id: 'receiver', label: "the receiver's own blanker or reduction" },
] as const
export type CureId = (typeof CURES)[number]['id']
export const cureLabel = (what: CureId) => CURES.find(c => c.id === what)!.label

const reading = z.string().max(20)
export const cureSchema = z.strictObject({
  id,
  at: z.string().max(40),
  who: words.optional(),
  what: z.enum(CURES.map(c => c.id) as [CureId, ...CureId[]]),
  where: z.union([id, z.literal('radio')]).describe('the part on whose lead it is, or that was moved or changed'),
  detail: words.optional(),
  before: z.record(words, reading).optional().describe('band: reading'),
  after: z.record(words, reading).optional(),
  byEar: z.enum(HEARD).optional(),
  sideEffects: words.optional(),
  cost: z.number().min(0).max(1e6).optional(),
  kept: z.boolean(),
})
export type Cure = z.infer<typeof cureSchema>

/** dB gained on each band that was read before and after. */
export function gains(cure: Cure, receiver: Receiver = {}): { band: string; db: number }[] {
  return Object.keys(cure.before ?? {}).flatMap(band => {
    const hz = 1e6 * (BANDS.find(b => b.id === band)?.lowMHz ?? 10)
    const [before, after] = [levelOf(cure.before![band], hz, receiver), levelOf(cure.after?.[band], hz, receiver)]
    return before === null || after === null ? [] : [{ band, db: before - after }]
  })
}

/** What it did: by ear where that was said, else by the readings. */
export function effect(cure: Cure, receiver: Receiver = {}): Heard | null {
  if (cure.byEar) return cure.byEar
  const each = gains(cure, receiver)
  if (!each.length) return null
  const most = Math.max(...each.map(g => g.db))
  if (most >= GONE_DB) return 'gone'
  return most >= WEAKER_DB ? 'weaker' : 'same'
}

const TELLS: Partial<Record<CureId, Added['what']>> = {
  choke: 'choke',
  'lc-filter': 'lc-filter',
  'mains-filter': 'mains-filter',
  distance: 'distance',
  bond: 'bond',
}

/** A cure tried is a test made: what it says of the cause, where it says anything. */
export function cureObservation(cure: Cure, receiver: Receiver = {}): Observation | null {
  const heard = effect(cure, receiver)
  if (!heard) return null
  const common = {
    kind: 'listen' as const,
    id: `cure-${cure.id}`.slice(0, 40),
    at: cure.at,
    ...(cure.who && { who: cure.who }),
    heard,
    note: `as a cure: ${cureLabel(cure.what)}`,
  }
  const what = TELLS[cure.what]
  if (what) return { ...common, setup: { added: [{ what, at: cure.where }] } }
  if (cure.what === 'from-battery') return { ...common, setup: { feed: 'own-battery' } }
  return null
}

/** What may help against a cause, most likely first. */
export interface Suggestion {
  what: CureId
  where: string
  title: string
  do: string
  caution?: string
  cost: number
  patch?: Patch
}

/** What may help against a cause, most likely first. */
export function suggestions(
  plan: Plan,
  pair: Pick<Pair, 'device' | 'way'>,
  devices: readonly Suspect[],
  radio?: string,
): Suggestion[] {
  const device = devices.find(d => d.id === pair.device)
  if (pair.device === RECEIVER) return [INSIDE]
  if (pair.device === OTHER) return [FIND_OTHER]
  if (!device || !partById(plan, pair.device) || device.id === OUTSIDE) return [FIND_OUTSIDE]
  const rig = plan.parts.find(p => p.id === radio) ?? transmittersOf(plan)[0]
  const own = longest(plan, device.id)
  const chokeDevice = own ? chokeOn(plan, own, device.id, device.name) : []
  const lead = rig && leadsOf(plan, rig.id)[0]
  const chokeRadio = lead ? chokeOn(plan, lead, rig.id, nameOf(rig)) : []
  const always = [otherHours(device), quieter(device)]
  switch (pair.way) {
    case 'antenna':
      return [...chokeDevice, distance(plan, device), ...always]
    case 'dc-common':
      return [...chokeRadio.map(c => ({ ...c, where: 'radio' })), ...chokeDevice, bond(plan, device), ...always]
    case 'dc-differential':
      return [LC_FILTER, FROM_BATTERY, ...always]
    case 'audio':
      return [AUDIO_FROM_BATTERY, AUDIO_FILTER, otherHours(device)]
    case 'mains':
      return [mainsFilter(device), ...always]
    case 'data':
      return [DATA_CHOKE, ...always]
    case 'inside':
      return [INSIDE]
  }
}

const FIND_OUTSIDE: Suggestion = {
  what: 'receiver',
  where: 'radio',
  title: 'Find it with a portable receiver outside',
  do:
    'It is not a device of this station. Walk round with a portable receiver, and ask the neighbour kindly. ' +
    "Until then the receiver's blanker helps, at the price of strong signals.",
  cost: 0,
}

const FIND_OTHER: Suggestion = {
  what: 'other-hours',
  where: 'radio',
  title: 'Find it among what the plan does not name',
  do:
    'Switch on one after the other what was off: telephones, lamps, chargers, a screen. Put the one that brings it ' +
    'back into the plan.',
  cost: 0,
}

const INSIDE: Suggestion = {
  what: 'receiver',
  where: 'radio',
  title: 'It is made in the receiver itself',
  do:
    'Tune on by a few kHz, switch its converter, charger, display or data port off, or its attenuator in: what does ' +
    'not weaken with the signals is its own.',
  cost: 0,
}

const DATA_CHOKE: Suggestion = {
  what: 'choke',
  where: 'radio',
  title: "A common-mode choke on the radio's data lead",
  do: 'The whole lead through a core, as many turns as fit, close to the radio; or an isolator for USB.',
  cost: 10,
}

/** A choke in a lead, at the end where a part stands, of a winding that the lead goes through. */
function chokeOn(plan: Plan, lead: Lead, partId: string, at: string): Suggestion[] {
  const winding = windingFor(lead)
  if (!winding) return []
  const { turns, cores, ring } = winding
  const how = turns === 1 ? 'straight through' : `${turns} turns through`
  const end = partIdOf(lead.from) === partId ? 'from' : 'to'
  return [
    {
      what: 'choke',
      where: partId,
      title: `A common-mode choke on ${nameOf(lead)}, at ${at}`,
      do:
        `All conductors together, ${how} ${cores} cores in a row (${ring}: what this lead fits), close to it. The ` +
        'workbench says which material for this band.',
      cost: 5 * cores,
      patch: addItem(plan, lead.id, { kind: 'choke', turns, cores }, { end, fromEndM: 0.2 }),
    },
  ]
}

const quieter = (device: Suspect): Suggestion => ({
  what: 'quieter-device',
  where: device.id,
  title: `A quieter device in place of ${device.name}`,
  do:
    'Keep this one for the house, and a quiet one for the radio. Listen before buying: ask for one that was ' +
    'heard on these bands.',
  cost: 120,
})

const bond = (plan: Plan, device: Suspect): Suggestion => ({
  what: 'bond',
  where: device.id,
  title: 'Bond case and battery negative to the station ground',
  do: 'One short, wide strap from the case and from battery negative to the one point of the station ground.',
  caution: NEVER,
  cost: 8,
  ...(plan.site?.ground !== 'common' && { patch: setSite(plan, 'ground', 'common') }),
})

const otherHours = (device: Suspect): Suggestion => ({
  what: 'other-hours',
  where: device.id,
  title: device.charges ? 'Charge when not listening' : `Switch ${device.name} off while listening`,
  do: 'It costs nothing, and tells whether the rest is quiet.',
  cost: 0,
})

const distance = (plan: Plan, device: Suspect): Suggestion => ({
  what: 'distance',
  where: device.id,
  title: `Move ${device.name} and its leads away from the antenna`,
  do: 'Some metres do more than any filter; mind the drop of a longer lead.',
  cost: 5,
  ...(partById(plan, device.id)!.nearAntennaLead && { patch: setField(plan, device.id, 'nearAntennaLead', false) }),
})

const LC_FILTER: Suggestion = {
  what: 'lc-filter',
  where: 'radio',
  title: "A damped LC filter in the radio's lead",
  do:
    'Inductor for the whole current in the plus conductor, behind the fuse; a damped capacitor across. ' +
    'The workbench says what it takes.',
  cost: 15,
}

const FROM_BATTERY: Suggestion = {
  what: 'from-battery',
  where: 'radio',
  title: 'Feed the radio straight from the battery',
  do: 'Not from a load terminal or a lead that the device shares. With a fuse at the battery.',
  caution: NEVER,
  cost: 10,
}

const AUDIO_FROM_BATTERY: Suggestion = {
  ...FROM_BATTERY,
  do: 'Ripple of a shared lead goes with the drop on it: a lead of its own, with a fuse at the battery.',
}

const AUDIO_FILTER: Suggestion = {
  what: 'lc-filter',
  where: 'radio',
  title: 'An LC filter low enough for the ripple',
  do: 'Audio wants millihenries and thousands of µF: mind the drop and the inrush.',
  cost: 20,
}

const mainsFilter = (device: Suspect): Suggestion => ({
  what: 'mains-filter',
  where: device.id,
  title: `A ready-made mains filter before ${device.name}`,
  do: 'Plug-in, with its earth connected. Or the whole AC cord through cores, unplugged.',
  caution: `${UNPLUGGED} ${NEVER}`,
  cost: 25,
})

function longest(plan: Plan, partId: string): Lead | undefined {
  return leadsOf(plan, partId).sort((a, b) => b.lengthM - a.lengthM)[0]
}

/** A cure with what it was tried on, from any case of the logbook. */
export interface TriedCure {
  cure: Cure
  deviceKind: string
  station: string
}

/** What was tried on devices of this kind, best first: how often, and what came of it. */
export function similarCures(
  tried: readonly TriedCure[],
  deviceKind: string,
  receiver: Receiver = {},
): { what: CureId; times: number; helped: number; kept: number; bestDb: number | null }[] {
  const groups = new Map<CureId, { what: CureId; times: number; helped: number; kept: number; bestDb: number | null }>()
  for (const { cure } of tried.filter(t => t.deviceKind === deviceKind)) {
    const heard = effect(cure, receiver)
    if (!heard) continue
    const group = groups.get(cure.what) ?? { what: cure.what, times: 0, helped: 0, kept: 0, bestDb: null }
    const db = Math.max(-Infinity, ...gains(cure, receiver).map(g => g.db))
    groups.set(cure.what, {
      ...group,
      times: group.times + 1,
      helped: group.helped + Number(heard !== 'same'),
      kept: group.kept + Number(cure.kept),
      bestDb: Number.isFinite(db) ? Math.max(db, group.bestDb ?? -Infinity) : group.bestDb,
    })
  }
  return [...groups.values()].sort((a, b) => b.helped / b.times - a.helped / a.times || b.times - a.times)
}
