import { offLoadTerminal } from '../checks/loadTerminal'
import { conductorMm2 } from '../conductor/resistance'
import { counterpart, fittingEnds, identified } from '../edit/add'
import { heal } from '../edit/between'
import { freshEnd } from '../edit/ends'
import { inTurn, tryPatch, type Patch } from '../edit/patch'
import { regulators } from '../fixes/regulators'
import { fittingRatings } from '../fuse/fuse'
import { graphOf } from '../graph/graph'
import { devicesIn } from '../graph/device'
import { ampsAbout } from '../kinds/draw'
import { isLoad, kindOf, partsOf, type Part, type PartOf } from '../kinds/index'
import { gate } from '../kinds/gate'
import { block } from '../kinds/block'
import { freeId, nameOf, partById, partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import { studyOf } from '../study/study'
import { withLead, without, type SchoolRule } from './rule'
import { asGiven, fixed, rounded } from '../units/number'

/** How loads are fed: from where, at which voltage, over one lead or a shared block. */

export const hold: SchoolRule = {
  shown: plan => {
    const radios = partsOf(plan.parts, 'radio')
    if (!radios.length) return ['direct', 'held']
    return regulatorsOf(plan).length ? ['held'] : ['direct']
  },
  build: (plan, choice) => tryPatch(plan, choice === 'held' ? regulators(plan) : withoutRegulators(plan)),
  does: 'a regulator before each radio, or none',
}

/** Volts that a station's regulators hold: others are converters of another use. */
const HELD_V = [13, 14.5] as const
/** One that steps down from a bank of 24 V is no choice between held and direct. */
const STEPS_DOWN_FROM_V = 20

const regulatorsOf = (plan: Plan): PartOf<'converter'>[] =>
  partsOf(plan.parts, 'converter').filter(
    c => !c.charges && c.outV >= HELD_V[0] && c.outV <= HELD_V[1] && c.input.maxV <= STEPS_DOWN_FROM_V,
  )

/** Takes every regulator out: the lead that led to it leads on to what hung behind it. */
const withoutRegulators = (plan: Plan): Patch =>
  inTurn(plan, ...regulatorsOf(plan).map(c => (now: Plan) => heal(now, c.id, `${c.id}.in`, `${c.id}.out`) ?? []))

export const loadsFrom: SchoolRule = {
  shown: plan => {
    const controllers = partsOf(plan.parts, 'controller')
    if (!controllers.length) return ['battery', 'load-terminal']
    const { leadsAt } = graphOf(plan)
    return controllers.some(c => leadsAt(`${c.id}.load`).length) ? ['load-terminal'] : ['battery']
  },
  build: (plan, choice) => (choice === 'battery' ? offTerminals(plan) : ontoTerminal(plan)),
  does: 'leads are moved',
}

function offTerminals(plan: Plan): Plan | null {
  const study = studyOf(plan)
  const moves = partsOf(plan.parts, 'controller').flatMap(c => offLoadTerminal(study, c.id)[0]?.patch ?? [])
  return tryPatch(plan, moves)
}

/** The block that the battery feeds goes onto the load terminal of the controller, where that gives what all take. */
function ontoTerminal(plan: Plan): Plan | { why: string } {
  const [controller] = partsOf(plan.parts, 'controller')
  if (!controller) return { why: 'There is no controller.' }
  const batteries = partsOf(plan.parts, 'battery').map(b => b.id)
  const main = plan.leads.find(l => {
    const [a, b] = [l.from, l.to].map(t => partById(plan, partIdOf(t))!)
    return [a, b].some(p => batteries.includes(p!.id)) && [a, b].some(p => kindOf(p!).ports?.distributes)
  })
  if (!main) return { why: 'No block hangs on the battery.' }
  const takenA = plan.parts.filter(isLoad).reduce((sum, p) => sum + ampsAbout(kindOf(p).sink!(p, true)), 0)
  const givesA = controller.maxLoadA
  const name = nameOf(controller)
  if (givesA === undefined) return { why: `${name} does not say what its load terminal gives.` }
  if (givesA < takenA) {
    const gives = `the load terminal of ${name} gives ${asGiven(givesA)} A.`
    return { why: `The loads take ${fixed(takenA, 0)} A with everything active, and ${gives}` }
  }
  const end = batteries.includes(partIdOf(main.from)) ? 'from' : 'to'
  const moved = { ...main.ends, [end]: controller.load ? freshEnd(counterpart(controller.load)) : undefined }
  return withLead(plan, main.id, { [end]: `${controller.id}.load`, ends: moved })
}

export const feed: SchoolRule = {
  shown: plan => {
    if (partsOf(plan.parts, 'gate').length) return ['gate']
    return supplyLead(plan) ? ['battery'] : ['battery', 'gate']
  },
  build: (plan, choice) => (choice === 'gate' ? throughGate(plan) : ungated(plan)),
  does: 'a gate between supply, battery and station, or none',
}

/** The lead by which a mains supply stands on a battery. */
function supplyLead(plan: Plan): Lead | undefined {
  const ids = (kind: 'supply' | 'battery') => partsOf(plan.parts, kind).map(p => p.id)
  const [supplies, batteries] = [ids('supply'), ids('battery')]
  const has = (l: Lead, list: string[]) => list.includes(partIdOf(l.from)) || list.includes(partIdOf(l.to))
  return plan.leads.find(l => has(l, supplies) && has(l, batteries))
}

/** Between a supply on a battery and the block that the battery feeds. */
function throughGate(plan: Plan): Plan | { why: string } {
  const evening = supplyLead(plan)
  if (!evening) return { why: 'It takes a mains supply that stands on the battery.' }
  const battery = partsOf(plan.parts, 'battery').find(b => [evening.from, evening.to].some(t => partIdOf(t) === b.id))!
  const isBlock = (terminal: string) => kindOf(partById(plan, partIdOf(terminal))!).ports?.distributes
  const main = graphOf(plan)
    .leadsOf(battery.id)
    .find(l => l !== evening && [l.from, l.to].some(isBlock))
  if (!main) return { why: 'No block hangs on the battery.' }
  const part = identified(plan, gate.catalogue[0]!.part, 'gate') as PartOf<'gate'>
  const end = partIdOf(evening.from) === battery.id ? 'from' : 'to'
  const onto = (side: 'supply' | 'battery' | 'out') => (part[side] ? freshEnd(counterpart(part[side])) : undefined)
  const withGate = { ...plan, parts: [...plan.parts, part] }
  const moved = withLead(withGate, evening.id, {
    [end]: `${part.id}.supply`,
    ends: { ...evening.ends, [end]: onto('supply') },
  })
  const far = isBlock(main.to) ? 'to' : 'from'
  const ends = { ...main.ends, [far]: onto('battery') }
  const first = withLead(moved, main.id, { [far]: `${part.id}.battery`, ends })
  const fitted = main.ends?.[far]
  const on: Lead = {
    ...main,
    id: freeId(plan, 'l'),
    name: 'lead from the gate',
    from: `${part.id}.out`,
    to: main[far],
    lengthM: 0.4,
    ends: { ...(part.out && { from: freshEnd(counterpart(part.out)) }), ...(fitted && { to: fitted }) },
  }
  const { inline: _inline, ...bare } = on
  return { ...first, leads: [...first.leads, bare] }
}

/** The gate out: what hung on it goes onto the battery, and so does the supply. */
function ungated(plan: Plan): Plan | { why: string } | null {
  const [part] = partsOf(plan.parts, 'gate')
  if (!part) return plan
  const toBattery = graphOf(plan).leadsAt(`${part.id}.battery`)[0]
  const toSupply = graphOf(plan).leadsAt(`${part.id}.supply`)[0]
  const stud = toBattery && [toBattery.from, toBattery.to].find(t => partIdOf(t) !== part.id)
  if (!stud) return { why: 'Nothing hangs on the battery side of the gate.' }
  const end = toSupply?.to === `${part.id}.supply` ? 'to' : 'from'
  const connector = graphOf(plan).terminals.get(stud)?.connector
  const landed = toSupply
    ? withLead(plan, toSupply.id, {
        [end]: stud,
        ends: { ...toSupply.ends, ...(connector && { [end]: freshEnd(counterpart(connector)) }) },
      })
    : plan
  const healed = heal(landed, part.id, `${part.id}.battery`, `${part.id}.out`)
  return healed && tryPatch(landed, healed)
}

export const leads: SchoolRule = {
  shown: plan => {
    const shared = sharedBlock(plan)
    if (shared) return ['block']
    return ownLeads(plan).length >= 2 ? ['own'] : ['block', 'own']
  },
  build: (plan, choice) => (choice === 'own' ? eachItsOwn(plan) : overBlock(plan)),
  does: 'leads are made so',
}

/** A fused block that two loads or more hang on, with the lead that feeds it from a stud. */
function sharedBlock(plan: Plan): { part: Part; main: Lead; loads: Lead[] } | null {
  for (const part of plan.parts) {
    const { ports, entry } = kindOf(part)
    if (!ports?.distributes) continue
    const main = graphOf(plan).leadsAt(entry?.(part) ?? part.id)[0]
    const loads = graphOf(plan)
      .leadsOf(part.id)
      .filter(l => l !== main && [l.from, l.to].some(t => isLoad(partById(plan, partIdOf(t))!)))
    if (main && loads.length >= 2) return { part, main, loads }
  }
  return null
}

/** Leads by which loads hang straight on a battery or a supply. */
const ownLeads = (plan: Plan) =>
  plan.leads.filter(l => {
    const [a, b] = [l.from, l.to].map(t => partById(plan, partIdOf(t))!) as [Part, Part]
    return (isLoad(a) && kindOf(b).role === 'source') || (isLoad(b) && kindOf(a).role === 'source')
  })

/** Each load's lead goes on to the post, with a fuse of its own there; the block and its lead are gone. */
function eachItsOwn(plan: Plan): Plan | { why: string } {
  const shared = sharedBlock(plan)
  if (!shared) return { why: 'No block feeds two loads.' }
  const { part, main, loads } = shared
  const post = partIdOf(main.from) === part.id ? main.to : main.from
  const fitted = partIdOf(main.from) === part.id ? main.ends?.to : main.ends?.from
  if (!graphOf(plan).terminals.get(post)?.connector?.startsWith('ring-m'))
    return { why: `${nameOf(partById(plan, partIdOf(post))!)} has no stud that takes several lugs.` }
  const others = graphOf(plan)
    .leadsOf(part.id)
    .filter(l => l !== main && !loads.includes(l))
  if (others.length) return { why: `${nameOf(part)} feeds more than loads.` }
  const atM = devicesIn(main)[0]?.atM ?? 0.12
  const own = loads.map((l): Lead => {
    const end = partIdOf(l.from) === part.id ? 'from' : 'to'
    const opener = graphOf(plan).terminals.get(l[end])?.opener
    const lengthM = rounded(l.lengthM + main.lengthM, 3)
    const place = end === 'from' ? atM : lengthM - atM
    const fuse = opener && { id: 'f9', kind: 'fuse' as const, type: opener.type, ratedA: opener.ratedA, atM: place }
    const inline = [...(l.inline ?? []), ...(fuse ? [{ ...fuse, legs: 'positive' as const }] : [])]
    return { ...l, [end]: post, lengthM, ends: { ...l.ends, ...(fitted && { [end]: fitted }) }, inline }
  })
  const rest = without(plan, [part.id, main.id, ...loads.map(l => l.id)])
  return { ...rest, leads: [...rest.leads, ...own] }
}

/** A block beside the source: its fuses on the ports, one main fuse at the post. */
function overBlock(plan: Plan): Plan | { why: string } {
  const own = ownLeads(plan)
  const [first] = own
  if (!first || own.length < 2) return { why: 'No two loads hang straight on a source.' }
  const sourceEnd = (l: Lead) => (isLoad(partById(plan, partIdOf(l.from))!) ? 'to' : 'from')
  const post = first[sourceEnd(first)]
  const moved = own.filter(l => l[sourceEnd(l)] === post)
  const totalA = moved.reduce((sum, l) => {
    const load = partById(plan, partIdOf(sourceEnd(l) === 'to' ? l.from : l.to))!
    return sum + ampsAbout(kindOf(load).sink!(load, true))
  }, 0)
  const row = block.catalogue.find(r => (r.part.ratedA ?? 0) >= totalA && r.part.ports.length >= moved.length)
  if (!row) return { why: 'No block of the catalogue takes them all.' }
  const part = identified(plan, row.part, 'blk') as PartOf<'block'>
  const fuses = moved.map(l => devicesIn(l)[0])
  const ports = part.ports.slice(0, Math.max(moved.length, 1)).map((p, i) => ({
    ...p,
    fuse: { type: 'blade', ratedA: fuses[i]?.type === 'blade' ? fuses[i].ratedA : (p.fuse?.ratedA ?? 10) },
  }))
  const placed = { ...plan, parts: [...plan.parts, { ...part, ports }] }
  const onPorts = moved.reduce((now, l, i) => {
    const end = sourceEnd(l)
    const inline = (l.inline ?? []).filter(item => item.id !== fuses[i]?.item)
    const fitted = fittingEnds(placed, `${part.id}.p${i + 1}`, partIdOf(l.to)).from
    const ends = { ...l.ends, ...(fitted && { [end]: fitted }) }
    return withLead(now, l.id, { [end]: `${part.id}.p${i + 1}`, ends, ...(l.inline && { inline }) })
  }, placed)
  const thickest = [...moved].sort((a, b) => largestFirst(b) - largestFirst(a))[0]!
  const ratedA = fittingRatings('strip', totalA, Infinity)[0] ?? 50
  const main: Lead = {
    id: freeId(plan, 'l'),
    name: 'main lead',
    from: post,
    to: `${part.id}.feed`,
    lengthM: 1,
    conductor: thickest.conductor,
    ends: fittingEnds(placed, post, `${part.id}.feed`),
    inline: [{ id: 'f1', kind: 'fuse', type: 'strip', ratedA, atM: 0.12, legs: 'positive' }],
  }
  return { ...onPorts, leads: [...onPorts.leads, main] }
}

const largestFirst = ({ conductor }: Lead) => conductorMm2(conductor)
