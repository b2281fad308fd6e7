import { describe, expect, it } from 'vitest'
import { startPlan } from '../../../core/plan/starter'
import { sizePlan } from '../../../core/size/size'
import { judge } from '../../../core/verdict/verdict'

describe('ordinary one-radio stations', () => {
  const loads = ['hf-100', 'vhf-50', 'hf-20', 'cw-5', 'qrp-10']
  const sources = ['lifepo4-20', 'agm-100', 'supply-30', 'vehicle-12']
  const started = (load: string, source: string) =>
    startPlan({ name: 'x', loads: [load], source, lengthM: 2, conductor: { awg: 10 } })!

  it('are sized, contacts along with the wire; nothing is brought, and for least drop no voltage falls', () => {
    for (const load of loads)
      for (const source of sources) {
        const plan = started(load, source)
        for (const aim of ['weight', 'cost', 'drop'] as const) {
          const { plan: sized, obstacles, yields } = sizePlan(plan, { for: aim })
          if (!sized) {
            expect(`${load} ${source} ${obstacles.join()} ${yields?.relax}`).toMatch(/V short/)
            continue
          }
          const [before, after] = [judge(plan).verdict, judge(sized).verdict]
          const had = new Set(before.findings.map(f => `${f.check} ${f.place}`))
          const news = after.findings.filter(f => f.severity !== 'note' && !had.has(`${f.check} ${f.place}`))
          expect(`${load} ${source} ${aim} ${news.map(f => f.title).join()}`).toBe(`${load} ${source} ${aim} `)
          if (aim !== 'drop') continue
          for (const [id, arrival] of Object.entries(after.arrivals))
            expect(arrival!.low.value).toBeGreaterThanOrEqual(before.arrivals[id]!.low.value - 1e-4)
        }
      }
  })

  it('says which limit would have to give, and sizes without it', () => {
    const plan = {
      ...started('hf-100', 'lifepo4-50'),
      site: { ...started('hf-100', 'lifepo4-50').site, dropShare: 0.01 },
    }
    const { plan: none, yields } = sizePlan(plan, { for: 'weight' })
    expect(none).toBeNull()
    expect(yields!.relax).toBe('share')
    expect(yields!.words).toMatch(/^The plan's 1.0 % of drop asks for more than fits/)
    expect(sizePlan(plan, { for: 'weight', relax: ['share'] }).plan).not.toBeNull()
  })
})
