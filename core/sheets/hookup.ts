import { chemistry } from '../catalog/chemistries'
import { chargersOf } from '../kinds/charging'
import { isLoad, kindOf, type Part } from '../kinds/index'
import type { HookUpRule } from '../kinds/kind'
import { leadName, nameOf, partIdOf } from '../plan/find'
import { siteOf, type Lead, type Plan } from '../plan/schema'
import type { Network } from '../circuit/network'
import { isDevice } from '../graph/device'
import { graphOf } from '../graph/graph'

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

/**
 * Tightening torque of a steel or brass stud with an M thread, N·m (typical of battery studs; the maker's figure goes
 * first).
 */
export const STUD_TORQUE_NM: Record<string, number> = {
  'ring-m4': 1.5,
  'ring-m5': 3,
  'ring-m6': 5,
  'ring-m8': 11,
  'ring-m10': 20,
}

/** When a lead is connected, first to last. */
const RANK = { gives: 0, between: 0.5, readsBattery: 1, charges: 2, sun: 3, load: 4 } as const

/** What is known of the plan while its leads are put in order. */
interface Order {
  plan: Plan
  network: Network
  lowestC: number
}

/**
 * The order of connecting, from the plan's topology: settings first; then each battery to what it feeds and to its
 * controllers; then
 * panels and chargers; loads last. Taking down is the reverse.
 */
export function hookUpOrder(plan: Plan, network: Network): HookUp {
  const order: Order = { plan, network, lowestC: siteOf(plan).ambientC.low }
  const rank = (l: Lead) => rankOf(order, l)
  const own = plan.hookUp
  const leads = [...plan.leads].sort((a, b) => (own ? indexOr(own, a.id) - indexOr(own, b.id) : rank(a) - rank(b)))
  const back = (is: (r: number) => boolean) => leads.filter(l => is(rank(l))).reverse()
  return {
    connect: [
      {
        does: 'All fuses out, breakers and switches off, supplies unplugged, panels covered, radios off.',
        before: 'Every lead by itself: no way between red and black; each conductor through from end to end.',
      },
      ...settings(plan, network),
      ...leads.flatMap(l => [leadStep(order, l), ...fuseSteps(plan, l)]),
      {
        does: 'Radios on, one after the other.',
        before: 'Voltage at each radio, against the table of what it should read.',
      },
    ],
    takeDown: [
      'Radios and loads off.',
      ...back(r => r === RANK.load).map(l => `${leadName(l)} off.`),
      ...leads.filter(l => rank(l) === RANK.sun).map(l => `Cover the panels, then ${leadName(l)} off.`),
      ...back(r => r < RANK.sun).map(l => `Its fuse out, then ${leadName(l)} off.`),
    ],
  }
}

const ruleOf = ({ lowestC }: Order, part: Part): HookUpRule => kindOf(part).hookUp(part, lowestC)
const partAt = ({ plan }: Order, terminal: string) => graphOf(plan).parts.get(partIdOf(terminal))!

/** When a lead is connected: by the turns of what stands at its ends. */
function rankOf(order: Order, lead: Lead): number {
  const ends = [lead.from, lead.to].map(t => ({ terminal: t, part: partAt(order, t) }))
  const turns = ends.map(e => ruleOf(order, e.part).turn)
  const { around } = order.network
  const charges = ends.some(e => kindOf(e.part).charge?.(e.part, around)?.at === e.terminal)
  if (turns.includes('sun')) return RANK.sun
  if (charges) return turns.includes('readsBattery') ? RANK.readsBattery : RANK.charges
  if (ends.some(e => isLoad(e.part))) return RANK.load
  return turns.includes('gives') ? RANK.gives : RANK.between
}

const indexOr = (list: string[], id: string) => (list.includes(id) ? list.indexOf(id) : list.length)

