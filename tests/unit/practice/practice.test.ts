import { describe, expect, it } from 'vitest'
import { DRILLS, drill, isRight, type DrillKind } from '../../../core/practice/drills'
import { faultsOf, type FaultKind } from '../../../core/practice/faults'
import { harmOf, hiddenIn, lookedAt, meterAt, scoreOf } from '../../../core/practice/hidden'
import type { Plan } from '../../../core/plan/schema'
import { DEMOS, demoPlan } from '../../data/plans'

const tern = demoPlan('tern-rock-light')
const kinds = Object.keys(DRILLS) as DrillKind[]
/** The figures of a question, in its order. */
const figures = (asks: string) => [...asks.replaceAll('−', '-').matchAll(/-?\d+(?:\.\d+)?/g)].map(m => Number(m[0]))

describe('drills', () => {
  it('are the same for one seed, and many for many', () => {
    for (const id of kinds) {
      expect(drill(id, 3)).toEqual(drill(id, 3))
      expect(new Set(Array.from({ length: 30 }, (_, n) => drill(id, n).asks)).size).toBeGreaterThan(8)
    }
  })

  it('have answers that follow from the figures of their questions, worked out apart', () => {
    const workedOut: Partial<Record<DrillKind, (f: number[], asks: string) => number>> = {
      window: ([v, p], asks) => v! * (1 + ((asks.includes('least') ? -1 : 1) * p!) / 100),
      rate: ([ah, c]) => ah! * c!,
      drop: (_f, asks) => {
        const [length, ohm, amps] = [/([\d.]+) m long/, /([\d.]+) mΩ/, /at ([\d.]+) A/].map(r =>
          Number(r.exec(asks)![1]),
        )
        return (2 * length! * ohm! * amps!) / 1000
      },
      cold: ([v, , p, below]) => v! + (v! * Math.abs(p!) * (25 - below!)) / 100,
      usable: (_f, asks) => {
        const [ah, percent, amps] = [/^([\d.]+) Ah/, /usual ([\d.]+) %/, /at ([\d.]+) A/].map(r =>
          Number(r.exec(asks)![1]),
        )
        return (ah! * percent!) / 100 / amps!
      },
    }
    for (const [id, by] of Object.entries(workedOut))
      for (let seed = 1; seed <= 40; seed++) {
        const d = drill(id as DrillKind, seed)
        expect([d.asks, isRight(d, by(figures(d.asks), d.asks))]).toEqual([d.asks, true])
        if ('value' in d.answer) {
          expect(isRight(d, d.answer.value * 1.2)).toBe(false)
          expect(isRight(d, d.answer.value - d.answer.within)).toBe(true)
          expect(isRight(d, 'yes')).toBe(false)
        }
      }
  })

  it('of connectors are as often yes as no, and each no says why', () => {
    const all = Array.from({ length: 60 }, (_, n) => drill('mates', n))
    const yes = all.filter(d => isRight(d, 'yes')).length
    expect(yes).toBeGreaterThan(15)
    expect(yes).toBeLessThan(50)
    expect(all.every(d => d.why.length > 5)).toBe(true)
  })
})

describe('what is still live', () => {
  it('follows from a graph of what hangs together, made from the question', () => {
    const answers = { yes: 0, no: 0 }
    for (let seed = 1; seed <= 200; seed++) {
      const { asks, answer } = drill('live', seed)
      // Red only: post – before | after – block – radio; the second source at either end of it.
      const cut = asks.includes('positive leg') ? [] : [['before', 'after']]
      const wires = [['post', 'before'], ['after', 'block'], ['block', 'radio'], ...cut]
      const sources = ['post']
      if (asks.includes('joined at the block')) sources.push('block')
      const reached = new Set(sources)
      for (let n = 0; n < 5; n++)
        for (const [a, b] of wires) {
          if (reached.has(a!)) reached.add(b!)
          if (reached.has(b!)) reached.add(a!)
        }
      const at = /red (post|wire before|wire after|stud|wire at the radio)/.exec(asks)![1]!
      const node = { post: 'post', 'wire before': 'before', 'wire after': 'after', stud: 'block' }[at] ?? 'radio'
      const choice = reached.has(node) ? 'yes' : 'no'
      expect([asks, 'choice' in answer && answer.choice]).toEqual([asks, choice])
      answers[choice]++
    }
    expect(Math.min(answers.yes, answers.no)).toBeGreaterThan(20)
  })
})

