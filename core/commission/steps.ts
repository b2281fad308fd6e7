import { connector } from '../catalog/connectors'
import { conditionsOf, conditionWords, transmittersOf } from '../circuit/conditions'
import { compile } from '../circuit/network'
import { graphOf } from '../graph/graph'
import { gives, hasEngine, isLoad, kindOf, needs } from '../kinds/index'
import { leadName, nameOf, partById, partIdOf } from '../plan/find'
import { terminalName } from '../plan/names'
import type { Lead, Plan } from '../plan/schema'
import type { Act } from '../sheets/live'
import { STUD_TORQUE_NM } from '../catalog/studs'
import { hookUpOrder, type HookUpStep } from '../sheets/hookup'
import { memberPacks, packSteps } from '../sheets/packLinks'
import { figure, fixed } from '../units/number'
import { lampSteps } from './lamps'
import { RESTED } from '../log/log'
import { restedOf, type Rested } from './rested'
import { withSights } from './sights'
import type { CommissionStep } from './step'

/**
 * Building a plan and bringing it to life, one step at a time: bench checks, each pack by itself, settings, the
 * order of connecting, then idle, keyed and charging with what each point should read.
 */
export function commissionSteps(plan: Plan): CommissionStep[] {
  const hookUp = hookUpOrder(plan, compile(plan)).connect
  return [
    ...plan.leads.map(lead => benchStep(plan, lead)),
    ...packSteps(plan).map(packStep),
    ...plan.parts.flatMap(part => restedStep(plan, part.id)),
    ...hookUp.flatMap(settingStep),
    ...hookUp.filter(s => s.acts.length || s.lead).map(s => connectStep(plan, s)),
    ...lampSteps(plan),
    ...idleSteps(plan),
    ...keyedSteps(plan),
    ...chargeSteps(plan),
  ].map(step => withSights(plan, step))
}

const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1)

/** What is looked at on every lead before it is used. */
function benchStep(plan: Plan, lead: Lead): CommissionStep {
  const ends = (['from', 'to'] as const).flatMap(end => {
    const fitted = lead.ends?.[end]
    return fitted ? [{ end, method: fitted.method, label: connector(fitted.connector).label }] : []
  })
  const crimps = ends.filter(e => e.method !== 'screw').map(e => `${e.label} at ${terminalName(plan, lead[e.end])}`)
  const screws = ends.filter(e => e.method === 'screw').map(e => terminalName(plan, lead[e.end]))
  const studs = (['from', 'to'] as const).flatMap(end => {
    const nm = STUD_TORQUE_NM[lead.ends?.[end]?.connector ?? '']
    return nm === undefined ? [] : [`${terminalName(plan, lead[end])} ${nm} N·m`]
  })
  const isCovered = [lead.from, lead.to].some(t => gives(partById(plan, partIdOf(t))!))
  return {
    id: `bench ${lead.id}`,
    phase: 'bench',
    lead: lead.id,
    does: [
      `${capital(leadName(lead))}: label both ends.`,
      crimps.length && `Tug hard at each wire of ${crimps.join(' and ')}.`,
      screws.length && `Tighten ${screws.join(' and ')}: no strand outside, no insulation under the screw.`,
      studs.length && `Stud torque to come: ${studs.join('; ')} (the maker's figure goes first).`,
    ]
      .filter(Boolean)
      .join(' '),
    why: 'A wire that is not in far enough holds a meter’s milliamps and drops volts at the first word.',
    see:
      'Red through from end to end, black through, nothing between them (over 1 MΩ). Copper bare for the length of ' +
      'the barrel and no more; strain relief; no edge it can chafe on' +
      (isCovered ? '; a cover on the post.' : '.'),
    stopIf: 'A wire moves, a strand stands out, red and black have a way between them: make the end anew.',
  }
}

const packStep = ({ does, before, caution }: ReturnType<typeof packSteps>[number], i: number): CommissionStep => ({
  id: `packs ${i} ${does.split(':')[0]}`,
  phase: 'packs',
  does,
  why: 'Packs that are joined unequal drive a current from one to the other that no fuse was chosen for.',
  see: before,
  stopIf: 'Two packs are over 0.1 V apart: charge each full by itself, not to the higher reading.',
  ...(caution && { caution }),
})

