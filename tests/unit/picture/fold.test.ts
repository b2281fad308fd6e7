import { describe, expect, it } from 'vitest'
import { foldable, foldedTree, hiddenBy } from '../../../core/picture/fold'
import { layoutPath } from '../../../core/picture/layout'
import { pathScene } from '../../../core/picture/scene/scene'
import type { Shape } from '../../../core/picture/scene/shape'
import { METRIC } from '../../../core/units/quantity'
import { judge } from '../../../core/verdict/verdict'
import { madeUpPlan } from '../../bench/plans'
import { demoPlan } from '../../data/plans'

const textsOf = (s: Shape | string): string[] => (typeof s === 'string' ? [s] : s.holds.flatMap(textsOf))

describe('a folded block', () => {
  const plan = demoPlan('clean-bench')
  const block = plan.parts.find(p => p.kind === 'block')!.id
  const [source] = plan.parts.filter(p => p.kind === 'supply')

  it('can be one with several loads after it, and nothing else', () => {
    expect(foldable(plan, block)).toBe(true)
    expect(foldable(plan, source!.id)).toBe(false)
    expect(foldable(plan, plan.parts.find(p => p.kind === 'radio')!.id)).toBe(false)
    expect(foldable(plan, 'nothing')).toBe(false)
  })
  it('is one row that tells its loads, and the worst that is found of them', () => {
    const { verdict } = judge(plan)
    const hf = plan.parts.find(p => p.kind === 'radio')!
    const found = {
      ...judge(demoPlan('tern-rock-light')).verdict.findings[0]!,
      place: hf.id,
      severity: 'fail' as const,
    }
    const layout = layoutPath(plan, verdict.arrivals, 930, new Set([block]))
    expect(layout.rows.map(r => [r.kind, r.id])).toEqual([['folded', block]])
    expect(layout.leads).toHaveLength(1)
    const scene = pathScene(plan, layout, { verdict: { ...verdict, findings: [found] }, shown: null, units: METRIC })
    const said = [...scene.body, ...scene.arrivals].flatMap(textsOf).join(' ')
    expect(said).toContain(`${plan.parts.filter(p => 'supply' in p).length} loads, folded`)
    expect(said).toContain(hf.name)
    const labels = JSON.stringify([scene.body, scene.arrivals])
    expect(labels).toMatch(/loads folded, fails?[^"]*: unfold/)
  })
  it('hides what is after it, and says by whom', () => {
    const hf = plan.parts.find(p => p.kind === 'radio')!.id
    const way = plan.leads.find(l => l.to === hf || l.from === hf)!.id
    expect(hiddenBy(plan, new Set([block]), hf)).toBe(block)
    expect(hiddenBy(plan, new Set([block]), way)).toBe(block)
    expect(hiddenBy(plan, new Set([block]), block)).toBeNull()
    expect(hiddenBy(plan, new Set(), hf)).toBeNull()
  })
  it('within another folded one is hidden with it, and everything else is still drawn once', () => {
    const large = madeUpPlan(250)
    const all = new Set(large.parts.map(p => p.id).filter(id => foldable(large, id)))
    expect(all.size).toBeGreaterThan(3)
    const { folds } = foldedTree(large, all)
    for (const [id, fold] of folds) for (const other of folds.keys()) expect(fold.hides.has(other), id).toBe(false)
    const hidden = new Set([...folds.values()].flatMap(f => [...f.hides]))
    const layout = layoutPath(large, {}, 930, all)
    const drawn = layout.rows.filter(r => r.kind === 'load').map(r => r.id)
    const inSight = large.parts.filter(p => 'supply' in p && !hidden.has(p.id)).map(p => p.id)
    expect(drawn.sort()).toEqual(inSight.sort())
    expect(layout.height).toBeLessThan(layoutPath(large, {}, 930).height / 3)
  })
})