describe.each(DEMOS)('faults hidden in %s', name => {
  const plan = demoPlan(name)
  it('are one each, noticed by somebody, and found by their place', () => {
    for (let seed = 1; seed <= 12; seed++) {
      const hidden = hiddenIn(plan, seed)
      if (!hidden) continue
      expect(hidden.complaint.length).toBeGreaterThan(8)
      expect(scoreOf(hidden, hidden.fault.place, { conditions: ['full/idle', 'full/idle'], looks: 1 })).toMatchObject({
        right: true,
        points: 100,
      })
      const other = faultsOf(plan).find(f => f.fault.place !== hidden.fault.place)!
      expect(scoreOf(hidden, other.fault.place, { conditions: ['full/idle', 'full/idle'], looks: 1 })).toMatchObject({
        right: false,
        points: 0,
      })
      expect(lookedAt(hidden, hidden.fault.place)).not.toBe(lookedAt(hidden, other.fault.place))
    }
  })
})

describe('a hidden fault', () => {
  const hiddens = Array.from({ length: 60 }, (_, n) => hiddenIn(tern, n)!)
  it('is of every kind that a plan can hide, over some seeds', () => {
    const seen = new Set(hiddens.map(h => h.fault.of))
    expect([...seen].sort()).toEqual(['blown', 'colours', 'joint', 'setting'])
  })
  it('shows on a meter: a blown fuse takes its loads off, a joint drops only with the key down', () => {
    const of = (kind: string) => hiddens.find(h => h.fault.of === kind)!
    const blown = of('blown')
    expect(meterAt(blown, 'bat', 'full/idle', 1)).toBeGreaterThan(13)
    expect(blown.complaint).toMatch(/dead/)
    const joint = of('joint')
    const idle = meterAt(joint, 'hf', 'full/idle', 1)
    expect(idle).toBeGreaterThan(13)
  })
  it('read twice shows nearly the same, and not quite', () => {
    const hidden = hiddenIn(tern, 5)!
    const shown = Array.from({ length: 10 }, (_, n) => meterAt(hidden, 'bat', 'full/idle', n))
    expect(Math.max(...shown) - Math.min(...shown)).toBeLessThan(0.05)
    expect(new Set(shown.map(v => v.toFixed(2))).size).toBeGreaterThan(1)
  })
  it('found by looking at everything in turn is worth little', () => {
    const hidden = hiddenIn(tern, 5)!
    expect(scoreOf(hidden, hidden.fault.place, { conditions: [], looks: 12 }).points).toBeLessThan(20)
  })
})

