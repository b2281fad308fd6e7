import { chemistry } from '../catalog/chemistries'
import { STUD_TORQUE_NM } from '../catalog/studs'
import { chargersOf } from '../kinds/charging'
import { isLoad, kindOf, type Part } from '../kinds/index'
import type { HookUpRule } from '../kinds/kind'
import { leadName, nameOf, partIdOf } from '../plan/find'
import { siteOf, type Lead, type Plan } from '../plan/schema'
import type { Network } from '../circuit/network'
import { deviceKey, isDevice } from '../graph/device'
import { graphOf } from '../graph/graph'
import { packSteps } from './packLinks'
import { closing, HalfBuilt, meet, nextToClose, type Act, type Cut } from './live'
import { asGiven, fixed } from '../units/number'

/** One thing to connect, or to set, with what to check before it. */
export interface HookUpStep {
  does: string
  before: string
  lead?: string
  caution?: string
  /** What of it touches a conductor, in its order. */
  acts: Act[]
  /** A setting: of which device, for which battery. */
  sets?: { device: string; battery: string }
}

export interface HookUp {
  connect: HookUpStep[]
  takeDown: string[]
}

/** When a lead is connected, among those that are dead: from what gives to what takes. */
const RANK = { gives: 0, between: 0.5, readsBattery: 1, charges: 2, sun: 3, load: 4 } as const

/** What is known of the plan while it is put in order, and how far it is built. */
interface Order {
  plan: Plan
  network: Network
  lowestC: number
  built: HalfBuilt
  steps: HookUpStep[]
  /** What was closed and woken, in this order. */
  closed: { cut: Cut; words: string }[]
  awake: Part[]
}

/**
 * The order of connecting, from the plan's topology: settings; then every lead that no source stands at, dead; the
 * leads of what is always live, its own end last; then, outward from the source, fuses and breakers up to the loads';
 * panels, covered; what is plugged in; the loads' fuses last. So no step has a live side but that of the source it
 * names, save where two sources meet: there it says so. Taking down is the reverse.
 */
export function hookUpOrder(plan: Plan, network: Network): HookUp {
  const order: Order = {
    plan,
    network,
    lowestC: siteOf(plan).ambientC.low,
    built: new HalfBuilt(plan),
    steps: settings(plan, network),
    closed: [],
    awake: [],
  }
  const own = plan.hookUp
  const rank = (l: Lead) => rankOf(order, l)
  const leads = [...plan.leads].sort((a, b) => (own ? indexOr(own, a.id) - indexOr(own, b.id) : rank(a) - rank(b)))
  const sun = leads.filter(l => rank(l) === RANK.sun)
  const live = leads.filter(l => !sun.includes(l) && [l.from, l.to].some(t => isLive(order, t)))
  const dead = leads.filter(l => !sun.includes(l) && !live.includes(l))
  // The owner's own order of leads is kept as it is.
  if (own) for (const lead of leads) joinLead(order, lead)
  else for (const lead of dead) joinLead(order, lead)
  for (const lead of leads) fitNegatives(order, lead)
  if (!own) for (const lead of live) joinLead(order, lead)
  for (const cut of order.built.cuts) if (cut.staysOpen) leftOpen(order, cut)
  const toClose = order.built.cuts.filter(c => !c.staysOpen && !isFree(order, c))
  const loads = toClose.filter(c => feedsLoads(order, c))
  const inSun = toClose.filter(c => isAt(sun, c))
  closeAll(
    order,
    toClose.filter(c => !loads.includes(c) && !inSun.includes(c)),
  )
  if (!own) for (const lead of sun) joinLead(order, lead)
  closeAll(order, inSun)
  wakeAll(order, 'sun')
  wakeAll(order, 'rest')
  closeAll(order, loads)
  const { steps } = order
  return {
    connect: [
      {
        does: 'All fuses out, breakers and switches off, supplies unplugged, panels covered, radios off.',
        before: 'Every lead by itself: no way between red and black; each conductor through from end to end.',
        acts: [],
      },
      ...packSteps(plan).map(s => ({ ...s, acts: [] })),
      ...steps,
      {
        does: 'Radios on, one after the other.',
        before: 'Voltage at each radio, against the table of what it should read.',
        acts: [],
      },
    ],
    takeDown: takenDown(order, { sun, inSun, live, loads }),
  }
}

