import { describe, expect, it } from 'vitest'
import { singleFailures, sparesOf } from '../../../core/commission/spares'
import { battery, DEMOS, demoPlan, lead, radio, smallPlan } from '../../data/plans'

const tern = demoPlan('tern-rock-light')
const takes = (plan: typeof tern, what: string) => singleFailures(plan).find(f => f.what === what)?.takes

describe('a single failure', () => {
  it('of what all hang on takes all, of a port its own load alone', () => {
    expect(takes(tern, 'Fused block')).toEqual(['hf', 'vhf', 'log', 'lamps'])
    expect(takes(tern, '50 A fuse of main lead')).toEqual(['hf', 'vhf', 'log', 'lamps'])
    expect(takes(tern, '30 A fuse of Fused block, port 1')).toEqual(['hf'])
    expect(takes(tern, 'VHF lead')).toEqual(['vhf'])
  })
  it('of what only charges, or of one of two ways, takes nothing', () => {
    expect(takes(tern, 'charge lead')).toBeUndefined()
    expect(takes(tern, 'Charge controller')).toBeUndefined()
    // The mains supply feeds the pack's posts: without the pack everything has a way.
    expect(takes(tern, 'House pack')).toBeUndefined()
    const two = smallPlan({
      parts: [battery({ id: 'a' }), battery({ id: 'b' }), radio({ id: 'hf' })],
      leads: [lead({ id: 'l1', from: 'a', to: 'hf' }), lead({ id: 'l2', from: 'b', to: 'a' })],
    })
    expect(takes(two, 'b')).toBeUndefined()
    expect(takes(two, 'lead l1')).toEqual(['hf'])
  })
})

describe.each(DEMOS)('the kit of %s', name => {
  const spares = sparesOf(demoPlan(name))
  it('covers every failure that takes a transmitter off the air, each once, most for its weight first', () => {
    expect(spares.reduce((sum, s) => sum + s.share, 0)).toBeCloseTo(1, 9)
    expect(spares.at(-1)!.together).toBeCloseTo(1, 9)
    const covered = spares.flatMap(s => s.covers)
    expect(new Set(covered).size).toBe(covered.length)
    expect(covered.sort()).toEqual(
      singleFailures(demoPlan(name))
        .map(f => f.what)
        .sort(),
    )
    const rates = spares.filter(s => s.massG !== null).map(s => s.share / Math.max(1, s.massG!))
    expect(rates).toEqual([...rates].sort((a, b) => b - a))
  })
})

it('one spare lead stands in for all with the same ends, as long and as thick as the most of them', () => {
  const ends = { from: { connector: 'stack-30' as const }, to: { connector: 'stack-30' as const } }
  const plan = smallPlan({
    parts: [battery({ id: 'a', terminal: 'stack-30' }), radio({ id: 'x' }), radio({ id: 'y' })],
    leads: [
      lead({ id: 'l1', from: 'a', to: 'x', lengthM: 1, conductor: { awg: 8 }, ends }),
      lead({ id: 'l2', from: 'a', to: 'y', lengthM: 3, conductor: { awg: 14 }, ends }),
    ],
  })
  const [spare] = sparesOf(plan).filter(s => s.id.startsWith('lead'))
  expect(spare!.covers).toEqual(['lead l1', 'lead l2'])
  expect(spare!.what).toMatch(/lead of 3 m, 8 AWG/)
})

describe('a spare lead that stands in for several', () => {
  it('is as long as the longest and as thick as the thickest of them, in whatever order they stand', () => {
    const thin = { id: 'thin', from: 'a', lengthM: 3, conductor: { awg: 12 } }
    const thick = { id: 'thick', from: 'b', to: 'two', lengthM: 1, conductor: { awg: 8 } }
    for (const leads of [
      [thin, thick],
      [thick, thin],
    ]) {
      const plan = smallPlan({
        parts: [battery({ id: 'a' }), battery({ id: 'b' }), radio(), radio({ id: 'two' })],
        leads: leads.map(l => lead(l)),
      })
      const [spare] = sparesOf(plan).filter(s => s.what.startsWith('lead of'))
      expect(spare!.what).toMatch(/^lead of 3 m, 8 AWG/)
    }
  })
})
