import { chemistry } from '../catalog/chemistries'
import { chargersOf } from '../kinds/charging'
import { kindOf, gives } from '../kinds/index'
import { openCircuitVolts } from '../kinds/panel'
import { nameOf, partById, partIdOf } from '../plan/find'
import { siteOf, type Lead, type Plan } from '../plan/schema'
import { restedVolts } from '../battery/emf'
import type { Network } from '../circuit/network'

/** One thing to connect, or to set, with what to check before it. */
export interface HookUpStep {
  does: string
  before: string
  lead?: string
  caution?: string
}

export interface HookUp {
  connect: HookUpStep[]
  takeDown: string[]
}

/** Tightening torque of a steel or brass stud with an M thread, N·m (typical of battery studs; the maker's figure goes first). */
export const STUD_TORQUE_NM: Record<string, number> = {
  'ring-m4': 1.5,
  'ring-m5': 3,
  'ring-m6': 5,
  'ring-m8': 11,
  'ring-m10': 20,
}

/**
 * The order of connecting, from the plan's topology: settings first; then each battery to what it feeds and to its controllers; then
 * panels and chargers; loads last. Taking down is the reverse.
 */
export function hookUpOrder(plan: Plan, network: Network): HookUp {
  const kindAt = (terminal: string) => partById(plan, partIdOf(terminal))!
  const isSunny = (l: Lead) => [l.from, l.to].some(t => kindAt(t).kind === 'panel')
  const isCharging = (l: Lead) => [l.from, l.to].some(t => chargesAt(t))
  const chargesAt = (terminal: string) => {
    const part = kindAt(terminal)
    return kindOf(part).charge?.(part, network.around)?.at === terminal
  }
  const isSource = (l: Lead) => [l.from, l.to].some(t => gives(kindAt(t)) && kindAt(t).kind !== 'panel')
  const isLoadLead = (l: Lead) => [l.from, l.to].some(t => kindOf(kindAt(t)).role === 'load')
  const rank = (l: Lead) =>
    isSunny(l)
      ? 3
      : isCharging(l) && kindHas(l, 'controller')
        ? 1
        : isCharging(l)
          ? 2
          : isLoadLead(l)
            ? 4
            : isSource(l)
              ? 0
              : 0.5
  const kindHas = (l: Lead, kind: string) => [l.from, l.to].some(t => kindAt(t).kind === kind)
  const order = plan.hookUp
    ? [...plan.leads].sort((a, b) => indexOr(plan.hookUp!, a.id) - indexOr(plan.hookUp!, b.id))
    : [...plan.leads].sort((a, b) => rank(a) - rank(b))
  const steps = order.flatMap(l => [leadStep(plan, l, kindAt), ...fuseSteps(plan, l)])
  return {
    connect: [
      {
        does: 'All fuses out, breakers and switches off, supplies unplugged, panels covered, radios off.',
        before: 'Every lead by itself: no way between red and black; each conductor through from end to end.',
      },
      ...settings(plan, network),
      ...steps,
      {
        does: 'Radios on, one after the other.',
        before: 'Voltage at each radio, against the table of what it should read.',
      },
    ],
    takeDown: [
      'Radios and loads off.',
      ...order
        .filter(l => rank(l) === 4)
        .reverse()
        .map(l => `${name(l)} off.`),
      ...order.filter(isSunny).map(l => `Cover the panels, then ${name(l)} off.`),
      ...order
        .filter(l => rank(l) < 3)
        .reverse()
        .map(l => `Its fuse out, then ${name(l)} off.`),
    ],
  }
}

const indexOr = (list: string[], id: string) => (list.includes(id) ? list.indexOf(id) : list.length)
const name = (l: Lead) => l.name ?? `lead ${l.id}`

/** What each charging device has to be set to for the battery on it, before anything is connected. */
function settings(plan: Plan, network: Network): HookUpStep[] {
  return plan.parts.flatMap(battery =>
    battery.kind !== 'battery' || battery.charged === 'elsewhere'
      ? []
      : chargersOf(battery.id, network.around).map(({ partId, output }): HookUpStep => {
          const device = partById(plan, partId)!
          const wanted = chemistry(battery.chemistry)
          const volts =
            output.absorptionV === null
              ? wanted.absorptionV?.map(v => `${(v * battery.seriesCells).toFixed(1)} V`).join('–')
              : `${output.absorptionV} V`
          const float = output.floatV === null ? 'no float' : `float ${output.floatV} V`
          const amps = battery.maxChargeA === undefined ? '' : `, at most ${battery.maxChargeA} A`
          return {
            does: `Set ${nameOf(device)} for ${nameOf(battery)}: ${wanted.label}, absorption ${volts}, ${float}${amps}.`,
            before:
              'Read the setting back from its display; a device set for another chemistry is the commonest way to lose a battery.',
          }
        }),
  )
}