function restedStep(plan: Plan, id: string): CommissionStep[] {
  const part = partById(plan, id)!
  const rested = restedOf(part)
  if (!rested) return []
  const members = memberPacks(plan, id)
  const whole = restedOne(rested, { name: nameOf(part), share: 1 })
  const isLarge = rested.store.capacity * rested.fullV >= LARGE_WH
  const cautions = [...cautionsOf(plan, id), ...(isLarge ? [LARGE_BANK] : [])]
  const caution = cautions.length ? { caution: cautions.join(' ') } : {}
  return [...members.map(m => restedOne(rested, m)), whole].map(step => ({ ...step, ...caution }))
}

/** From here on a bank is taken off by two (judgement: some 200 Ah at 12 V). */
const LARGE_WH = 2500
const LARGE_BANK =
  'A large bank: a second person beside you, insulated tools, no rings or watch; know how it is isolated.'

/** A battery, or one of the packs it is made of. */
function restedOne(
  { part, emptyV, usedV, fullV, mostV }: Rested,
  { name, share }: { name: string; share: number },
): CommissionStep {
  const v = (volts: number) => fixed(volts * share, 2)
  const isMember = name !== nameOf(part)
  return {
    id: isMember ? `rested ${part.id} ${name}` : `rested ${part.id}`,
    phase: 'packs',
    part: part.id,
    does: `Meter on ${name} by itself, rested an hour or more: red on +, black on −.`,
    why: 'Polarity, and how full it is, before a radio ever sees it.',
    see: `${v(usedV)} to ${v(fullV)} V, with the sign as the meter shows it for red on +.`,
    stopIf: `A minus sign; under ${v(emptyV)} V; over ${v(mostV)} V.`,
    reading: { at: part.id, condition: RESTED, ...(isMember && { member: { name, share } }) },
  }
}

const cautionsOf = (plan: Plan, id: string): string[] => {
  const part = partById(plan, id)!
  return kindOf(part)
    .cautions(part)
    .map(c => c.line)
}

function settingStep({ sets, does, before }: HookUpStep): CommissionStep[] {
  if (!sets) return []
  return [
    {
      id: `set ${sets.device} ${sets.battery}`,
      phase: 'settings',
      part: sets.device,
      setting: sets.device,
      does,
      why: 'A device set for another chemistry is the commonest way to lose a battery.',
      see: `${before.split(';')[0]}. Also what switches inside it: USB charging, port on, load timer.`,
      stopIf: 'It shows another chemistry, or will not keep the setting: do not connect it.',
    },
  ]
}

function actId(act: Act): string {
  if (act.do === 'join') return `join ${act.lead} ${act.end}`
  return act.do === 'close' ? `in ${act.at}` : `on ${act.part}`
}

/** A switch planned open has nothing to do but to be left. */
function connectStep(plan: Plan, step: HookUpStep): CommissionStep {
  const woken = step.acts.flatMap(a => (a.do === 'wake' ? cautionsOf(plan, a.part) : []))
  const cautions = [...(step.caution ? [step.caution] : []), ...woken, ...inVehicle(plan, step.lead)]
  const acts = step.acts.map(actId)
  return {
    id: acts.length ? acts.join(' ') : `leave ${step.lead ?? ''} ${step.does.split(':')[0]}`,
    phase: 'connect',
    ...(step.lead && { lead: step.lead }),
    does: capital(step.does),
    why: 'In this order no end lies open and live, and a controller sees its battery before its panel.',
    see: step.before,
    stopIf: 'A spark that is more than a tick, warmth, a smell, a sign the wrong way round: back one step.',
    ...(cautions.length && { caution: cautions.join(' ') }),
  }
}

/** A lead to where an engine is: its chassis is the other conductor of everything. */
function inVehicle(plan: Plan, leadId?: string): string[] {
  const lead = leadId === undefined ? undefined : graphOf(plan).leads.get(leadId)
  if (!lead || ![lead.from, lead.to].some(t => hasEngine(partById(plan, partIdOf(t))!))) return []
  return ['A vehicle: where a radio’s case is bonded to the body, a fuse in both legs; the negative last, off first.']
}

