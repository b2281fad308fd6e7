import { describe, expect, it } from 'vitest'
import { DRILLS, drill, isRight, type DrillKind } from '../../../core/practice/drills'
import { faultsOf, hiddenIn, lookedAt, meterAt, scoreOf } from '../../../core/practice/hidden'
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

describe.each(DEMOS)('faults hidden in %s', name => {
  const plan = demoPlan(name)
  it('are one each, noticed by somebody, and found by their place', () => {
    for (let seed = 1; seed <= 12; seed++) {
      const hidden = hiddenIn(plan, seed)
      if (!hidden) continue
      expect(hidden.complaint.length).toBeGreaterThan(8)
      expect(scoreOf(hidden, hidden.fault.place, { readings: 2, looks: 1 })).toMatchObject({ right: true, points: 100 })
      const other = faultsOf(plan).find(f => f.fault.place !== hidden.fault.place)!
      expect(scoreOf(hidden, other.fault.place, { readings: 2, looks: 1 })).toMatchObject({ right: false, points: 0 })
      expect(lookedAt(hidden, hidden.fault.place)).not.toBe(lookedAt(hidden, other.fault.place))
    }
  })
})

describe('a hidden fault', () => {
  it('is of every kind that a plan can hide, over some seeds', () => {
    const seen = new Set(Array.from({ length: 60 }, (_, n) => hiddenIn(tern, n)!.fault.of))
    expect([...seen].sort()).toEqual(['blown', 'joint', 'setting'])
  })
  it('shows on a meter: a blown fuse takes its loads off, a joint drops only with the key down', () => {
    const of = (kind: string) =>
      Array.from({ length: 80 }, (_, n) => hiddenIn(tern, n)!).find(h => h.fault.of === kind)!
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
    expect(scoreOf(hidden, hidden.fault.place, { readings: 0, looks: 12 }).points).toBeLessThan(20)
  })
})
