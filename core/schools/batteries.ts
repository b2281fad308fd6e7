import { chemistry } from '../catalog/chemistries'
import { endOfUse, restedVolts } from '../battery/emf'
import { counterpart, identified } from '../edit/add'
import { heal } from '../edit/between'
import { conductorMm2 } from '../conductor/resistance'
import { freshEnd } from '../edit/ends'
import { tryPatch } from '../edit/patch'
import { graphOf } from '../graph/graph'
import { battery as batteryKind, type Battery } from '../kinds/battery'
import { converter } from '../kinds/converter'
import { kindOf, partsOf, type PartOf } from '../kinds/index'
import { freeId, nameOf, partById, partIdOf } from '../plan/find'
import type { Lead, Plan } from '../plan/schema'
import { studyOf } from '../study/study'
import { withLead, withPart, without, type SchoolRule } from './rule'
import { rounded, roundedTo } from '../units/number'

/** What stores the energy: its chemistry, how many packs and how they are joined, when it counts as empty. */

export const batteriesOf = (plan: Plan) => partsOf(plan.parts, 'battery')
const inTurn = (plan: Plan, change: (now: Plan, b: Battery) => Plan): Plan =>
  batteriesOf(plan).reduce((now, b) => change(now, b), plan)

export const end: SchoolRule = {
  shown: plan => {
    const batteries = batteriesOf(plan)
    if (!batteries.length) return ['usable-fraction', 'stop-voltage']
    return batteries.some(b => b.stopV !== undefined) ? ['stop-voltage'] : ['usable-fraction']
  },
  build: (plan, choice) =>
    inTurn(plan, (now, b) => {
      const { stopV, ...rest } = b
      if (choice !== 'stop-voltage') return { ...now, parts: now.parts.map(p => (p.id === b.id ? rest : p)) }
      return withPart(now, b.id, { stopV: stopV ?? rounded(restedVolts(b, endOfUse(b)), 2) })
    }),
  does: "the batteries' stop is set so",
}

export const charging: SchoolRule = {
  shown: plan => {
    const batteries = batteriesOf(plan)
    if (!batteries.length) return ['while-operating', 'apart']
    return batteries.every(b => b.charged === 'elsewhere') ? ['apart'] : ['while-operating']
  },
  build: (plan, choice) =>
    inTurn(plan, (now, b) => withPart(now, b.id, { charged: choice === 'apart' ? 'elsewhere' : 'in-place' })),
  does: 'batteries are charged so',
}

export const packs: SchoolRule = {
  shown: plan => {
    if (!batteriesOf(plan).length) return ['one', 'parallel', 'swapped']
    return isParallel(plan) ? ['parallel'] : ['one', 'swapped']
  },
  build: (plan, choice) => {
    if (choice === 'parallel') return isParallel(plan) ? plan : secondPack(plan)
    return isParallel(plan) ? onePack(plan) : plan
  },
  does: 'a second pack beside the first, or one in its place',
}

const stringsIn = (b: Battery) => new Set((b.members ?? []).map(m => m.string ?? 1)).size
/** A lead from battery to battery. */
const links = (plan: Plan): Lead[] => {
  const ids = batteriesOf(plan).map(b => b.id)
  return plan.leads.filter(l => [l.from, l.to].every(t => ids.includes(partIdOf(t))))
}
const isParallel = (plan: Plan) => links(plan).length > 0 || batteriesOf(plan).some(b => stringsIn(b) > 1)

/** The main lead of a battery: the one of most copper. */
const thickestAt = (plan: Plan, id: string): Lead | undefined =>
  [...graphOf(plan).leadsOf(id)].sort((a, b) => conductorMm2(b.conductor) - conductorMm2(a.conductor))[0]

/** A second battery like the first, on the same stud, over a lead and a fuse like its own. */
function secondPack(plan: Plan): Plan | { why: string } {
  const [first, ...others] = batteriesOf(plan)
  const own = first && thickestAt(plan, first.id)
  if (!first || others.length || !own) return { why: 'It takes one battery, with a lead that leaves it.' }
  if (!first.terminal?.startsWith('ring-m')) return { why: `${nameOf(first)} has no stud for a second lug.` }
  const { members: _members, id: _id, ...like } = first
  const second = identified(plan, { ...like, name: `${nameOf(first)}, second` }, first.id)
  const main = (own.inline ?? []).find(i => i.kind === 'fuse')
  const fuse = { kind: 'fuse', type: main?.type ?? 'strip', ratedA: main?.ratedA ?? 50, legs: 'positive' } as const
  const fitted = { connector: first.terminal, method: 'crimp' as const }
  const between: Lead = {
    id: freeId(plan, 'l'),
    name: 'lead between the packs',
    from: first.id,
    to: second.id,
    lengthM: 0.4,
    conductor: own.conductor,
    ends: { from: fitted, to: fitted },
    inline: [
      { id: 'f1', ...fuse, atM: 0.12 },
      { id: 'f2', ...fuse, atM: 0.28 },
    ],
  }
  return { ...plan, parts: [...plan.parts, second], leads: [...plan.leads, between] }
}

