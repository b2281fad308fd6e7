import { setField } from '../edit/set'
import { conditionWords } from '../circuit/conditions'
import { largestAmps, solvedPoints, type Extreme, type SolvedPlan } from '../circuit/matrix'
import { propose, type Proposal } from '../fixes/proposal'
import { turnDownAny } from '../fixes/power'
import { kindOf, type Part } from '../kinds/index'
import { graphOf } from '../graph/graph'
import { moveToTerminal, withLargerPort } from '../fixes/parts'
import { partById, partIdOf } from '../plan/find'
import type { Lead } from '../plan/schema'
import type { Study } from '../study/study'
import { against, amps, volts } from '../units/show'
import type { Check, Found } from './check'
import { terminalName } from '../plan/names'
import { anA, capital } from '../units/words'
import { asGiven } from '../units/number'

/** Largest sum of what passes a part by its leads, A, with its condition: all that goes in, or all that comes out. */
function throughput(solved: SolvedPlan, partId: string): Extreme {
  const ways = graphOf(solved.plan)
    .leadsOf(partId)
    .flatMap(lead => {
      const branch = solved.network.branchOfLead.get(lead.id)
      return branch === undefined ? [] : inwardOn(lead, partId).map(inward => ({ branch, inward }))
    })
  let most: Extreme = { value: 0, condition: '' }
  for (const point of solvedPoints(solved)) {
    const inA = ways.reduce((sum, { branch, inward }) => sum + Math.max(0, inward * point.amps[branch]!), 0)
    const outA = ways.reduce((sum, { branch, inward }) => sum + Math.max(0, -inward * point.amps[branch]!), 0)
    const value = Math.max(inA, outA)
    if (value > most.value) most = { value, condition: point.condition.id }
  }
  return most
}

/** Which way a lead's own current goes into a part: at its far end along with it, at its near end against it. */
const inwardOn = (lead: Lead, partId: string) => [
  ...(partIdOf(lead.to) === partId ? [1] : []),
  ...(partIdOf(lead.from) === partId ? [-1] : []),
]

/** What parts are made for (usual sizes; no standard says them). */
const RATINGS_A = [3, 5, 10, 15, 20, 30, 40, 60, 80, 100, 150, 200, 300] as const
/** Blocks are made for no less (typical of the class). */
const BLOCKS_FROM_A = 40

export const partRating: Check = {
  id: 'block-rating',
  severities: ['fail'],
  looksAt: 'all; the total through each block, joint and other part that says what may pass it',
  title: 'More through a block or joint than it is rated for',
  why:
    "The total counts as well as each port: a block's bars and its feed heat up with the sum of all that hangs on " +
    'it.',
  source: "the part's data sheet (ratedA)",
  find: study =>
    study.plan.parts.flatMap((part): Found[] => {
      const limit = kindOf(part)
        .limits(part, study.around)
        .find(l => l.of === 'passes' && l.judgedBy === undefined)
      if (!limit) return []
      const { continuousA: ratedA } = limit
      const { value, condition } = throughput(study.solved, part.id)
      if (value <= ratedA + 1e-9) return []
      return [
        {
          severity: 'fail',
          limit: [part.id, limit.fields[0]!],
          place: part.id,
          condition,
          title: `${study.name(part)} carries ${amps(value)}`,
          message:
            `${against(amps, value, ratedA)} passes ${study.name(part)} with ` +
            `${conditionWords(study.plan, condition)}; it is rated ` +
            `${amps(ratedA)}.`,
          numbers: { amps: value, ratedA },
        },
      ]
    }),
  fixes: (found, study) => {
    const part = partById(study.plan, found.place)!
    const fromA = kindOf(part).ports?.distributes ? BLOCKS_FROM_A : 0
    const next = RATINGS_A.find(a => a >= fromA && a >= found.numbers.amps!)
    return [
      turnDownAny(study.plan, solved => throughput(solved, part.id).value <= found.numbers.ratedA!),
      next
        ? propose(
            capital(anA(`${kindOf(part).label} rated ${asGiven(next)} A in its place`)),
            setField(study.plan, part.id, found.limit![1], next),
          )
        : null,
    ].filter((p): p is Proposal => p !== null)
  },
}

