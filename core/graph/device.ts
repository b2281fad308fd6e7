import { breaksAt, fuseClass, ratedVolts } from '../catalog/fuses'
import type { Inline } from '../kinds/inline'
import type { Opener, Terminal } from '../kinds/kind'
import type { Lead } from '../plan/schema'

/** A fuse or breaker where it sits: in a lead, or between a terminal and the rest of its part. */
export interface Device {
  /** Lead or port terminal it is in. */
  place: string
  /** Its id in the lead; null in a port. */
  item: string | null
  kind: 'fuse' | 'breaker'
  type: string
  ratedA: number
  /** What it says itself that it can break, V and A; unsaid: what its class can. */
  ratedV?: number
  breakingA?: number
}

/** A device in a lead, with where along it and in which legs. */
export interface LeadDevice extends Device {
  /** Metres from the lead's from end. */
  atM: number
  legs: 'positive' | 'negative' | 'both'
}

/** One name for a device of a plan. */
export const deviceKey = ({ place, item }: Pick<Device, 'place' | 'item'>) => `${place} ${item ?? ''}`

type InlineDevice = Extract<Inline, { kind: 'fuse' | 'breaker' }>
type InlineSwitch = Extract<Inline, { kind: 'switch' | 'breaker' }>

/** Opens by itself when too much flows. */
export const isDevice = (item: Inline): item is InlineDevice => item.kind === 'fuse' || item.kind === 'breaker'

/** Can be opened by hand. */
export const isSwitch = (item: Inline): item is InlineSwitch => item.kind === 'switch' || item.kind === 'breaker'

/** What is wired into a lead, in the order from its from end. */
export function itemsAlong(lead: Lead): Inline[] {
  return [...(lead.inline ?? [])].sort((a, b) => (a.atM ?? 0) - (b.atM ?? 0))
}

/**
 * The fuses and breakers that protect a lead's positive, in the order from its from end. One in the negative leg alone
 * does not: a positive that touches the chassis, or another negative, goes round it.
 */
export function devicesIn(lead: Lead): readonly LeadDevice[] {
  const known = devicesByLead.get(lead)
  if (known) return known
  const found = lead.inline?.length ? findDevices(lead) : NO_DEVICES
  devicesByLead.set(lead, found)
  return found
}

/** A lead is never changed, only put in another's place. */
const devicesByLead = new WeakMap<Lead, readonly LeadDevice[]>()
const NO_DEVICES: readonly LeadDevice[] = []

function findDevices(lead: Lead): LeadDevice[] {
  return itemsAlong(lead)
    .filter(isDevice)
    .filter(item => item.legs !== 'negative')
    .map(item => ({
      place: lead.id,
      item: item.id,
      kind: item.kind,
      type: item.kind === 'breaker' ? 'thermal' : (item.type ?? 'blade'),
      ratedA: item.ratedA,
      ...(item.kind === 'breaker' && ownBreaking(item)),
      atM: item.atM ?? 0,
      legs: item.legs ?? 'positive',
    }))
}

/** Whether a lead has a fuse or breaker of its own. */
export const hasDevice = (lead: Lead) => (lead.inline ?? []).some(isDevice)

/** Whether current can pass a lead: no switch or breaker in it is open. */
export const isClosed = (lead: Lead) => !(lead.inline ?? []).some(item => isSwitch(item) && item.closed === false)

/** Whether a lead goes through a relay that an engine closes. */
export const isThroughRelay = (lead: Lead) => (lead.inline ?? []).some(i => i.kind === 'switch' && i.by === 'engine')

/** The device at a terminal of a part. */
export function deviceAt(terminal: Terminal): Device | null {
  const { opener } = terminal
  return opener ? { place: terminal.id, item: null, ...plain(opener) } : null
}

const plain = (opener: Opener) => ({
  kind: opener.kind,
  type: opener.type,
  ratedA: opener.ratedA,
  ...ownBreaking(opener),
})

const ownBreaking = ({ ratedV, breakingA }: { ratedV?: number | undefined; breakingA?: number | undefined }) => ({
  ...(ratedV !== undefined && { ratedV }),
  ...(breakingA !== undefined && { breakingA }),
})

/** A device without what only its lead knows of it. */
export function plainDevice(device: Device): Device {
  const { place, item, kind, type, ratedA } = device
  const plain = { place, item, kind, type, ratedA }
  return kind === 'breaker' ? { ...plain, ...ownBreaking(device) } : plain
}

/** Highest direct voltage a device may break, V: its own or its class's. */
export const deviceVolts = (device: Device): number => device.ratedV ?? ratedVolts(fuseClass(device.type))

/** Largest current a device can break at a voltage, A: none above what it is rated for. */
export function deviceBreaksA(device: Device, volts: number): number {
  if (device.ratedV !== undefined && volts > device.ratedV + 1e-9) return 0
  if (device.breakingA !== undefined) return volts <= deviceVolts(device) + 1e-9 ? device.breakingA : 0
  const byClass = fuseClass(device.type)
  return breaksAt(byClass, device.ratedV === undefined ? volts : Math.min(volts, ratedVolts(byClass)))
}