function leadStep(plan: Plan, lead: Lead, kindAt: (t: string) => ReturnType<typeof partById> & object): HookUpStep {
  // The live end comes last, so that no live end lies open.
  const liveness = (t: string) => {
    const part = kindAt(t)
    return part.kind === 'battery' ? 3 : part.kind === 'panel' || part.kind === 'vehicle' ? 2 : gives(part) ? 1 : 0
  }
  const [first, last] = [lead.from, lead.to].sort((a, b) => liveness(a) - liveness(b)) as [string, string]
  const torque = (['from', 'to'] as const).flatMap(end => {
    const nm = STUD_TORQUE_NM[lead.ends?.[end]?.connector ?? '']
    return nm === undefined ? [] : [`${lead[end]}: about ${nm} N·m`]
  })
  return {
    lead: lead.id,
    does: `${name(lead)}: first ${words(plan, first)}, then ${words(plan, last)}${torque.length ? ` (${torque.join('; ')}; the maker's figure goes first)` : ''}.`,
    before: before(plan, lead, kindAt, last),
    ...caution(plan, lead, kindAt),
  }
}

/** A lead's own fuses go in once both its ends are on; a port's once the lead on it is. */
function fuseSteps(plan: Plan, lead: Lead): HookUpStep[] {
  const inline = (lead.inline ?? []).flatMap((item): HookUpStep[] => {
    if (item.kind === 'switch')
      return [
        {
          lead: lead.id,
          does: `Switch in ${name(lead)}: ${item.closed === false ? 'leave it off' : 'on'}.`,
          before: 'Polarity on both its sides.',
        },
      ]
    if (item.kind !== 'fuse' && item.kind !== 'breaker') return []
    return [
      {
        lead: lead.id,
        does: `${item.kind === 'fuse' ? 'Fit the' : 'Close the'} ${item.ratedA} A ${item.kind} of ${name(lead)}.`,
        before: `Polarity over its holder: nothing between the two sides but what the loads let through.`,
      },
    ]
  })
  const ports = [lead.from, lead.to].flatMap((terminal): HookUpStep[] => {
    const part = partById(plan, partIdOf(terminal))!
    const fuse = part.kind === 'block' ? part.ports.find(p => `${part.id}.${p.id}` === terminal)?.fuse : undefined
    return fuse
      ? [
          {
            lead: lead.id,
            does: `Fit the ${fuse.ratedA} A fuse of ${words(plan, terminal)}.`,
            before: `Polarity at the far end of ${name(lead)}.`,
          },
        ]
      : []
  })
  return [...inline, ...ports]
}

const words = (plan: Plan, terminal: string) => {
  const part = partById(plan, partIdOf(terminal))!
  const port = terminal.slice(part.id.length + 1)
  return port ? `${nameOf(part)} ${port}` : nameOf(part)
}

function before(
  plan: Plan,
  lead: Lead,
  kindAt: (t: string) => ReturnType<typeof partById> & object,
  last: string,
): string {
  const part = kindAt(last)
  const low = siteOf(plan).ambientC.low
  if (part.kind === 'battery')
    return `Meter ${nameOf(part)}: red on +, about ${restedVolts(part, 1).toFixed(1)} V rested when full; under ${restedVolts(part, 0).toFixed(1)} V do not connect it.`
  if (part.kind === 'panel')
    return `Meter the panel's lead, uncovered for a moment: red on +, under ${openCircuitVolts(part, low).toFixed(0)} V open. The battery is already on the controller.`
  if (part.kind === 'vehicle') return `Meter ${nameOf(part)}: red on +, ${part.engineOffV} V with the engine off.`
  if (part.kind === 'supply') return `Meter ${nameOf(part)}, unloaded: red on +, ${part.setV} V. Then off again.`
  return 'Red on +, black on −.'
}

function caution(
  plan: Plan,
  lead: Lead,
  kindAt: (t: string) => ReturnType<typeof partById> & object,
): { caution?: string } {
  const kinds = [lead.from, lead.to].map(t => kindAt(t))
  if (kinds.some(p => p.kind === 'panel'))
    return { caution: 'Live in any light: cover it, and never open it under load.' }
  const battery = kinds.find(p => p.kind === 'battery')
  if (battery?.kind === 'battery' && battery.chemistry === 'flooded')
    return { caution: 'Flooded cells: ventilate, no sparks; negative of the chassis last.' }
  return {}
}
