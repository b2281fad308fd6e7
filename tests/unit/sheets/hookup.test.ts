import { describe, expect, it } from 'vitest'
import { compile } from '../../../core/circuit/network'
import { graphOf } from '../../../core/graph/graph'
import type { Plan } from '../../../core/plan/schema'
import { hookUpOrder } from '../../../core/sheets/hookup'
import type { Act } from '../../../core/sheets/live'
import { brokenPlan } from '../../data/brokenPlans'
import { battery, DEMOS, demoPlan, lead, radio, smallPlan } from '../../data/plans'
import { randomPlan } from '../../data/randomPlans'

/**
 * A station as wires that are joined or not, made here from the plan by itself: which sources reach which point. Every
 * point is a terminal, or a stretch of a lead between what can be opened in it.
 */
class Wires {
  private readonly ways: { a: string; b: string; by: string | null; forward: boolean }[] = []
  readonly closable: string[] = []
  private readonly done = new Set<string>()

  constructor(private readonly plan: Plan) {
    for (const l of plan.leads) {
      const items = [...(l.inline ?? [])]
        .sort((x, y) => (x.atM ?? 0) - (y.atM ?? 0))
        .filter(i => ['fuse', 'breaker', 'switch'].includes(i.kind) && !('legs' in i && i.legs === 'negative'))
      this.ways.push({ a: l.from, b: `${l.id}#0`, by: `${l.id}.from`, forward: false })
      this.ways.push({ a: l.to, b: `${l.id}#${items.length}`, by: `${l.id}.to`, forward: false })
      items.forEach((i, k) => this.opens(`${l.id}#${k}`, `${l.id}#${k + 1}`, `${l.id} ${i.id}`))
    }
    const { closedLinks, passes } = graphOf(plan)
    for (const { a, b, device } of closedLinks) {
      // A vehicle's own fuse, behind its socket, stays in.
      if (device && !a.endsWith('.behind')) this.opens(a, b, `${device.place} `)
      else this.ways.push({ a, b, by: null, forward: false })
    }
    for (const { from, to } of passes) this.ways.push({ a: from, b: to, by: null, forward: true })
  }

  private opens(a: string, b: string, by: string) {
    this.closable.push(by)
    this.ways.push({ a, b, by, forward: false })
  }

  private sources(): [string, string][] {
    return this.plan.parts.flatMap((p): [string, string][] => {
      switch (p.kind) {
        case 'battery':
        case 'usbSource':
          return [[p.id, p.id]]
        case 'vehicle':
          return [[p.id, p.fuse ? `${p.id}.behind` : p.id]]
        case 'supply':
        case 'charger':
        case 'panel':
          return this.done.has(`wake ${p.id}`) ? [[p.id, p.id]] : []
        case 'powerStation':
          return this.done.has(`wake ${p.id}`) ? p.ports.map((o): [string, string] => [p.id, `${p.id}.${o.id}`]) : []
        default:
          return []
      }
    })
  }

  live(point: string): string[] {
    return this.sources().flatMap(([id, at]) => {
      const seen = new Set([at])
      for (let grown = true; grown;) {
        grown = false
        for (const w of this.ways) {
          if (w.by !== null && !this.done.has(w.by)) continue
          if (seen.has(w.a) && !seen.has(w.b)) grown = Boolean(seen.add(w.b))
          if (!w.forward && seen.has(w.b) && !seen.has(w.a)) grown = Boolean(seen.add(w.a))
        }
      }
      return seen.has(point) ? [id] : []
    })
  }

  key(act: Act): string {
    if (act.do === 'join') return `${act.lead}.${act.end}`
    return act.do === 'close' ? act.at : `wake ${act.part}`
  }

  sides(act: Act): string[][] {
    const way = this.ways.find(w => w.by === this.key(act))
    return way ? [this.live(way.a), this.live(way.b)] : [[], []]
  }

  do(act: Act) {
    this.done.add(this.key(act))
  }

  isDone(key: string): boolean {
    return this.done.has(key)
  }
}

const same = (a: string[], b: string[]) => a.length === b.length && a.every(id => b.includes(id))

/** Steps at which hands are on something live that is not the step's own source, and that do not say so. */
function unsaid(plan: Plan): { wrong: string[]; meetings: number } {
  const wires = new Wires(plan)
  const wrong: string[] = []
  let meetings = 0
  for (const step of hookUpOrder(plan, compile(plan)).connect) {
    let isLive = false
    for (const act of step.acts) {
      const [a, b] = wires.sides(act) as [string[], string[]]
      if (act.do === 'join') {
        const l = plan.leads.find(x => x.id === act.lead)!
        const own = [l.from, l.to].map(t => t.split('.')[0]!)
        isLive ||= [...a, ...b].some(id => !own.includes(id)) || (a.length > 0 && b.length > 0 && !same(a, b))
      }
      if (act.do === 'close') isLive ||= a.length > 0 && b.length > 0 && !same(a, b)
      wires.do(act)
    }
    if (isLive) meetings++
    if (isLive !== Boolean(step.caution?.startsWith('Live from'))) wrong.push(`${plan.name}: ${step.does}`)
  }
  return { wrong, meetings }
}

function orders<T>(list: T[]): T[][] {
  if (list.length < 2) return [list]
  return list.flatMap((x, i) => orders([...list.slice(0, i), ...list.slice(i + 1)]).map(rest => [x, ...rest]))
}

/** Fuses that go in between two sides that are live from different sources. */
function meetings(plan: Plan, acts: Act[]): number {
  const wires = new Wires(plan)
  let count = 0
  for (const act of acts) {
    const [a, b] = wires.sides(act) as [string[], string[]]
    if (act.do === 'close' && a.length && b.length && !same(a, b)) count++
    wires.do(act)
  }
  return count
}

