import { isCharging } from '../battery/emf'
import { partAmps } from '../circuit/point'
import { judgedLimit } from '../kinds/batteryLimits'
import { conditionWords } from '../circuit/conditions'
import { compile, isFed } from '../circuit/network'
import { feedPart, usualConductor } from '../edit/add'
import { freePorts } from '../graph/free'
import { addItem, setItem } from '../edit/items'
import { applyEdit, type Patch } from '../edit/patch'
import { setField } from '../edit/set'
import { propose, type Proposal } from '../fixes/proposal'
import { isSwitch } from '../graph/device'
import { asKind, gives, isLoad, kindOf, type Part } from '../kinds/index'
import { leadName, partById, partIdOf } from '../plan/find'
import { partName, terminalName } from '../plan/names'
import type { Plan } from '../plan/schema'
import { amps, metres, volts } from '../units/show'
import type { Check, Found } from './check'
import { wrongWay } from './dropper'
import type { Study } from '../study/study'
import { placedOf, nominalEmf, nominalOhm } from './source'

/** Sources together, and parts that none reaches. */

/** Sources with a way between them, in groups. */
function joinedSources(study: Study): Part[][] {
  const { network } = study.solved
  const groups = new Map<number, Part[]>()
  // A bare panel is a finding of its own, whatever it is joined with.
  for (const part of study.plan.parts.filter(p => !kindOf(p).needsController)) {
    for (const { node } of placedOf(study, part)) {
      const r = network.component[node]!
      if (!groups.get(r)?.includes(part)) groups.set(r, [...(groups.get(r) ?? []), part])
    }
  }
  return [...groups.values()].filter(g => g.length > 1)
}

/** The part of a group into which most flows while nothing is meant to be charged; null where nothing does. */
function fedBackwards(study: Study, group: readonly Part[]) {
  const away = study.points.filter(p => !isCharging(p.condition.source))
  const flows = group.flatMap(part =>
    away.map(p => ({ part, value: partAmps(study.solved.network, p, part), condition: p.condition.id })),
  )
  const [least] = flows.sort((a, b) => a.value - b.value)
  return least && least.value < -0.01 ? least : null
}

/** Ratio of nominal voltages from which two sources are two systems: 12 V against 24 V, not 12.3 against 13.8. */
const OTHER_SYSTEM = 1.3

export const sourcesJoined: Check = {
  id: 'sources-joined',
  severities: ['danger', 'caution', 'note'],
  looksAt: 'all; every two sources with a way between them',
  title: 'Sources joined',
  why:
    'The one with the higher voltage feeds the other. A supply may be damaged by it, a pack may be charged faster ' +
    'than it stands, and packs joined while unlike each other even out with a rush of current.',
  source: "Kirchhoff's laws on the plan; domain practice for parallel packs",
  find: study =>
    joinedSources(study).map((group): Found => {
      const nominal = group.map(part => nominalEmf(study, part))
      const highest = Math.max(...nominal)
      const lowest = Math.min(...nominal)
      const names = group.map(study.name)
      const place = group[group.length - 1]!.id
      const also = group.slice(0, -1).map(p => p.id)
      if (highest / lowest > OTHER_SYSTEM) {
        return {
          severity: 'danger',
          place,
          also,
          condition: null,
          title: 'Two system voltages on one node',
          message:
            `${names.join(' and ')} are joined, at ${nominal.map(volts).join(' and ')}: two system voltages on ` +
            'one node.',
          numbers: { highestV: highest, lowestV: lowest },
        }
      }
      const fed = fedBackwards(study, group)
      if (fed) {
        const pack = asKind(fed.part, 'battery')
        const charge = pack ? judgedLimit(pack, 'maxChargeA')?.amps : undefined
        const from = group.filter(p => p !== fed.part)
        const tooFast = charge !== undefined && -fed.value > charge
        return {
          severity: tooFast ? 'danger' : 'caution',
          place: fed.part.id,
          also: group.map(p => p.id).filter(id => id !== fed.part.id),
          condition: fed.condition,
          title: `${study.name(fed.part)} is fed backwards`,
          message:
            `${amps(-fed.value)} flows into ${study.name(fed.part)} with ` +
            `${conditionWords(study.plan, fed.condition)}, ` +
            `from ${from.map(study.name).join(' and ')}.` +
            (tooFast ? ` It may be charged with ${amps(charge)} at most.` : ''),
          numbers: { backA: -fed.value, ...(charge !== undefined && { maxChargeA: charge }) },
        }
      }
      const ohms = group.reduce((sum, p) => sum + nominalOhm(study, p), 0)
      return {
        severity: 'note',
        place,
        also,
        condition: null,
        title: `${names.join(' and ')} stand in parallel`,
        message:
          `${names.join(' and ')} are joined in parallel. Compare their voltages before they are ` +
          `joined${ohms > 0 ? `: a difference of 0.2 V drives ${amps(0.2 / ohms)} at first` : ''}.`,
        numbers: ohms > 0 ? { surgePerFifthVoltA: 0.2 / ohms } : {},
      }
    }),
  fixes: (found, study) => {
    // Opening the way: a switch at the post of the source that is fed.
    const lead = study.plan.leads.find(l => l.from === found.place || l.to === found.place)
    if (!lead || found.severity === 'note') return []
    const end = lead.from === found.place ? 'from' : 'to'
    return [
      {
        label: `A switch in ${leadName(lead)}, open while the other feeds`,
        patch: addItem(study.plan, lead.id, { kind: 'switch', closed: false }, { end, fromEndM: 0 }),
      },
    ]
  },
}