const ruleOf = ({ lowestC }: Order, part: Part): HookUpRule => kindOf(part).hookUp(part, lowestC)
const partAt = ({ plan }: Order, terminal: string) => graphOf(plan).parts.get(partIdOf(terminal))!
const isLive = (order: Order, terminal: string) => order.built.feeding(terminal).length > 0
const isAt = (leads: Lead[], cut: Cut) => leads.some(l => l.id === cut.place)

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

/** A port that nothing hangs on: its fuse stays out. */
const isFree = ({ plan }: Order, cut: Cut) =>
  !graphOf(plan).leads.has(cut.place) && !graphOf(plan).leadsAt(cut.place).length

/** A switch planned open, or one that an engine closes, is named and not touched. */
function leftOpen({ plan, steps }: Order, cut: Cut) {
  const lead = graphOf(plan).leads.get(cut.place)
  const isRelay = lead?.inline?.some(
    i => i.kind === 'switch' && i.by && deviceKey({ place: lead.id, item: i.id }) === cut.key,
  )
  const does = isRelay
    ? `Relay in ${leadName(lead!)}: the engine closes it, later.`
    : `Leave the ${cutWords(plan, cut).words} off.`
  steps.push({ ...(lead && { lead: lead.id }), does, before: 'Polarity on both its sides.', acts: [] })
}

/** Behind it are loads and nothing else: it is the lead of a load, or the port that one hangs on. */
function feedsLoads(order: Order, cut: Cut): boolean {
  const { leads, leadsAt } = graphOf(order.plan)
  const own = leads.get(cut.place)
  const behind = own ? [own] : leadsAt(cut.place)
  return behind.length > 0 && behind.every(l => rankOf(order, l) === RANK.load)
}

/** What each charging device has to be set to for the battery on it, before anything is connected. */
function settings(plan: Plan, network: Network): HookUpStep[] {
  return plan.parts.flatMap(battery => {
    const { settingFor } = kindOf(battery)
    const wanted = settingFor?.(battery)
    if (!wanted) return []
    const { label, absorptionV } = chemistry(wanted.chemistry)
    return chargersOf(battery.id, network.around).map(({ partId, output }): HookUpStep => {
      const usual = absorptionV?.map(v => `${fixed(v * wanted.seriesCells, 1)} V`).join('–')
      const volts = output.absorptionV === null ? usual : `${asGiven(output.absorptionV)} V`
      const float = output.floatV === null ? 'no float' : `float ${asGiven(output.floatV)} V`
      const amps = wanted.maxChargeA === undefined ? '' : `, at most ${asGiven(wanted.maxChargeA)} A`
      const device = graphOf(plan).parts.get(partId)!
      return {
        does: `Set ${nameOf(device)} for ${nameOf(battery)}: ${label}, absorption ${volts}, ${float}${amps}.`,
        before:
          'Read the setting back from its display; ' +
          'a device set for another chemistry is the commonest way to lose a battery.',
        acts: [],
        sets: { device: partId, battery: battery.id },
      }
    })
  })
}

/** The ends of a lead, the more live one last; of two as live the one nearer to what gives, as the plan lists them. */
function sidesOf(order: Order, lead: Lead): ['from' | 'to', 'from' | 'to'] {
  const part = (end: 'from' | 'to') => partAt(order, lead[end])
  const giving = (end: 'from' | 'to') => GIVING[kindOf(part(end)).role] - order.plan.parts.indexOf(part(end)) / 1e4
  const live = (end: 'from' | 'to') => ruleOf(order, part(end)).live
  const more = live('from') - live('to') || giving('from') - giving('to') || (lead.from < lead.to ? 1 : -1)
  return more > 0 ? ['to', 'from'] : ['from', 'to']
}

/** Of parts as live as each other, from what takes to what gives. */
const GIVING = { load: 0, between: 1, source: 2 } as const
const endsOf = (order: Order, lead: Lead) => sidesOf(order, lead).map(end => lead[end]) as [string, string]