describe('what else may be hidden', () => {
  const hides = (plan: Plan, of: FaultKind) => hiddenIn(plan, 3, of)
  const withItem = (plan: Plan, leadId: string, item: object): Plan => ({
    ...plan,
    leads: plan.leads.map(l => (l.id === leadId ? { ...l, inline: [...(l.inline ?? []), item as never] } : l)),
  })

  it('a diode the wrong way round: nothing behind it, and volts before', () => {
    const plan = withItem(tern, 'l3', { id: 'd9', kind: 'dropper', ratedA: 10 })
    const hidden = hides(plan, 'diode')!
    expect(hidden.complaint).toMatch(/VHF radio is dead/)
    expect(meterAt(hidden, 'blk.p2', 'full/idle', 1)).toBeGreaterThan(13)
    expect(meterAt(hidden, 'vhf', 'full/idle', 2)).toBeLessThan(1)
    expect(lookedAt(hidden, 'l3.d9')).toMatch(/stripe/)
  })
  it('colours that lie: the meter reads below zero where they are crossed, and there alone', () => {
    const hidden = hides(tern, 'colours')!
    const { at, from } = hidden.crossed!
    expect(meterAt(hidden, at, 'full/idle', 1)).toBeLessThan(-12)
    expect(meterAt(hidden, from, 'full/idle', 2)).toBeGreaterThan(12)
    expect(hidden.complaint).toMatch(/dead/)
  })
  it('a fuse at the far end: no meter shows it, an eye does', () => {
    const near: Plan = {
      ...tern,
      leads: tern.leads.map(l =>
        l.id === 'l1' ? { ...l, lengthM: 2, inline: l.inline!.map(i => ({ ...i, atM: 0.1 })) } : l,
      ),
    }
    const hidden = hides(near, 'far fuse')!
    expect(hidden.complaint).toMatch(/All works/)
    const whole = hides(near, 'joint')!
    expect(meterAt(hidden, 'hf', 'full/idle', 1)).toBeGreaterThan(13)
    expect(whole).toBeDefined()
    expect(lookedAt(hidden, hidden.fault.place)).toBe('There is no fuse before the far end.')
    expect(scoreOf(hidden, hidden.fault.place, { conditions: [], looks: 1 }).points).toBe(100)
  })
  it('a bank that sleeps: dead at its own output', () => {
    const plan = demoPlan('moor-walk-kit')
    const all = faultsOf(plan).filter(f => f.fault.of === 'asleep')
    expect(all.map(f => f.fault.place)).toEqual(plan.parts.filter(p => 'autoOffA' in p).map(p => p.id))
  })
  it('does harm where the key is held down through a bad joint more often than it takes', () => {
    const joint = hides(tern, 'joint')!
    const keyed = (n: number) => ({ conditions: Array.from({ length: n }, () => 'full/only:hf'), looks: 0 })
    expect([harmOf(joint, keyed(2)), harmOf(joint, keyed(4))]).toEqual([0, 2])
    expect(harmOf(joint, { conditions: Array.from({ length: 9 }, () => 'full/idle'), looks: 0 })).toBe(0)
    const [calm, rough] = [keyed(2), keyed(4)].map(s => scoreOf(joint, joint.fault.place, s))
    expect([calm!.points, rough!.points]).toEqual([100, 88])
    expect(rough!.words).toMatch(/heated 2 times more/)
    const setting = hides(tern, 'setting')!
    expect(harmOf(setting, { conditions: ['charging/idle', 'charging/idle', 'full/idle'], looks: 0 })).toBe(1)
  })
})

describe('a switch that was left off', () => {
  it('is one that stands in a lead, is closed, and is worked by nobody else', () => {
    const [first, ...others] = tern.leads
    const inline = [
      { id: 's1', kind: 'switch', ratedA: 60, atM: 0.5 },
      { id: 's2', kind: 'switch', ratedA: 60, atM: 0.6, closed: true },
      { id: 's3', kind: 'switch', ratedA: 60, atM: 0.7, closed: false },
      { id: 's4', kind: 'switch', ratedA: 60, atM: 0.8, by: 'engine' },
      ...first!.inline!,
    ]
    const switched = { ...tern, leads: [{ ...first!, inline }, ...others] } as Plan
    const made = faultsOf(switched).filter(m => m.fault.of === 'switch')
    expect(made.map(m => m.fault.place)).toEqual([`${first!.id}.s1`, `${first!.id}.s2`])
    // Of the plan it opens this one alone.
    const open = (plan: Plan) => plan.leads[0]!.inline!.filter(i => 'closed' in i && i.closed === false)
    expect(made.map(m => open(m.built).map(i => i.id))).toEqual([
      ['s1', 's3'],
      ['s2', 's3'],
    ])
  })
})