describe('the order of connecting', () => {
  it('has no live side but that of the source at the step, save where it says so: on every plan there is', () => {
    const plans = [
      ...DEMOS.map(d => demoPlan(d)),
      ...Array.from({ length: 120 }, (_, seed) => brokenPlan(seed)),
      ...Array.from({ length: 250 }, (_, seed) => randomPlan(seed)),
    ].filter(p => p !== null)
    expect(plans.length).toBeGreaterThan(250)
    expect(plans.flatMap(p => unsaid({ ...p, hookUp: undefined }).wrong)).toEqual([])
  })

  it('the demos ask nobody to touch what is live from elsewhere', () => {
    for (const d of DEMOS) expect(`${d} ${unsaid(demoPlan(d)).meetings}`).toBe(`${d} 0`)
  })

  it('joins both ends of every lead once, and closes all that is not planned open', () => {
    for (let seed = 0; seed < 200; seed++) {
      const plan = randomPlan(seed)
      if (!plan) continue
      const acts = hookUpOrder({ ...plan, hookUp: undefined }, compile(plan)).connect.flatMap(s => s.acts)
      const joined = acts.flatMap(a => (a.do === 'join' ? `${a.lead}.${a.end}` : [])).sort()
      expect(joined).toEqual(plan.leads.flatMap(l => [`${l.id}.from`, `${l.id}.to`]).sort())
      const closed = acts.flatMap(a => (a.do === 'close' ? a.at : []))
      expect(new Set(closed).size).toBe(closed.length)
    }
  })

  it('brings no more fuses between two sources than any other order would: all orders of up to five tried', () => {
    let tried = 0
    for (let seed = 0; seed < 400; seed++) {
      const made = randomPlan(seed)
      const plan = made && { ...made, hookUp: undefined }
      if (!plan) continue
      const acts = hookUpOrder(plan, compile(plan)).connect.flatMap(s => s.acts)
      const first = acts.findIndex(a => a.do === 'close')
      const closes = acts.filter(a => a.do === 'close')
      // What is plugged in or uncovered between them would make another task of it.
      if (
        closes.length < 2 ||
        closes.length > 5 ||
        acts.slice(first, first + closes.length).some(a => a.do !== 'close')
      )
        continue
      tried++
      const least = Math.min(...orders(closes).map(o => meetings(plan, [...acts.slice(0, first), ...o])))
      expect(`${seed}: ${meetings(plan, acts)}`).toBe(`${seed}: ${least}`)
    }
    expect(tried).toBeGreaterThan(40)
  })

  const packs = (n: number, fused: boolean) =>
    smallPlan({
      parts: [
        ...Array.from({ length: n }, (_, i) => battery({ id: `p${i}`, name: `Pack ${i}` })),
        { id: 'bus', kind: 'joint', style: 'busbar', connector: 'ring-m8' },
        radio(),
      ],
      leads: [
        ...Array.from({ length: n }, (_, i) =>
          lead({
            id: `l${i}`,
            from: `p${i}`,
            to: `bus.${'abcd'[i]}`,
            inline: fused ? [{ id: 'f', kind: 'fuse', type: 'strip', ratedA: 50, atM: 0.1 }] : [],
          }),
        ),
        lead({ id: 'r', from: 'bus.z', to: 'hf' }),
      ],
    })

  it('packs in parallel meet at the fuse of each but the first, and it says what to meter', () => {
    const { connect } = hookUpOrder(packs(3, true), compile(packs(3, true)))
    const fits = connect.filter(s => s.does.startsWith('Fit the 50 A'))
    expect(fits.map(s => s.caution?.slice(0, 16))).toEqual([undefined, 'Live from Pack 1', 'Live from Pack 2'])
    expect(fits[1]!.caution).toContain('over 0.1 V, bring both to one charge')
    expect(connect.filter(s => s.acts[0]?.do === 'join').map(s => s.caution)).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
    ])
  })

  it('packs in parallel without a fuse meet at the posts, and it says so', () => {
    const { connect } = hookUpOrder(packs(2, false), compile(packs(2, false)))
    const posts = connect.filter(s => s.lead === 'l0' || s.lead === 'l1')
    expect(posts.map(s => Boolean(s.caution?.startsWith('Live from')))).toEqual([false, true])
  })

  it("keeps the owner's own order of leads, and says at each which of them is live already", () => {
    const plan = { ...demoPlan('tern-rock-light'), hookUp: ['main', 'hf-lead'] }
    const ids = plan.leads.map(l => l.id)
    const own = { ...plan, hookUp: [ids[0]!, ...ids.slice(1)] }
    const { connect } = hookUpOrder(own, compile(own))
    const joined = connect.flatMap(s => (s.acts[0]?.do === 'join' ? s.lead! : []))
    expect(joined).toEqual(own.hookUp)
  })

  it('takes down in the reverse: loads, what is plugged in, the panel covered, fuses, the posts last', () => {
    const { takeDown } = hookUpOrder(demoPlan('tern-rock-light'), compile(demoPlan('tern-rock-light')))
    expect(takeDown).toEqual([
      'Radios and loads off.',
      'Out or off, one after the other: 3 A fuse of Fused block p4; 5 A fuse of Fused block p3; ' +
        '15 A fuse of Fused block p2; 30 A fuse of Fused block p1.',
      'Off and unplugged: Mains supply.',
      'Cover Two folding panels.',
      'panel lead off.',
      'Out or off, in this order: 30 A fuse of charge lead; 50 A fuse of evening lead; 50 A fuse of main lead.',
      'charge lead off House pack, black first.',
      'evening lead off House pack, black first.',
      'main lead off House pack, black first.',
      'All is dead: the other leads off, in any order.',
    ])
  })
})
