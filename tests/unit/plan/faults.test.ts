import { describe, expect, it } from 'vitest'
import { readPlan, readPlanText, writePlan } from '../../../core/plan/faults'
import { battery, demoPlan, lead, radio, smallPlan } from '../../data/plans'

const raw = (change: object = {}) => ({
  format: 'wireman-plan',
  version: 1,
  name: 'x',
  parts: [battery(), radio()],
  leads: [lead()],
  ...change,
})
const faultsOf = (value: unknown) => {
  const read = readPlan(value)
  return read.ok ? [] : read.faults
}

describe('reading a plan', () => {
  it('takes the example of the format, and writes the same plan back', () => {
    const plan = demoPlan('tern-rock-evening')
    const again = readPlanText(writePlan(plan))
    expect(again).toEqual({ ok: true, plan })
    expect(again.ok && writePlan(again.plan)).toBe(writePlan(plan))
  })

  it('lists every fault of a bad plan, with its path, what is wrong and what would be right', () => {
    const faults = faultsOf(
      raw({
        parts: [battery({ chemistry: 'lithium', colour: 'blue' }), radio({ supply: { minV: 16, maxV: 12 } }), radio()],
        leads: [lead({ lengthM: -2 }), lead({ id: 'l2', to: 'nowhere' }), lead({ id: 'l3', conductor: {} })],
      }),
    )
    const paths = faults.map(f => f.path)
    expect(paths).toEqual(
      expect.arrayContaining([
        '/parts/0/chemistry',
        '/parts/0/colour',
        '/parts/1/supply',
        '/parts/2/id',
        '/leads/0/lengthM',
        '/leads/1/to',
        '/leads/2/conductor',
      ]),
    )
    expect(faults.find(f => f.path === '/leads/0/lengthM')).toEqual({
      path: '/leads/0/lengthM',
      wrong: 'lead l1: lengthM is −2',
      right: 'above 0',
    })
    for (const fault of faults) expect(fault.right.length).toBeGreaterThan(3)
  })

  it('names an unknown field', () => {
    expect(faultsOf(raw({ extra: 1 }))).toEqual([
      {
        path: '/extra',
        wrong: 'the field extra is not known here',
        right: 'a field of the format, or put it into note',
      },
    ])
  })

  it('refuses a newer version in words', () => {
    const [fault] = faultsOf(raw({ version: 2 }))
    expect(fault?.wrong).toContain('newer')
  })

  it('names a kind it does not know', () => {
    const [fault] = faultsOf(raw({ parts: [battery(), radio(), { id: 'sun', kind: 'windmill' }] }))
    expect(fault?.path).toBe('/parts/2/kind')
    expect(fault?.right).toContain('battery')
  })

  it('reports a dangling lead with the terminals there are', () => {
    const [fault] = faultsOf(raw({ leads: [lead({ to: 'bat.p9' })] }))
    expect(fault).toMatchObject({ path: '/leads/0/to', right: 'one of bat' })
  })

  it.each([
    ['', 'empty'],
    ['{"format":"wireman-plan"', 'not JSON'],
    ['[1]', 'a list'],
    ['null', 'null'],
    ['{"format":"other"}', 'format'],
    ['\uFEFF{}', 'format'],
  ])('answers %j without throwing', (text, word) => {
    const read = readPlanText(text)
    expect(read.ok).toBe(false)
    expect(!read.ok && JSON.stringify(read.faults)).toContain(word)
  })

  it.each([
    [
      'an inline item beyond the end',
      { leads: [lead({ inline: [{ id: 'f', kind: 'fuse', ratedA: 20, atM: 3 }] })] },
      '/leads/0/inline/0/atM',
    ],
    ['both ends at one terminal', { leads: [lead({ to: 'bat' })] }, '/leads/0/to'],
    [
      'insulation that stands nothing',
      { leads: [lead({ conductor: { awg: 10, insulationC: -1 } })] },
      '/leads/0/conductor/insulationC',
    ],
    ['both awg and mm2', { leads: [lead({ conductor: { awg: 10, mm2: 6 } })] }, '/leads/0/conductor'],
    ['a follower of nothing', { parts: [battery(), radio({ follows: 'amp' })] }, '/parts/1/follows'],
    ['a zone that is not there', { parts: [battery({ zone: 'attic' }), radio()] }, '/parts/0/zone'],
    ['a load state of no part', { loadStates: [{ id: 'night', active: ['lamp'] }] }, '/loadStates/0/active/0'],
    ['a load state called all', { loadStates: [{ id: 'all', active: [] }] }, '/loadStates/0/id'],
    [
      'a port named twice',
      { parts: [battery(), radio(), { id: 'b', kind: 'block', ports: [{ id: 'p' }, { id: 'p' }] }] },
      '/parts/2/ports/1/id',
    ],
    ['temperatures out of order', { site: { ambientC: { low: 40, typical: 20, high: -5 } } }, '/site/ambientC'],
    [
      'a nominal voltage over its window',
      { parts: [battery(), radio({ supply: { minV: 11, nominalV: 16, maxV: 15 } })] },
      '/parts/1/supply/nominalV',
    ],
    ['a name that cannot be read', { parts: [battery({ name: '\u0001\u0002' }), radio()] }, '/parts/0/name'],
    [
      'a resistance of no physical size',
      { parts: [battery({ internalOhm: 1e-300 }), radio()] },
      '/parts/0/internalOhm',
    ],
    ['a hook-up order that names no lead', { hookUp: ['l1', 'nowhere'] }, '/hookUp/1'],
    ['NaN', { parts: [battery({ internalOhm: NaN }), radio()] }, '/parts/0/internalOhm'],
  ])('refuses %s', (_what, change, path) => {
    expect(faultsOf(raw(change)).map(f => f.path)).toContain(path)
  })

  it('keeps optional things optional', () => {
    expect(
      faultsOf({
        format: 'wireman-plan',
        version: 1,
        name: 'bare',
        parts: [
          { id: 'b', kind: 'battery', chemistry: 'agm', seriesCells: 6, capacityAh: 40, internalOhm: 0.01 },
          {
            id: 'r',
            kind: 'load',
            supply: { minV: 10, maxV: 15 },
            draw: { model: 'resistive', idleW: 0, activeW: 40 },
          },
        ],
        leads: [{ id: 'l', from: 'b', to: 'r', lengthM: 1, conductor: { awg: '1/0' } }],
      }),
    ).toEqual([])
    expect(smallPlan().parts).toHaveLength(2)
  })
})
