import { connector } from '../catalog/connectors'
import { fuseClass } from '../catalog/fuses'
import { conditionsOf, conditionWords, transmittersOf, type Condition } from '../circuit/conditions'
import { solveMatrix } from '../circuit/matrix'
import { conductorGramsPerM, conductorName } from '../conductor/resistance'
import { graphOf } from '../graph/graph'
import { kindOf } from '../kinds/index'
import { nameOf, partById, partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import { asGiven, figure, fixed, rounded } from '../units/number'
import { compile } from '../circuit/network'
import type { ShelfItem } from '../shelf/item'
import { cautionsOf } from './cautions'
import { cutLength } from './cut'
import { hookUpOrder, type HookUp } from './hookup'
import { labelsOf, type Label } from './labels'
import { shoppingList, type ShoppingRow } from './needs'
import { LINK_M, packLinks, stringFuses, type PackLink } from './packLinks'
import { assumedFigures, NO_STAMP, notReady, type Stamp } from './state'

/** Everything one needs at the bench to build a plan, as data. Lengths m, voltages V. */
export interface BuildSheet {
  name: string
  stamp: Stamp
  /** Dangers and failures that are left: it is not ready to be built. */
  notReady: string[]
  /** Figures that nobody stated, and guesses. */
  assumed: string[]
  /** What the owner wrote of the plan and of its site. */
  notes: string[]
  cautions: string[]
  cutList: CutRow[]
  parts: PartRow[]
  hookUp: HookUp
  shopping: ShoppingRow[]
  labels: Label[]
  test: TestTable
}

export interface CutRow {
  leadId: string
  name: string
  from: string
  to: string
  conductor: string
  insulationC: number | null
  /** As planned, one way. */
  lengthM: number
  /** To cut, each conductor, with slack for the ends and a wrong crimp. */
  cutM: number
  conductors: { colour: 'red' | 'black'; leg: 'positive' | 'negative' }[]
  ends: { end: 'from' | 'to'; at: string; connector: string; method: string; trap: string }[]
  inline: { what: string; atM: number; from: string; leg: string; note: string }[]
  note: string
}

export interface PartRow {
  what: string
  count: number
  unit: 'piece' | 'm'
  note: string
}
export interface TestTable {
  conditions: { id: string; words: string }[]
  /** Volts in each condition; null where there is no solution. */
  rows: { terminal: string; words: string; volts: (number | null)[] }[]
}

export function buildSheet(plan: Plan, shelf: readonly ShelfItem[] = [], stamp: Stamp = NO_STAMP): BuildSheet {
  return {
    name: plan.name,
    stamp,
    notReady: notReady(plan),
    assumed: assumedFigures(plan),
    notes: [plan.note, plan.site?.note].filter(n => n !== undefined),
    cautions: cautionsOf(plan),
    cutList: [...plan.leads.map(l => cutRow(plan, l)), ...packLinks(plan).map(linkRow)],
    parts: partsList(plan),
    hookUp: hookUpOrder(plan, compile(plan)),
    shopping: shoppingList(plan, shelf),
    labels: labelsOf(plan),
    test: testTable(plan),
  }
}

function terminalWords(plan: Plan, terminal: string): string {
  const part = partById(plan, partIdOf(terminal))
  if (!part) return terminal
  const port = terminal.slice(part.id.length + 1)
  return port ? `${nameOf(part)}, ${port}` : nameOf(part)
}

function cutRow(plan: Plan, lead: Lead): CutRow {
  const both = [
    { colour: 'red' as const, leg: 'positive' as const },
    { colour: 'black' as const, leg: 'negative' as const },
  ]
  return {
    leadId: lead.id,
    name: lead.name ?? lead.id,
    from: terminalWords(plan, lead.from),
    to: terminalWords(plan, lead.to),
    conductor: conductorName(lead.conductor),
    insulationC: lead.conductor.insulationC ?? null,
    lengthM: lead.lengthM,
    cutM: cutLength(lead.lengthM),
    conductors: lead.return === 'chassis' ? both.slice(0, 1) : both,
    ends: (['from', 'to'] as const).map(end => {
      const fitted = lead.ends?.[end]
      const c = fitted && connector(fitted.connector)
      return {
        end,
        at: terminalWords(plan, lead[end]),
        connector: c ? c.label : 'not said',
        method: fitted?.method ?? 'not said',
        trap: c?.trap ?? '',
      }
    }),
    inline: (lead.inline ?? []).map(item => ({
      atM: item.atM ?? 0,
      from: terminalWords(plan, lead.from),
      ...inlineWords(plan, lead, item),
    })),
    note: lead.note ?? '',
  }
}

/** A link between packs, in the cut list among the leads. */
function linkRow(link: PackLink): CutRow {
  const label = link.connector ? connector(link.connector).label : 'not said'
  const at = (end: 'from' | 'to') => ({ end, at: link[end], connector: label, method: 'crimp', trap: '' })
  const fuse = link.fuse && {
    what: `${fuseClass(link.fuse.type).label} fuse ${asGiven(link.fuse.ratedA)} A`,
    atM: 0,
    from: link.fuse.at,
    leg: 'positive',
    note: 'one for each string',
  }
  return {
    leadId: link.id,
    name: link.name,
    from: link.from,
    to: link.to,
    conductor: conductorName(link.conductor),
    insulationC: link.conductor.insulationC ?? null,
    lengthM: LINK_M,
    cutM: cutLength(LINK_M),
    conductors: [...link.legs],
    ends: [at('from'), at('to')],
    inline: fuse ? [fuse] : [],
    note: `${link.note}; its length is assumed: measure it`,
  }
}

function inlineWords(
  plan: Plan,
  lead: Lead,
  item: NonNullable<Lead['inline']>[number],
): { what: string; leg: string; note: string } {
  switch (item.kind) {
    case 'fuse':
      return {
        what: `${fuseClass(item.type ?? 'blade').label} fuse ${asGiven(item.ratedA)} A`,
        leg: item.legs ?? 'positive',
        note: 'fit it last',
      }
    case 'breaker':
      return { what: `breaker ${asGiven(item.ratedA)} A`, leg: item.legs ?? 'positive', note: 'off until the end' }
    case 'switch':
      return {
        what: item.by ? 'relay' : 'switch',
        leg: 'positive',
        note: switchNote(item),
      }
    case 'choke':
      return {
        what: `common-mode choke, ${item.turns} turns on ${item.cores} core${item.cores > 1 ? 's' : ''}`,
        leg: 'both',
        note: `both conductors together through every core${item.material ? `; ${item.material}` : ''}`,
      }
    case 'meter':
      return { what: 'watt meter', leg: 'both', note: '' }
    case 'dropper': {
      const toward = lead[item.stripe ?? 'to']
      return {
        what: `${item.count ?? 1} diode${(item.count ?? 1) > 1 ? 's in series' : ''}, ${asGiven(item.ratedA ?? 1)} A`,
        leg: 'positive',
        note: `stripe toward ${terminalWords(plan, toward)}; label the lead: it hides a diode`,
      }
    }
  }
}

function switchNote({ by, closed }: { by?: 'engine' | undefined; closed?: boolean | undefined }): string {
  if (by) return 'closes while the engine runs'
  return closed === false ? 'planned open' : 'planned closed'
}

function partsList(plan: Plan): PartRow[] {
  const rows = new Map<string, PartRow>()
  const add = (what: string, count: number, unit: PartRow['unit'] = 'piece', note = '') => {
    const row = rows.get(what)
    if (row) row.count = rounded(row.count + count, 2)
    else rows.set(what, { what, count, unit, note })
  }
  for (const part of plan.parts) {
    const size = part.sizeMm && `${part.sizeMm.map(mm => figure(mm)).join(' × ')} mm`
    const said = [part.bought, size, part.note].filter(Boolean).join('; ')
    add(`${kindOf(part).label}: ${nameOf(part)}`, 1, 'piece', said)
  }
  for (const lead of plan.leads) {
    const heat = lead.conductor.insulationC ? `, ${asGiven(lead.conductor.insulationC)} °C` : ''
    const grams = `${fixed(conductorGramsPerM(lead.conductor), 0)} g/m`
    add(`${conductorName(lead.conductor)} conductor${heat}, red`, cutLength(lead.lengthM), 'm', grams)
    if (lead.return !== 'chassis')
      add(`${conductorName(lead.conductor)} conductor${heat}, black`, cutLength(lead.lengthM), 'm', grams)
    for (const end of ['from', 'to'] as const) {
      const fitted = lead.ends?.[end]
      if (fitted && fitted.connector !== 'bare')
        add(connector(fitted.connector).label, 1, 'piece', 'for a pair of conductors')
    }
    for (const item of lead.inline ?? []) {
      if (item.kind === 'fuse')
        add(
          `${fuseClass(item.type ?? 'blade').label} fuse ${asGiven(item.ratedA)} A with holder`,
          item.legs === 'both' ? 2 : 1,
        )
      else if (item.kind === 'breaker') add(`breaker ${asGiven(item.ratedA)} A`, 1)
      else if (item.kind === 'switch') add(item.by ? 'relay' : 'switch', 1)
      else if (item.kind === 'meter') add('watt meter', 1)
      else if (item.kind === 'choke') add('ferrite core', item.cores)
      else add(`silicon diode ${asGiven(item.ratedA ?? 1)} A`, item.count ?? 1)
    }
  }
  for (const { conductor, legs, connector: fitted } of packLinks(plan)) {
    const heat = conductor.insulationC ? `, ${asGiven(conductor.insulationC)} °C` : ''
    for (const { colour } of legs)
      add(`${conductorName(conductor)} conductor${heat}, ${colour}`, cutLength(LINK_M), 'm')
    if (fitted) add(connector(fitted).label, legs.length, 'piece', 'for a pair of conductors')
  }
  for (const { type, ratedA, count } of stringFuses(plan))
    add(`${fuseClass(type).label} fuse ${asGiven(ratedA)} A with holder`, count)
  for (const { opener, fields } of graphOf(plan).terminals.values()) {
    // A breaker is its part itself.
    if (!opener || !fields?.opener) continue
    add(`${fuseClass(opener.type).label} fuse ${asGiven(opener.ratedA)} A`, 1, 'piece', 'block port')
  }
  return [...rows.values()]
}

/**
 * Conditions one can make at the bench: a charged pack or the supply, all idle, each radio transmitting, all at once.
 */
function benchConditions(plan: Plan): Condition[] {
  const all = conditionsOf(plan)
  const source = all.some(c => c.source === 'full') ? 'full' : 'nominal'
  const radios = transmittersOf(plan)
    .filter(p => p.follows === undefined)
    .slice(0, 3)
  const wanted = [`${source}/idle`, ...radios.map(r => `${source}/only:${r.id}`), `${source}/all`, 'charging/idle']
  return wanted.flatMap(id => all.find(c => c.id === id) ?? [])
}

function testTable(plan: Plan): TestTable {
  const conditions = benchConditions(plan)
  const { network, points } = solveMatrix(plan, conditions)
  const landed = new Set(plan.leads.flatMap(l => [l.from, l.to]))
  return {
    conditions: conditions.map(c => ({ id: c.id, words: conditionWords(plan, c.id) })),
    rows: [...network.terminals.keys()]
      .filter(t => landed.has(t))
      .map(terminal => ({
        terminal,
        words: terminalWords(plan, terminal),
        volts: points.map(p =>
          p.status === 'ok' && !p.condition.off?.has(partIdOf(terminal))
            ? p.volts[network.nodeOf.get(terminal)!]!
            : null,
        ),
      })),
  }
}
