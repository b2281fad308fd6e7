import { describe, expect, it } from 'vitest'
import { CONNECTORS } from '../../../core/catalog/connectors'
import { KINDS, kindOf, partSchema, type Part } from '../../../core/kinds/index'
import { chargesToV } from '../../../core/kinds/charging'
import { diodeLaw, SILICON_1A } from '../../../core/kinds/inline'
import { nominalVolts, resistiveOhm } from '../../../core/kinds/draw'
import { levelAmps, powerShare } from '../../../core/kinds/radio'
import { batteryLimit } from '../../../core/kinds/batteryLimits'
import { thickerSizes } from '../../../core/conductor/ladder'
import { fittingRatings, fuseOhm } from '../../../core/fuse/fuse'
import { radio } from '../../data/plans'
import { planJsonSchema } from '../../../core/formats/jsonSchema'

const rows = [...KINDS.values()].flatMap(kind =>
  kind.catalogue.map(row => [row.id, { ...row.part, id: 'x' } as unknown as Part, row.source] as const),
)

describe('every kind', () => {
  it.each(rows)('catalogue row %s is a part, with its source', (_id, part, source) => {
    expect(partSchema.safeParse(part).success).toBe(true)
    expect(source).not.toBe('')
    for (const terminal of kindOf(part).terminals(part, []))
      expect(CONNECTORS.map(c => c.id)).toContain(terminal.connector)
  })
  it('is a source, a load or stands between, and says what it gives or takes', () => {
    for (const [, part] of rows) {
      const kind = kindOf(part)
      expect(Boolean(kind.sources)).toBe(kind.role === 'source')
      expect(Boolean(kind.sink)).toBe(kind.role === 'load')
    }
  })
  it('names what switches in it as a sentence goes on after "the"', () => {
    const stages = rows.flatMap(([, part]) => kindOf(part).switching?.(part)?.what ?? [])
    expect(new Set(stages).size).toBeGreaterThan(4)
    expect(stages.filter(what => /^(its|the|an?)\b/i.test(what))).toEqual([])
  })
  it('stands in the published schema', () => {
    const text = JSON.stringify(planJsonSchema())
    for (const kind of KINDS.keys()) expect(text).toContain(`"const":"${kind}"`)
  })
})

describe('what parts say of themselves', () => {
  it('a battery with outlets has a terminal for each, all one node', () => {
    const part = {
      id: 'b',
      kind: 'battery',
      chemistry: 'lifepo4',
      seriesCells: 4,
      capacityAh: 10,
      internalOhm: 0.02,
      outlets: [
        { id: 'main', connector: 'stack-30' },
        { id: 'charge', connector: 'barrel-5525', ratedA: 4 },
      ],
    } as Part
    expect(
      kindOf(part)
        .terminals(part, [])
        .map(t => t.id),
    ).toEqual(['b.main', 'b.charge'])
    expect(kindOf(part).links!(part, []).every(l => l.ohm === 0)).toBe(true)
  })
  it('the smaller of cells and BMS limits a battery', () => {
    const part = { continuousA: 50, bms: { continuousA: 30, peakA: 60 } } as never
    expect(batteryLimit(part, 'continuousA')).toBe(30)
    expect(batteryLimit(part, 'peakA')).toBe(60)
    expect(batteryLimit(part, 'maxChargeA')).toBeUndefined()
  })
  it('a joint grows ways as leads land', () => {
    const part = { id: 'j', kind: 'joint', connector: 'stack-45' } as Part
    expect(
      kindOf(part)
        .terminals(part, ['j.d', 'other.e', 'j.xx'])
        .map(t => t.id),
    ).toEqual(['j.a', 'j.b', 'j.d'])
  })
  it('a resistive draw is ohms, or watts or amps at the nominal voltage', () => {
    expect(resistiveOhm({ model: 'resistive', activeOhm: 3 }, 'active', 12)).toBe(3)
    expect(resistiveOhm({ model: 'resistive', activeW: 48 }, 'active', 12)).toBe(3)
    expect(resistiveOhm({ model: 'resistive', activeA: 4 }, 'active', 12)).toBe(3)
    expect(resistiveOhm({ model: 'resistive', idleW: 0 }, 'idle', 12)).toBe(Infinity)
    expect(resistiveOhm({ model: 'resistive' }, 'idle', 12)).toBe(Infinity)
  })
  it('nominal is the middle of a window that does not say', () =>
    expect(nominalVolts({ minV: 10, maxV: 15 })).toBe(12.5))
  it('a level is looked up by its power', () => {
    const radio = {
      powerW: 50,
      levels: [
        { powerW: 50, activeA: 11 },
        { powerW: 10, activeA: 4 },
      ],
    } as never
    expect(levelAmps(radio)).toBe(11)
    expect(levelAmps(radio, 10)).toBe(4)
    expect(levelAmps(radio, 7)).toBeNull()
  })
  it('a larger diode is so many small ones side by side', () => {
    const law = diodeLaw({ id: 'd', kind: 'dropper', ratedA: 3 })
    expect(law.saturationA).toBeCloseTo(3 * SILICON_1A.saturationA, 15)
    expect(law.seriesOhm).toBeCloseTo(SILICON_1A.seriesOhm / 3, 9)
    expect(diodeLaw({ id: 'd', kind: 'dropper' })).toEqual(SILICON_1A)
  })
  it('a fuse drops 75 mV at its rating, cold, unless it says otherwise', () => {
    expect(fuseOhm({ ratedA: 25 })).toBeCloseTo(0.003, 12)
    expect(fuseOhm({ ratedA: 25, ohm: 0.001 })).toBe(0.001)
  })
  it('fuses that fit lie between 1.25 times the current and the ampacity', () => {
    expect(fittingRatings('blade', 16, 41.9)).toEqual([20, 25, 30, 35, 40])
    expect(fittingRatings('blade', 40, 41.9)).toEqual([])
    expect(fittingRatings('strip', 40, 80)).toEqual([50, 60, 70, 80])
  })
  it('the ladder of conductors ends', () => expect(thickerSizes({ awg: '4/0' })).toEqual([]))
})

