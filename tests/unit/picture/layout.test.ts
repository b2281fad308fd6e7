import { describe, expect, it } from 'vitest'
import { ref } from 'vue'
import { layoutPath } from '../../../core/picture/layout'
import { pathScene, prepareScene } from '../../../core/picture/scene/scene'
import { pathTree } from '../../../core/picture/tree'
import { useWalk } from '../../../app/path/useWalk'
import { judge } from '../../../core/verdict/verdict'
import { madeUpPlan } from '../../bench/plans'
import { battery, demoPlan, fuse, lead, load, radio, smallPlan } from '../../data/plans'
import type { Plan } from '../../../core/plan/schema'

const laid = (plan: Plan, width = 900) => layoutPath(plan, judge(plan).verdict.arrivals, width)

describe('the laid out path', () => {
  it('draws everything of the plan once: every load a row, every lead a line', () => {
    for (const plan of [demoPlan('tern-rock-evening'), demoPlan('clean-bench'), madeUpPlan(60), madeUpPlan(250)]) {
      const layout = laid(plan)
      expect(
        layout.rows
          .filter(r => r.kind === 'load')
          .map(r => r.id)
          .sort(),
      ).toEqual(
        plan.parts
          .filter(p => 'supply' in p)
          .map(p => p.id)
          .sort(),
      )
      expect(layout.leads.map(l => l.id).sort()).toEqual(plan.leads.map(l => l.id).sort())
      expect(new Set(layout.rows.map(r => r.y)).size).toBe(layout.rows.length)
    }
  })
  it('keeps sources left, loads right, one axis for all, and nothing over another row', () => {
    const layout = laid(demoPlan('tern-rock-evening'))
    const [bat, mains] = layout.boxes
    expect(bat!.x + bat!.width).toBeLessThan(layout.bars[0]!.x)
    expect(layout.bars[0]!.x).toBeLessThan(layout.loadX)
    expect(mains!.y).toBeGreaterThan(bat!.y + bat!.height)
    expect(layout.leads.find(l => l.id === 'l6')!.tie).toBe(true)
    expect(layout.width).toBeLessThanOrEqual(901)
  })
  it('draws copper as thick as it is', () => {
    const layout = laid(demoPlan('tern-rock-evening'))
    const thick = (id: string) => layout.leads.find(l => l.id === id)!.thickness
    expect(thick('l1')).toBeGreaterThan(thick('l2'))
    expect(thick('l2')).toBeGreaterThan(thick('l5'))
  })
  it('stays compact with 60 parts', () => {
    const layout = laid(madeUpPlan(60))
    expect(layout.compact).toBe(true)
    expect(layout.rowHeight).toBeLessThan(50)
  })
  it('shows what no source reaches, rings and daisy chains without falling over', () => {
    const plan = smallPlan({
      parts: [battery(), radio(), load(), load({ id: 'lost' }), { id: 'blk', kind: 'block', ports: [{ id: 'p1' }] }],
      leads: [
        lead(),
        lead({ id: 'chain', from: 'hf', to: 'pc', ends: {}, inline: [fuse(5)] }),
        lead({ id: 'ring', from: 'pc', to: 'bat', ends: {} }),
      ],
    })
    const layout = laid(plan)
    expect(layout.rows.map(r => r.id)).toEqual(expect.arrayContaining(['hf', 'pc', 'lost', 'blk.p1']))
    expect(pathTree(plan).islands).toEqual(['blk', 'lost'])
    expect(layout.leads).toHaveLength(3)
  })
  it('an empty plan is an empty path', () => expect(laid({ ...smallPlan(), parts: [], leads: [] }).rows).toEqual([]))
})

describe('walking by arrows', () => {
  const selected = ref<string | null>('hf')
  const layout = ref(laid(demoPlan('tern-rock-evening')))
  const { walk } = useWalk(layout as never, selected)
  const go = (direction: 'up' | 'down' | 'left' | 'right') => (selected.value = walk(direction))
  it('goes along the path to the source and back, and from row to row', () => {
    expect(go('left')).toBe('l2')
    expect(go('left')).toBe('blk')
    expect(go('left')).toBe('l1')
    expect(go('left')).toBe('bat')
    expect(go('left')).toBe('bat')
    for (let i = 0; i < 4; i++) go('right')
    expect(selected.value).toBe('hf')
    expect(go('down')).toBe('vhf')
    expect(go('left')).toBe('l3')
    expect(go('down')).toBe('l4')
    expect(go('up')).toBe('l3')
  })
  it('reaches the free port', () => {
    selected.value = 'lamps'
    expect(go('down')).toBe('blk.p5')
  })
})

describe('what is placed once and used again', () => {
  const plan = demoPlan('tern-rock-light')
  const arrivals = judge(plan).verdict.arrivals

  it('stands where it would stand if it were placed anew, whatever was asked before', () => {
    const asked = [930, 1400, 930, 700]
    for (const width of asked) {
      const fresh = layoutPath(structuredClone(plan), arrivals, width)
      expect(layoutPath(plan, arrivals, width)).toEqual(fresh)
    }
    const block = plan.parts.find(p => p.kind === 'block')!.id
    const folded = new Set([block])
    expect(layoutPath(plan, arrivals, 930, folded)).toEqual(layoutPath(structuredClone(plan), arrivals, 930, folded))
    expect(layoutPath(plan, arrivals, 930, folded)).not.toEqual(layoutPath(plan, arrivals, 930))
  })

  it('is the same for two verdicts of one plan but for the axis', () => {
    const { axis: before, ...places } = layoutPath(plan, {}, 930)
    const high = { low: { value: 9, condition: '' }, high: { value: 31, condition: '' } }
    const { axis, ...now } = layoutPath(plan, { hf: high }, 930)
    expect(now).toEqual(places)
    expect([axis.minV < before.minV, axis.maxV > before.maxV]).toEqual([true, true])
  })

  it('gives the scene that it would give without having been made ready', () => {
    const units = { length: 'm', conductor: 'awg', temperature: 'C' } as const
    const { verdict } = judge(plan)
    const of = (p: typeof plan) => pathScene(p, layoutPath(p, arrivals, 930), { units, verdict, shown: null })
    const own = structuredClone(plan)
    prepareScene(own, layoutPath(own, {}, 930), { units, verdict: null })
    expect(of(own)).toEqual(of(structuredClone(plan)))
  })
})