export const island: Check = {
  id: 'island',
  severities: ['fail', 'note'],
  looksAt: 'all; every part against the sources',
  title: 'Not fed',
  why:
    'No source reaches it, so no voltage arrives there: a lead is missing, lands on the wrong terminal, or a ' +
    'switch is open.',
  source: "the plan's topology",
  find: study => {
    const { network, plan } = study.solved
    const landed = new Set(plan.leads.flatMap(l => [partIdOf(l.from), partIdOf(l.to)]))
    // One cause is told once: a diode the wrong way round has a finding of its own.
    const blocked = new Set(wrongWay(study).flatMap(d => d.blocks))
    const nodesOf = (id: string) => network.graph.terminalsOf(id).map(t => network.nodeOf.get(t.id)!)
    return plan.parts.flatMap((part): Found[] => {
      const kind = kindOf(part)
      if (gives(part)) {
        if (landed.has(part.id) || plan.parts.length === 1) return []
        return [
          {
            severity: 'note',
            place: part.id,
            condition: null,
            title: `${study.name(part)} feeds nothing`,
            message: `No lead lands on ${study.name(part)}.`,
            numbers: {},
          },
        ]
      }
      const nodes = nodesOf(part.id)
      if (blocked.has(part.id) || !nodes.length || !nodes.every(v => network.unfed[v])) return []
      const why = landed.has(part.id) ? wayWords(study, part.id) : 'no lead lands on it'
      return [
        {
          severity: kind.sink ? 'fail' : 'note',
          place: part.id,
          condition: null,
          title: `${study.name(part)} is not fed`,
          message: `No source reaches ${study.name(part)}: ${why}.`,
          numbers: {},
        },
      ]
    })
  },
  fixes: (found, study) => {
    const { plan } = study
    const open = openSwitches(plan)
    const all = { label: open.map(o => o.label).join('; '), patch: open.flatMap(o => o.patch) }
    const one = open.filter(({ patch }) => feeds(plan, patch, found.place))
    if (one.length) return one
    if (feeds(plan, all.patch, found.place)) return [all]
    return study.leadsOf(found.place).length ? [] : leadFromFreePort(study, found.place)
  },
}

/** Each switch and breaker closed, of those that lie open. */
function openSwitches(plan: Plan): Proposal[] {
  const inLeads = plan.leads.flatMap(lead =>
    (lead.inline ?? []).flatMap(item =>
      isSwitch(item) && item.closed === false
        ? [propose(`Close the ${item.kind} in ${leadName(lead)}`, setItem(plan, lead.id, item.id, { closed: true }))]
        : [],
    ),
  )
  const parts = plan.parts
    .filter(p => kindOf(p).opens && 'closed' in p && p.closed === false)
    .map(p => propose(`Close ${partName(plan, p.id)}`, setField(plan, p.id, 'closed', true)))
  return [...inLeads, ...parts]
}

/** Whether a part is fed once a patch is made. */
function feeds(plan: Plan, patch: Patch, partId: string): boolean {
  const edit = applyEdit(plan, patch)
  return edit.ok && isFed(compile(edit.plan), partId)
}

/** As far as a load stands from a block where nobody says, m. */
const USUAL_M = 1.5

/** A lead from a free port to a load that has none. */
function leadFromFreePort(study: Study, partId: string): Proposal[] {
  const { plan } = study
  const part = partById(plan, partId)!
  const port = isLoad(part) ? freePorts(plan)[0] : undefined
  if (port === undefined) return []
  const patch = feedPart(plan, part, { terminal: port, lengthM: USUAL_M, conductor: usualConductor(plan) })
  return [
    {
      label: `A lead from ${terminalName(plan, port)} to ${study.name(part)}`,
      patch,
      cost: `${metres(USUAL_M)} of lead`,
    },
  ]
}

const wayWords = (study: Study, partId: string) =>
  behindOpenSwitch(study, partId) ? 'a switch or breaker on its way is open' : 'its leads reach no source'

/** Whether a part would be fed with every switch and breaker closed. */
function behindOpenSwitch(study: Study, partId: string): boolean {
  const closed = study.plan.leads.map(l =>
    l.inline ? { ...l, inline: l.inline.map(i => (isSwitch(i) ? { ...i, closed: true } : i)) } : l,
  )
  const parts = study.plan.parts.map(p => kindOf(p).opens?.(p).closed ?? p)
  return isFed(compile({ ...study.plan, parts, leads: closed }), partId)
}
