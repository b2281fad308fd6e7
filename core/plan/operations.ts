import { fittingRatings } from '../fuse/fuse'
import { ampacityA } from '../conductor/ampacity'
import { gives, kindOf, type Part } from '../kinds/index'
import type { Patch } from './edit'
import { freeId, leadById, nameOf, partById, partIdOf, pathOf } from './find'
import { siteOf, type Conductor, type Lead, type Plan } from './schema'

/** Edits a person makes, as patches. None of them checks the plan: applyEdit does. */

/** Terminals of a plan that take another lead: unused ones, and studs. */
export function freeTerminals(plan: Plan): string[] {
  const landings = plan.leads.flatMap(l => [l.from, l.to])
  const used = new Set(landings)
  return plan.parts
    .filter(p => kindOf(p).role !== 'load')
    .flatMap(part => {
      const terminals = kindOf(part).terminals(part, landings)
      const entry = gives(part) ? null : kindOf(part).entry?.(part)
      const free = terminals.filter(t => (!used.has(t.id) && t.id !== entry) || t.connector?.startsWith('ring-m'))
      if (part.kind !== 'joint') return free.map(t => t.id)
      const next = 'abcdefghijklmnopqrstuvwxyz'.split('').find(w => !used.has(`${part.id}.${w}`))
      return next === undefined ? [] : [`${part.id}.${next}`]
    })
}

/** Unused ports of the blocks, in order. */
export function freePorts(plan: Plan): string[] {
  const used = new Set(plan.leads.flatMap(l => [l.from, l.to]))
  return plan.parts
    .flatMap(part => (part.kind === 'block' ? part.ports.map(p => `${part.id}.${p.id}`) : []))
    .filter(t => !used.has(t))
}

const connectorAt = (plan: Plan, terminal: string, landings: string[]) => {
  const part = partById(plan, partIdOf(terminal))
  return (
    part &&
    kindOf(part)
      .terminals(part, [...landings, terminal])
      .find(t => t.id === terminal)?.connector
  )
}

/** What goes onto a terminal: its own family; a fork under a screw. */
const endFor = (connector: string | undefined) =>
  connector && (connector === 'screw' || connector === 'post-4mm' ? 'fork' : connector)

/** A new lead between two terminals, ends made to fit. `extra` is a part not yet in the plan. */
function newLead(plan: Plan, from: string, to: string, lengthM: number, conductor: Conductor, extra?: Part): Lead {
  const whole = extra ? { ...plan, parts: [...plan.parts, extra] } : plan
  const landings = [...plan.leads.flatMap(l => [l.from, l.to]), from, to]
  const end = (terminal: string) => {
    const connector = endFor(connectorAt(whole, terminal, landings))
    return connector
      ? { connector, method: connector === 'pair-60' ? ('solder' as const) : ('crimp' as const) }
      : undefined
  }
  const [fromEnd, toEnd] = [end(from), end(to)]
  return {
    id: freeId(whole, 'l'),
    from,
    to,
    lengthM,
    conductor,
    ends: { ...(fromEnd && { from: fromEnd }), ...(toEnd && { to: toEnd }) },
  }
}

/** Adds a part on a terminal with a lead to it, and a port fuse that fits its current where the port's does not. */
export function addPartAt(
  plan: Plan,
  part: Omit<Part, 'id'>,
  stem: string,
  terminal: string,
  lengthM: number,
  conductor: Conductor,
): { patch: Patch; id: string } {
  const id = freeId(plan, stem)
  const added = { ...structuredClone(part), id } as Part
  const landing = kindOf(added).entry?.(added) ?? id
  const lead = newLead(plan, terminal, landing, lengthM, conductor, added)
  const isSource = gives(added)
  const patch: Patch = [
    { op: 'add', path: '/parts/-', value: added },
    {
      op: 'add',
      path: '/leads/-',
      value: isSource
        ? {
            ...lead,
            from: lead.to,
            to: lead.from,
            ends: { ...(lead.ends?.to && { from: lead.ends.to }), ...(lead.ends?.from && { to: lead.ends.from }) },
          }
        : lead,
    },
  ]
  return { patch: [...patch, ...portFusePatch(plan, added, terminal, conductor)], id }
}

function portFusePatch(plan: Plan, part: Part, terminal: string, conductor: Conductor): Patch {
  const block = partById(plan, partIdOf(terminal))
  const sink = kindOf(part).sink?.(part, true)
  if (block?.kind !== 'block' || !sink) return []
  const index = block.ports.findIndex(p => `${block.id}.${p.id}` === terminal)
  const fuse = block.ports[index]?.fuse
  if (!fuse) return []
  const amps = sink.law === 'current' ? sink.value : sink.law === 'power' ? sink.value / 12 : 12 / sink.value
  const { ambientC, ampacity } = siteOf(plan)
  const ratedA = fittingRatings(fuse.type, amps, ampacityA(conductor, ampacity, ambientC.high))[0]
  return ratedA === undefined || ratedA === fuse.ratedA
    ? []
    : [{ op: 'replace', path: `${pathOf(plan, block.id)}/ports/${index}/fuse/ratedA`, value: ratedA }]
}

