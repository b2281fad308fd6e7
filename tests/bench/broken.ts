import { readPlan } from '../../core/plan/faults'
import type { Plan } from '../../core/plan/schema'
import { mend } from '../../core/mend/mend'
import { judge } from '../../core/verdict/verdict'
import { walkAnyOrder } from '../data/anyOrder'
import { brokenPlan } from '../data/brokenPlans'
import { dice, type Dice } from '../data/randomPlans'
import { madeUpPlan } from './plans'

/** A plan being taken apart: whatever the schema then refuses is not counted. */
type Loose = { parts: Record<string, unknown>[]; leads: Record<string, unknown>[] }

/** The made-up station of 60 parts with something wrong in every corner: wires, loads, converters, rings, a gate. */
export function ruinedPlan(seed: number): Plan | null {
  const d = dice(seed)
  const plan = structuredClone(madeUpPlan(52)) as unknown as Loose
  plan.leads.forEach(l => ruinLead(d, l))
  plan.parts.forEach(p => ruinPart(d, p))
  for (let k = 0; k < 6; k++) putConverter(d, plan, k)
  const blocks = plan.parts.filter(p => p.kind === 'block').map(p => `${p.id as string}.feed`)
  for (let k = 0; k < d.of([0, 1, 3]); k++) {
    const [from, to] = [d.of(blocks), d.of(blocks)]
    if (from === to) continue
    plan.leads.push({ id: `ring${k}`, from, to, lengthM: d.between(0.1, 20), conductor: { awg: 10 } })
  }
  if (d.chance(0.5)) putGate(d, plan, d.of(blocks))
  const read = readPlan(plan)
  return read.ok ? read.plan : null
}

function ruinLead(d: Dice, lead: Record<string, unknown>) {
  if (d.chance(0.15)) lead.lengthM = d.between(0.5, 500)
  if (d.chance(0.15)) lead.conductor = { awg: d.of([24, 18, 12, 6]) }
  if (d.chance(0.1)) delete lead.inline
  if (d.chance(0.1)) lead.inline = [{ id: 'd', kind: 'dropper', atM: 0.2 }]
}

function ruinPart(d: Dice, part: Record<string, unknown>) {
  if (part.draw && d.chance(0.2))
    part.draw = { model: 'constant-power', idleW: d.between(1, 50), activeW: d.between(50, 3000) }
  if (part.kind === 'battery') Object.assign(part, { internalOhm: d.between(0.001, 2), capacityAh: d.between(1, 1000) })
}

function putConverter(d: Dice, plan: Loose, k: number) {
  const load = d.of(plan.parts.filter(p => p.draw))
  const lead = plan.leads.find(l => l.to === load.id)
  if (!lead) return
  const id = `cv${k}`
  plan.parts.push({
    id,
    kind: 'converter',
    topology: d.of(['buck', 'boost', 'buck-boost']),
    input: { minV: 9, maxV: 18 },
    outV: 13.8,
    maxOutA: d.between(2, 40),
    efficiency: 0.9,
  })
  plan.leads.push({ id: `behind${k}`, from: `${id}.out`, to: load.id, lengthM: 1, conductor: { awg: 12 } })
  lead.to = `${id}.in`
}

function putGate(d: Dice, plan: Loose, out: string) {
  const conductor = { awg: 10 }
  plan.parts.push(
    { id: 'psu', kind: 'supply', setV: 13.8, continuousA: d.between(3, 50) },
    { id: 'gate', kind: 'gate', maxA: 40, chargeA: 5 },
  )
  plan.leads.push(
    { id: 'gs', from: 'psu', to: 'gate.supply', lengthM: d.between(0.5, 50), conductor },
    { id: 'gb', from: 'bat', to: 'gate.battery', lengthM: d.between(0.5, 50), conductor },
    { id: 'go', from: 'gate.out', to: out, lengthM: 1, conductor },
  )
}

const RUINED = 300
const BROKEN = 500
/** On a slow machine as many of them as fit in this, s. */
const MEND_SECONDS = 240

/** Verdicts on ruined plans, and what mending makes of broken ones. */
export function benchBroken(print: (line: string) => void) {
  const times: number[] = []
  let parts = 0
  for (let seed = 0; seed < RUINED; seed++) {
    const plan = ruinedPlan(seed)
    if (!plan) continue
    parts = Math.max(parts, plan.parts.length)
    // Of three, so that another program's turn is not counted.
    const tries = Array.from({ length: 3 }, () => {
      const start = performance.now()
      judge(plan)
      return performance.now() - start
    })
    times.push(Math.min(...tries))
  }
  times.sort((a, b) => a - b)
  print(
    `whole verdict, ${times.length} plans of up to ${parts} parts broken everywhere: ` +
      `median ${times[times.length >> 1]!.toFixed(0)} ms, worst ${times.at(-1)!.toFixed(0)} ms (aim 100 ms at worst)`,
  )
  benchMend(print)
  benchFixes(print)
}

function benchMend(print: (line: string) => void) {
  let whole = 0
  let told = 0
  let tried = 0
  const stop = performance.now() + MEND_SECONDS * 1000
  for (let seed = 0; seed < BROKEN && performance.now() < stop; seed++) {
    const plan = brokenPlan(seed)
    if (!plan) continue
    tried++
    const { left, reasons } = mend(plan, { for: 'change' })
    const serious = left.filter(isBad).length
    if (serious === 0) whole++
    else if (reasons.length === serious) told++
  }
  print(
    `mend all, ${tried} broken stations: ${whole} end with no danger and no failure, ` +
      `${told} with the reason why not, ${tried - whole - told} with neither (aim 0)`,
  )
}

/** Fixes of broken stations, taken in any order until none is left. */
function benchFixes(print: (line: string) => void) {
  let [plans, steps, wrong, left] = [0, 0, 0, 0]
  const stop = performance.now() + FIX_SECONDS * 1000
  for (let seed = 0; seed < BROKEN && performance.now() < stop; seed++) {
    const plan = brokenPlan(seed)
    if (!plan) continue
    const walk = walkAnyOrder(plan, seed)
    plans++
    steps += walk.steps
    wrong += walk.wrong.length
    if (walk.left.length) left++
  }
  print(
    `fixes in any order, ${plans} broken stations: ${steps} taken, ${wrong} that did not hold (aim 0), ` +
      `${left} stations with a danger or a failure at the end (aim 0)`,
  )
}
const FIX_SECONDS = 120

const isBad = (f: { severity: string }) => f.severity === 'danger' || f.severity === 'fail'
