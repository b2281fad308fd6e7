import { isSerious } from '../checks/check'
import { conditionsOf, loadsOf } from '../circuit/conditions'
import { compile } from '../circuit/network'
import { namePoint } from '../circuit/point'
import { Solver } from '../circuit/solve'
import type { SchoolId } from '../catalog/schools'
import { applyEdit, difference, type Patch } from '../edit/patch'
import { devicesOf, graphOf } from '../graph/graph'
import { kindOf, partsOf } from '../kinds/index'
import { powerShare } from '../kinds/radio'
import { mend, type MendOptions, type MendWay } from '../mend/mend'
import { nameOf } from '../plan/find'
import type { Plan } from '../plan/schema'
import { needsOf } from '../sheets/needs'
import { sizePlan } from '../size/size'
import { totals } from '../size/totals'
import { judge } from '../verdict/verdict'
import { chooseSchool, schoolsOf, sideTaken, type SchoolHere } from './choose'

/** One side of a comparison: what a plan comes to. */
export interface Side {
  arrivals: Record<string, { name: string; lowV: number; highV: number } | null>
  /** What a radio's transmitter gives at its lowest voltage, and how far that is under full power. */
  transmits: { id: string; name: string; watts: number; dB: number }[]
  /** Conductors and the parts that say their weight, g. */
  grams: number
  /** Everything that has a price, said or typical. */
  cost: number
  /**
   * Lost in conductors, contacts, fuses and converters with everything active at half charge, W; null where there is no
   * solution.
   */
  lossW: number | null
  /** Devices that switch, and so may be heard. */
  noisy: string[]
  /** Contacts, fuses and breakers, and devices in the way: what there is to fail. */
  mayFail: { contacts: number; fuses: number; devices: number }
  findings: { severity: string; title: string }[]
}

export function sideOf(plan: Plan): Side {
  const { verdict, study } = judge(plan)
  const { arrivals } = verdict
  const between = plan.parts.filter(p => kindOf(p).role === 'between')
  return {
    arrivals: Object.fromEntries(
      loadsOf(plan).map(l => {
        const span = arrivals[l.id]
        return [l.id, span ? { name: nameOf(l), lowV: span.low.value, highV: span.high.value } : null]
      }),
    ),
    transmits: partsOf(plan.parts, 'radio').flatMap(radio => {
      const lowV = arrivals[radio.id]?.low.value
      const share = lowV === undefined ? 0 : (powerShare(radio, lowV) ?? 1)
      if (radio.powerW === undefined || share <= 0) return []
      const dB = 10 * Math.log10(Math.min(1, share))
      return [{ id: radio.id, name: nameOf(radio), watts: radio.powerW * Math.min(1, share), dB }]
    }),
    grams: totals(study).grams + plan.parts.reduce((g, p) => g + (p.massG ?? 0), 0),
    cost: needsOf(plan).reduce((c, n) => c + n.count * n.unitCost, 0),
    lossW: lostW(plan),
    noisy: plan.parts.filter(p => kindOf(p).switching?.(p)).map(nameOf),
    mayFail: {
      contacts: 2 * plan.leads.length,
      fuses: devicesOf(plan).filter(d => d.item !== null || graphOf(plan).leadsAt(d.place).length > 0).length,
      devices: between.length,
    },
    findings: verdict.findings.map(({ severity, title }) => ({ severity, title })),
  }
}

function lostW(plan: Plan): number | null {
  const conditions = conditionsOf(plan)
  const condition = conditions.find(c => c.id === 'nominal/all') ?? conditions.find(c => c.loadState === 'all')!
  const network = compile(plan)
  const point = namePoint(network, new Solver(network).solve(condition))
  if (point.status !== 'ok') return null
  return (
    Object.values(point.leads).reduce((w, l) => w + (l.watts ?? 0), 0) +
    Object.values(point.parts).reduce((w, p) => w + Number(p.lossW ?? 0), 0)
  )
}

/** Both sides of a school in a plan, each of them mended and with its conductors sized, so that like stands by like. */
export interface Compared {
  now: Side
  /** null where the side cannot be had: `cannot` says why. */
  other: Side | null
  /** Takes the plan to the other side, mended and sized. */
  patch: Patch | null
  /** What that is, one thing each, beside the building itself. */
  does: string[]
  cannot: string | null
  /** It comes to the same here. */
  isSame: boolean
}