/** What each charging device has to be set to for the battery on it, before anything is connected. */
function settings(plan: Plan, network: Network): HookUpStep[] {
  return plan.parts.flatMap(battery => {
    const { settingFor } = kindOf(battery)
    const wanted = settingFor?.(battery)
    if (!wanted) return []
    const { label, absorptionV } = chemistry(wanted.chemistry)
    return chargersOf(battery.id, network.around).map(({ partId, output }): HookUpStep => {
      const usual = absorptionV?.map(v => `${(v * wanted.seriesCells).toFixed(1)} V`).join('–')
      const volts = output.absorptionV === null ? usual : `${output.absorptionV} V`
      const float = output.floatV === null ? 'no float' : `float ${output.floatV} V`
      const amps = wanted.maxChargeA === undefined ? '' : `, at most ${wanted.maxChargeA} A`
      const device = graphOf(plan).parts.get(partId)!
      return {
        does: `Set ${nameOf(device)} for ${nameOf(battery)}: ${label}, absorption ${volts}, ${float}${amps}.`,
        before:
          'Read the setting back from its display; ' +
          'a device set for another chemistry is the commonest way to lose a battery.',
      }
    })
  })
}

function leadStep(order: Order, lead: Lead): HookUpStep {
  // The live end comes last, so that no live end lies open.
  const live = (t: string) => ruleOf(order, partAt(order, t)).live
  const [first, last] = [lead.from, lead.to].sort((a, b) => live(a) - live(b)) as [string, string]
  const torque = (['from', 'to'] as const).flatMap(end => {
    const nm = STUD_TORQUE_NM[lead.ends?.[end]?.connector ?? '']
    return nm === undefined ? [] : [`${lead[end]}: about ${nm} N·m`]
  })
  const tighten = torque.length ? ` (${torque.join('; ')}; the maker's figure goes first)` : ''
  const cautions = [lead.from, lead.to].flatMap(t => ruleOf(order, partAt(order, t)).caution ?? [])
  const sunFirst = [lead.from, lead.to].find(t => ruleOf(order, partAt(order, t)).turn === 'sun')
  const caution = sunFirst ? ruleOf(order, partAt(order, sunFirst)).caution : cautions[0]
  return {
    lead: lead.id,
    does: `${leadName(lead)}: first ${words(order.plan, first)}, then ${words(order.plan, last)}${tighten}.`,
    before: ruleOf(order, partAt(order, last)).meter ?? 'Red on +, black on −.',
    ...(caution && { caution }),
  }
}

/** A lead's own fuses go in once both its ends are on; a port's once the lead on it is. */
function fuseSteps(plan: Plan, lead: Lead): HookUpStep[] {
  const inline = (lead.inline ?? []).flatMap((item): HookUpStep[] => {
    if (item.kind === 'switch') {
      const does = `Switch in ${leadName(lead)}: ${item.closed === false ? 'leave it off' : 'on'}.`
      return [{ lead: lead.id, does, before: 'Polarity on both its sides.' }]
    }
    if (!isDevice(item)) return []
    return [
      {
        lead: lead.id,
        does: `${item.kind === 'fuse' ? 'Fit the' : 'Close the'} ${item.ratedA} A ${item.kind} of ${leadName(lead)}.`,
        before: 'Polarity over its holder: nothing between the two sides but what the loads let through.',
      },
    ]
  })
  const ports = [lead.from, lead.to].flatMap((terminal): HookUpStep[] => {
    const opener = graphOf(plan).terminals.get(terminal)?.opener
    if (opener?.kind !== 'fuse') return []
    const does = `Fit the ${opener.ratedA} A fuse of ${words(plan, terminal)}.`
    return [{ lead: lead.id, does, before: `Polarity at the far end of ${leadName(lead)}.` }]
  })
  return [...inline, ...ports]
}

const words = (plan: Plan, terminal: string) => {
  const part = graphOf(plan).parts.get(partIdOf(terminal))!
  const port = terminal.slice(part.id.length + 1)
  return port ? `${nameOf(part)} ${port}` : nameOf(part)
}