export const portRating: Check = {
  id: 'port-rating',
  severities: ['fail'],
  looksAt: 'all; the current through each port and outlet with a limit of its own',
  title: 'More through a port than it gives',
  why: "A port's own limit may be under its connector's and its fuse's.",
  source: "the part's data sheet (ratedA of the port or outlet)",
  find: study =>
    [...study.solved.network.terminals.values()].flatMap((terminal): Found[] => {
      if (terminal.ratedA === undefined || terminal.ratedBy !== undefined) return []
      const { value, condition } = study
        .leadsAt(terminal.id)
        .map(l => study.leadAmps(l))
        .reduce((a, b) => (b.value > a.value ? b : a), { value: 0, condition: '' })
      if (value <= terminal.ratedA + 1e-9) return []
      const name = terminalName(study.plan, terminal.id)
      return [
        {
          severity: 'fail',
          place: terminal.id,
          condition,
          title: `${name} gives ${amps(terminal.ratedA)}, asked for ${against(amps, value, terminal.ratedA)}`,
          message:
            `${against(amps, value, terminal.ratedA)} passes ${name} with ` +
            `${conditionWords(study.plan, condition)}; it is rated ` +
            `${amps(terminal.ratedA)}.`,
          numbers: { amps: value, ratedA: terminal.ratedA },
        },
      ]
    }),
  fixes: (found, study) => {
    const lead = study.leadsAt(found.place)[0]!
    const down = turnDownAny(
      study.plan,
      solved => largestAmps(solved, solved.network.branchOfLead.get(lead.id)).value <= found.numbers.ratedA!,
    )
    return [down, ...largerPort(study, found.place, lead, found.numbers.amps!)].filter(p => p !== null)
  },
}

/** Ports that blocks are sold with, A (typical of the class). */
const PORTS_A = [5, 10, 15, 20, 25, 30, 40] as const

/** A terminal that gives more: another one of the same part, a block with larger ports, or a larger part. */
function largerPort(study: Study, terminal: string, lead: Lead, amps: number): Proposal[] {
  const part = partById(study.plan, partIdOf(terminal))!
  const end = lead.from === terminal ? 'from' : 'to'
  const name = terminal.slice(part.id.length + 1)
  const index = partPorts(part).findIndex(p => p.id === name)
  const nextA = PORTS_A.find(a => a >= amps)
  const larger =
    index < 0 || nextA === undefined || !kindOf(part).ports?.distributes
      ? null
      : propose(
          capital(anA(`${kindOf(part).label} whose port gives ${asGiven(nextA)} A in its place`)),
          setField(study.plan, part.id, `${kindOf(part).ports!.field}.${index}.ratedA`, nextA),
        )
  return [moveToTerminal(study.plan, lead, end, amps), larger, withLargerPort(study.plan, part, name, amps)].filter(
    p => p !== null,
  )
}

const partPorts = (part: Part) => {
  const field = kindOf(part).ports?.field
  return field === undefined ? [] : ((part as unknown as Record<string, { id: string }[] | undefined>)[field] ?? [])
}

export const partWindow: Check = {
  id: 'part-window',
  severities: ['danger', 'fail'],
  looksAt: 'all; every voltage that a part says it stands and no other check judges',
  title: 'Voltage outside what a part stands',
  why:
    'A part that is neither a load nor a converter has limits too: a capacitor bursts over its voltage, a relay ' +
    'drops out under its own.',
  source: "the part's data sheet",
  find: study =>
    study.plan.parts.flatMap(part =>
      kindOf(part)
        .windows(part)
        .filter(w => w.judgedBy === undefined)
        .flatMap((window): Found[] => {
          const span = study.arrival(window.at)
          if (!span) return []
          const over = span.high.value > window.maxV + 1e-6
          if (!over && span.low.value >= window.minV - 1e-6) return []
          const { value, condition } = over ? span.high : span.low
          return [
            {
              severity: over && window.hurts ? 'danger' : 'fail',
              limit: [part.id, `${window.field}.${over ? 'maxV' : 'minV'}`],
              place: part.id,
              condition,
              title: `${volts(value)} at ${study.name(part)}`,
              message:
                `${volts(value)} stands at ${study.name(part)} with ${conditionWords(study.plan, condition)}; ` +
                `it is made for ${volts(window.minV)} to ${volts(window.maxV)}.`,
              numbers: { atV: value, minV: window.minV, maxV: window.maxV },
            },
          ]
        }),
    ),
}
