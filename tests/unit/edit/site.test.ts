import { describe, expect, it } from 'vitest'
import { applyEdit, changed, type Patch } from '../../../core/edit/patch'
import { addPort } from '../../../core/edit/ports'
import { remove, removeAll } from '../../../core/edit/remove'
import {
  activeIn,
  addLoadState,
  addZone,
  enterSite,
  mayBeActive,
  removeLoadState,
  removeZone,
  setActive,
} from '../../../core/edit/site'
import { siteForm } from '../../../core/plan/siteForm'
import type { Plan } from '../../../core/plan/schema'
import { onBlock } from '../../data/basicPairs'
import { battery, block, demoPlan, radio, smallPlan } from '../../data/plans'

function after(plan: Plan, patch: Patch): Plan {
  const edit = applyEdit(plan, patch)
  if (!edit.ok) throw new Error(JSON.stringify(edit.faults))
  return edit.plan
}

describe('places of a station', () => {
  const plan = smallPlan({ site: { ambientC: { low: -5, typical: 12, high: 31 } } })
  it('begin as warm and as cold as the site, each under an id of its own', () => {
    const one = after(plan, addZone(plan, 'Roof'))
    const two = after(one, addZone(one, 'Roof'))
    const [first, second] = two.site!.zones!
    expect(first!.ambientC).toEqual({ low: -5, typical: 12, high: 31 })
    expect(first!.id).not.toBe(second!.id)
  })
  it('that are taken away leave their parts in the site, and none where the last one goes', () => {
    const zoned = after(plan, addZone(plan, 'Roof'))
    const { id } = zoned.site!.zones![0]!
    const placed = after(zoned, [{ op: 'add', path: '/parts/0/zone', value: id }])
    const gone = after(placed, removeZone(placed, id))
    expect(gone.parts[0]!.zone).toBeUndefined()
    expect(gone.site!.zones).toBeUndefined()
    const two = after(placed, addZone(placed, 'Cellar'))
    expect(after(two, removeZone(two, id)).site!.zones).toHaveLength(1)
  })
})

describe('load states', () => {
  const plan = smallPlan({ parts: [battery(), radio(), radio({ id: 'r2', levels: [{ powerW: 50, activeA: 6 }] })] })
  const named = after(plan, addLoadState(plan, 'Net night'))
  const { id } = named.loadStates![0]!
  it('begin with nothing active, and take parts in at full or at a power of their own, once each', () => {
    expect(named.loadStates).toEqual([{ id, name: 'Net night', active: [] }])
    const full = after(named, setActive(named, id, 'hf', true))
    const both = after(full, setActive(full, id, 'r2', 50))
    expect(both.loadStates![0]!.active).toEqual(['hf', { part: 'r2', powerW: 50 }])
    expect(['hf', 'r2', 'bat'].map(part => activeIn(both.loadStates![0]!, part))).toEqual([true, 50, false])
    const again = after(both, setActive(both, id, 'r2', true))
    expect(again.loadStates![0]!.active).toEqual(['hf', 'r2'])
    const out = after(again, setActive(again, id, 'hf', false))
    expect(out.loadStates![0]!.active).toEqual(['r2'])
  })
  it('go one by one, the list with the last', () => {
    const two = after(named, addLoadState(named, 'Beacon'))
    expect(two.loadStates).toHaveLength(2)
    const one = after(two, removeLoadState(two, id))
    expect(one.loadStates!.map(s => s.name)).toEqual(['Beacon'])
    expect(after(one, removeLoadState(one, one.loadStates![0]!.id)).loadStates).toBeUndefined()
  })
  it('are of loads only', () => expect(mayBeActive(plan).map(p => p.id)).toEqual(['hf', 'r2']))
})

describe("the site's form", () => {
  const field = (path: string) => siteForm.find(f => f.path === path)!
  it('sets what is entered, and a whole range where there was none', () => {
    const { site: _none, ...plan } = smallPlan()
    const within = siteForm.find(f => f.within)!
    const made = after(plan, enterSite(plan, within, -3))
    const at = within.path.split('.').reduce<unknown>((v, key) => (v as Record<string, unknown>)[key], made)
    expect(at).toBe(-3)
    expect(enterSite(plan, within, undefined)).toEqual([])
  })
  it('leaves a station its name', () => {
    const plan = smallPlan()
    expect(enterSite(plan, field('name'), undefined)).toEqual([])
    expect(after(plan, enterSite(plan, field('name'), 'Hut')).name).toBe('Hut')
  })
})

describe('edits of lists', () => {
  it('a port more is the next free number, with the connector of the last; no part without ports has one', () => {
    const plan = onBlock()
    const more = after(plan, addPort(plan, 'blk'))
    const { ports } = more.parts.find(p => p.id === 'blk') as unknown as { ports: object[] }
    expect(ports.at(-1)).toMatchObject({ id: 'p3', connector: 'stack-45', fuse: { type: 'blade', ratedA: 10 } })
    const odd = onBlock({ ports: block([15, 15]).ports.map((p, i) => (i ? { ...p, id: 'p3' } : p)) })
    const next = after(odd, addPort(odd, 'blk'))
    expect((next.parts.find(p => p.id === 'blk') as unknown as { ports: { id: string }[] }).ports.at(-1)!.id).toBe('p4')
    expect(addPort(plan, 'hf')).toEqual([])
  })
  it("a part that is taken out is taken out of the owner's hook-up order too", () => {
    const plan = { ...onBlock(), hookUp: ['l1', 'm'] } as Plan
    const gone = after(plan, remove(plan, 'hf'))
    expect(gone.leads.map(l => l.id)).toEqual(['m'])
    expect(gone.hookUp).toEqual(['m'])
  })
  it('several are taken out at once whatever their places', () => {
    const plan = demoPlan('clean-bench')
    const ids = [plan.parts[0]!.id, plan.leads[0]!.id, plan.parts.at(-1)!.id]
    const left = changed(plan, removeAll(plan, ids))!
    expect(left.parts).toHaveLength(plan.parts.length - 2)
    expect(left.leads).toHaveLength(plan.leads.length - 1)
    expect([...left.parts, ...left.leads].some(i => ids.includes(i.id))).toBe(false)
  })
  it('that do not fit change nothing: null, and what was is as it was', () => {
    const plan = demoPlan('clean-bench')
    const before = JSON.stringify(plan)
    expect(changed(plan, [{ op: 'test', path: '/name', value: 'another' }])).toBeNull()
    expect(changed(plan, [{ op: 'replace', path: '/name', value: 'another' }])!.name).toBe('another')
    expect(JSON.stringify(plan)).toBe(before)
  })
})