/** The state in which a battery is charged and rests, or the supply as it is. */
export const benchSource = (plan: Plan) => {
  const states = new Set(conditionsOf(plan).map(c => c.source))
  return ['full', 'nominal', ...states].find(s => states.has(s as never))!
}

const fedLoads = (plan: Plan) => plan.parts.filter(p => isLoad(p) && graphOf(plan).leadsOf(p.id).length > 0)

function idleSteps(plan: Plan): CommissionStep[] {
  const condition = `${benchSource(plan)}/idle`
  if (!conditionsOf(plan).some(c => c.id === condition)) return []
  return fedLoads(plan).map(part => {
    const { minV, maxV } = needs(part as never)
    return {
      id: `idle ${part.id}`,
      phase: 'idle' as const,
      part: part.id,
      does: `${nameOf(part)} on, nothing transmitting: meter at its own inlet.`,
      why: 'A drop that is there at idle already will be ten times that with the key down.',
      see: 'The volts below, within their tolerance.',
      stopIf: `Over ${figure(maxV)} V or under ${figure(minV)} V, or the sign the wrong way round: off at once.`,
      reading: { at: part.id, condition },
    }
  })
}

function keyedSteps(plan: Plan): CommissionStep[] {
  const source = benchSource(plan)
  const known = new Set(conditionsOf(plan).map(c => c.id))
  const radios = transmittersOf(plan).filter(p => p.follows === undefined && known.has(`${source}/only:${p.id}`))
  const alone = radios.map(part => {
    const { minV } = needs(part)
    return {
      id: `keyed ${part.id}`,
      phase: 'keyed' as const,
      part: part.id,
      does: `${nameOf(part)} into a dummy load, key down at the power it is set to, ten seconds: meter at its inlet.`,
      why: 'All that the path drops shows here and nowhere else.',
      see: 'The volts below, within their tolerance; feel every connector on the way: none warm.',
      stopIf: `Under ${figure(minV)} V, falling while you watch, a warm connector: key up.`,
      caution: 'A dummy load gets hot; key no longer than you need to read.',
      reading: { at: part.id, condition: `${source}/only:${part.id}` },
    }
  })
  if (radios.length < 2 || !known.has(`${source}/all`)) return alone
  return [...alone, ...radios.map(part => ({ ...alone[0]!, ...allAtOnce(plan, part.id, `${source}/all`) }))]
}

const allAtOnce = (plan: Plan, id: string, condition: string) => ({
  id: `all ${id}`,
  part: id,
  does: `All that may be on at once, on: meter at the inlet of ${nameOf(partById(plan, id)!)}.`,
  why: 'What several share drops for all of them together.',
  reading: { at: id, condition },
})

function chargeSteps(plan: Plan): CommissionStep[] {
  const condition = 'charging/idle'
  if (!conditionsOf(plan).some(c => c.id === condition)) return []
  const { around } = compile(plan)
  return plan.parts.flatMap(part => {
    const output = kindOf(part).charge?.(part, around)
    const filled = output ? around(output.at).find(a => restedOf(a.part)) : undefined
    if (!output || !filled) return []
    const [first] = cautionsOf(plan, filled.part.id)
    const most = output.absorptionV === null ? 'its maker says' : `${figure(output.absorptionV)} V`
    return [
      {
        id: `charge ${part.id}`,
        phase: 'charge' as const,
        part: part.id,
        does: `${nameOf(part)} at work on ${nameOf(filled.part)}, near the end of a charge: meter on the battery.`,
        why: 'A setting is what the battery gets, not what the label says.',
        see: `Never more than ${most}; the amps fall as it fills.`,
        stopIf: 'It rises above that, or the battery gets warm: take the charge off.',
        reading: { at: filled.terminal, condition },
        ...(first === undefined ? {} : { caution: first }),
      },
    ]
  })
}

/** How it is taken down: the reverse. */
export const takeDownSteps = (plan: Plan): string[] => hookUpOrder(plan, compile(plan)).takeDown

/** "House pack full and rested, everything idle" */
export const readingWords = (plan: Plan, condition: string): string =>
  condition === RESTED ? 'by itself, rested' : conditionWords(plan, condition)
