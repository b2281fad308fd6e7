import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { batteryLife } from '../../../core/log/batteries'
import { EMPTY_LOG, readLogText, type BatteryEntry } from '../../../core/log/log'
import { demoPlan } from '../../data/plans'

const tern = demoPlan('tern-rock-light')
const heron = demoPlan('narrowboat-heron')
const bat = tern.parts.find(p => p.id === 'bat')!
const house = heron.parts.find(p => p.id === 'house')!
let n = 0
const entry = (time: string, what: BatteryEntry['what'], more: Partial<BatteryEntry> = {}): BatteryEntry => ({
  id: `e${n++}`,
  time: `${time}T12:00:00`,
  part: 'bat',
  what,
  ...more,
})
const lifeOf = (part: typeof bat, ...batteries: BatteryEntry[]) =>
  batteryLife(part, { ...EMPTY_LOG, batteries: batteries.map(e => ({ ...e, part: part.id })) })!

describe("a battery's life", () => {
  it('fades by what its tests say, and is at its end at four fifths', () => {
    // 50 Ah: 100 %, 96 %, 92 % a year apart; 12 % more at 4 % a year are three years.
    const life = lifeOf(
      bat,
      entry('2023-06-01', 'capacity', { ah: 50 }),
      entry('2024-06-01', 'capacity', { ah: 48 }),
      entry('2025-06-01', 'capacity', { ah: 46 }),
    )
    expect(life.fadePerYear).toBeCloseTo(0.04, 3)
    expect(life.replaceOn).toMatch(/^2028-0(5-3|6-0)/)
    expect(life.cycles).toBeCloseTo(2.88, 6)
  })
  it('two tests of one month say nothing of fade; one that got better is not replaced', () => {
    const close = lifeOf(bat, entry('2025-06-01', 'capacity', { ah: 50 }), entry('2025-06-20', 'capacity', { ah: 45 }))
    expect([close.fadePerYear, close.replaceOn]).toEqual([null, null])
    const better = lifeOf(bat, entry('2024-06-01', 'capacity', { ah: 45 }), entry('2025-06-01', 'capacity', { ah: 47 }))
    expect(better.replaceOn).toBeNull()
  })
  it('below four fifths it is to be replaced now', () => {
    const life = lifeOf(bat, entry('2025-06-01', 'capacity', { ah: 38 }))
    expect(life.replaceOn).toBe('2025-06-01')
    expect(life.warns[0]).toContain('76 %')
  })
  it('at just four fifths it is to be replaced now, a little over that when it will be there', () => {
    const tests = (ah: number) =>
      lifeOf(bat, entry('2024-06-01', 'capacity', { ah: 50 }), entry('2025-06-01', 'capacity', { ah }))
    expect(tests(40).replaceOn).toBe('2025-06-01')
    // 19.8 % lost in a year: 0.2 % more takes 3.7 days.
    expect(tests(40.1).replaceOn).toBe('2025-06-04')
  })
  it('its resistance is of two loads, whichever came first, and told where it has risen', () => {
    const loads = (a: [number, number], b: [number, number]) => ({
      loads: [
        { amps: a[0], volts: a[1] },
        { amps: b[0], volts: b[1] },
      ],
    })
    const life = lifeOf(
      bat,
      entry('2024-01-01', 'resistance', loads([1, 13.3], [21, 13.06])),
      entry('2025-01-01', 'resistance', loads([20, 12.9], [0, 13.3])),
    )
    expect(life.resistance.map(r => r.milliohm.toFixed(3))).toEqual(['12.000', '20.000'])
    expect(life.warns).toEqual(['its resistance has risen from 12 to 20 mΩ'])
  })
  it('stored, a lithium pack is looked at in half a year and a lead one charged in two months', () => {
    const lithium = lifeOf(bat, entry('2025-10-01', 'stored', { volts: 13.2 }))
    expect(lithium.due[0]).toEqual({ on: '2026-03-30', what: 'look at its charge: 30 to 70 %' })
    expect(lithium.warns).toEqual([])
    const lead = lifeOf(house, entry('2025-10-01', 'stored', { volts: 12.2 }))
    expect(lead.due[0]).toEqual({ on: '2025-11-30', what: 'charge it full' })
    expect(lead.warns[0]).toContain('lead-acid is stored full')
    // In use again, nothing is due of storage.
    const used = lifeOf(bat, entry('2025-10-01', 'stored', { volts: 13.2 }), entry('2025-12-01', 'charged', { ah: 20 }))
    expect(used.due.map(d => d.what)).not.toContain('look at its charge: 30 to 70 %')
  })
  it('lithium that was equalised, or is stored full, or whose cells are apart: told', () => {
    expect(lifeOf(bat, entry('2025-10-01', 'equalised')).warns).toEqual(['was equalised: never do that to lithium'])
    expect(lifeOf(bat, entry('2025-10-01', 'stored', { volts: 13.6 })).warns[0]).toContain('stored at about 100 %')
    expect(lifeOf(bat, entry('2025-10-01', 'cells', { cellVolts: [3.3, 3.31, 3.2, 3.3] })).warns[0]).toContain('0.11 V')
  })
  it('what is right for lithium or lead is not told of other cells, and gel is never equalised', () => {
    const made = (chemistry: string) => ({ ...bat, chemistry }) as typeof bat
    const stored = lifeOf(made('alkaline'), entry('2025-10-01', 'stored', { volts: 5 }))
    expect([stored.warns, stored.due]).toEqual([[], []])
    expect(lifeOf(made('nimh'), entry('2025-10-01', 'equalised')).warns).toEqual([])
    expect(lifeOf(made('gel'), entry('2025-10-01', 'equalised')).warns).toEqual(['was equalised: never do that to gel'])
    expect(lifeOf(made('flooded'), entry('2025-10-01', 'equalised')).due.map(d => d.on)).toEqual(['2025-12-30'])
  })
  it('of Tern Rock as the demo tells it', () => {
    const read = readLogText(readFileSync('demo/log/tern-rock-light.json', 'utf8'))
    if (!read.ok) throw new Error(JSON.stringify(read.faults))
    const life = batteryLife(bat, read.log)!
    expect(life.capacity.map(c => c.share.toFixed(2))).toEqual(['1.02', '0.98'])
    expect(life.replaceOn!.slice(0, 4)).toBe('2030')
    expect(life.resistance[0]!.milliohm).toBeCloseTo(12.4, 1)
    expect(life.warns).toEqual([])
  })
})