/** Adds a part by itself, or a lead between two terminals. */
export function addLeadBetween(plan: Plan, from: string, to: string, lengthM: number, conductor: Conductor): Patch {
  return [{ op: 'add', path: '/leads/-', value: newLead(plan, from, to, lengthM, conductor) }]
}

/**
 * Puts a part into the middle of a lead: what fed it now feeds the part, and a new lead of the same conductor goes on from there.
 * What was wired into the lead stays in the half it was in. Null for a part with no way through.
 */
export function insertInLead(
  plan: Plan,
  leadId: string,
  part: Omit<Part, 'id'>,
  stem: string,
): { patch: Patch; id: string } | null {
  const lead = leadById(plan, leadId)!
  const id = freeId(plan, stem)
  const added = { ...structuredClone(part), id } as Part
  const { between } = kindOf(added)
  if (!between) return null
  const [inT, outT] = between.map(t => `${id}.${t}`) as [string, string]
  const half = Number((lead.lengthM / 2).toFixed(3))
  const connector = (terminal: string) =>
    endFor(
      kindOf(added)
        .terminals(added, [inT, outT])
        .find(t => t.id === terminal)?.connector,
    )
  const end = (terminal: string) => {
    const c = connector(terminal)
    return c ? { connector: c, method: 'crimp' as const } : undefined
  }
  const [inEnd, outEnd] = [end(inT), end(outT)]
  const items = lead.inline ?? []
  const first: Lead = {
    ...lead,
    to: inT,
    lengthM: half,
    ends: { ...(lead.ends?.from && { from: lead.ends.from }), ...(inEnd && { to: inEnd }) },
    inline: items.filter(i => (i.atM ?? 0) <= half),
  }
  const second: Lead = {
    ...lead,
    id: freeId({ ...plan, parts: [...plan.parts, added] }, 'l'),
    name: `${nameOf(lead)}, on from ${nameOf(added)}`.slice(0, 200),
    from: outT,
    lengthM: Number((lead.lengthM - half).toFixed(3)),
    ends: { ...(outEnd && { from: outEnd }), ...(lead.ends?.to && { to: lead.ends.to }) },
    inline: items.filter(i => (i.atM ?? 0) > half).map(i => ({ ...i, atM: Number(((i.atM ?? 0) - half).toFixed(3)) })),
  }
  return {
    id,
    patch: [
      { op: 'add', path: '/parts/-', value: added },
      { op: 'replace', path: pathOf(plan, leadId), value: tidy(first) },
      { op: 'add', path: '/leads/-', value: tidy(second) },
    ],
  }
}

function tidy({ inline, ...lead }: Lead): Lead {
  return inline?.length ? { ...lead, inline } : lead
}

/** Takes a part out with every lead on it and every mention of it, or a lead. */
export function remove(plan: Plan, id: string): Patch {
  if (leadById(plan, id)) return [{ op: 'remove', path: pathOf(plan, id) }]
  const leads = plan.leads
    .map((l, i) => (partIdOf(l.from) === id || partIdOf(l.to) === id ? i : -1))
    .filter(i => i >= 0)
    .reverse()
  const followers = plan.parts.map((p, i) => ('follows' in p && p.follows === id ? i : -1)).filter(i => i >= 0)
  const states = (plan.loadStates ?? []).flatMap((state, s) =>
    state.active
      .map((entry, i) => ((typeof entry === 'string' ? entry : entry.part) === id ? i : -1))
      .filter(i => i >= 0)
      .reverse()
      .map(i => `/loadStates/${s}/active/${i}`),
  )
  return [
    ...states.map(path => ({ op: 'remove' as const, path })),
    ...followers.map(i => ({ op: 'remove' as const, path: `/parts/${i}/follows` })),
    ...leads.map(i => ({ op: 'remove' as const, path: `/leads/${i}` })),
    { op: 'remove', path: pathOf(plan, id) },
  ]
}

/** A value at a path inside a part or lead, as `supply.minV`; undefined takes the field out. */
export function setValue(plan: Plan, id: string, path: string, value: unknown): Patch {
  const pointer = `${pathOf(plan, id)}/${path.replaceAll('.', '/')}`
  return value === undefined ? [{ op: 'remove', path: pointer }] : [{ op: 'add', path: pointer, value }]
}

/** The conductor that most of the plan's leads to loads have, or most of all: what a new lead is offered with. */
export function usualConductor(plan: Plan): Conductor {
  const loads = new Set(plan.parts.filter(p => kindOf(p).role === 'load').map(p => p.id))
  const toLoads = plan.leads.filter(l => loads.has(l.from) || loads.has(l.to))
  const counts = new Map<string, { n: number; conductor: Conductor }>()
  for (const { conductor } of toLoads.length ? toLoads : plan.leads) {
    const key = JSON.stringify(conductor)
    counts.set(key, { n: (counts.get(key)?.n ?? 0) + 1, conductor })
  }
  return [...counts.values()].sort((a, b) => b.n - a.n)[0]?.conductor ?? { awg: 12, insulationC: 105 }
}
