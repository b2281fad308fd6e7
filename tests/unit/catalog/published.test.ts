import { describe, expect, it } from 'vitest'
import { CHEMISTRIES, chemistry } from '../../../core/catalog/chemistries'
import { AMPACITY, BUNDLE_DERATING, CLASS5_OHM_PER_KM, SMALL_CONDUCTOR_A } from '../../../core/catalog/conductors'
import { CONNECTORS, connector, CROSS_MATES, FALSE_FITS } from '../../../core/catalog/connectors'
import { breaksAt, FUSE_CLASSES, fuseClass, ratedVolts } from '../../../core/catalog/fuses'

/** The tables as they are published, each written down apart from the catalogue: "18 20 · 16 25 · 2/0 330". */
const AUGHTS: Record<string, number> = { '1/0': 0, '2/0': -1, '3/0': -2, '4/0': -3 }
const table = (text: string) =>
  text.split(' · ').map(pair => pair.split(' ').map(figure => AUGHTS[figure] ?? Number(figure)))

describe('conductors', () => {
  it('class 5 copper resists as IEC 60228 has it, Ω/km', () =>
    expect(CLASS5_OHM_PER_KM).toEqual(
      table(
        '0.5 39.0 · 0.75 26.0 · 1 19.5 · 1.5 13.3 · 2.5 7.98 · 4 4.95 · 6 3.30 · 10 1.91 · 16 1.21 · 25 0.780 · ' +
          '35 0.554 · 50 0.386 · 70 0.272 · 95 0.206',
      ),
    ))
  it('carry what the building-wire school allows', () =>
    expect(AMPACITY.enclosed.awg).toEqual(
      table(
        '18 10 · 16 13 · 14 20 · 12 25 · 10 35 · 8 50 · 6 65 · 4 85 · 2 115 · 1 130 · 1/0 150 · 2/0 175 · 3/0 200 · ' +
          '4/0 230',
      ),
    ))
  it('carry what the open-air school allows, in both systems of sizes', () => {
    expect(AMPACITY.open.awg).toEqual(
      table(
        '18 20 · 16 25 · 14 35 · 12 45 · 10 60 · 8 80 · 6 120 · 4 160 · 2 210 · 1 245 · 1/0 285 · 2/0 330 · ' +
          '3/0 385 · 4/0 445',
      ),
    )
    expect(AMPACITY.open.mm2).toEqual(
      table(
        '0.75 16 · 1 20 · 1.5 25 · 2.5 35 · 4 45 · 6 60 · 10 90 · 16 130 · 25 170 · 35 210 · 50 270 · 70 330 · 95 390',
      ),
    )
  })
  it.each([
    ['open', [2, 1], [3, 0.7], [4, 0.6], [6, 0.6], [7, 0.5], [24, 0.5]],
    ['enclosed', [3, 1], [4, 0.8], [6, 0.8], [7, 0.7], [9, 0.7], [10, 0.5], [20, 0.5], [21, 0.45]],
  ] as const)('in a bundle, %s, carry less', (school, ...rows) => {
    const factor = (n: number) => BUNDLE_DERATING[school].find(r => n <= r.upTo)!.factor
    for (const [conductors, less] of rows as readonly (readonly [number, number])[])
      expect(factor(conductors)).toBe(less)
  })
  it('that are small take no larger fuse than the building-wire rule', () => {
    expect(SMALL_CONDUCTOR_A.enclosed).toEqual(table('18 7 · 16 10 · 14 15 · 12 20 · 10 30'))
    expect(SMALL_CONDUCTOR_A.open).toEqual([])
  })
})

describe('fuses', () => {
  it('of blades open as ISO 8820-3 has it: multiple, slowest, fastest', () =>
    expect(fuseClass('blade').opening.rows).toEqual(
      table('1.35 600 0.75 · 1.6 50 0.25 · 2 5 0.15 · 3.5 0.5 0.04 · 6 0.1 0.02'),
    ))
  it.each([
    ['blade', 32, 1000],
    ['glass', 32, 200],
    ['strip', 58, 2000],
    ['strip-high', 32, 6000],
    ['post-block', 14, 10000],
    ['post-block', 14.4, 5000],
    ['post-block', 32, 5000],
    ['post-block', 58, 2000],
    ['post-block', 58.1, 0],
    ['cartridge', 125, 20000],
    ['blade', 48, 0],
  ])('%s break, at %d V, %d A', (id, volts, amps) => expect(breaksAt(fuseClass(id), volts)).toBe(amps))
  it.each([
    ['blade', 32],
    ['post-block', 58],
    ['cartridge', 125],
  ])('%s are rated for %d V', (id, volts) => expect(ratedVolts(fuseClass(id))).toBe(volts))
  it('open the faster the more flows, and the fastest never after the slowest', () => {
    for (const { id, opening } of FUSE_CLASSES)
      for (const [i, [multiple, slowestS, fastestS]] of opening.rows.entries()) {
        expect(fastestS, id).toBeLessThan(slowestS)
        const before = opening.rows[i - 1]
        if (!before) continue
        expect(multiple, id).toBeGreaterThan(before[0])
        expect(slowestS, id).toBeLessThan(before[1])
        expect(fastestS, id).toBeLessThan(before[2])
      }
  })
  it('are sold in rising sizes, and only cartridges limit the current', () => {
    for (const { id, ratingsA, limitsCurrent } of FUSE_CLASSES) {
      expect(ratingsA.length, id).toBeGreaterThan(5)
      expect(ratingsA, id).toEqual([...ratingsA].sort((a, b) => a - b))
      expect(limitsCurrent ?? false, id).toBe(id === 'cartridge')
    }
  })
})