/** Both ends of a lead, the live one last, so that no live end lies open. */
function joinLead(order: Order, lead: Lead) {
  const ends = sidesOf(order, lead)
  const [first, last] = endsOf(order, lead)
  const own = [lead.from, lead.to].map(partIdOf)
  let danger: string | undefined
  for (const end of ends) {
    const act = { do: 'join', lead: lead.id, end } as const
    const sides = order.built.sides(act)
    const from = [...new Set(sides.flat())]
    if (meet(sides)) danger = liveHere(order, from)
    else if (from.some(id => !own.includes(id)))
      danger ??= `Live from ${namesOf(order.plan, from)} already: do not touch.`
    order.built.do(act)
  }
  const torque = (['from', 'to'] as const).flatMap(end => {
    const nm = STUD_TORQUE_NM[lead.ends?.[end]?.connector ?? '']
    return nm === undefined ? [] : [`${words(order.plan, lead[end])}: about ${nm} N·m`]
  })
  const tighten = torque.length ? ` (${torque.join('; ')}; the maker's figure goes first)` : ''
  const cautions = [lead.from, lead.to].flatMap(t => ruleOf(order, partAt(order, t)).caution ?? [])
  const sunFirst = [lead.from, lead.to].find(t => ruleOf(order, partAt(order, t)).turn === 'sun')
  const caution = sunFirst ? ruleOf(order, partAt(order, sunFirst)).caution : cautions[0]
  const said = [danger, caution].filter(c => c !== undefined).join(' ')
  order.steps.push({
    lead: lead.id,
    does: `${leadName(lead)}: first ${words(order.plan, first)}, then ${words(order.plan, last)}${tighten}.`,
    before: ruleOf(order, partAt(order, last)).meter ?? 'Red on +, black on −.',
    ...(said && { caution: said }),
    acts: ends.map(end => ({ do: 'join', lead: lead.id, end })),
  })
}

/** Where the second fuse of two packs in parallel goes in: there is no order in which it is otherwise. */
const liveHere = ({ plan }: Order, ids: string[]) =>
  `Live from ${namesOf(plan, ids)} on both sides: meter across the gap first; over 0.1 V, bring both to one charge.`

function sidesWords(plan: Plan, a: string[], b: string[]): string {
  if (!a.length && !b.length) return 'Dead on both sides. Red on +, black on −.'
  const from = namesOf(plan, [...new Set([...a, ...b])])
  if (a.length && b.length) return `Live on both sides, from ${from}: the same volts on either.`
  return `Live on one side, from ${from}; nothing on the other yet. Red on +, black on −.`
}

const namesOf = (plan: Plan, ids: string[]) => ids.map(id => nameOf(graphOf(plan).parts.get(id)!)).join(' and from ')

/** Fuses in and breakers on, outward from what is live. */
function closeAll(order: Order, cuts: readonly Cut[]) {
  const left = cuts.filter(c => !order.built.isDone(closing(c)))
  const rank = (cut: Cut) => Math.min(...leadsOfCut(order, cut).map(l => rankOf(order, l)))
  left.sort((a, b) => rank(a) - rank(b))
  while (left.length) {
    const next = nextToClose(order.built, left)
    left.splice(left.indexOf(next), 1)
    closeCut(order, next)
  }
}

function leadsOfCut({ plan }: Order, cut: Cut): readonly Lead[] {
  const { leads, leadsOf } = graphOf(plan)
  const own = leads.get(cut.place)
  return own ? [own] : leadsOf(partIdOf(cut.place))
}

function closeCut(order: Order, cut: Cut) {
  const { plan, built } = order
  const act = closing(cut)
  const sides = built.sides(act)
  built.do(act)
  const [lead] = leadsOfCut(order, cut)
  const what = cutWords(plan, cut)
  order.closed.push({ cut, words: what.words })
  order.steps.push({
    ...(lead && { lead: lead.id }),
    does: `${what.verb} the ${what.words}.`,
    before: sidesWords(plan, ...sides),
    ...(meet(sides) && { caution: liveHere(order, [...new Set(sides.flat())]) }),
    acts: [act],
  })
}