/** One pack of what each of the parallel ones has: the second and its lead go, or the strings but one. */
function onePack(plan: Plan): Plan | { why: string } {
  const [link] = links(plan)
  if (link) {
    // The later of the two that nothing else hangs on.
    const two = plan.parts.filter(p => [link.from, link.to].map(partIdOf).includes(p.id)).reverse()
    const second = two.find(p => graphOf(plan).leadsOf(p.id).length === 1)
    return second ? without(plan, [second.id, link.id]) : { why: `More hangs on ${nameOf(two[0]!)} than its link.` }
  }
  return inTurn(plan, (now, b) => {
    const n = stringsIn(b)
    if (n < 2) return now
    const { members: _members, ...rest } = scaled(b, 1 / n)
    return { ...now, parts: now.parts.map(p => (p.id === b.id ? rest : p)) }
  })
}

/** The same battery with a share of its capacity, and of all that goes with it. */
export function scaled(b: Battery, share: number): Battery {
  const part = (v: number | undefined) => (v === undefined ? undefined : roundedTo(v * share, 4))
  const amps = Object.fromEntries(
    (['massG', 'cost', 'continuousA', 'peakA', 'maxChargeA'] as const).flatMap(k =>
      b[k] === undefined ? [] : [[k, part(b[k])]],
    ),
  )
  const internalOhm = roundedTo(b.internalOhm / share, 4)
  return { ...b, ...amps, capacityAh: roundedTo(b.capacityAh * share, 4), internalOhm }
}

const LITHIUM = new Set(['lifepo4', 'lipo', 'nmc'])
const LEAD_ACID = new Set(['agm', 'gel', 'flooded'])
const NO_SIDE = ['lithium', 'lead-acid'] as const

export const chemistrySchool: SchoolRule = {
  shown: plan => {
    const batteries = batteriesOf(plan)
    if (batteries.some(b => LITHIUM.has(b.chemistry))) return ['lithium']
    return batteries.some(b => LEAD_ACID.has(b.chemistry)) ? ['lead-acid'] : NO_SIDE
  },
  build: (plan, choice) => {
    const other = choice === 'lithium' ? LEAD_ACID : LITHIUM
    if (!batteriesOf(plan).some(b => other.has(b.chemistry))) return { why: 'There is no battery of the other kind.' }
    return inTurn(plan, (now, b) =>
      other.has(b.chemistry) ? ofChemistry(now, b, choice === 'lithium' ? 'lifepo4' : 'agm') : now,
    )
  },
  does: 'batteries that may be used for as much energy, chargers set for them',
}

/** The battery that gives about as many usable watt-hours, made of the nearest row of the catalogue. */
function ofChemistry(plan: Plan, old: Battery, chemistryId: string): Plan {
  const rows = batteryKind.catalogue.filter(r => r.part.chemistry === chemistryId)
  const volts = restedVolts(old, 0.5)
  const cellV = restedVolts({ ...old, chemistry: chemistryId, seriesCells: 1 }, 0.5)
  const seriesCells = chemistryId === 'lifepo4' ? Math.round(volts / cellV) : 6 * Math.max(1, Math.round(volts / 12.3))
  const usable = (id: string) => chemistry(id).usableFraction
  const wantedAh = (old.capacityAh * (old.usableFraction ?? usable(old.chemistry)) * volts) / (seriesCells * cellV)
  const neededAh = wantedAh / usable(chemistryId)
  const row = rows.reduce((best, r) =>
    Math.abs(Math.log(r.part.capacityAh / neededAh)) < Math.abs(Math.log(best.part.capacityAh / neededAh)) ? r : best,
  )
  const blocks = seriesCells / row.part.seriesCells
  const one = scaled({ ...row.part, id: old.id } as Battery, neededAh / row.part.capacityAh)
  const { terminal, name, zone, outlets, charged } = old
  const made: Battery = {
    ...one,
    seriesCells,
    capacityAh: Math.ceil(one.capacityAh),
    internalOhm: roundedTo(one.internalOhm * blocks, 4),
    massG: Math.round((one.massG ?? 0) * blocks),
    name: name && !/lithium|agm|lead|flooded/i.test(name) ? name : one.name!,
    ...(terminal && { terminal }),
    ...(zone && { zone }),
    ...(outlets && { outlets }),
    ...(charged && { charged }),
  }
  return { ...plan, parts: plan.parts.map(p => (p.id === old.id ? made : p)) }
}

/** Rested volts at half charge over which a bank is one of 24 V. */
const BANK_24_V = 18

export const bank: SchoolRule = {
  shown: plan => {
    const batteries = batteriesOf(plan)
    if (!batteries.length) return ['12-parallel', '24-step-down']
    return batteries.some(b => restedVolts(b, 0.5) > BANK_24_V) ? ['24-step-down'] : ['12-parallel']
  },
  build: (plan, choice) => (choice === '24-step-down' ? inSeries(plan) : inParallel(plan)),
  does: 'the same cells joined so, with a step-down to the station or without, controllers set for them',
}

