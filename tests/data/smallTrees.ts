import type { Plan } from '../../core/plan/schema'
import type { SizeOptions } from '../../core/size/size'
import { battery, fuse, lead, load, radio, smallPlan } from './plans'
import { dice, type Dice } from './randomPlans'

/**
 * Small stations to be sized, each with something that a size may hang on: short drops, fuses behind fuses, ports that
 * give too little, contacts that take no thicker wire, a second way, both ladders, a return by the chassis.
 */

type Loose = Record<string, unknown>

const CONTACTS = ['stack-15', 'stack-30', 'stack-45', 'screw', 'ring-m6'] as const

function itemsOf(d: Dice, strip: boolean): Loose[] {
  const legs = d.of(['positive', 'positive', 'both'])
  const ohm = d.chance(0.1) ? { ohm: 0.004 } : {}
  switch (d.of(['fuse', 'fuse', 'fuse', 'breaker', 'none'])) {
    case 'fuse':
      return [fuse(d.of([3, 5, 10, 20, 40]), 0.05, { type: strip ? 'strip' : 'blade', legs, ...ohm })]
    case 'breaker':
      return [{ id: 'b1', kind: 'breaker', ratedA: d.of([10, 20, 40]), atM: 0.05 }]
    default:
      return []
  }
}

function aLead(d: Dice, id: string, from: string, to: string, metric: boolean): Loose {
  const contact = d.of(CONTACTS)
  const size = metric ? { mm2: d.of([1, 2.5, 6, 10]) } : { awg: d.of([8, 10, 12, 16]) }
  return lead({
    id,
    from,
    to,
    lengthM: d.between(0.3, 6),
    conductor: { ...size, insulationC: d.of([70, 90, 105]) },
    ends: d.chance(0.4) ? { to: { connector: contact, method: 'crimp' } } : {},
    inline: itemsOf(d, id === 'm' || id === 'm2'),
    ...(d.chance(0.1) && { return: 'chassis' }),
    ...(d.chance(0.1) && { bundledConductors: 6 }),
  })
}

function aLoad(d: Dice, id: string): Loose {
  const minV = d.between(11.2, 12.7)
  const terminal = d.of(CONTACTS)
  if (d.chance(0.5))
    return radio({
      id,
      terminal,
      supply: { minV, nominalV: 13.8, maxV: 16 },
      draw: { model: 'constant-current', idleA: 0.2, activeA: d.between(0.5, 18) },
    })
  return load({
    id,
    terminal,
    supply: { minV, nominalV: 12.8, maxV: 16 },
    draw: { model: 'constant-power', idleW: 1, activeW: d.between(3, 120) },
  })
}

const FED: readonly ((d: Dice) => { part: Loose; feed: string; ports: string[] })[] = [
  () => ({ part: { id: 'j', kind: 'joint' }, feed: 'j.a', ports: ['j.b', 'j.c', 'j.d'] }),
  d => ({
    part: {
      id: 'j',
      kind: 'block',
      ratedA: d.of([20, 60]),
      feed: 'ring-m6',
      ports: ['p1', 'p2', 'p3', 'p4'].map(id => ({
        id,
        connector: d.of(['stack-15', 'stack-30']),
        ...(d.chance(0.6) && { ratedA: d.of([5, 10, 20]) }),
        ...(d.chance(0.6) && { fuse: { type: 'blade', ratedA: d.of([3, 10, 20]) } }),
      })),
    },
    feed: 'j.feed',
    ports: ['j.p1', 'j.p2', 'j.p3'],
  }),
]

/** A station by its seed. */
export function smallStation(seed: number): Plan {
  const d = dice(seed * 7919)
  const metric = d.chance(0.3)
  const { part, feed, ports } = d.of(FED)(d)
  const loads = ports.slice(0, d.of([1, 2, 2, 3])).map((_, i) => aLoad(d, `r${i}`))
  const parts: Loose[] = [battery({ internalOhm: 0.008, continuousA: 120, peakA: 200 }), part, ...loads]
  const leads = [
    aLead(d, 'm', 'bat', feed, metric),
    ...loads.map((l, i) => aLead(d, `l${i}`, ports[i]!, l.id as string, metric)),
  ]
  if (d.chance(0.15)) leads.push(aLead(d, 'm2', 'bat', feed, metric))
  if (d.chance(0.15)) {
    parts.push({ id: 'chg', kind: 'charger', maxA: 8, chemistries: { lifepo4: { absorptionV: 14.2 } }, set: 'lifepo4' })
    leads.push(aLead(d, 'c', 'chg', 'bat', metric))
  }
  if (feed === 'j.a' && loads.length < 3 && d.chance(0.4)) {
    parts.push({
      id: 'ac',
      kind: 'supply',
      setV: 13.8,
      continuousA: 40,
      peakA: 44,
      outputOhm: 0.01,
      terminal: 'ring-m6',
    })
    leads.push(aLead(d, 's', 'ac', 'j.d', metric))
  }
  return smallPlan({ site: { dropShare: d.of([0.03, 0.06, 1]) }, parts, leads, more: { name: `small ${seed}` } })
}

const stock = (awg: number, metres: number, more: Loose = {}) => ({
  conductor: { awg, insulationC: 105 },
  metres,
  ...more,
})

/** What is asked for: an aim, and often what makes it harder. */
export function askedOf(seed: number, plan: Plan): SizeOptions {
  const d = dice(seed * 104729)
  const owned = [stock(6, d.between(2, 12)), stock(10, d.between(2, 12)), stock(12, 20), stock(16, 30, { costPerM: 4 })]
  return {
    for: d.of(['weight', 'cost', 'drop']),
    ...(d.chance(0.4) && { owned: d.chance(0.5) ? owned : [...owned].reverse() }),
    ...(d.chance(0.15) && { row: plan.parts.find(p => p.id.startsWith('r'))!.id }),
    ...(d.chance(0.1) && { relax: d.of([['share'], ['contacts'], ['share', 'contacts']] as const) }),
  }
}
