import { describe, expect, it } from 'vitest'
import { applyEdit } from '../../../core/edit/patch'
import { mend, type MendResult } from '../../../core/mend/mend'
import { readPlan } from '../../../core/plan/faults'
import { startPlan } from '../../../core/plan/starter'
import type { Plan } from '../../../core/plan/schema'
import { judge } from '../../../core/verdict/verdict'
import { brokenPlan } from '../../data/brokenPlans'
import { demoPlan, smallPlan, lead, fuse, withLead } from '../../data/plans'
import { rolledRows } from '../../data/randomPlans'

const bad = (plan: Plan) =>
  judge(plan)
    .verdict.findings.filter(f => f.severity === 'danger' || f.severity === 'fail')
    .map(f => `${f.check} ${f.place}`)

/** Each way taken and undone on the plan: what it says is left is what is left. */
function heldToItsWord(plan: Plan, { ways }: MendResult): string[] {
  return ways.flatMap(way => {
    const edit = applyEdit(plan, way.patch)
    if (!edit.ok) return [`${way.title} does not fit`]
    const undone = applyEdit(edit.plan, edit.undo)
    const left = judge(edit.plan).verdict.findings.filter(f => f.severity !== 'note')
    const told = way.remains.map(r => r.title).sort()
    return [
      JSON.stringify(left.map(f => f.title).sort()) === JSON.stringify(told)
        ? []
        : `${way.title} leaves ${left[0]?.title}`,
      undone.ok && JSON.stringify(undone.plan) === JSON.stringify(plan) ? [] : `${way.title} is not undone`,
    ].flat()
  })
}

describe('mend all', () => {
  it('finds nothing to mend on the clean bench', () =>
    expect(mend(demoPlan('clean-bench'), { for: 'change' })).toMatchObject({ isClean: true, ways: [], reasons: [] }))

  it('leads each demo to nothing left, each way as it says', () => {
    for (const name of ['tern-rock-light', 'narrowboat-heron', 'moor-walk-kit'] as const) {
      const plan = demoPlan(name)
      const result = mend(plan, { for: 'change' })
      expect(result.ways[0]!.remains).toEqual([])
      expect(heldToItsWord(plan, result)).toEqual([])
    }
  })

  it('puts three whole ways side by side: other gear, less power, things closer together', () => {
    const { ways } = mend(demoPlan('tern-rock-light'), { for: 'weight' })
    expect(ways.map(w => w.id).sort()).toEqual(['keep', 'place', 'power'])
    const of = (id: string) => ways.find(w => w.id === id)!
    expect(of('keep')).toMatchObject({ signal: [], title: 'Other gear, all else as it is' })
    // 100 W to 50 W: 10·log10(2).
    expect(of('power').signal).toEqual([{ name: 'HF radio', dB: expect.closeTo(-3.01, 2) }])
    expect(of('power').title).toBe('Turn HF radio down to 50 W')
    expect(of('place').title).toBe('Move HF radio 1.4 m closer')
    // 1.4 m less of a pair of 12 AWG, 3.31 mm² of copper at 8.96 g/cm³.
    expect(of('place').gramsMore).toBeCloseTo(-2 * 1.4 * 3.31 * 8.96, 0)
  })

  it('says what has to be got, and with a shelf what is there', () => {
    const plan = demoPlan('tern-rock-evening')
    const buys = (shelf: Parameters<typeof mend>[1]['shelf']) =>
      mend(plan, { for: 'change', shelf }).ways.find(w => w.id === 'keep')!.buy
    const wire = (rows: ReturnType<typeof buys>) => rows.find(r => r.what.startsWith('10 AWG'))!
    expect(wire(buys([]))).toMatchObject({ unit: 'm', has: 0 })
    const owned = { id: 'w', what: 'conductor', awg: 10, insulationC: 105, metres: 100 } as const
    expect(wire(buys([owned])).buy).toBe(0)
  })

  it('keeps to the shelf where asked, and says what that leaves', () => {
    const plan = withLead(smallPlan(), 'l1', { conductor: { awg: 18, insulationC: 105 } })
    const onlyOwned = mend(plan, { for: 'change', shelf: [], ownedOnly: true })
    for (const way of onlyOwned.ways) expect(way.buy.filter(r => r.buy > 0)).toEqual([])
    expect(mend(plan, { for: 'change' }).reasons).toEqual([])
  })

  it('changes nothing that it need not: a step that a later one makes needless is left out', () => {
    const plan = smallPlan({
      leads: [lead({ lengthM: 6, conductor: { awg: 18, insulationC: 105 }, inline: [fuse(20)] })],
    })
    const { ways } = mend(plan, { for: 'weight' })
    for (const way of ways) {
      const others = way.steps.map((_, i) => way.steps.filter((__, n) => n !== i))
      expect(others.length).toBeGreaterThan(0)
      expect(bad(way.plan)).toEqual([])
    }
  })

  it('gives the reason where nothing mends it', () => {
    const plan = demoPlan('clean-bench')
    const radio = plan.parts.find(p => p.kind === 'radio')!
    const impossible = {
      ...plan,
      parts: plan.parts.map(p => (p === radio ? { ...radio, supply: { minV: 40, maxV: 50 } } : p)),
    } as Plan
    const { ways, reasons } = mend(impossible, { for: 'change', tries: 20 })
    expect(ways.every(w => w.remains.length > 0)).toBe(true)
    expect(reasons.join(' ')).toMatch(/starves .*: no set of the changes .* in \d+ tries/)
  })

  it('ends when it is told to', () => {
    let seen = 0
    const { tried } = mend(demoPlan('narrowboat-heron'), { for: 'weight', onProgress: () => ++seen < 3 })
    expect(tried).toBeLessThan(20)
  })
})

/** What no set of changes makes possible: a bank or a socket for ten watts before a radio of a hundred; bare panels. */
const BEYOND = /^(usb-bank|vehicle-socket|power-station|panel)/

describe('starter stations', () => {
  for (const load of rolledRows('load'))
    it(`of ${load} on any source are mended`, () => {
      for (const source of rolledRows('source').filter(s => !BEYOND.test(s))) {
        const read = readPlan(
          startPlan({ name: 'new', loads: [load], source, lengthM: 2, conductor: { awg: 10 } }) as unknown,
        )
        if (!read.ok) throw new Error(JSON.stringify(read.faults))
        const result = mend(read.plan, { for: 'change' })
        const [best] = result.ways
        expect(`${source} ${result.isClean ? '' : best!.remains.map(r => r.title).join()}`).toBe(`${source} `)
      }
    })
})

describe('stations with a few things wrong', () => {
  it('end with no danger and no failure, or with the reason', () => {
    for (let seed = 2000; seed < 2020; seed++) {
      const plan = brokenPlan(seed)
      if (!plan) continue
      const result = mend(plan, { for: (['weight', 'cost', 'change'] as const)[seed % 3]! })
      expect(heldToItsWord(plan, result)).toEqual([])
      const left = result.isClean ? [] : bad(result.ways[0]?.plan ?? plan)
      expect(`${seed} ${left.length > result.reasons.length ? left.join() : ''}`).toBe(`${seed} `)
    }
  })
})
