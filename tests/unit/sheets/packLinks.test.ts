import { describe, expect, it } from 'vitest'
import { compile } from '../../../core/circuit/network'
import { buildSheet } from '../../../core/sheets/build'
import { cutLength } from '../../../core/sheets/cut'
import { hookUpOrder } from '../../../core/sheets/hookup'
import { LINK_M, packLinks } from '../../../core/sheets/packLinks'
import { battery, demoPlan, lead, radio, smallPlan } from '../../data/plans'

const members = (strings: number, inSeries: number) =>
  Array.from({ length: strings * inSeries }, (_, i) => ({
    name: `pack ${i + 1}`,
    string: Math.floor(i / inSeries) + 1,
    seriesCells: 4,
  }))
const bank = (strings: number, inSeries: number, ratedA = 80) =>
  smallPlan({
    parts: [battery({ seriesCells: 4 * inSeries, members: members(strings, inSeries) }), radio()],
    leads: [
      lead({
        id: 'main',
        conductor: { awg: 4, insulationC: 105 },
        ends: { from: { connector: 'ring-m8' }, to: { connector: 'ring-m6' } },
        inline: [{ id: 'f', kind: 'fuse', type: 'strip', ratedA, atM: 0.1 }],
      }),
    ],
  })

describe('links between packs', () => {
  it.each<[number, number, number, number, number]>([
    // strings, in series, series links, parallel links, single conductors of all of them
    [1, 1, 0, 0, 0],
    [1, 2, 1, 0, 1],
    [1, 4, 3, 0, 3],
    [2, 1, 0, 1, 2],
    [4, 1, 0, 3, 6],
    [2, 2, 2, 1, 4],
    [3, 2, 3, 2, 7],
  ])(
    '%i strings of %i have %i in series and %i in parallel: %i conductors',
    (...[strings, inSeries, series, parallel, all]) => {
      const links = packLinks(bank(strings, inSeries))
      expect(links.filter(l => l.id.includes('series')).length).toBe(series)
      expect(links.filter(l => l.id.includes('parallel')).length).toBe(parallel)
      expect(links.flatMap(l => l.legs).length).toBe(all)
      const sheet = buildSheet(bank(strings, inSeries))
      const cut = cutLength(1) // the main lead's own
      const metres = sheet.parts.filter(p => p.what.startsWith('4 AWG')).reduce((m, p) => m + p.count, 0)
      expect(metres).toBeCloseTo(2 * cut + all * cutLength(LINK_M), 6)
      const bought = sheet.shopping.find(r => r.what.startsWith('4 AWG'))!.needs
      expect(bought).toBeCloseTo(metres, 2)
    },
  )

  it('are as thick as the main lead, with its lug; in series one black conductor, marked red at its + end', () => {
    const [link] = packLinks(bank(1, 2))
    expect(link).toMatchObject({
      name: 'bat, series link 1',
      from: 'pack 1 −',
      to: 'pack 2 +',
      conductor: { awg: 4, insulationC: 105 },
      connector: 'ring-m8',
      fuse: null,
    })
    expect(link!.legs.map(l => l.colour)).toEqual(['black'])
    expect(link!.note).toContain('mark its end at pack 2 red')
  })

  it('each string has its fuse: its share of the main one, the next rating up, no more than the link carries', () => {
    // 80 A over two strings is 40 A each; over three 26.7 A, and strips begin with 30 A.
    expect(packLinks(bank(2, 1))[0]!.fuse).toMatchObject({ type: 'strip', ratedA: 40 })
    expect(packLinks(bank(3, 1))[0]!.fuse).toMatchObject({ ratedA: 30 })
    const sheet = buildSheet(bank(3, 1))
    expect(sheet.parts.find(p => p.what.includes('fuse 30 A'))!.count).toBe(3)
    const thin = bank(2, 1)
    const thinner = { ...thin, leads: thin.leads.map(l => ({ ...l, conductor: { awg: 18, insulationC: 70 } })) }
    expect(packLinks(thinner)[0]!.fuse).toBeNull()
  })

  it('stand in the cut list, on labels, and in the order of connecting: take-off at opposite corners', () => {
    const plan = bank(2, 2)
    const sheet = buildSheet(plan)
    expect(sheet.cutList.map(r => r.name)).toContain('bat, parallel link 1')
    expect(sheet.labels.some(l => l.lines[0].startsWith('bat, series link 1.1'))).toBe(true)
    const { connect } = hookUpOrder(plan, compile(plan))
    const does = connect.map(s => s.does)
    expect(does[1]).toContain('charge each of pack 1, pack 2, pack 3, pack 4 full by itself')
    expect(does.find(d => d.includes('take off'))).toBe(
      'bat: take off + at pack 1 and − at pack 4: at opposite corners.',
    )
    expect(connect.find(s => s.does.includes('parallel links'))!.caution).toContain('Live on both sides')
  })

  it("Heron's two house batteries are joined by a pair as thick as the inverter's", () => {
    const [link] = packLinks(demoPlan('narrowboat-heron'))
    expect(link).toMatchObject({ from: 'left battery +, left battery −', to: 'right battery +, right battery −' })
    expect(link!.conductor).toMatchObject({ mm2: 25 })
  })
})