/** Half the capacity at twice the volts, and a step-down in every lead from it to what takes 12 V. */
function inSeries(plan: Plan): Plan | { why: string } {
  const [bat, ...others] = batteriesOf(plan)
  if (!bat || others.length) return { why: 'It takes one battery, of two packs or more.' }
  if (restedVolts(bat, 0.5) > BANK_24_V) return { why: 'The bank is one of 24 V.' }
  const half = scaled(bat, 0.5)
  const { members: _members, stopV: _stopV, absorptionV: _absorptionV, curve: _curve, ...rest } = half
  const joined: Battery = {
    ...rest,
    seriesCells: 2 * bat.seriesCells,
    internalOhm: roundedTo(2 * half.internalOhm, 4),
    ...(bat.massG !== undefined && { massG: bat.massG }),
  }
  const base = { ...plan, parts: plan.parts.map(p => (p.id === bat.id ? joined : p)) }
  const down = plan.leads.filter(l => {
    const ends = [l.from, l.to].map(partIdOf)
    const other = ends.find(id => id !== bat.id)
    return ends.includes(bat.id) && other !== undefined && !chargesOrGives(plan, other)
  })
  const study = studyOf(plan)
  const rows = converter.catalogue.filter(
    r => r.part.topology === 'buck' && r.part.input.maxV > BANK_24_V && r.part.outV > 13,
  )
  const rowFor = (l: Lead) => rows.find(r => r.part.maxOutA >= 1.1 * study.leadAmps(l).value) ?? rows.at(-1)!
  const stepped = down.reduce((now, l) => withStepDown(now, l, bat.id, rowFor(l).part), base)
  return withCharge(stepped, 2)
}

const chargesOrGives = (plan: Plan, id: string) => {
  const kind = kindOf(partById(plan, id)!)
  return kind.role === 'source' || Boolean(kind.charge)
}

/** Every charging device on the bank set to so many times its volts; one that cannot is told by the verdict. */
function withCharge(plan: Plan, times: number): Plan {
  return partsOf(plan.parts, 'controller').reduce((now, c) => {
    const profiles = Object.entries(c.chemistries ?? {}).map(([id, p]) => {
      const of = (v: number | null | undefined) => (v == null ? v : rounded(v * times, 2))
      return [id, { ...p, absorptionV: of(p!.absorptionV), ...(p!.floatV !== undefined && { floatV: of(p!.floatV) }) }]
    })
    return profiles.length ? withPart(now, c.id, { chemistries: Object.fromEntries(profiles) }) : now
  }, plan)
}

/** A step-down beside the bank: the lead goes on from it as it was. */
function withStepDown(plan: Plan, lead: Lead, bankId: string, row: Omit<PartOf<'converter'>, 'id'>): Plan {
  const part = identified(plan, row, 'down') as PartOf<'converter'>
  const end = partIdOf(lead.from) === bankId ? 'from' : 'to'
  const placed = { ...plan, parts: [...plan.parts, part] }
  const first = (lead.inline ?? []).filter(i => i.kind === 'fuse').slice(0, 1)
  const feeder: Lead = {
    id: freeId(plan, 'l'),
    name: `lead to ${nameOf(part)}`,
    from: lead[end],
    to: `${part.id}.in`,
    lengthM: 0.5,
    conductor: lead.conductor,
    ends: {
      ...(lead.ends?.[end] && { from: lead.ends[end] }),
      ...(part.in && { to: freshEnd(counterpart(part.in)) }),
    },
    inline: first.map(f => ({ ...f, atM: 0.12 })),
  }
  const on = { ...lead.ends, ...(part.out && { [end]: freshEnd(counterpart(part.out)) }) }
  const moved = withLead(placed, lead.id, { [end]: `${part.id}.out`, ends: on })
  return { ...moved, leads: [...moved.leads, feeder] }
}

/** Twice the capacity at half the volts; the step-downs are gone. */
function inParallel(plan: Plan): Plan | { why: string } {
  const [bat, ...others] = batteriesOf(plan)
  if (!bat || others.length || bat.seriesCells % 2) return { why: 'It takes one bank of an even number of cells.' }
  if (restedVolts(bat, 0.5) < BANK_24_V) return { why: 'The bank is one of 12 V.' }
  const twice = scaled(bat, 2)
  const { members: _members, stopV: _stopV, absorptionV: _absorptionV, curve: _curve, ...rest } = twice
  const joined: Battery = {
    ...rest,
    seriesCells: bat.seriesCells / 2,
    internalOhm: roundedTo(twice.internalOhm / 2, 4),
    ...(bat.massG !== undefined && { massG: bat.massG }),
  }
  const base: Plan = { ...plan, parts: plan.parts.map(p => (p.id === bat.id ? joined : p)) }
  const downs = partsOf(plan.parts, 'converter').filter(c => !c.charges && c.outV < 15 && c.input.maxV > 20)
  const healed = downs.reduce<Plan | null>((now, c) => {
    const patch = now && heal(now, c.id, `${c.id}.in`, `${c.id}.out`)
    return patch ? tryPatch(now!, patch) : null
  }, base)
  return healed ? withCharge(healed, 0.5) : { why: 'A step-down does not stand between two leads.' }
}