/** A school, and whether its sides come to anything here. */
export interface SchoolMatters extends SchoolHere {
  /** Why it makes no difference here; null where it does. */
  noDifference: string | null
}

/** Every school, before anything is mended: those whose other sides make another station, and those that do not. */
export function schoolsThatMatter(plan: Plan): SchoolMatters[] {
  const now = sideOf(plan)
  return schoolsOf(plan).map(school => {
    const others = school.choices.filter(c => c.id !== school.now)
    const reasons = others.map(c => noDifference(plan, school.id, c.id, now))
    return { ...school, noDifference: reasons.includes(null) ? null : [...new Set(reasons)].join(' ') }
  })
}

function noDifference(plan: Plan, id: SchoolId, choice: string, now: Side): string | null {
  const { patch, cannot } = chooseSchool(plan, id, choice)
  if (cannot) return cannot
  const built = applyEdit(plan, patch)
  if (!built.ok) return built.faults[0]!.wrong
  return isSame(now, sideOf(built.plan)) ? 'Both sides come to the same here.' : null
}

/** Plans tried for one side. */
const TRIES = 30

export function compareSides(
  plan: Plan,
  id: SchoolId,
  choice: string,
  onProgress?: MendOptions['onProgress'],
): Compared {
  const present = madeGood(plan, () => true, onProgress)
  const now = sideOf(present.plan)
  const no = (cannot: string): Compared => ({ now, other: null, patch: null, does: [], cannot, isSame: false })
  const chosen = chooseSchool(plan, id, choice)
  if (chosen.cannot) return no(chosen.cannot)
  const built = applyEdit(plan, chosen.patch)
  if (!built.ok) return no(built.faults[0]!.wrong)
  // A mend that goes back to the first side is none of this one.
  const good = madeGood(built.plan, p => sideTaken(p, id) === choice, onProgress)
  const other = sideOf(good.plan)
  const serious = other.findings.filter(isSerious)
  const does = [...(chosen.does ? [chosen.does] : []), ...good.does]
  const compared = { now, other, patch: difference(plan, good.plan), does, cannot: null, isSame: isSame(now, other) }
  if (!serious.length) return compared
  return { ...compared, cannot: `No set of changes was found that mends it: ${serious.map(f => f.title).join('; ')}.` }
}

/** A plan without dangers and failures, where that can be, and with conductors of least weight. */
function madeGood(
  plan: Plan,
  keeps: (plan: Plan) => boolean,
  onProgress: MendOptions['onProgress'],
): { plan: Plan; does: string[] } {
  const options = { for: 'change', tries: TRIES, ...(onProgress && { onProgress }) } as const
  const wayBy = (ids: MendOptions['ways']) => mend(plan, { ...options, ways: ids! }).ways.find(w => keeps(w.plan))
  const isWhole = (w: MendWay | undefined) => w && !w.remains.some(isSerious)
  // With other gear alone, and only where that is not enough with less power or closer together.
  const first = judge(plan).verdict.findings.some(isSerious) ? wayBy(['keep']) : undefined
  const way = isWhole(first) || !first ? first : (wayBy(['power', 'place']) ?? first)
  const mended = way?.plan ?? plan
  const sized = sizePlan(mended, { for: 'weight' })
  const fits = sized.plan && sized.after && sized.after.grams < sized.before.grams - 1 && keeps(sized.plan)
  const words = fits ? [`${sized.changes.filter(c => c.what === 'conductor').length} conductors sized`] : []
  return { plan: fits ? sized.plan! : mended, does: [...(way?.steps.map(s => s.label) ?? []), ...words] }
}

/** Nothing that a side is compared by is another. */
function isSame(a: Side, b: Side): boolean {
  const near = (x: number, y: number, by: number) => Math.abs(x - y) <= by
  const volts = Object.keys(a.arrivals).every(id => {
    const [x, y] = [a.arrivals[id], b.arrivals[id]]
    return x && y ? near(x.lowV, y.lowV, 0.005) && near(x.highV, y.highV, 0.005) : !x === !y
  })
  return (
    volts &&
    near(a.grams, b.grams, 1) &&
    near(a.cost, b.cost, 0.5) &&
    near(a.lossW ?? 0, b.lossW ?? 0, 0.05) &&
    a.noisy.length === b.noisy.length &&
    JSON.stringify(a.mayFail) === JSON.stringify(b.mayFail) &&
    JSON.stringify(a.findings) === JSON.stringify(b.findings)
  )
}
