import { describe, expect, it } from 'vitest'
import { cutListCsv } from '../../../core/formats/csv'
import { buildSheet } from '../../../core/sheets/build'
import { cutLength } from '../../../core/sheets/cut'
import { cautionsOf } from '../../../core/sheets/cautions'
import { battery, demoPlan, fuse, lead, pointOf, radio, smallPlan } from '../../data/plans'

describe('the build sheet', () => {
  const plan = demoPlan('tern-rock-evening')
  const sheet = buildSheet(plan)

  it.each([
    [1, 1.15],
    [1.2, 1.36],
    [3.6, 3.88],
    [6, 6.4],
  ])('%f m is cut at %f m: a twentieth and two crimps', (lengthM, cut) => expect(cutLength(lengthM)).toBe(cut))

  it('says of which plan it is, why it is not to be built yet, and what nobody stated', () => {
    const unsaid = smallPlan({
      parts: [battery({ continuousA: undefined, peakA: undefined }), radio()],
      leads: [lead({ conductor: { awg: 10 }, inline: [] })],
    })
    const { stamp, notReady, assumed } = buildSheet(unsaid, [], { revision: 4, date: '2026-11-27' })
    expect(stamp).toEqual({ revision: 4, date: '2026-11-27' })
    expect(notReady).toEqual(['No fuse after bat'])
    expect(assumed).toEqual([
      'bat: assumed, since nothing is said: 50 Ah of LiFePO4 gives 50 A',
      'bat: assumed, since nothing is said: 50 Ah of LiFePO4 takes 15 A',
      'insulation not said, taken as 70 °C PVC: lead l1',
    ])
    const [, row] = cutListCsv(buildSheet(unsaid, [], { revision: 4, date: '2026-11-27' })).split('\n')
    expect(row!.endsWith('small,4,2026-11-27,no: No fuse after bat')).toBe(true)
  })
  it('cuts every lead, with ends, colours and where the fuse sits', () => {
    expect(sheet.cutList).toHaveLength(plan.leads.length)
    expect(sheet.cutList[0]).toMatchObject({
      name: 'main lead',
      conductor: '8 AWG',
      lengthM: 1.2,
      conductors: [
        { colour: 'red', leg: 'positive' },
        { colour: 'black', leg: 'negative' },
      ],
      ends: [
        { at: 'House pack', connector: 'ring on an M6 stud', method: 'crimp' },
        { at: 'Fused block, feed', connector: 'two-pole block, 50 A' },
      ],
      inline: [{ what: 'bolt-down strip fuse 50 A', atM: 0.62, leg: 'positive' }],
    })
  })

  it("says which way a diode's stripe points, and that the lead wants a label", () => {
    const { cutList } = buildSheet(
      smallPlan({
        leads: [lead({ inline: [fuse(20), { id: 'd', kind: 'dropper', count: 2, stripe: 'to', atM: 0.8 }] })],
      }),
    )
    expect(cutList[0]!.inline[1]).toMatchObject({
      what: '2 diodes in series, 1 A',
      note: expect.stringContaining('stripe toward hf; label the lead'),
    })
  })

  it('adds conductors up by the metre and counts fuses and connectors', () => {
    const row = (what: string) => sheet.parts.find(p => p.what === what)
    expect(row('8 AWG conductor, 105 °C, red')).toMatchObject({
      count: Number((cutLength(1.2) + cutLength(2.5)).toFixed(2)),
      unit: 'm',
    })
    expect(row('ring on an M6 stud')!.count).toBe(3)
    expect(row('blade fuse 30 A')!.count).toBe(1)
    expect(row('bolt-down strip fuse 50 A with holder')!.count).toBe(2)
  })

  it('connects settings, dead leads, posts, fuses outward, the panel, the loads last', () => {
    const { connect } = buildSheet(demoPlan('tern-rock-light')).hookUp
    const at = (words: string) => {
      const i = connect.findIndex(s => s.does.includes(words))
      expect(i, words).toBeGreaterThanOrEqual(0)
      return i
    }
    expect(connect[0]!.does).toContain('All fuses out')
    const order = [
      'Set Charge controller for House pack: LiFePO4, absorption 14.4 V',
      'HF lead: first HF radio, then Fused block p1',
      'main lead: first Fused block feed, then House pack',
      'charge lead: first Charge controller battery, then House pack',
      'Fit the 50 A fuse of main lead',
      'Fit the 30 A fuse of charge lead',
      'panel lead: first Charge controller panel, then Two folding panels',
      'Uncover Two folding panels',
      'Plug Mains supply in',
      'Fit the 30 A fuse of Fused block p1',
      'Radios on',
    ].map(at)
    expect(order).toEqual([...order].sort((a, b) => a - b))
    expect(connect[at('main lead')]!.does).toContain('House pack: about 5 N·m')
    expect(connect[at('main lead')]!.before).toContain('13.6 V rested when full')
    expect(connect[at('50 A fuse of main lead')]!.before).toContain('Live on one side, from House pack')
    expect(connect[at('panel lead')]!.caution).toContain('Live in any light')
    expect(connect[at('switch in evening lead')]!.does).toBe('Leave the switch in evening lead off.')
  })

  it('tells what each point should read: what the circuit says, in conditions one can make', () => {
    expect(sheet.test.conditions.map(c => c.id)).toEqual([
      'full/idle',
      'full/only:hf',
      'full/only:vhf',
      'full/all',
      'charging/idle',
    ])
    for (const [i, { id }] of sheet.test.conditions.entries()) {
      const point = pointOf(plan, id)
      for (const row of sheet.test.rows) expect(row.volts[i]).toBeCloseTo(point.nodes[row.terminal]!.volts!, 6)
    }
  })

  it('leaves a condition without a solution empty', () => {
    const { test } = buildSheet(
      smallPlan({
        parts: [battery({ internalOhm: 1 }), radio({ draw: { model: 'constant-current', idleA: 1, activeA: 20 } })],
      }),
    )
    expect(test.rows[0]!.volts[test.conditions.findIndex(c => c.id === 'full/all')]).toBeNull()
  })
})

describe('cautions', () => {
  it('stand where the danger is, one line each', () => {
    const lines = cautionsOf(
      smallPlan({
        parts: [
          battery({ chemistry: 'flooded', seriesCells: 6, internalOhm: 0.005 }),
          radio(),
          { id: 'psu', kind: 'supply', setV: 13.8, continuousA: 10 },
        ],
      }),
    )
    expect(lines.some(l => l.startsWith('Mains'))).toBe(true)
    expect(lines.some(l => l.includes('vent'))).toBe(true)
    expect(lines.some(l => l.includes('2500 A'))).toBe(true)
    expect(lines.at(-1)).toContain('licensed electrician')
  })
  it('are few where little can happen', () =>
    expect(
      cautionsOf(smallPlan({ parts: [battery({ chemistry: 'nimh', seriesCells: 10, internalOhm: 0.1 }), radio()] })),
    ).toHaveLength(1))
  it('name more than 60 V', () =>
    expect(
      cautionsOf(smallPlan({ parts: [battery({ seriesCells: 20 }), radio()] })).some(l => l.includes('60 V')),
    ).toBe(true))
})