/** A fuse in the negative makes nothing dead, so it goes in before anything is live. */
function fitNegatives({ steps }: Order, lead: Lead) {
  for (const item of lead.inline ?? []) {
    if (!isDevice(item) || item.legs !== 'negative') continue
    const verb = item.kind === 'fuse' ? 'Fit' : 'Close'
    const does = `${verb} the ${asGiven(item.ratedA)} A ${item.kind} in the negative of ${leadName(lead)}.`
    steps.push({ lead: lead.id, does, before: 'It opens the negative only: red stays live without it.', acts: [] })
  }
}

/** "Fit", "30 A fuse of main lead". */
function cutWords(plan: Plan, cut: Cut): { verb: string; words: string } {
  const lead = graphOf(plan).leads.get(cut.place)
  const item = lead?.inline?.find(i => deviceKey({ place: cut.place, item: i.id }) === cut.key)
  const at = lead ? leadName(lead) : words(plan, cut.place)
  if (item?.kind === 'switch') return { verb: 'Close', words: `switch in ${at}` }
  const { kind, ratedA } = item && 'ratedA' in item ? item : graphOf(plan).terminals.get(cut.place)!.opener!
  const legs = item && 'legs' in item && item.legs === 'both' ? ', in both legs,' : ''
  return { verb: kind === 'fuse' ? 'Fit' : 'Close', words: `${asGiven(ratedA!)} A ${kind}${legs} of ${at}` }
}

/** What is covered or unplugged until now. */
function wakeAll(order: Order, which: 'sun' | 'rest') {
  for (const part of order.plan.parts) {
    const { wakes, turn } = ruleOf(order, part)
    if (wakes === undefined || (turn === 'sun') !== (which === 'sun')) continue
    if (!graphOf(order.plan).leadsOf(part.id).length) continue
    const act: Act = { do: 'wake', part: part.id }
    order.built.do(act)
    order.awake.push(part)
    order.steps.push({
      does: wakes,
      before: turn === 'sun' ? 'The controller shows its battery.' : 'Its leads are on, and no end of them lies open.',
      acts: [act],
    })
  }
}

/** The leads and fuses that are connected, and taken down, together. */
interface Groups {
  sun: readonly Lead[]
  inSun: readonly Cut[]
  live: readonly Lead[]
  loads: readonly Cut[]
}

/** The reverse: what each step joined, in few lines. */
function takenDown(order: Order, { sun, inSun, live, loads }: Groups): string[] {
  const closed = [...order.closed].reverse()
  const out = (which: (c: Cut) => boolean) => closed.flatMap(c => (which(c.cut) ? c.words : [])).join('; ')
  const asleep = (isSun: boolean) =>
    order.awake
      .filter(p => (ruleOf(order, p).turn === 'sun') === isSun)
      .map(nameOf)
      .join(', ')
  return [
    'Radios and loads off.',
    ...list(
      'Out or off, one after the other: ',
      out(c => loads.includes(c)),
    ),
    ...list('Off and unplugged: ', asleep(false)),
    ...list('Cover ', asleep(true)),
    ...list(
      'Out or off: ',
      out(c => inSun.includes(c)),
    ),
    ...[...sun].reverse().map(l => `${leadName(l)} off.`),
    ...list(
      'Out or off, in this order: ',
      out(c => !loads.includes(c) && !inSun.includes(c)),
    ),
    ...[...live].reverse().map(l => {
      const first = l.return === 'chassis' ? '' : ', black first'
      return `${leadName(l)} off ${words(order.plan, endsOf(order, l)[1])}${first}.`
    }),
    'All is dead: the other leads off, in any order.',
  ]
}

const list = (before: string, what: string) => (what ? [`${before}${what}.`] : [])

const words = (plan: Plan, terminal: string) => {
  const part = graphOf(plan).parts.get(partIdOf(terminal))!
  const port = terminal.slice(part.id.length + 1)
  return port ? `${nameOf(part)} ${port}` : nameOf(part)
}