describe('power by volts as measured', () => {
  const points = [
    { volts: 11.7, powerW: 60 },
    { volts: 13.8, powerW: 100 },
  ]
  const share = (volts: number) => powerShare(radio({ powerAtVolts: points }) as never, volts)
  it.each([
    [10, 0.6],
    [11.7, 0.6],
    [12.75, 0.8],
    [13.8, 1],
    [15, 1],
  ])('at %d V is %d of the most', (volts, of) => expect(share(volts)).toBeCloseTo(of, 9))
})

describe('the lists of a form', () => {
  const lists = [...KINDS.values()].flatMap(k =>
    (k.lists ?? []).map(list => [`${k.kind}, ${list.path}`, list] as const),
  )
  it('are some', () => expect(lists.length).toBeGreaterThan(5))
  it.each(lists)('%s: says what it is of, and each of its fields', (_, list) => {
    expect([list.path, list.label, list.one].every(text => text.length > 1)).toBe(true)
    for (const field of list.fields) {
      expect([field.path, field.label, field.quantity].every(Boolean), JSON.stringify(field)).toBe(true)
      if (field.quantity === 'choice') expect(field.choices!.length).toBeGreaterThan(1)
    }
    expect(new Set(list.fields.map(f => f.path)).size).toBe(list.fields.length)
  })
})

describe('lines of a form that are asked only for what is there', () => {
  const shown = (part: object) =>
    KINDS.get('vehicle')!.form.filter(f => f.path.startsWith('fuse') && (f.when?.({ ...part }) ?? true)).length
  it('those of a fuse once a vehicle has one', () => {
    expect(shown({ fuse: { type: 'blade', ratedA: 15 } })).toBeGreaterThan(shown({}))
  })
})

describe('a charging device of which nobody says to what it is set', () => {
  const output = { at: 'c', absorptionV: null, profiles: {} } as never
  const on = (...parts: object[]) => chargesToV(output, () => parts.map(part => ({ part, terminal: 'c' }) as never))
  const pack = { id: 'b', kind: 'battery', chemistry: 'lifepo4', seriesCells: 4, absorptionV: 14.2 }
  it('charges to what the batteries on it take, whatever else is there', () => {
    expect(on({ id: 'r', kind: 'radio' }, pack)).toBe(14.2)
    expect(on({ id: 'r', kind: 'radio' })).toBe(15)
  })
})
