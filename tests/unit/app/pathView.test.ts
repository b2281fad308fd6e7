// @vitest-environment happy-dom
import { mount } from '@vue/test-utils'
import { beforeEach, describe, expect, it } from 'vitest'
import PathView from '../../../app/path/PathView.vue'
import { answer, type Judged } from '../../../app/workers/answers'
import { layoutPath } from '../../../core/picture/layout'
import type { Plan } from '../../../core/plan/schema'
import { METRIC } from '../../../core/units/quantity'
import { demoPlan } from '../../data/plans'

const plan = demoPlan('tern-rock-light')
// Where a figure stands is the browser's to say: here there is none.
beforeEach(() => Object.assign(SVGGraphicsElement.prototype, { getBBox: () => ({ x: 12, y: 34 }) }))

function shown(change: Record<string, unknown> = {}, of: Plan = plan) {
  const judged = answer('judge', [of]) as Judged
  const layout = layoutPath(of, judged.verdict.arrivals, 900)
  const usual = {
    plan: of,
    judged,
    point: null,
    layout,
    selected: null,
    shownLoad: null,
    lit: new Set(),
    units: METRIC,
  }
  return { path: mount(PathView, { props: { ...usual, ...change } as never }), judged }
}

describe('the path on the page', () => {
  it('has every part and every lead once, each named for those who hear it', () => {
    const { path } = shown()
    for (const { id } of plan.leads) expect(path.findAll(`.lead[data-lead="${id}"]:not(.items)`)).toHaveLength(1)
    for (const { id } of plan.parts) expect(path.findAll(`[data-part="${id}"]`).length).toBeGreaterThanOrEqual(1)
    for (const button of path.findAll('[role="button"][tabindex]'))
      expect(button.attributes('aria-label'), button.html().slice(0, 80)).toBeTruthy()
  })

  it('says of each part its volts and its verdict, and of each lead what flows in it, to those who hear it', () => {
    const { path, judged } = shown()
    const heard = (selector: string) => path.find(`${selector} [role="button"]`).attributes('aria-label')!
    const verdict = /(danger|fails|caution|note|passed)$/
    for (const [id, arrival] of Object.entries(judged.verdict.arrivals)) {
      expect(heard(`.row[data-part="${id}"]`)).toMatch(verdict)
      expect(heard(`.row[data-part="${id}"]`)).toContain(`${arrival!.low.value.toFixed(2)} to `)
    }
    expect(path.find('.box[data-part="bat"]').attributes('aria-label')).toMatch(/^House pack, \d.* V, \w+$/)
    for (const bar of path.findAll('.bar'))
      expect(bar.find('[role="button"]').attributes('aria-label')).toMatch(verdict)
    for (const { id } of plan.leads) expect(heard(`.lead[data-lead="${id}"]`)).toMatch(/\d A · \d+\.\d+ V|switched off/)
  })

  it('marks each place with the worst of its findings, and a load without any as passed', () => {
    const { path, judged } = shown()
    const order = ['danger', 'fail', 'caution', 'note']
    for (const lead of plan.leads) {
      const found = judged.verdict.findings.filter(f => f.place === lead.id).map(f => f.severity as string)
      const worst = order.find(s => found.includes(s))
      const marks = path.findAll(`.lead[data-lead="${lead.id}"] .mark`).map(m => m.classes())
      expect(marks).toEqual(worst ? [['mark', worst]] : [])
    }
    const sound = path.findAll('.row[data-part] .mark.passed').length
    const loads = Object.keys(judged.verdict.arrivals)
    const places = new Set(judged.verdict.findings.map(f => f.place))
    expect(sound).toBe(loads.filter(id => !places.has(id)).length)
  })

  it('tells what is pressed: select, edit on a double press, the figure at its place, a free port', async () => {
    const { path } = shown()
    await path.find('.row[data-part="hf"] > g').trigger('click')
    await path.find('.lead[data-lead="l2"] > g').trigger('dblclick')
    await path.findAll('.lead[data-lead="l2"] .token')[1]!.trigger('click')
    await path.find('.port.free').trigger('click')
    expect(path.emitted('select')).toEqual([['hf']])
    expect(path.emitted('edit')).toEqual([['l2']])
    expect(path.emitted('token')).toMatchObject([[{ id: 'l2', what: 'length', x: 12, y: 34 }]])
    expect(path.emitted('add')![0]![0]).toMatch(/^blk\./)
  })

  it('opens the form of a fuse over the fuse itself', async () => {
    const { path } = shown()
    const item = path.find('.item.fuse')
    await item.trigger('click')
    const [[target]] = path.emitted('token') as unknown as [[{ what: string; x: number; y: number }]]
    const [x, y] = /translate\(([\d.]+) ([\d.]+)\)/.exec(item.attributes('transform')!)!.slice(1).map(Number)
    expect(target).toMatchObject({ what: 'rating', x: x! - 16, y: y! - 12 })
  })

  it('shows the way of a short: hot where it survives, burnt where not, faint where none flows', () => {
    const way = new Map([
      ['l1', true],
      ['l2', false],
    ])
    const short = { at: 'hf', lead: null, way, opens: new Map([['l1 f1', '20 ms']]) }
    const { path } = shown({ short })
    expect(path.find('.lead[data-lead="l1"]').classes()).toContain('hot')
    expect(path.find('.lead[data-lead="l2"]').classes()).toContain('burnt')
    expect(path.find('.lead[data-lead="l3"]').classes()).toContain('off')
    expect(path.find('.bolt').exists()).toBe(true)
  })

  it('says "nothing arrives" at a load that nothing reaches', () => {
    const cut: Plan = { ...plan, leads: plan.leads.filter(l => l.to !== 'hf' && l.from !== 'hf') }
    expect(shown({}, cut).path.find('.row[data-part="hf"]').text()).toContain('nothing arrives')
  })
})