describe('chemistries', () => {
  it.each([
    [
      'lifepo4',
      4,
      '0 2.80 · 5 3.05 · 10 3.18 · 20 3.23 · 30 3.26 · 40 3.28 · 50 3.29 · 60 3.30 · 70 3.32 · 80 3.33 · ' +
        '90 3.34 · 95 3.35 · 100 3.40',
    ],
    ['nmc', 3, '0 3.0 · 10 3.45 · 30 3.6 · 50 3.7 · 70 3.87 · 90 4.05 · 100 4.2'],
  ] as const)('%s rests as published, per cell', (id, _cells, rows) =>
    expect(chemistry(id).curve).toEqual(table(rows).map(([p, v]) => [p! / 100, v])),
  )
  it.each([
    ['agm', '0 11.6 · 25 12.0 · 50 12.3 · 75 12.6 · 100 12.85'],
    ['gel', '0 11.6 · 25 12.0 · 50 12.3 · 75 12.6 · 100 12.85'],
    ['flooded', '0 11.5 · 25 11.85 · 50 12.15 · 75 12.45 · 100 12.7'],
  ])('%s rests as published, six cells', (id, rows) =>
    expect(chemistry(id).curve.map(([soc, v]) => [100 * soc, Number((6 * v).toFixed(6))])).toEqual(table(rows)),
  )
  it.each([
    ['lifepo4', 4, [14, 14.6], 13.8, 0.8, 0],
    ['agm', 6, [14.4, 14.7], 13.8, 0.5, -20],
    ['gel', 6, [14, 14.4], 13.8, 0.5, -20],
    ['flooded', 6, [14.4, 14.8], 13.5, 0.5, -20],
    ['nmc', 3, [12.6, 12.6], null, 0.8, 0],
  ] as const)('%s of %d cells is charged and used as published', (...row) => {
    const [id, cells, absorption, float, usable, aboveC] = row
    const { absorptionV, floatV, usableFraction, chargeAboveC } = chemistry(id)
    expect(absorptionV!.map(v => Number((v * cells).toFixed(6)))).toEqual(absorption)
    expect(floatV && Number((floatV[1] * cells).toFixed(6))).toBe(float)
    expect(usableFraction).toBe(usable)
    expect(chargeAboveC).toBe(aboveC)
  })
  it.each([
    ['lifepo4', 1, 0.3],
    ['nmc', 1, 0.3],
    ['lipo', 1, 0.3],
    ['agm', 0.3, 0.2],
    ['gel', 0.3, 0.2],
    ['flooded', 0.2, 0.13],
  ])('%s that says no limit counts as giving %d C and taking %d C', (id, outPerAh, inPerAh) =>
    expect(chemistry(id).assumed).toEqual({ outPerAh, inPerAh }),
  )
  it('have an end of their curve at empty and at full', () => {
    for (const { id, curve } of CHEMISTRIES) expect([curve[0]![0], curve.at(-1)![0]], id).toEqual([0, 1])
  })
})

describe('connectors', () => {
  const PUBLISHED = `
    stack-15 15 0.6 3 20 16
    stack-30 30 0.6 3 16 12
    stack-45 45 0.6 3 14 10
    heavy-50 50 0.4 1.5 12 6
    spade-6.3 20 0.8 4 18 12
    banana-4 15 1.5 6 20 14
    barrel-5521 5 4 15 22 16
    barrel-5525 5 4 15 22 16
    barrel-4017 3 4 15 22 16
    accessory-12v 10 8 40 18 14
    two-pole-bullet 10 1.5 6 18 14
    pack-t 50 0.4 1.5 16 12
    pair-60 30 0.3 1.2 14 10
    inlet-4 23 1.5 6 14 10
    inlet-6 25 1.5 6 14 10
    lead-t2 15 1.5 6 14 10
    pv-single 30 0.4 1.5 14 10`
  const rows = PUBLISHED.trim()
    .split('\n')
    .map(line => line.trim().split(' '))
  it.each(rows)('%s carries %s A, %s mΩ new and %s aged, takes %s to %s AWG', (...row) => {
    const [id, amps, fresh, aged, thin, thick] = row
    const { ratedA, newOhm, agedOhm, takesAwg } = connector(id!)
    expect(ratedA).toBe(Number(amps))
    expect([1000 * newOhm, 1000 * agedOhm]).toEqual([fresh, aged].map(v => expect.closeTo(Number(v), 9)))
    expect(takesAwg).toEqual({ thinnest: Number(thin), thickest: Number(thick) })
  })
  it.each([
    ['fork', 30],
    ['screw', 30],
    ['post-4mm', 15],
  ])('%s carries %d A by its screw', (id, amps) => {
    expect(connector(id)).toMatchObject({ ratedA: amps, newOhm: 0.0005, agedOhm: 0.003 })
  })
  it('on a stud carry what their wire carries, four at most on one', () => {
    for (const size of [4, 5, 6, 8, 10])
      expect(connector(`ring-m${size}`)).toMatchObject({ ratedA: null, newOhm: 0.00015, agedOhm: 0.001, mates: 4 })
  })
  it('that have a plug and a socket are the ones published as such', () =>
    expect(CONNECTORS.filter(c => c.gendered).map(c => c.id)).toEqual(['pack-t', 'pair-60', 'pv-single']))
  it('that go or seem to go together are ones of the table', () => {
    const known = new Set(CONNECTORS.map(c => c.id))
    const named = [...CROSS_MATES.flat(), ...FALSE_FITS.flatMap(f => f.pair)]
    expect(named.filter(id => !known.has(id))).toEqual([])
    expect(CROSS_MATES).toContainEqual(['banana-4', 'post-4mm'])
    expect(FALSE_FITS.map(f => [...f.pair].sort())).toContainEqual(['barrel-5521', 'barrel-5525'])
  })
})
